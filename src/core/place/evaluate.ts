/**
 * *A dressing evaluated*: from the scene to placements in five stages. What lies where on which host (anchors), the hosts'
 * frames there, how props stand in them, what is adjusted because of others or the world, and what there is to see of it.
 *
 *     const placements = evaluate(ask, dressing, sources);
 *     placements.count // 26
 *
 * Every step is remembered by its arguments, so an edit runs what it bears on and nothing else.
 */
import { adjusted } from "./adjust";
import { anchorsAlong } from "./along";
import { chartMap, footprintsOn } from "./charted";
import type { ChartMap, Charted } from "./gaps/maps";
import { compose, mirrorFlags, scalesOf } from "./compose";
import { rowOffsets } from "./fit/rows";
import { framesAt, type Moves } from "./frames";
import { framesOver } from "./frames-over";
import { densityMap } from "./gaps/density-map";
import { gapFlags } from "./gaps/gaps";
import { FLAG } from "./slots";
import { known, type Sources } from "./sources";
import { anchorsOver, fieldsUnder, masksOn } from "./spread";
import { stance, type Hold } from "./stance/stance";
import { tintsBetween, variation } from "./variation/variation";
import { what, type PropChoice } from "./what/what";
import { propsIn } from "./what/schema";
import { step, type Ask } from "../graph";
import { omit, pick } from "../schema";
import type { Dressing } from "./schema";
import type { Placements } from "./placements";
import type { Slots } from "./slots";

const whatStep = step("what", what);
const stanceStep = step("stance", stance);
const lineFramesStep = step("frames", framesAt);
const fieldFramesStep = step("frames", framesOver);
const scaleStep = step("scale", scalesOf);
const standStep = step("stand", compose);
const mirrorStep = step("mirror flags", mirrorFlags);
const tintsStep = step("tints", tintsBetween);
const densityStep = step("density", densityMap);
const chartStep = step("charts", chartMap);
const footprintsStep = step("footprints", footprintsOn);

export type Remembering = Pick<Ask, "step" | "progress">;

export function evaluate(ask: Remembering, dressing: Dressing, from: Sources): Placements {
  const { where, fit, pegs } = dressing;
  ask.progress(0);

  // Anchors: where on which host, with prop and draws.
  const rules = chosen(ask, dressing, from, []);
  const swapped = pegs.flatMap(({ prop }) => prop ?? []);
  const choice = swapped.length > 0 ? chosen(ask, dressing, from, [...new Set(swapped)]) : rules;
  const hold = held(ask, dressing, from, choice);
  const isAlong = where.kind === "along";
  const lines = isAlong ? [...known(where.lines, (id) => from.guide(id)).values()] : [];
  const fields = isAlong ? [] : fieldsUnder(ask, dressing, from);
  const masks = masksOn(ask, dressing, fields, from);
  const { slots, orphans } = isAlong
    ? anchorsAlong(ask, dressing, lines, rules, choice, hold)
    : anchorsOver(ask, dressing, fields, masks, rules, choice);
  ask.progress(0.3);
  const draws = variation(ask, slots, dressing.variation, lines, fields);

  // Frames of the hosts at the anchors, moved by offsets and into rows.
  const moves: Moves = { offset: [fit.along, fit.across, fit.up], rows: rowOffsets(fit), shift: draws.shift };
  const frames = isAlong
    ? ask.step(lineFramesStep, lines, slots, pick(hold, ["up", "aim", "forwardFirst"]), moves)
    : ask.step(fieldFramesStep, fields, slots, pick(hold, ["up", "aim", "spread"]), moves, ...facing(dressing, from));
  ask.progress(0.55);

  // Stand: props in those frames, blank where the gaps say so.
  const scale = ask.step(scaleStep, slots, pick(hold, ["axis", "size"]), pick(draws, ["size", "sizes"]));
  const parts = { frames, hold, scale, along: fit.along, draws: pick(draws, ["turn", "shift", "mirrored"]) };
  const standing = ask.step(standStep, slots, parts);
  const flags = ask.step(mirrorStep, gapFlags(ask, dressing, from, slots, lines, frames), draws.mirrored);
  ask.progress(0.7);

  // Adjust: what sees others or the world.
  const { placed, shapes, ...end } = adjusted(ask, dressing, from, {
    slots,
    lines,
    parts,
    moves,
    choice,
    standing,
    flags,
  });
  ask.progress(0.9);

  // See: what there is to show of it besides.
  const charts = from.charted() ? ask.step(chartStep, fields, masks) : null;
  return {
    count: slots.count,
    blanks: countBlanks(end.flags),
    ...placed,
    ...pick(slots, ["prop", "key", "line", "row", "missing"]),
    flags: end.flags,
    shapes,
    density: ask.step(densityStep, fields, masks),
    charted: charts && chartedBy(ask, charts, fields, placed, slots, hold),
    tint: draws.tint ?? ask.step(plainTints, slots.count),
    tints: dressing.variation.tintOn ? tintsOf(ask, dressing) : ["#ffffff"],
    props: [...choice.props],
    lines: lines.map(({ id }) => id),
    fields: fields.map(({ id }) => id),
    lineLengths: Float64Array.from(lines, ({ curve }) => curve.length),
    lineClosed: lines.map(({ curve }) => curve.closed),
    orphans,
  };
}

/** What: which props there are, and which a slot takes. */
function chosen(ask: Remembering, dressing: Dressing, from: Sources, swapped: readonly string[]): PropChoice {
  const params = omit(dressing.what, "own");
  // What is spread stands in no row in which the same could come twice.
  if (dressing.where.kind !== "along") params.noRepeat = false;
  const named = [...propsIn(params), ...swapped];
  const mixes = known(named, (id) => from.mix(id));
  const members = [...mixes.values()].flatMap((mix) => mix.map(({ prop }) => prop));
  const props = new Set([...named, ...members].filter((id) => from.bounds(id) !== undefined));
  const seed = params.order === "mixed" || mixes.size > 0 ? dressing.variation.seed : 0;
  return ask.step(whatStep, params, seed, { props, mixes }, swapped);
}

/** Stance: how each prop is held. */
function held(ask: Remembering, { stance: params, what: { own } }: Dressing, from: Sources, choice: PropChoice): Hold {
  const boxes = choice.props.map((prop) => from.bounds(prop)!);
  const thing = params.thing === null ? undefined : from.middle(params.thing);
  return ask.step(stanceStep, params, own, choice.props, boxes, thing);
}

/** What turns things that are spread: lines that they face, and the seed where each goes its own way. */
function facing({ stance: { forward, thing }, variation: { seed } }: Dressing, from: Sources) {
  const chosen = thing !== null && from.guide(thing) ? [thing] : from.lines();
  const lines = forward === "line" ? [...known(chosen, (id) => from.guide(id)).values()] : [];
  return [lines, forward === "random" ? seed : 0] as const;
}

const plainTints = step("plain tints", (count: number) => new Uint8Array(count));

const tintsOf = (ask: Remembering, { variation: { tintFrom, tintTo } }: Dressing) =>
  ask.step(tintsStep, tintFrom, tintTo);

function chartedBy(
  ask: Remembering,
  charts: ChartMap,
  fields: Parameters<typeof footprintsOn>[1],
  placed: Parameters<typeof footprintsOn>[2],
  slots: Slots,
  hold: Hold,
): Charted {
  return {
    ...charts,
    footprints: ask.step(footprintsStep, charts, fields, placed, slots.line, slots.prop, hold.boxes),
  };
}

function countBlanks(flags: Uint16Array): number {
  let blanks = 0;
  for (let i = 0; i < flags.length; i++) blanks += (flags[i] & FLAG.blank) >> 1;
  return blanks;
}
