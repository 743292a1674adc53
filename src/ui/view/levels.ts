/** *How the placements of a prop are drawn*, chunk by chunk: in full, by the prop's light version, as boxes, or as points. */
import { CHUNK, type Drawn } from "@/core/place";
import type { Vec3 } from "@/core/math";
import type { Display } from "../state";
import type { Share } from "./budget";

/** Some of a chunk: those of the order from `from` to before `to`. */
export interface Range {
  chunk: number;
  from: number;
  to: number;
}

export interface Levels {
  /** Bent and clipped ones, which have meshes of their own. */
  shaped: Range[];
  full: Range[];
  light: Range[];
  boxes: Range[];
  points: Range[];
}

export interface Sight {
  display: Display;
  share: Share;
  /** Whether the prop can be drawn in full, and by a light version. */
  hasFull: boolean;
  hasLight: boolean;
  /** Where the camera is, from the placements' origin; null where that does not matter. */
  eye: Vec3 | null;
  /** The largest extent of the prop, metres, and how many pixels a metre has at a distance of one metre. */
  extent: number;
  pixels: number;
}

/** In auto, what is smaller on screen than this (pixels) is a point; and what is smaller than that is not drawn in full. */
const [POINT, FULL] = [3, 14];

/** Whether how a prop's placements are drawn hangs on where the camera is. */
export const dependsOnCamera = ({ display, share, hasFull }: Omit<Sight, "eye">, count: number): boolean =>
  display === "auto" || (display === "full" && hasFull && share.full > 0 && share.full < count);

export function levelsOf(drawn: Drawn, chunks: readonly number[], sight: Sight): Levels {
  const { display, share, hasFull, hasLight, eye } = sight;
  const ranges = nearestFirst(drawn, chunks, eye).map((chunk): Range => ({ chunk, ...whole(drawn, chunk) }));
  const isShaped = ({ chunk }: Range) => drawn.kind[chunk] === CHUNK.shaped;
  const [shaped, others] = [ranges.filter(isShaped), ranges.filter((range) => !isShaped(range))];
  if (display === "points") return { shaped: [], full: [], light: [], boxes: [], points: [...shaped, ...others] };
  // What is bent has the greatest need of being seen as it is; of the others those that are near.
  const most = display === "boxes" || !hasFull ? 0 : share.full;
  const [bent, stiff] = parted(shaped, most);
  const size = (range: Range) => (display === "auto" && eye ? sizeOf(drawn, range.chunk, sight, eye) : Infinity);
  const large = others.filter((range) => size(range) >= FULL);
  const small = others.filter((range) => size(range) < FULL && size(range) >= POINT);
  const tiny = others.filter((range) => size(range) < POINT);
  const [full, far] = parted(large, most - countOf(bent));
  const [light, rest] = parted([...far, ...small], hasLight && display !== "boxes" ? share.light : 0);
  const spent = countOf(bent) + countOf(full) + countOf(light);
  const [boxes, left] = parted([...stiff, ...rest], share.boxes + share.light + share.full - spent);
  return { shaped: bent, full, light, boxes, points: [...tiny, ...left] };
}

const whole = ({ from }: Drawn, chunk: number) => ({ from: from[chunk], to: from[chunk + 1] });
const countOf = (ranges: readonly Range[]): number => ranges.reduce((sum, { from, to }) => sum + to - from, 0);

/** The first so many, and the rest; the range that the limit falls into is parted. */
function parted(ranges: readonly Range[], most: number): [first: Range[], rest: Range[]] {
  const [first, rest]: [Range[], Range[]] = [[], []];
  let room = Math.max(0, most);
  for (const { chunk, from, to } of ranges) {
    const cut = Math.min(to, from + room);
    if (cut > from) first.push({ chunk, from, to: cut });
    if (cut < to) rest.push({ chunk, from: cut, to });
    room -= cut - from;
  }
  return [first, rest];
}

/** How far a point is from a chunk's box. */
function distanceTo({ box }: Drawn, chunk: number, point: Vec3): number {
  let squared = 0;
  for (let axis = 0; axis < 3; axis++) {
    const beyond = Math.max(box[6 * chunk + axis] - point[axis], point[axis] - box[6 * chunk + 3 + axis], 0);
    squared += beyond * beyond;
  }
  return Math.sqrt(squared);
}

function nearestFirst(drawn: Drawn, chunks: readonly number[], eye: Vec3 | null): readonly number[] {
  if (!eye || chunks.length < 2) return chunks;
  const far = new Map(chunks.map((chunk) => [chunk, distanceTo(drawn, chunk, eye)]));
  return [...chunks].sort((a, b) => far.get(a)! - far.get(b)! || a - b);
}

/** How many pixels the largest and nearest of a chunk has on screen, about. */
const sizeOf = (drawn: Drawn, chunk: number, { extent, pixels }: Sight, eye: Vec3): number =>
  (extent * drawn.size[chunk] * pixels) / Math.max(distanceTo(drawn, chunk, eye), 1e-3);
