/**
 * *A dressing evaluated*: from the scene to placements in five stages. What lies where on which host (anchors), the hosts'
 * frames there, how props stand in them, what is adjusted because of others or the world, and what there is to see of it.
 *
 *     const { placements } = evaluated(ask, dressing, sources);
 *     placements.count // 26
 *
 * Every step is remembered by its arguments, so an edit runs what it bears on and nothing else.
 */
import { adjusted } from "./adjust";
import { along } from "./along";
import { compose, mirrorFlags, scalesOf } from "./compose";
import { rowOffsets } from "./fit/rows";
import { gapFlags } from "./gaps/gaps";
import { hangingIn, hung } from "./hung";
import { FLAG } from "./slots";
import { spread } from "./spread";
import { held } from "./stance/held";
import { tornBeside } from "./torn";
import { posed, tinted, variation } from "./variation/variation";
import { chosen } from "./what/chosen";
import { step } from "../graph";
import { pick } from "../schema";
import type { Moves } from "./frames";
import type { Host, Remembering } from "./hosts";
import type { Placements } from "./placements";
import type { Dressing } from "./schema";
import type { Basis } from "./sight";
import type { Sources } from "./sources";
import { isWrapped, kindOf } from "./where/kinds";

/** The table of hosts. */
const HOSTS: Readonly<Record<Dressing["where"]["kind"], Host>> = {
  along,
  over: spread,
  inside: spread,
  pinned: spread,
  patch: spread,
  wrapped: spread,
  loose: spread,
};

const scaleStep = step("scale", scalesOf);
const standStep = step("stand", compose);
const mirrorStep = step("mirror flags", mirrorFlags);
const hungStep = step("hung", hung);
const tornStep = step("torn", tornBeside);

export interface Evaluated {
  placements: Placements;
  /** What {@link sightOf} is worked out from; null where the sheet shows nothing of it. */
  basis: Basis | null;
}

export function evaluated(ask: Remembering, dressing: Dressing, from: Sources): Evaluated {
  const { where, fit, pegs, oldPegs, variation: varied } = dressing;
  const host = HOSTS[where.kind];
  ask.progress(0);

  // Anchors: where on which host, with prop and draws.
  const swapped = [...new Set([...Object.values(pegs), ...oldPegs].flatMap(({ prop }) => prop ?? []))];
  const rules = chosen(ask, dressing, from);
  const choice = swapped.length > 0 ? chosen(ask, dressing, from, swapped) : rules;
  const hold = held(ask, dressing, from, choice);
  const rest = host.anchors(ask, dressing, from, { rules, choice, hold });
  ask.progress(0.3);
  const draws = variation(ask, rest.slots, varied, rest.lines, rest.fields);

  // Frames of the hosts at the anchors, where these are at the moment.
  const anchored = host.carried(ask, rest, dressing, from);
  const { slots, lines, fields } = anchored;
  const moves: Moves = { offset: [fit.along, fit.across, fit.up], rows: rowOffsets(fit), shift: draws.shift };
  const frames = host.frames(ask, anchored, hold, moves, dressing, from);
  ask.progress(0.55);

  // Stand: props in those frames, blank where the gaps say so.
  const scale = ask.step(scaleStep, slots, pick(hold, ["axis", "size"]), pick(draws, ["size", "sizes"]));
  const parts = { frames, hold, scale, along: fit.along, draws: pick(draws, ["turn", "shift", "mirrored"]) };
  const standing = ask.step(standStep, slots, parts);
  // What keeps off a line does so at rest: nothing comes and goes while its surface moves.
  const still =
    anchored === rest || dressing.gaps.avoid.length === 0
      ? frames
      : host.frames(ask, rest, hold, moves, dressing, from);
  const flags = ask.step(mirrorStep, gapFlags(ask, dressing, from, rest, still), draws.mirrored);
  ask.progress(0.7);

  // Adjust: what sees others or the world.
  const now = adjusted(ask, dressing, from, { slots, lines, fields, parts, moves, choice, standing, flags });
  const hanging = hangingIn(pegs, (key) => from.carry(key));
  const { props } = choice;
  const placed =
    hanging.length > 0
      ? ask.step(hungStep, now.placed, { key: slots.key, prop: slots.prop, flags: now.flags, props: [...props] }, hanging, props.map((prop) => from.snaps(prop))) // prettier-ignore
      : now.placed;
  ask.progress(0.9);

  // See: what there is to show of it besides.
  const placements: Placements = {
    count: slots.count,
    blanks: countBlanks(now.flags),
    ...placed,
    ...pick(slots, ["prop", "key", "line", "row", "missing", "tight"]),
    ...pick(now, ["flags", "shapes", "stacked"]),
    torn: isWrapped(where) && rest.slots.spread ? ask.step(tornStep, rest.slots.spread) : null,
    ...tinted(ask, slots.count, varied, draws.tint),
    posed: posed(ask, slots, varied, choice.props, (prop, clip) => from.clip(prop, clip)),
    props: [...props],
    lines: lines.map(({ id }) => id),
    fields: fields.map(({ id }) => id),
    lineLengths: Float64Array.from(lines, ({ curve }) => curve.length),
    lineClosed: lines.map(({ curve }) => curve.closed),
    ...pick(anchored, ["orphans", "brought"]),
  };
  const shows = kindOf(where).unrolls === "sheet";
  const basis = shows ? { where, bend: fit.bend, rest, now: anchored, placed, boxes: hold.boxes } : null;
  return { placements, basis };
}

function countBlanks(flags: Uint16Array): number {
  let blanks = 0;
  for (let i = 0; i < flags.length; i++) blanks += (flags[i] & FLAG.blank) >> 1;
  return blanks;
}
