/**
 * Step 6, Variation: what each slot draws. Every range has a channel of its own, so switching one on, or another's ends,
 * leaves all other draws as they were.
 */
import { chanceOfEach, CHANNEL, conjugate, drawEach, drawFrom, rotate, signedKeys, streamOf } from "../../math";
import { step, type Ask } from "../../graph";
import { pick } from "../../schema";
import { FLAG, type Slots } from "../slots";
import { poseOf, posesOf, type Poses } from "./poses";
import { wander, wanderAt, wavesRound } from "./wander";
import { standOf, type Field } from "../../host";
import type { GuideLine } from "../../line";
import type { Variation } from "./schema";

/** Values for along, across and up, n each; null where every slot draws zero. */
export type Three = readonly [Values | null, Values | null, Values | null];

/** One number a slot. Single precision is far finer than any range. */
type Values = Float32Array;

/** Values for n slots, or null for what is switched off. */
export interface Draws {
  /** Metres along, across and up. */
  shift: Three;
  /** Radians about along, across and up. */
  turn: Three;
  /** Factors for the whole prop: n. */
  size: Values | null;
  /** Factors for width, height and depth besides: 3n; null where all are one. */
  sizes: Values | null;
  /** 1 for slots whose prop is mirrored: n. */
  mirrored: Uint8Array | null;
  /** Which of {@link TINTS} shades between the two colours: n. */
  tint: Uint8Array | null;
}

const NONE: Three = [null, null, null];

/** Tints are draws from so many, evenly from one colour to the other, so that files need only so many materials. */
export const TINTS = 16;

type Range = readonly [low: number, high: number];

/** How draws fill a range. */
interface Fill {
  bell: boolean;
  /** Only whole steps of this from the lower end; 0 for any value. */
  step: number;
}

const SHIFT_CHANNELS = [CHANNEL.variationAlong, CHANNEL.variationAcross, CHANNEL.variationUp];
const TURN_CHANNELS = [CHANNEL.variationTurnAlong, CHANNEL.variationTurnAcross, CHANNEL.variationTurnUp];
const AXIS_CHANNELS = [CHANNEL.variationWidth, CHANNEL.variationHeight, CHANNEL.variationDepth];

const AXES = [0, 1, 2] as const;
const shiftSteps = AXES.map((axis) => drawStep(`shift ${axis}`, SHIFT_CHANNELS[axis]));
const turnSteps = AXES.map((axis) => drawStep(`turn ${axis}`, TURN_CHANNELS[axis]));
const sizeStep = drawStep("size", CHANNEL.variationSize, 1);
const sizesStep = step("sizes", drawSizes);
const mirrorStep = step("mirrored", drawMirrors);
const tintStep = step("tints", drawTints);
const tintsStep = step("tint colours", tintsBetween);
const plainStep = step("plain tints", (count: number) => new Uint8Array(count));
const posesStep = step("stills", posesOf);
const poseStep = step("poses", poseOf);
const heldStep = step("held in place", heldInPlace);
const wanderSteps = { across: wanderStep("across", CHANNEL.wanderAcross), up: wanderStep("up", CHANNEL.wanderUp) };
const byHandStep = step("turned by hand", (turn: Values | null, { turned }: Slots) => turned && added(turn, turned));

/** @param neutral what a range that is just this does not need drawing for */
function drawStep(name: string, channel: number, neutral = 0) {
  return step(name, (slots: Slots, seed: number, range: Range, fill: Fill) =>
    draw(slots, streamOf(seed, channel), range, fill, neutral),
  );
}

function wanderStep(name: string, channel: number) {
  return step(
    `wander ${name}`,
    (
      slots: Slots,
      draws: Values | null,
      seed: number,
      most: number,
      over: number,
      lines: readonly GuideLine[],
      fields: readonly Field[],
    ) =>
      slots.spread
        ? wanderedOver(draws, slots, fields, streamOf(seed, channel), most, over)
        : wandered(draws, slots, lines, streamOf(seed, channel), most, over),
  );
}

export function variation(
  ask: Pick<Ask, "step">,
  slots: Slots,
  params: Variation,
  lines: readonly GuideLine[],
  fields: readonly Field[],
): Draws {
  const { seed, positionOn, turnOn, sizeOn, wanderOn, wanderOver, mirror, tintOn } = params;
  const three = (steps: typeof shiftSteps, ranges: readonly Range[], fill: Fill): Three => {
    const one = (axis: 0 | 1 | 2) => ask.step(steps[axis], slots, seed, ranges[axis], fill);
    return [one(0), one(1), one(2)];
  };
  const positionFill = { bell: params.positionSpread === "bell", step: params.positionStep };
  const turnFill = { bell: params.turnSpread === "bell", step: params.turnStep };
  const sizeFill = { bell: params.sizeSpread === "bell", step: params.sizeStep };
  const shift = positionOn ? three(shiftSteps, [params.along, params.across, params.up], positionFill) : NONE;
  const turn = turnOn ? three(turnSteps, [params.turnAlong, params.turnAcross, params.turnUp], turnFill) : NONE;
  const along = shift[0] && ask.step(heldStep, shift[0], slots);
  const wave = (way: "across" | "up", draws: Values | null, most: number) =>
    wanderOn && most > 0 ? ask.step(wanderSteps[way], slots, draws, seed, most, wanderOver, lines, fields) : draws;
  const across = wave("across", shift[1], params.wanderAcross);
  const up = wave("up", shift[2], params.wanderUp);
  const turnUp = slots.turned ? ask.step(byHandStep, turn[2], slots) : turn[2];
  const { width, height, depth } = params;
  return {
    shift: [along, across, up],
    turn: [turn[0], turn[1], turnUp],
    size: sizeOn ? ask.step(sizeStep, slots, seed, params.size, sizeFill) : null,
    sizes: sizeOn ? ask.step(sizesStep, slots, seed, [width, height, depth], sizeFill) : null,
    mirrored: mirror > 0 ? ask.step(mirrorStep, slots, seed, mirror) : null,
    tint: tintOn ? ask.step(tintStep, slots, seed) : null,
  };
}

const POSING = ["seed", "pose", "clip", "clipAt", "clipStarts", "clipStep", "clipSpeed", "stills", "clipGone"] as const;

/**
 * Which of its prop's stills each slot takes; null where none poses.
 *
 * @param seconds how long a clip of a prop's file is; null where there is none
 */
export function posed(
  ask: Pick<Ask, "step">,
  slots: Slots,
  params: Variation,
  props: readonly string[],
  seconds: (prop: string, clip: number) => number | null,
): { pose: Uint16Array; poses: Poses } | null {
  if (params.pose === "off") return null;
  const posing = pick(params, POSING);
  const long = props.map((prop) => seconds(prop, params.clip));
  const poses = ask.step(posesStep, posing, long);
  return poses && { pose: ask.step(poseStep, slots, posing, long), poses };
}

/** The colours of some slots, and which each has; white where there is no tint. */
export const tinted = (
  ask: Pick<Ask, "step">,
  count: number,
  { tintOn, tintFrom, tintTo }: Variation,
  tint: Uint8Array | null,
): { tint: Uint8Array; tints: string[] } => ({
  tint: tint ?? ask.step(plainStep, count),
  tints: tintOn ? ask.step(tintsStep, tintFrom, tintTo) : WHITE,
});

const WHITE = ["#ffffff"];

const added = (draws: Values | null, more: Values): Values => (draws ? draws.map((value, i) => value + more[i]) : more);

/** Where the artist put it by hand, there it stays along the line. */
function heldInPlace(along: Values, { flags, count, pegged }: Slots): Values {
  if (!pegged) return along;
  let held = along;
  for (let i = 0; i < count; i++) {
    if (!(flags[i] & FLAG.moved) || along[i] === 0) continue;
    if (held === along) held = along.slice();
    held[i] = 0;
  }
  return held;
}

function draw(slots: Slots, stream: number, range: Range, fill: Fill, neutral: number): Values | null {
  if (range[0] === neutral && range[1] === neutral) return null;
  const out = new Float32Array(slots.count);
  drawInto(out, 0, 1, slots, stream, range, fill);
  return out;
}

function drawSizes(slots: Slots, seed: number, ranges: readonly Range[], fill: Fill): Values | null {
  if (ranges.flat().every((factor) => factor === 1)) return null;
  const out = new Float32Array(3 * slots.count);
  ranges.forEach((range, axis) => drawInto(out, axis, 3, slots, streamOf(seed, AXIS_CHANNELS[axis]), range, fill));
  return out;
}

/** Writes a draw from the range for each slot, `stride` numbers apart from `offset` on. */
function drawInto(
  out: Values,
  offset: number,
  stride: number,
  slots: Slots,
  stream: number,
  [low, high]: Range,
  fill: Fill,
): void {
  const draws = signedKeys(slots.draw);
  const span = high - low;
  if (span === 0) {
    for (let i = 0, o = offset; i < draws.length; i++, o += stride) out[o] = low;
    return;
  }
  if (!fill.bell && fill.step === 0) return drawEach(out, offset, stride, draws, stream, low, span);
  const steps = fill.step > 0 ? Math.floor(span / fill.step + 1e-9) + 1 : 0;
  for (let i = 0, o = offset; i < draws.length; i++, o += stride) {
    let share = drawFrom(stream, draws[i], 0);
    // The mean of four even draws is bell-shaped and stays within the range.
    for (let k = 1; fill.bell && k < 4; k++) share += drawFrom(stream, draws[i], k);
    if (fill.bell) share /= 4;
    out[o] = steps > 0 ? low + fill.step * Math.min(steps - 1, Math.floor(share * steps)) : low + span * share;
  }
}

function drawMirrors({ draw: draws, count }: Slots, seed: number, chance: number): Uint8Array {
  const out = new Uint8Array(count);
  chanceOfEach(out, signedKeys(draws), streamOf(seed, CHANNEL.variationMirror), chance);
  return out;
}

function drawTints({ draw: draws, count }: Slots, seed: number): Uint8Array {
  const stream = streamOf(seed, CHANNEL.variationTint);
  const out = new Uint8Array(count);
  for (let i = 0; i < count; i++) out[i] = Math.floor(TINTS * drawFrom(stream, draws[i], 0));
  return out;
}

/** The {@link TINTS} colours evenly from one `#rrggbb` to another. */
export function tintsBetween(from: string, to: string): string[] {
  const channel = (colour: string, k: number) => parseInt(colour.slice(1 + 2 * k, 3 + 2 * k), 16);
  return Array.from({ length: TINTS }, (_, i) => {
    const share = i / (TINTS - 1);
    const mixed = [0, 1, 2].map((k) => Math.round(channel(from, k) + share * (channel(to, k) - channel(from, k))));
    return `#${mixed.map((value) => value.toString(16).padStart(2, "0")).join("")}`;
  });
}

/** The shifts with the lines' wander on top. Rows of one line wander together, so they stay as far apart as they are. */
function wandered(
  shift: Values | null,
  slots: Slots,
  lines: readonly GuideLine[],
  stream: number,
  most: number,
  over: number,
): Values {
  const out = shift ? shift.slice() : new Float32Array(slots.count);
  const rounds = lines.map((line) => wavesRound(line.curve, over));
  for (let i = 0; i < slots.count; i++) {
    const line = lines[slots.line[i]];
    const round = rounds[slots.line[i]];
    const x = round > 0 ? (slots.at[i] / line.curve.length) * round : slots.at[i] / over;
    out[i] += most * wander(stream, line.number + line.salt, x, round);
  }
  return out;
}

/** The shifts with a wave over what they are spread over, in its own coordinates: moving that leaves them as they are. */
function wanderedOver(
  shift: Values | null,
  { count, line, spread }: Slots,
  fields: readonly Field[],
  stream: number,
  most: number,
  over: number,
): Values {
  const out = shift ? shift.slice() : new Float32Array(count);
  const stands = fields.map((field) => {
    const { position, rotation } = standOf(field);
    return { position, back: conjugate(rotation) };
  });
  const P = spread!.position;
  for (let i = 0; i < count; i++) {
    const { position: at, back } = stands[line[i]];
    const [x, y, z] = rotate(back, [P[3 * i] - at[0], P[3 * i + 1] - at[1], P[3 * i + 2] - at[2]]);
    out[i] += most * wanderAt(stream, x / over, y / over, z / over);
  }
  return out;
}
