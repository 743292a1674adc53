/** What the strip shows at the moment, and where on it things lie. */
import type { Finding } from "@/core/check";
import { MOST_DEEP, NO_PROP, type Dressing, type Placements, type Key } from "@/core/place";
import type { PropBounds } from "@/core/mesh";
import type { Pose } from "./elevation";
import type { RowBox, StripRow } from "./model";

/** From where a rack is looked at: from its front, or from above. */
export type Aspect = "front" | "plan";

export interface StripScene {
  dressing: Dressing;
  aspect: Aspect;
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

/** *How a row's rack is drawn*: what lies lowest and highest on the cord, metres, and how many pixels a metre is upwards. */
export interface RackLayout {
  least: number;
  most: number;
  scale: number;
  /** The lower and upper end of a slot, metres. */
  ends(i: number): readonly [low: number, high: number];
}

/** Null where nothing is stacked. @param scale pixels a metre along the line */
export function rackLayout(scene: StripScene, row: number, scale: number): RackLayout | null {
  const { stacked } = scene.placements;
  if (!stacked) return null;
  const { room, hangs } = layoutOf(scene, row);
  const [low, high] = scene.aspect === "front" ? [stacked.bottom, stacked.top] : [stacked.front, stacked.rear];
  let [least, most] = [Infinity, -Infinity];
  for (const i of scene.rows[row].order) {
    least = Math.min(least, low[i]);
    most = Math.max(most, high[i]);
  }
  if (!(most > least)) [least, most] = [0, 1];
  // On the cord lies what is nearest to it: the foot, what hangs by its top, or the edge in front.
  const foot = scene.aspect === "front" && hangs ? most : least;
  const ends = (i: number) => [low[i] - foot, high[i] - foot] as const;
  return { least: least - foot, most: most - foot, scale: Math.min(scale, room / (most - least)), ends };
}

/** The slots of a rack in the order in which they are drawn: what is nearer to the eye comes last. */
export function painted(scene: StripScene, order: Int32Array): Int32Array {
  const { stacked } = scene.placements;
  if (!stacked) return order;
  // Racks are large and hardly deep: sorted by counting.
  const front = scene.aspect === "front";
  const layer = (i: number) => (front ? MOST_DEEP - 1 - stacked.deep[i] : stacked.high[i]);
  const ends = new Uint32Array(MOST_DEEP + 1);
  for (const i of order) ends[layer(i) + 1]++;
  for (let k = 1; k <= MOST_DEEP; k++) ends[k] += ends[k - 1];
  const out = new Int32Array(order.length);
  for (const i of order) out[ends[layer(i)]++] = i;
  return out;
}

/** The true height of what is drawn for a slot, in pixels; a slot without a prop takes all the room. */
export function tallOf(scene: StripScene, i: number, room: number, scale: number): number {
  const { prop, scale: sizes } = scene.placements;
  return prop[i] === NO_PROP ? room : Math.max(3, (scene.heights[prop[i]] ?? 0) * sizes[3 * i + 1] * scale);
}
