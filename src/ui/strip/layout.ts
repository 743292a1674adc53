/** What the strip shows at the moment, and where on it things lie. */
import type { Finding } from "@/core/check";
import { NO_PROP, type Dressing, type Placements, type Key } from "@/core/place";
import type { PropBounds } from "@/core/mesh";
import type { Pose } from "./elevation";
import type { RowBox, StripRow } from "./model";

export interface StripScene {
  dressing: Dressing;
  placements: Placements;
  rows: readonly StripRow[];
  boxes: readonly RowBox[];
  names: readonly string[];
  /** Colours, boxes and heights (metres) by the index of the prop. */
  colours: readonly string[];
  bounds: readonly PropBounds[];
  heights: readonly number[];
  /** For placements of a row, the frames of its line there (4n); none where the line is gone. */
  frames: (row: number, at: Float64Array) => Float64Array | null;
  /** The picture of a prop in a pose, by its index; undefined until it is made, null where there is nothing to be seen. */
  elevation: (prop: number, pose: Pose) => CanvasImageSource | null | undefined;
  findings: readonly Finding[];
  selected: ReadonlySet<Key>;
  hovered: Key | null;
  /** A stretch being drawn, to select or to hold open: row, and arc lengths. */
  stretch: { row: number; from: number; to: number; holds: boolean } | null;
  /** Of each row, whether where its line starts can be moved. */
  movable: readonly boolean[];
  /** Marks of each row's line. */
  marks: readonly ArrayLike<number>[];
  /** Pegs that have lost their slot: row and arc length. */
  orphans: readonly { row: number; at: number }[];
  /** The held gap that is chosen, an index among the dressing's; and where what is dragged has caught. */
  gap: number | null;
  caught: { row: number; at: number } | null;
}

/** Room for the hints below a single row, pixels. */
const HINTS = 30;

/** Where the cord of a row lies, how much room props have on it and how much stays free below, in pixels. */
export function layoutOf(scene: StripScene, row: number) {
  const { top, height } = scene.boxes[row];
  const hangs = scene.dressing.stance.meetsUp === "top";
  const single = scene.rows.length === 1;
  const foot = single ? HINTS : 4;
  const room = height - foot - (single ? 30 : 22);
  const cord = hangs ? top + (single ? 20 : 17) : top + height - foot - 8;
  return { hangs, foot, room, cord };
}

/** The true height of what is drawn for a slot, in pixels; a slot without a prop takes all the room. */
export function tallOf(scene: StripScene, i: number, room: number, scale: number): number {
  const { prop, scale: sizes } = scene.placements;
  return prop[i] === NO_PROP ? room : Math.max(3, (scene.heights[prop[i]] ?? 0) * sizes[3 * i + 1] * scale);
}
