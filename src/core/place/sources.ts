/** What a dressing asks of its scene. Each answer counts as something that the dressing hangs on. */
import type { Raster } from "../image";
import { distinctly, type GuideLine } from "../line";
import type { Vec3 } from "../math";
import type { Body, Grounds, PropBounds, TriangleMesh, WorldMesh } from "../mesh";
import type { Carry, SnapPoint } from "../tie";
import type { Placements } from "./placements";
import type { Volume } from "../host";
import type { MixOf } from "./what/what";

/** What things lie on. */
export interface Hosts {
  /** A line, laid where it is laid. */
  guide(line: string): GuideLine | undefined;
  /** Lines by ids, for each family its members instead. */
  linesIn(ids: readonly string[]): readonly string[];
  surface(id: string): WorldMesh | undefined;
  /** The inside of a surface. */
  volume(surface: string): Volume | undefined;
}

/** By ids; undefined for what the scene does not have, or what is not known of it yet. */
export interface Sources extends Grounds, Hosts {
  /** The same before surfaces move, which is where it is worked out what lies on them. */
  rest: Hosts;
  /** The ids of all lines. */
  lines(): readonly string[];
  /** The middle of a line or a surface, metres. */
  middle(thing: string): Vec3 | undefined;
  /** The box of a prop as it is prepared. */
  bounds(prop: string): PropBounds | undefined;
  /** Several props in one. */
  mix(mix: string): readonly MixOf[] | undefined;
  /** Corners of a prop's hull, in its own metres: 3k numbers. */
  hull(prop: string): Float32Array | undefined;
  /** Whether a prop is put together of others. */
  assembled(prop: string): boolean;
  /** The snap points of a prop. */
  snaps(prop: string): readonly SnapPoint[];
  /** A prop's mesh as it is prepared, for others of its dressing to lie on. */
  solid(prop: string): TriangleMesh | undefined;
  /** A prop's mesh, for comparing it with others. */
  body(prop: string): Body | undefined;
  /** How long a clip of a prop's file is, seconds; null where it has none of that number. */
  clip(prop: string, clip: number): number | null;
  /** A picture that is a mask, by the hash of its bytes. */
  image(asset: string): Raster | undefined;
  /** What another dressing has come to, as far as it counts for this one. */
  placements(dressing: string): Placements | undefined;
  /** The props of another dressing as ground, as far as they count for this one. */
  propGround(dressing: string): WorldMesh | undefined;
  /** How far what holds one of its placements has gone, by the placement's key as files write it; null for nowhere. */
  carry(key: string): Carry | null;
}

/** Lines of which no two have one number, in the order in which they are named. */
export const guidesOf = (ids: readonly string[], { guide, linesIn }: Hosts): GuideLine[] =>
  distinctly([...known(linesIn(ids), guide).values()].slice(0, MOST_LINES));

/** Slots count their lines in 16 bits. */
const MOST_LINES = 2 ** 16 - 1;

/** What there is of several things, by their ids, in the order in which they are named. */
export function known<T>(ids: Iterable<string>, find: (id: string) => T | undefined): Map<string, T> {
  const found = new Map<string, T>();
  for (const id of ids) {
    if (found.has(id)) continue;
    const thing = find(id);
    if (thing !== undefined) found.set(id, thing);
  }
  return found;
}
