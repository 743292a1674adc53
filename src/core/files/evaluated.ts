/** What files are written from: a scene, and what each of its dressings came to. */
import { FLAG, hexOf, NO_PROP, type Dressing, type Placements } from "../place";
import type { Shape } from "../mesh";
import type { MovedShape } from "../movers";
import type { Scene, Surface } from "../scene";

/** Several frames of a scene, one behind the other. */
export interface Motion {
  /** Their moments, seconds, rising from 0. */
  times: Float32Array;
  /** What each dressing came to in each frame: those of the first frame's dressings, in their order. */
  placements: readonly (readonly Placements[])[];
  /** The same with their assemblies, where these are written as what is in them, for their own snap points. */
  uses?: readonly (readonly (Nest | null)[])[];
}

/** Where a surface stands. */
export type Stand = Pick<Surface, "position" | "rotation" | "scale">;

/** A surface as it goes into a file. */
export interface ShownSurface {
  surface: Surface;
  /** The mesh of one that is made; null for one from a file. */
  made: Shape | null;
  /** The shape that it has, where that is not the one at rest; in each frame where there are several. */
  shapes: readonly MovedShape[] | null;
  /** Where it stands in each frame. */
  stands: readonly Stand[];
}

/** A line as it goes into a file. */
export interface ShownLine {
  name: string;
  /** Its points in each frame, as many in each: metres, 3n. */
  points: readonly Float64Array[];
  closed: boolean;
}

/** An assembly that is used somewhere: what stands in it, dressing by dressing. */
export interface UsedAssembly {
  name: string;
  /** From the coordinates of its dressings to those of the prop that it is: 12 numbers, rows first. */
  matrix: readonly number[];
  dressings: readonly { name: string; salt: number; nest: Nest }[];
}

/** Placements with the assemblies among them as such. */
export interface Nest {
  placements: Placements;
  /** The assembly that stands at placement `i`; null where another prop does. */
  at: (i: number) => UsedAssembly | null;
}

export interface EvaluatedDressing {
  dressing: Dressing;
  /** What stands in it in the end: of assemblies everything that is in them. */
  placements: Placements;
  /** The same with its assemblies, where they are to be nodes of their own. */
  nest?: Nest | null;
  /** The same where they are not, for their own snap points. */
  uses?: Nest | null;
}

export interface EvaluatedScene {
  scene: Scene;
  dressings: readonly EvaluatedDressing[];
  /** Names of lines by their ids, of families those of their members. */
  lineNames?: ReadonlyMap<string, string>;
  /** Where surfaces and lines are to be written too, these. */
  surfaces?: readonly ShownSurface[];
  lines?: readonly ShownLine[];
  /** Whether snap points that artists have set are written too, as nodes without a mesh; they are unless said otherwise. */
  snaps?: boolean;
  /** The meshes at rest of props that have no file: surfaces that are made, and part of assemblies. */
  made?: ReadonlyMap<string, Shape>;
  /** The shapes that those surfaces have which do not keep the one at rest; in each frame where there are several. */
  takenOn?: ReadonlyMap<string, readonly MovedShape[]>;
  /** What a prop's file looks like at a moment of one of its clips, in the file's coordinates. */
  still?: (prop: string, clip: number, moment: number) => MovedShape | null;
  /** Where several frames are to be written as an animation, these. */
  motion?: Motion | null;
}

/** Whether a prop stands at slot `i`: it is not blank. */
export const stands = (placements: Placements, i: number): boolean =>
  !(placements.flags[i] & FLAG.blank) && placements.prop[i] !== NO_PROP;

/** How many props stand in a dressing. */
export function standing(placements: Placements): number {
  let n = 0;
  for (let i = 0; i < placements.count; i++) if (stands(placements, i)) n++;
  return n;
}

/** One placement for text formats: names, world coordinates rounded to what they are good for. */
export interface PlacementRow {
  dressing: string;
  /** 16 hexadecimal digits. */
  key: string;
  prop: string;
  line: string;
  at: number | null;
  position: [number, number, number];
  rotation: [number, number, number, number];
  /** Across below zero for what is mirrored. */
  scale: [number, number, number];
  flags: number;
  tint: string;
}

const round = (value: number, digits: number): number => Number(value.toFixed(digits)) + 0;

/** Calls `each` for every placement of every dressing that is not blank. */
export function forEachRow({ scene, dressings, lineNames }: EvaluatedScene, each: (row: PlacementRow) => void): void {
  const propNames = new Map(scene.props.map((prop) => [prop.id, prop.name]));
  const guides = [...scene.lines, ...scene.surfaces].map(({ id, name }) => [id, name] as const);
  const guideNames = new Map([...guides, ...(lineNames ?? [])]);
  for (const { dressing, placements: p } of dressings) {
    for (let i = 0; i < p.count; i++) {
      if (!stands(p, i)) continue;
      const at = round(p.at[i], 5);
      each({
        dressing: dressing.name,
        key: hexOf(p.key[i]),
        prop: propNames.get(p.props[p.prop[i]]) ?? "",
        line: guideNames.get((p.lines.length > 0 ? p.lines : p.fields)[p.line[i]]) ?? "",
        at: Number.isNaN(at) ? null : at,
        position: [0, 1, 2].map((k) => round(p.origin[k] + p.position[3 * i + k], 6)) as [number, number, number],
        rotation: [0, 1, 2, 3].map((k) => round(p.rotation[4 * i + k], 7)) as [number, number, number, number],
        scale: [0, 1, 2].map((k) =>
          round(k === 0 && p.flags[i] & FLAG.mirrored ? -p.scale[3 * i] : p.scale[3 * i + k], 6),
        ) as [number, number, number],
        flags: p.flags[i],
        tint: p.tints[p.tint[i]] ?? "#ffffff",
      });
    }
  }
}
