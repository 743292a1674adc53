/**
 * *A dressing evaluated*: the seven steps in their order, each a pure function of its input and its own parameters.
 *
 *     const placements = evaluate(scene, dressing, guidesOf(scene));
 *     placements.count // 26
 *
 * Steps are remembered by what went into them, so that an edit to one runs that one and those after it.
 */
import { StepMemory } from "./memory";
import { compose, framesAt } from "./compose";
import { fit } from "./fit/fit";
import { gaps } from "./gaps/gaps";
import { pegged } from "./pegs";
import { spacing } from "./spacing/spacing";
import { FLAG } from "./slots";
import { stance } from "./stance/stance";
import { variation } from "./variation/variation";
import { what } from "./what/what";
import { where } from "./where/where";
import type { GuideLine } from "../line";
import type { PropBounds } from "./bounds";
import type { Dressing } from "./schema";
import type { Placements } from "./placements";

/** What a dressing needs to know of its scene. */
export interface Surroundings {
  guides: ReadonlyMap<string, GuideLine>;
  bounds: ReadonlyMap<string, PropBounds>;
}

export function evaluate(dressing: Dressing, scene: Surroundings): Placements {
  return evaluateChanged(dressing, scene, new StepMemory())!;
}

/** As {@link evaluate}, computing only what changed since the last time with this memory; null where nothing did. */
export function evaluateChanged(dressing: Dressing, scene: Surroundings, memory: StepMemory): Placements | null {
  const { guides, bounds } = scene;
  const { pegs } = dressing;
  const { seed } = dressing.variation;
  const swapped = pegs.flatMap((peg) => peg.prop ?? []);
  memory.computed = [];

  const lines = memory.step("where", [dressing.where, guides], () => where(dressing.where, guides));
  const whatSeed = dressing.what.order === "mixed" ? seed : 0;
  const choice = memory.step("what", [dressing.what, whatSeed, [...bounds.keys()], swapped], () =>
    what(dressing.what, seed, (prop) => bounds.has(prop), swapped),
  );
  const boxes = memory.step("boxes", [choice, bounds], () => choice.props.map((prop) => bounds.get(prop)!));
  const rows = memory.step("spacing", [lines, choice, dressing.spacing], () =>
    spacing(lines, choice, dressing.spacing),
  );
  const slots = memory.step("pegs", [rows, pegs], () => pegged(rows, pegs, lines, choice.props));
  const hold = memory.step("stance", [dressing.stance, boxes], () => stance(dressing.stance, boxes));
  const offset = memory.step("fit", [dressing.fit], () => fit(dressing.fit));
  const drawn = memory.step("variation", [slots, dressing.variation], () => variation(slots, dressing.variation));
  const gapSeed = dressing.gaps.chance > 0 ? seed : 0;
  const flags = memory.step("gaps", [slots, dressing.gaps, gapSeed], () => gaps(slots, dressing.gaps, seed));
  const frames = memory.step("frames", [slots, hold.up, offset[0], drawn.shift], () =>
    framesAt(lines, slots, hold.up, offset[0], drawn.shift),
  );
  if (memory.computed.length === 0) return null;

  return {
    count: slots.count,
    blanks: countBlanks(flags),
    ...compose(slots, frames, hold, offset, drawn, boxes),
    prop: slots.prop.slice(),
    key: slots.key.slice(),
    line: slots.line.slice(),
    flags: flags.slice(),
    props: [...choice.props],
    lines: lines.map((line) => line.id),
    lineLengths: Float64Array.from(lines, (line) => line.curve.length),
    lineClosed: lines.map((line) => line.curve.closed),
    missing: slots.missing,
  };
}

function countBlanks(flags: Uint16Array): number {
  let blanks = 0;
  for (let i = 0; i < flags.length; i++) if (flags[i] & FLAG.blank) blanks++;
  return blanks;
}
