/**
 * *Poses*: props whose files have clips stand as these have them at some moment. What looks different at each of them would be
 * shared by nobody, so there are only so many different stills of a clip, evenly over it, and each prop takes the nearest.
 */
import { CHANNEL, drawFrom, signedKeys, streamOf } from "../../math";
import type { Slots } from "../slots";
import type { Variation } from "./schema";

export interface Poses {
  /** The clip's number in each file. */
  clip: number;
  /** How many stills there are of each prop. */
  stills: number;
  /** The moment of each, seconds of the clip; NaN where the prop has no such clip and stands as at rest: props · stills. */
  moments: Float64Array;
}

/** What of the step says how props pose. */
export type Posing = Pick<
  Variation,
  "seed" | "pose" | "clip" | "clipAt" | "clipStarts" | "clipStep" | "clipSpeed" | "stills" | "clipGone"
>;

/** @param seconds how long the clip is in each prop's file; null for one that has none */
export function posesOf({ pose, clip, clipAt, stills }: Posing, seconds: readonly (number | null)[]): Poses | null {
  if (pose === "off" || seconds.every((one) => one === null)) return null;
  const n = pose === "still" ? 1 : stills;
  const moments = new Float64Array(n * seconds.length);
  seconds.forEach((long, prop) => {
    for (let k = 0; k < n; k++)
      moments[n * prop + k] = long === null ? NaN : pose === "still" ? within(clipAt, long) : (k / n) * long;
  });
  return { clip, stills: n, moments };
}

const within = (at: number, seconds: number): number => (seconds > 0 ? at - seconds * Math.floor(at / seconds) : 0);

/**
 * Which of its prop's stills each slot takes: n.
 *
 * @param seconds how long the clip is in each prop's file; null for one that has none
 */
export function poseOf(slots: Slots, posing: Posing, seconds: readonly (number | null)[]): Uint8Array {
  const { count, prop, words } = slots;
  const out = new Uint8Array(count);
  const { pose, seed, clipAt, clipStarts, clipStep, clipSpeed, stills, clipGone = [0, 0] } = posing;
  if (pose === "off" || pose === "still") return out;
  const own = pose === "own";
  const draws = signedKeys(slots.draw);
  const [starts, speeds] = [CHANNEL.variationClipStart, CHANNEL.variationClipSpeed].map((one) => streamOf(seed, one));
  const isRange = clipSpeed[0] !== clipSpeed[1];
  for (let i = 0; i < count; i++) {
    const long = seconds[prop[i]] ?? 0;
    if (!(long > 0)) continue;
    const share = own && isRange ? drawFrom(speeds, draws[i], 0) : 0.5;
    let at = clipAt + clipGone[0] + share * (clipGone[1] - clipGone[0]);
    // In order: by the slot's number along its line, else by its place in the row.
    if (own && clipStarts === "order") at -= clipStep * (slots.spread ? i : words[2 * i] | 0);
    else if (own) at += long * drawFrom(starts, draws[i], 0);
    out[i] = Math.round((within(at, long) / long) * stills) % stills;
  }
  return out;
}

/** The moment of the clip at which a still is; null for as at rest. */
export function momentOfStill({ stills, moments }: Poses, prop: number, pose: number): number | null {
  const moment = moments[stills * prop + pose];
  return Number.isFinite(moment) ? moment : null;
}

/** What a still of a file, or of a prop, is known by. */
export const stillKey = (of: string, clip: number, moment: number): string => `${of} ${clip} ${moment}`;
