/** Version 5's: kept as it was, see `index.ts`. So many positions in a pattern, without those where the gaps leave no room. */
import { CHANNEL, drawFrom, streamOf } from "../../math";
import { sharesOf, type DensityMask } from "../gaps/density-mask";
import { isSolid, leavingOut } from "../spacing/over";
import { MAX_SAMPLES } from "../spacing/samples";
import { extentOf } from "../../host";
import { overKey, type OldField, type OldSamples } from "./old";
import { pitchFor, sampleSurface } from "./sample-surface";
import { MOST_INSIDE } from "./sample-volume";
import type { PropChoice } from "../what/what";
import type { Spacing } from "../spacing/schema";

/** What other steps say of it. */
export interface OldNeeds {
  choice: PropChoice;
  masks: readonly DensityMask[];
  seed: number;
  /** Keys that the artist had pegged, which stayed whatever the gaps said. */
  pegged: ReadonlySet<number>;
}

/** Positions are thrown onto a field for how much of it is free. */
const PROBES = 4096;
/** For a number that was asked for, distances are tried so often. */
const MAX_TRIES = 16;
/** A hundredth closer than reckoned, so that there are rather a few too many, which are left out. */
const CLOSER = 0.99;

/** A field's positions, and which of them there is room for. */
interface Kept {
  field: OldField;
  index: number;
  samples: OldSamples;
  /** Those kept: indices into `samples`. */
  members: Uint32Array;
  /** In which order members join as they become more: n of `samples`. */
  rank: Float64Array;
}

/** Where slots were, by their keys: which field, place in the world, prop and how far apart they were meant to be. */
export interface OldSlot {
  field: OldField;
  position: [number, number, number];
  prop: number;
  pitch: number;
}

export function oldSlots(fields: readonly OldField[], params: Spacing, needs: OldNeeds): Map<number, OldSlot> {
  const { pattern, amount, count, distance, perArea } = params;
  let last = distance;
  const at = (pitch: number) => fields.map((field, index) => kept(field, index, (last = pitch), params, needs));
  const solid = isSolid(fields);
  const found =
    amount === "distance"
      ? at(distance)
      : amount === "density"
        ? at(pitchFor(pattern, solid ? params.perVolume : perArea, solid))
        : exactly(count, at, fields, params, needs);
  const out = new Map<number, OldSlot>();
  for (const { field, samples, members } of found) {
    const props = new Uint16Array(samples.count);
    const keys = samples.id.map((local) => overKey(field.tag, local));
    needs.choice.fill(props, keys, 0, samples.count, 0);
    needs.choice.resolveMixes(props, keys, 0, samples.count);
    for (const i of members) {
      const [x, y, z] = samples.position.subarray(3 * i, 3 * i + 3);
      out.set(keys[i], { field, position: [x, y, z], prop: props[i], pitch: last });
    }
  }
  return out;
}

/** So many in all: closer and closer until there are enough, and then without those that came last. */
function exactly(
  count: number,
  at: (pitch: number) => Kept[],
  fields: readonly OldField[],
  params: Spacing,
  needs: OldNeeds,
): Kept[] {
  const [fewest, most] = params.clusters ? params.clusterCount : [1, 1];
  const free = fields.reduce((sum, field, i) => sum + extentOf(field) * freeShare(field, needs.masks[i]), 0);
  if (!(free > 0)) return [];
  const solid = isSolid(fields);
  const root = solid ? Math.cbrt : Math.sqrt;
  let pitch = CLOSER * pitchFor(params.pattern, (2 * count) / (fewest + most) / free, solid);
  let found = at(pitch);
  for (let tries = 1; tries < MAX_TRIES; tries++) {
    const there = found.reduce((sum, { members }) => sum + members.length, 0);
    if (there >= count || there >= (solid ? MOST_INSIDE : MAX_SAMPLES)) break;
    // With each try by a little more: of a grid there may be fewer although it is finer.
    pitch *= Math.max(0.5, CLOSER ** tries * Math.min(1, root((there + 0.5) / count)));
    found = at(pitch);
  }
  return leavingOut(found, count);
}

/** How much of a field is free, nearly: of positions thrown onto it evenly by area. */
function freeShare(field: OldField, mask: DensityMask): number {
  if (mask.rules.length === 0) return 1;
  const pitch = pitchFor("random", PROBES / extentOf(field), field.volume !== null);
  const probes = sampleSurface(field, pitch, PROBING, 1);
  const shares = sharesOf(mask, probes);
  return shares.reduce((sum, share) => sum + share, 0) / Math.max(1, probes.count);
}

const PROBING = { pattern: "random", clusters: false } as Spacing;

function kept(field: OldField, index: number, pitch: number, params: Spacing, needs: OldNeeds): Kept {
  const { seed, pegged } = needs;
  const samples = sampleSurface(field, pitch, params, seed);
  const shares = sharesOf(needs.masks[index], samples);
  const stream = streamOf(seed, CHANNEL.gapShade);
  const members = new Uint32Array(samples.count);
  const rank = samples.joinOrder ?? new Float64Array(samples.count);
  let n = 0;
  for (let i = 0; i < samples.count; i++) {
    const key = overKey(field.tag, samples.id[i]);
    const threshold = drawFrom(stream, key, 0);
    const byHand = pegged.size > 0 && pegged.has(key);
    if (byHand || threshold < shares[i]) members[n++] = i;
    if (byHand) rank[i] = -1;
    else if (!samples.joinOrder) rank[i] = threshold / shares[i];
  }
  return { field, index, samples, members: members.subarray(0, n), rank };
}
