/**
 * Step 3, Spacing, over fields: so many positions in a pattern, without those where the gaps leave no room. Each keeps or
 * loses its place by its own threshold; nothing else moves.
 */
import { CHANNEL, drawFrom, streamOf } from "../../math";
import { sharesOf, type DensityMask } from "../gaps/density-mask";
import { drawOnField, fieldHost, indicesOf, wordsOf, type Key } from "../keys";
import { Slots } from "../slots";
import { frameOf, pitchFor, sampleSurface } from "./sample-surface";
import type { Frame } from "./lattice";
import { MAX_SAMPLES, type Samples } from "./samples";
import { MOST_INSIDE } from "./sample-volume";
import { extentOf, type Field } from "../../host";
import type { PropChoice } from "../what/what";
import { runsOver } from "./runs";
import type { Spacing } from "./schema";

/** What other steps say of it. */
export interface OverNeeds {
  choice: Pick<PropChoice, "fill" | "resolveMixes">;
  /** For each field what the gaps leave free. */
  masks: readonly DensityMask[];
  seed: number;
  /** Keys that the artist has pegged, which stay whatever the gaps say. */
  pegged: ReadonlySet<Key>;
}

/** Positions are thrown onto a field for how much of it is free. */
const PROBES = 4096;
/** For a number that was asked for, distances are tried so often. */
const MAX_TRIES = 16;
/** A hundredth closer than reckoned, so that there are rather a few too many, which are left out. */
const CLOSER = 0.99;

/** A field's positions, and which of them there is room for. */
interface Kept {
  field: Field;
  index: number;
  samples: Samples;
  /** What they are known by, and what they draw by: n. */
  key: BigUint64Array;
  draw: Uint32Array;
  /** Those kept: indices into `samples`. */
  members: Uint32Array;
  /** In which order members join as they become more: n of `samples`. */
  rank: Float64Array;
}

export function over(fields: readonly Field[], params: Spacing, needs: OverNeeds): Slots {
  const { pattern, amount, count, distance, perArea } = params;
  const frame = frameOf(fields[0]);
  const at = (pitch: number) => fields.map((field, index) => kept(field, index, pitch, params, needs, frame));
  const solid = isSolid(fields);
  return written(
    amount === "distance"
      ? at(distance)
      : amount === "density"
        ? at(pitchFor(pattern, solid ? params.perVolume : perArea, solid))
        : exactly(count, at, freeOf(fields, needs.masks), params, solid),
    params,
    needs,
  );
}

/** Whether it is volumes that are filled: a dressing has only them, or none. */
export const isSolid = (fields: readonly Pick<Field, "volume">[]): boolean =>
  fields.length > 0 && fields[0].volume !== null;

/** So many in all: closer and closer until there are enough, and then without those that came last. */
function exactly(count: number, at: (pitch: number) => Kept[], free: number, params: Spacing, solid: boolean): Kept[] {
  const [fewest, most] = params.clusters ? params.clusterCount : [1, 1];
  if (!(free > 0)) return [];
  const root = solid ? Math.cbrt : Math.sqrt;
  let pitch = CLOSER * pitchFor(params.pattern, (2 * count) / (fewest + most) / free, solid, true);
  let found = at(pitch);
  for (let tries = 1; tries < MAX_TRIES; tries++) {
    const there = found.reduce((sum, { members }) => sum + members.length, 0);
    const capped = found.some(({ samples }) => samples.capped);
    if (there >= count || capped || there >= (solid ? MOST_INSIDE : MAX_SAMPLES)) break;
    // With each try by a little more: of a grid there may be fewer although it is finer.
    pitch *= Math.max(0.5, CLOSER ** tries * Math.min(1, root((there + 0.5) / count)));
    found = at(pitch);
  }
  return leavingOut(found, count);
}

/** The first so many by rank, of all fields together. */
export function leavingOut<T extends Pick<Kept, "members" | "rank">>(found: T[], count: number): T[] {
  const ranks = new Float64Array(found.reduce((sum, { members }) => sum + members.length, 0));
  if (ranks.length <= count) return found;
  let n = 0;
  for (const { members, rank } of found) for (const i of members) ranks[n++] = rank[i];
  ranks.sort();
  const last = ranks[count - 1];
  // Of those that come last together, as clusters do, only as many as there is room for.
  let ties = count - ranks.findIndex((rank) => rank === last);
  return found.map((one) => {
    const members = one.members.filter((i) => one.rank[i] < last || (one.rank[i] === last && ties-- > 0));
    return { ...one, members };
  });
}

/** How much of some fields is free, square metres or cubic ones. */
export const freeOf = (fields: readonly Field[], masks: readonly DensityMask[]): number =>
  fields.reduce((sum, field, i) => sum + extentOf(field) * freeShare(field, masks[i]), 0);

/** How much of a field is free, nearly: of positions thrown onto it evenly by area. */
function freeShare(field: Field, mask: DensityMask): number {
  if (mask.rules.length === 0) return 1;
  const pitch = pitchFor("random", PROBES / extentOf(field), field.volume !== null);
  const probes = sampleSurface(field, { pitch, nested: false }, PROBING, 1, frameOf(field));
  const shares = sharesOf(mask, probes);
  return shares.reduce((sum, share) => sum + share, 0) / Math.max(1, probes.count);
}

const PROBING = { pattern: "random", clusters: false } as Spacing;

function kept(field: Field, index: number, pitch: number, params: Spacing, needs: OverNeeds, frame: Frame): Kept {
  const { seed, pegged } = needs;
  const samples = sampleSurface(field, { pitch, nested: params.amount === "count" }, params, seed, frame);
  const shares = sharesOf(needs.masks[index], samples);
  const stream = streamOf(seed, CHANNEL.gapShade);
  const members = new Uint32Array(samples.count);
  const rank = samples.joinOrder ?? new Float64Array(samples.count);
  const key = new BigUint64Array(samples.count);
  const words = wordsOf(key);
  const draw = new Uint32Array(samples.count);
  for (let i = 0; i < samples.count; i++) {
    words[2 * i] = samples.words[2 * i];
    words[2 * i + 1] = fieldHost(field.tag, samples.words[2 * i + 1]);
    draw[i] = drawOnField(words[2 * i], words[2 * i + 1]);
  }
  const byHand = new Uint8Array(samples.count);
  for (const i of indicesOf(key, pegged)) byHand[i] = 1;
  let n = 0;
  for (let i = 0; i < samples.count; i++) {
    const threshold = drawFrom(stream, draw[i], 0);
    if (byHand[i] === 1 || threshold < shares[i]) members[n++] = i;
    if (byHand[i] === 1) rank[i] = -1;
    else if (!samples.joinOrder) rank[i] = threshold / shares[i];
  }
  return { field, index, samples, key, draw, members: members.subarray(0, n), rank };
}

function written(found: readonly Kept[], params: Spacing, { choice, masks }: OverNeeds): Slots {
  const total = found.reduce((sum, { members }) => sum + members.length, 0);
  const slots = new Slots(total);
  const fades = masks.some(({ edgeSize }) => edgeSize > 0);
  const spread = {
    position: new Float64Array(3 * total),
    normal: new Float32Array(3 * total),
    triangle: new Uint32Array(total),
    ordinal: new Int32Array(total),
    size: fades ? new Float32Array(total).fill(1) : null,
  };
  let start = 0;
  const keys = wordsOf(slots.key);
  for (const { field, index, samples, key, draw, members } of found) {
    const { edge, edgeSize } = masks[index];
    const { words, ordinal } = samples;
    const own = wordsOf(key);
    for (let k = 0, o = start; k < members.length; k++, o++) {
      const i = members[k];
      const p = 3 * i;
      keys[2 * o] = own[2 * i];
      keys[2 * o + 1] = own[2 * i + 1];
      slots.draw[o] = draw[i];
      spread.ordinal[o] = ordinal ? ordinal[i] : words[2 * i];
      spread.triangle[o] = samples.triangle[i];
      for (let axis = 0; axis < 3; axis++) {
        spread.position[3 * o + axis] = samples.position[p + axis];
        spread.normal[3 * o + axis] = samples.normal[p + axis];
      }
      if (spread.size && edge) spread.size[o] = 1 - edgeSize * (1 - edge(samples.position[p], samples.position[p + 2]));
    }
    const end = start + members.length;
    const lying = {
      position: spread.position.subarray(3 * start, 3 * end),
      triangle: spread.triangle.subarray(start, end),
    };
    const runs = field.volume ? null : runsOver(params.runs, field.ground, lying);
    if (runs) spread.ordinal.set(runs, start);
    for (let o = start; o < end; o++) choice.fill(slots.prop, slots.draw, o, o + 1, spread.ordinal[o]);
    slots.line.fill(index, start, end);
    start = end;
    const wanted = Math.round(wantedOf(field, params));
    if (samples.capped || (field.volume && wanted > MOST_INSIDE))
      slots.missing = Math.max(1, slots.missing + wanted - samples.count);
  }
  slots.at.fill(NaN);
  slots.spread = spread;
  choice.resolveMixes(slots.prop, slots.draw, 0, total);
  return slots;
}

/** About how many positions there would be, were there no limit. */
function wantedOf(field: Field, { pattern, amount, distance, perArea, perVolume, count }: Spacing): number {
  const solid = field.volume !== null;
  if (amount === "count") return count;
  if (amount === "density") return extentOf(field) * (solid ? perVolume : perArea);
  return extentOf(field) / (distance / pitchFor(pattern, 1, solid)) ** (solid ? 3 : 2);
}
