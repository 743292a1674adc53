/** Small scenes for tests: two made-up props, lines and surfaces, and what a dressing of them comes to. */
import { GuideLine, type Line } from "../line";
import { makeLine } from "../line/testing";
import { WorldMesh, type Stand, type TriangleMesh, type PropBounds, type Body } from "../mesh";
import { dressingSchema, type Dressing } from "./schema";
import { evaluated, type Evaluated } from "./evaluate";
import { sightOf, type Sight } from "./sight";
import { boxMesh as boxMeshOf } from "./props-as-ground";
import { addedKey, hexOf, lineKey, placeOfKey } from "./keys";
import type { Peg } from "./pegs";
import { Graph, input, query } from "../graph";
import type { Raster } from "../image";
import type { Vec3 } from "../math";
import type { Hosts, Sources } from "./sources";
import { Volume } from "../host";
import type { Carry, SnapPoint } from "../tie";
import type { MixOf } from "./what/what";
import type { Placements } from "./placements";
import type { z } from "zod";

export const BOUNDS = new Map<string, PropBounds>([
  ["buoy", { min: [-0.2, 0, -0.2], max: [0.2, 1, 0.2] }],
  ["oar", { min: [-0.05, -0.6, -0.5], max: [0.05, 0, 0.7] }],
]);

/** A straight line along X of the given length, or any other line. */
export const straight = (length: number, extra: Record<string, unknown> = {}): Line =>
  makeLine({
    kind: "polyline",
    knots: [
      [0, 0, 0],
      [length, 0, 0],
    ],
    ...extra,
  });

export const STAND: Stand = { position: [0, 0, 0], rotation: [0, 0, 0, 1], scale: 1 };

export const mesh = (position: number[], index: number[]): TriangleMesh => ({
  position: Float32Array.from(position),
  index: Uint32Array.from(index),
  attributes: [],
});

/** The twelve triangles of a box. */
export const boxMesh = (min: Vec3, max: Vec3): TriangleMesh => {
  const { position, index } = boxMeshOf({ min, max });
  return { position: Float32Array.from(position), index, attributes: [] };
};

/** A field of so many by so many squares of a metre, whose corners are as high as `height` says. */
export function field(n: number, height: (x: number, z: number) => number, id = "field", stand = STAND): WorldMesh {
  const position: number[] = [];
  const index: number[] = [];
  for (let i = 0; i <= n; i++)
    for (let j = 0; j <= n; j++) position.push(i - n / 2, height(i - n / 2, j - n / 2), j - n / 2);
  for (let i = 0; i < n; i++) {
    for (let j = 0; j < n; j++) {
      const a = i * (n + 1) + j;
      index.push(a, a + 1, a + n + 2, a, a + n + 2, a + n + 1);
    }
  }
  return WorldMesh.of(id, mesh(position, index), stand);
}

export type DressingInput = Partial<z.input<typeof dressingSchema>>;

export const dressing = (input: DressingInput = {}, lines: readonly Line[] = [straight(10)]): Dressing =>
  dressingSchema.parse({
    id: "dressing",
    name: "Dressing",
    where: { lines: lines.map((line) => line.id) },
    what: { entries: [{ prop: "buoy" }] },
    ...input,
  });

/** Pegs for slots of the line “line”, whose number is 1, or of another. */
export const pegsOn = (
  ...pegs: (Omit<Peg, "on"> & { line?: string; number?: number; slot: number })[]
): Record<string, Peg> =>
  Object.fromEntries(
    pegs.map(({ line = "line", number = 1, slot, ...says }) => [hexOf(lineKey(number, slot)), { on: line, ...says }]),
  );

/** Pegs that add placements to fields, numbered from 1. */
export const addedOn = (on: string, ...pegs: Omit<Peg, "on" | "added">[]): Record<string, Peg> =>
  Object.fromEntries(pegs.map((says, i) => [hexOf(addedKey(i + 1)), { on, ...says, added: true }]));

/** What a test says of the scene around a dressing; what is left out is not there. */
export interface Around {
  guides: ReadonlyMap<string, GuideLine>;
  bounds: ReadonlyMap<string, PropBounds>;
  /** The ids of the members of families. */
  families?: ReadonlyMap<string, readonly string[]>;
  mixes?: ReadonlyMap<string, readonly MixOf[]>;
  things?: ReadonlyMap<string, Vec3>;
  surfaces?: ReadonlyMap<string, { mesh: WorldMesh; ground: boolean }>;
  propGrounds?: ReadonlyMap<string, WorldMesh>;
  placed?: ReadonlyMap<string, Placements>;
  images?: ReadonlyMap<string, Raster>;
  snaps?: ReadonlyMap<string, readonly SnapPoint[]>;
  assembled?: ReadonlySet<string>;
  hulls?: ReadonlyMap<string, Float32Array>;
  solids?: ReadonlyMap<string, TriangleMesh>;
  bodies?: ReadonlyMap<string, Body>;
  /** How long the clips of props are, seconds. */
  clips?: ReadonlyMap<string, readonly number[]>;
  /** How far what holds placements has gone, by their keys. */
  carries?: ReadonlyMap<string, Carry>;
}

export const surroundings = (lines: readonly Line[]): Around => ({
  guides: new Map(lines.map((line) => [line.id, new GuideLine(line)])),
  bounds: BOUNDS,
});

const hostsOf = (around: Around, volumeOf: (ground: WorldMesh) => Volume): Hosts => ({
  guide: (id) => around.guides.get(id),
  linesIn: (ids) => ids.flatMap((id) => around.families?.get(id) ?? [id]),
  surface: (id) => around.surfaces?.get(id)?.mesh,
  volume: (id) => {
    const ground = around.surfaces?.get(id)?.mesh;
    return ground && volumeOf(ground);
  },
});

const sourcesOf = (around: Around, volumeOf: (ground: WorldMesh) => Volume): Sources => ({
  ...hostsOf(around, volumeOf),
  rest: hostsOf(around, volumeOf),
  lines: () => [...around.guides.keys()],
  grounds: () => [...(around.surfaces ?? [])].flatMap(([id, { ground }]) => (ground ? id : [])),
  middle: (id) => around.things?.get(id),
  bounds: (id) => around.bounds.get(id),
  mix: (id) => around.mixes?.get(id),
  assembled: (id) => around.assembled?.has(id) ?? false,
  snaps: (id) => around.snaps?.get(id) ?? [],
  hull: (id) => around.hulls?.get(id),
  solid: (id) => around.solids?.get(id),
  body: (id) => around.bodies?.get(id),
  clip: (prop, clip) => around.clips?.get(prop)?.[clip] ?? null,
  image: (asset) => around.images?.get(asset),
  placements: (id) => around.placed?.get(id),
  propGround: (id) => around.propGrounds?.get(id),
  carry: (key) => around.carries?.get(key) ?? null,
});

const asked = input<[Dressing, Around, (ground: WorldMesh) => Volume]>("asked");
const answer = query("evaluated", (ask): Evaluated => {
  const [dressing, around, volumeOf] = ask(asked, "")!;
  return evaluated(ask, dressing, sourcesOf(around, volumeOf));
});
const sight = query("sight", (ask, flat) => sightOf(ask, ask(answer, "").basis!, flat === "flat"));

/** A dressing evaluated again and again, with what is remembered of it. */
export class Placing {
  readonly #graph = new Graph();
  readonly #volumes = new Map<WorldMesh, Volume>();
  /** The inside of a surface, the same as long as it is the same surface. */
  readonly #volumeOf = (ground: WorldMesh): Volume => {
    const known = this.#volumes.get(ground) ?? new Volume(ground);
    this.#volumes.set(ground, known);
    return known;
  };

  evaluate(dressing: Dressing, around: Around): Placements {
    this.#graph.ran = [];
    this.#graph.set(asked, "", [dressing, around, this.#volumeOf]);
    return this.#graph.get(answer, "").placements;
  }

  /** What there is to see besides of what was evaluated last. */
  sight(flat = false): Sight {
    return this.#graph.get(sight, flat ? "flat" : "");
  }

  /** The steps that ran for the last one. */
  get ran(): readonly string[] {
    return this.#graph.ran.filter((name) => name !== answer.name);
  }
}

export const evaluate = (dressing: Dressing, around: Around): Placements => new Placing().evaluate(dressing, around);

/** What a dressing comes to, and what there is to see of it besides. */
export function seen(dressing: Dressing, around: Around, flat = true): Placements & Sight {
  const placing = new Placing();
  return { ...placing.evaluate(dressing, around), ...placing.sight(flat) };
}

export const place = (input: DressingInput, lines: readonly Line[] = [straight(10)]): Placements =>
  evaluate(dressing(input, lines), surroundings(lines));

/** One placement with everything that was decided about it, but not where the line runs. */
export function described(p: Placements, i: number) {
  return {
    slot: placeOfKey(p.key[i]),
    prop: p.props[p.prop[i]],
    rotation: [...p.rotation.subarray(4 * i, 4 * i + 4)],
    scale: p.scale[3 * i],
    flags: p.flags[i],
  };
}

export const all = (p: Placements) => Array.from({ length: p.count }, (_, i) => described(p, i));
