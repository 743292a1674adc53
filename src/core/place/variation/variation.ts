/**
 * Step 6, Variation: what each slot draws. Every range has a channel of its own, so switching one on, or another's ends,
 * leaves all other draws as they were.
 */
import { CHANNEL, drawFrom, streamOf } from "../../math";
import { FLAG, type Slots } from "../slots";
import type { Variation } from "./schema";

/** Draws for n slots, or null for what is switched off. */
export interface Drawn {
  /** Metres along, across and up: 3n. */
  shift: Float64Array | null;
  /** Radians about along, across and up: 3n. */
  turn: Float64Array | null;
  /** Factors: n. */
  size: Float64Array | null;
}

const SHIFT_CHANNELS = [CHANNEL.variationAlong, CHANNEL.variationAcross, CHANNEL.variationUp];
const TURN_CHANNELS = [CHANNEL.variationTurnAlong, CHANNEL.variationTurnAcross, CHANNEL.variationTurnUp];

export function variation(slots: Slots, params: Variation): Drawn {
  const { seed } = params;
  const shift = params.positionOn
    ? drawThree(slots, seed, SHIFT_CHANNELS, [params.along, params.across, params.up])
    : null;
  if (shift) {
    // Where the artist put it by hand, there it stays along the line.
    for (let i = 0; i < slots.count; i++) if (slots.flags[i] & FLAG.moved) shift[3 * i] = 0;
  }
  const turn = params.turnOn
    ? drawThree(slots, seed, TURN_CHANNELS, [params.turnAlong, params.turnAcross, params.turnUp])
    : null;
  const size = params.sizeOn ? draw(slots, seed, CHANNEL.variationSize, params.size) : null;
  return { shift, turn, size };
}

type Range = readonly [low: number, high: number];

function draw(slots: Slots, seed: number, channel: number, [low, high]: Range): Float64Array {
  const out = new Float64Array(slots.count);
  drawInto(out, 0, 1, slots, seed, channel, low, high);
  return out;
}

function drawThree(slots: Slots, seed: number, channels: readonly number[], ranges: readonly Range[]): Float64Array {
  const out = new Float64Array(3 * slots.count);
  ranges.forEach(([low, high], axis) => drawInto(out, axis, 3, slots, seed, channels[axis], low, high));
  return out;
}

function drawInto(
  out: Float64Array,
  offset: number,
  stride: number,
  slots: Slots,
  seed: number,
  channel: number,
  low: number,
  high: number,
): void {
  const key = slots.key;
  const stream = streamOf(seed, channel);
  const span = high - low;
  if (span === 0 && low === 0) return;
  for (let i = 0, o = offset; i < key.length; i++, o += stride) out[o] = low + span * drawFrom(stream, key[i], 0);
}
