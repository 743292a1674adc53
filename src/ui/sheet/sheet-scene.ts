/** What the sheet is drawn from. */
import type { Key, Placements, Sight } from "@/core/place";
import type { Vec3 } from "@/core/math";
import type { TopView } from "../assets";
import type { Charts } from "./charts";

/** A knot of a line that lies on what is shown. */
export interface SheetKnot {
  line: string;
  knot: number;
  at: readonly [x: number, z: number];
  /** In the world, metres. */
  point: Vec3;
}

export interface SheetScene {
  placements: Placements;
  /** Null until it is known. */
  sight: Sight | null;
  /** See `footprintsOf`. */
  corners: Float64Array;
  colours: readonly string[];
  top: TopView | null;
  /** Whether it is the flat layout of a patch that is shown. */
  flat: boolean;
  /** The charts that are shown instead of the ground from above, and their picture. */
  charts: Charts | null;
  chartPicture: HTMLCanvasElement | null;
  /** Whether charts are tinted by how far lengths are off on them. */
  stretched: boolean;
  /** How full it is, as a picture over the map's box. */
  tint: HTMLCanvasElement | null;
  /** Knots of lines that lie on the charts that are shown. */
  knots: readonly SheetKnot[];
  lines: readonly { points: readonly Vec3[]; kind: "area" | "hole" | "line" }[];
  selected: ReadonlySet<Key>;
  hovered: Key | null;
  /** A box being drawn to select, or a clearing: corners, or middle and radius, in metres. */
  drawn:
    | { kind: "box"; from: readonly [number, number]; to: readonly [number, number] }
    | { kind: "clearing"; middle: readonly [number, number]; radius: number }
    | { kind: "brush"; middle: readonly [number, number]; radius: number; soft: number; puts: boolean }
    | null;
}
