/** *What is odd about a prop as it came*: its size, or that it lies on its back. */
import { sizeOf } from "../mesh";
import { preparedBounds, type Direction, type Preparation } from "./prepare";
import type { Prop } from "./schema";

export interface Oddity {
  kind: "large" | "small" | "lies";
  /** Its longest side, metres. */
  size: number;
  /** What its size has to be multiplied by to be likely; 1 where it is not the size that is odd. */
  factor: number;
}

/** What is larger or smaller than this, metres, is odd in any scene. */
const [TINY, HUGE] = [0.005, 60];
/** So many times as large as the others in the middle is odd too, or so small. */
const BESIDE = 100;
/** What stands is at least so many times as tall as broad when it lies down. */
const SLENDER = 4;
/** How near to its middle it stands on its foot, as a share of its breadth. */
const ABOUT = 0.15;

export const longestOf = (prop: Pick<Prop, "bounds" | "prepared">): number => Math.max(...sizeOf(preparedBounds(prop)));

/**
 * The longest side of the other props in the middle, metres; null where there are none.
 *
 * @param sizes of all props, rising
 */
export function besideOf(sizes: readonly number[], own: number): number | null {
  const others = sizes.slice();
  others.splice(others.indexOf(own), 1);
  return others.length > 0 ? others[others.length >> 1] : null;
}

/**
 * What is odd about a prop that nobody has said is meant so; null where nothing is.
 *
 * @param beside the longest side of the others in the middle, metres; null where there are too few to go by
 */
export function oddityOf(prop: Pick<Prop, "bounds" | "prepared">, beside: number | null): Oddity | null {
  if (prop.prepared.asMeant) return null;
  const size = longestOf(prop);
  const likely = (metres: number) =>
    metres <= HUGE && metres >= TINY && (beside === null || (metres < BESIDE * beside && metres > beside / BESIDE));
  if (size > 0 && !likely(size)) {
    const large = size > HUGE || (size >= TINY && beside !== null && size >= BESIDE * beside);
    const factors = large ? [0.01, 0.001] : [100, 1000];
    return { kind: large ? "large" : "small", size, factor: factors.find((k) => likely(k * size)) ?? factors[0] };
  }
  return lyingFoot(prop) ? { kind: "lies", size, factor: 1 } : null;
}

/**
 * Which of its file's directions leads up in something that stands but lies on its back: slender, with its foot at the file's
 * origin, as what was made with another axis upright; null for all else.
 */
function lyingFoot({ bounds: { min, max }, prepared }: Pick<Prop, "bounds" | "prepared">): Direction | null {
  if (prepared.up !== "+y" || prepared.front !== "+z") return null;
  const [breadth, height, depth] = sizeOf({ min, max });
  if (!(depth > SLENDER * Math.max(breadth, height)) || breadth === 0 || height === 0) return null;
  const about = (k: 0 | 1, wide: number) => Math.abs(min[k] + max[k]) / 2 <= ABOUT * wide;
  if (!about(0, breadth) || !about(1, height)) return null;
  if (Math.abs(min[2]) <= 0.02 * depth) return "+z";
  return Math.abs(max[2]) <= 0.02 * depth ? "-z" : null;
}

/** The preparation of something that lies on its back, stood up. */
export function stoodUp(prop: Pick<Prop, "bounds" | "prepared">): Preparation {
  const up = lyingFoot(prop);
  return up === null ? prop.prepared : { ...prop.prepared, up, front: up === "+z" ? "-y" : "+y" };
}
