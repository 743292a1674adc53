/**
 * *Poses*: props whose files have clips stand as these have them at some moment. What looks different at each of them would be
 * shared by nobody, so there are only so many different stills of a clip, evenly over it, and each prop takes the nearest.
 */
import { CHANNEL, drawFrom, signedKeys, streamOf } from "../../math";
import type { Slots } from "../slots";
import type { Variation } from "./schema";

/** *Stills of some props*, one prop's after the other's: structure of arrays. */
export interface Poses {
  /** Where each prop's begin, and the last one's end: props + 1. */
  from: Uint32Array;
  /** Of each still the clip's number in the prop's file. */
  clip: Uint16Array;
  /** And the moment, seconds of the clip; NaN for as at rest. */
  moment: Float64Array;
}

/** A moment of a clip. */
export interface Still {
  clip: number;
  moment: number;
}

/** @param ofProp the stills of each prop; null for as at rest */
export function posesFrom(ofProp: readonly (readonly (Still | null)[])[]): Poses {
  const all = ofProp.flat();
  const from = new Uint32Array(ofProp.length + 1);
  ofProp.forEach(({ length }, k) => (from[k + 1] = from[k] + length));
  return {
    from,
    clip: Uint16Array.from(all, (still) => still?.clip ?? 0),
    moment: Float64Array.from(all, (still) => still?.moment ?? NaN),
  };
}

/** The still that something stands in; null for as at rest. */
export function stillAt({ from, clip, moment }: Poses, prop: number, pose: number): Still | null {
  const k = from[prop] + pose;
  return Number.isFinite(moment[k]) ? { clip: clip[k], moment: moment[k] } : null;
}

/** What of the step says how props pose. */
export type Posing = Pick<
  Variation,
  "seed" | "pose" | "clip" | "clipAt" | "clipStarts" | "clipStep" | "clipSpeed" | "stills" | "clipGone"
>;

/** @param seconds how long the clip is in each prop's file; null for one that has none */
export function posesOf({ pose, clip, clipAt, stills }: Posing, seconds: readonly (number | null)[]): Poses | null {
  if (pose === "off" || seconds.every((one) => one === null)) return null;
  return posesFrom(
    seconds.map((long) => {
      if (long === null) return [null];
      if (pose === "still") return [{ clip, moment: within(clipAt, long) }];
      return Array.from({ length: stills }, (_, k) => ({ clip, moment: (k / stills) * long }));
    }),
  );
}

const within = (at: number, seconds: number): number => (seconds > 0 ? at - seconds * Math.floor(at / seconds) : 0);

/**
 * Which of its prop's stills each slot takes: n.
 *
 * @param seconds how long the clip is in each prop's file; null for one that has none
 */
export function poseOf(slots: Slots, posing: Posing, seconds: readonly (number | null)[]): Uint16Array {
  const { count, prop, words } = slots;
  const out = new Uint16Array(count);
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

/** What a still of a file, or of a prop, is known by. */
export const stillKey = (of: string, clip: number, moment: number): string => `${of} ${clip} ${moment}`;
