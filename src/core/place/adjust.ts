/**
 * The stage in which placements see each other and the world: dropped onto ground, kept clear, bent and clipped. Each step
 * gives copies of what it changes, and what came in where it has nothing to do.
 */
import { cutsAtEnd } from "./spacing/schema";
import { wrappingOf } from "./spacing/wrapped";
import { kindOf } from "./where/kinds";
import { composeInto, type Parts, type Placed } from "./compose";
import { keepClear, type Among, type Push } from "./fit/clear";
import { dropInto, type Beneath } from "./fit/drop";
import { dropTogether } from "./fit/group";
import { dropInTurn } from "./fit/in-turn";
import { nearOthers } from "./fit/near";
import { crowdOf } from "./fit/others";
import { CLEARING, DROPPING, type Clearing, type Dropping } from "./fit/schema";
import { bentOver } from "./fit/bent-over";
import { partedOver } from "./fit/footprints";
import { shapesOf } from "./fit/shape";
import { framesAt, type Moves } from "./frames";
import { standingOf } from "./rack/rack";
import { goAlong, standInColumns } from "./rack/stand";
import { carried } from "./gaps/taken";
import { Slots, type Stacked } from "./slots";
import { known, type Sources } from "./sources";
import { step, type Ask } from "../graph";
import { pick } from "../schema";
import type { Field } from "../host";
import type { GuideLine } from "../line";
import { groundsUnder, type Body, type PropBounds, type Shapes } from "../mesh";
import type { Placements } from "./placements";
import { boxMesh, type Solid } from "./props-as-ground";
import type { Dressing } from "./schema";
import type { PropChoice } from "./what/what";

/** What stands, before it is adjusted. */
export interface Standing {
  slots: Slots;
  lines: readonly GuideLine[];
  fields: readonly Field[];
  parts: Parts;
  moves: Moves;
  choice: PropChoice;
  standing: Placed;
  flags: Uint16Array;
}

export interface Adjusted {
  placed: Placed;
  flags: Uint16Array;
  /** Where each stands in its rack; null where nothing is stacked. */
  stacked: Stacked | null;
  shapes: Shapes | null;
}

type Changed = Pick<Adjusted, "placed" | "flags">;

const stackStep = step("stacked", standInColumns);
const dropStep = step("drop", dropped);
const nearStep = step("near", nearOthers);
const clearStep = step("clear", cleared);
const shapeStep = step("shape", shaped);
const overStep = step("bent over", bentOver);
const partStep = step("parted over", partedOver);

export function adjusted(
  ask: Pick<Ask, "step">,
  dressing: Dressing,
  from: Sources,
  { slots, lines, fields, parts, moves, choice, standing, flags }: Standing,
): Adjusted {
  const { fit, where, gaps, spacing } = dressing;
  const { frames, hold, scale } = parts;
  const rack = slots.rack
    ? ask.step(stackStep, standing, slots, pick(frames, ["rotation"]), pick(hold, ["boxes", "contact"]), parts.draws.mirrored, standingOf(dressing)) // prettier-ignore
    : null;
  const stacked = rack?.stacked ?? null;
  let now: Changed & { slots: Slots } = { placed: rack?.placed ?? standing, flags, slots };
  const beneath = beneathOf(dressing, from, choice);
  const dropping = pick(fit, DROPPING);
  const dropAs = kindOf(where).ruled ? "each" : fit.dropAs;
  const solids = dropAs === "turn" ? choice.props.map((prop) => from.solid(prop) ?? boxMesh(from.bounds(prop))) : null;
  if (beneath)
    now = { ...ask.step(dropStep, now.placed, now.flags, slots, parts, dropping, beneath, dropAs, solids), slots };
  if (fit.clear !== "off") {
    const clearing = pick(fit, CLEARING);
    // What is dropped or stacked is no longer at its feet, and what is spread stands in no order: then all are looked at.
    const near =
      beneath || slots.spread || slots.rack ? null : ask.step(nearStep, slots, frames, hold, scale, clearing);
    const others = fit.clearOf.flatMap((id) => from.placements(id) ?? []);
    // What is bent has left its box, and is parted from its like below.
    const { pins } = kindOf(where);
    const among = pins ? (fit.bend ? "others" : "all in turn") : "all";
    const way: Way = { slots, lines, parts, moves, dropping, beneath, among };
    const around = {
      others,
      bounds: known(
        others.flatMap(({ props }) => props),
        (prop) => from.bounds(prop),
      ),
      bodies: bodiesOf(dressing, from, choice, others),
    };
    now = ask.step(clearStep, now.placed, now.flags, clearing, way, near, around);
  }
  // What has gone since the gaps were known takes along what stood on it.
  if (slots.rack && !gaps.onGaps && now.flags !== flags) now.flags = carried(now.flags, slots);
  const { bend, bendOff } = fit;
  const clip = fit.clip || cutsAtEnd(spacing);
  if (slots.spread) {
    const { facing } = parts.frames;
    const which = kindOf(where).onSurfaces ? bentAmong(dressing, from, choice) : null;
    const shapes = which ? ask.step(overStep, wrappingOf(where), fields, now.slots, facing, { boxes: hold.boxes, which }, now.placed, now.flags, bendOff) : null; // prettier-ignore
    const gives = shapes !== null && fit.clear !== "off" && fit.bend && kindOf(where).pins;
    const apart = gives ? ask.step(partStep, shapes, now.slots, now.flags, hold.boxes, fit.clearance) : now.flags;
    return { placed: now.placed, flags: apart, shapes, stacked };
  }
  // What is stacked stands beside its line, where that has no bend to follow.
  if (slots.rack || (!bend && !clip)) return { ...pick(now, ["placed", "flags"]), shapes: null, stacked };
  return {
    placed: now.placed,
    stacked,
    ...ask.step(shapeStep, now.flags, { bend, clip }, lines, now.slots, hold, moves, now.placed),
  };
}

/**
 * Which props go over the surface as it is bent: all, where they are bent; else the assemblies whose things go each by itself.
 * Null where none does.
 */
function bentAmong({ fit }: Dressing, from: Sources, { props }: PropChoice): boolean[] | null {
  const each = fit.apart === "each" && fit.drop === "off";
  const which = props.map((prop) => fit.bend || (each && from.assembled(prop)));
  return which.includes(true) ? which : null;
}

/** What props are dropped onto; null where they are not. */
function beneathOf({ fit }: Dressing, from: Sources, choice: PropChoice): Beneath | null {
  if (fit.drop === "off") return null;
  const propGrounds = fit.ontoProps.flatMap((id) => from.propGround(id) ?? []);
  const hulls = choice.props.map((prop) => (fit.dropBy === "lowest" ? from.hull(prop) : undefined) ?? null);
  return { grounds: [...groundsUnder(fit.onto, from), ...propGrounds], hulls };
}

/** The meshes of the dressing's props and behind them of those that they give way to; null where others than meshes count. */
function bodiesOf(
  { fit }: Dressing,
  from: Sources,
  choice: PropChoice,
  others: readonly Placements[],
): readonly (Body | undefined)[] | null {
  if (fit.clear !== "mesh") return null;
  return [...choice.props, ...others.flatMap(({ props }) => props)].map((prop) => from.body(prop));
}

const copied = (placed: Placed): Placed => ({
  ...placed,
  position: placed.position.slice(),
  rotation: placed.rotation.slice(),
  reach: placed.reach.slice(),
  at: placed.at.slice(),
});

function dropped(
  standing: Placed,
  before: Uint16Array,
  slots: Slots,
  parts: Parts,
  dropping: Dropping,
  beneath: Beneath,
  dropAs: Dressing["fit"]["dropAs"],
  solids: readonly Solid[] | null,
): Changed {
  const [placed, flags] = [copied(standing), before.slice()];
  if (dropAs === "group") dropTogether(placed, slots, parts, dropping, beneath, flags);
  else if (solids) dropInTurn(placed, slots, parts, dropping, beneath, flags, solids);
  else dropInto(placed, 0, slots.count, slots, parts, dropping, beneath, flags);
  if (slots.rack) goAlong(placed, standing, slots, flags);
  return { placed, flags };
}

/** What it takes to put a placement farther along its line. */
interface Way {
  slots: Slots;
  lines: readonly GuideLine[];
  parts: Parts;
  moves: Moves;
  dropping: Dropping;
  beneath: Beneath | null;
  among: Among;
}

/** Keeping clear looks at what stands, so it comes when the gaps are known. Gives the slots at the places they have in the end. */
function cleared(
  standing: Placed,
  before: Uint16Array,
  clearing: Clearing,
  { slots, lines, parts, moves, dropping, beneath, among }: Way,
  near: Uint32Array | null,
  around: {
    others: readonly Placements[];
    bounds: ReadonlyMap<string, PropBounds>;
    bodies: readonly (Body | undefined)[] | null;
  },
): Changed & { slots: Slots } {
  const pushes = clearing.clearBy === "push";
  const flags = before.slice();
  const { hold } = parts;
  // What is pushed gets places of its own; what is remembered stays as it was.
  const placed = pushes ? copied(standing) : standing;
  const moved = pushes ? slots.derive() : slots;
  const one = new Slots(1, slots.span !== null);
  const push: Push = (i, by) => {
    // Only along a line there is a way on, and of a column nothing goes by itself.
    if (slots.spread || slots.rack) return false;
    const line = lines[slots.line[i]];
    const at = slots.at[i] + by;
    if (at > line.curve.length && !line.curve.closed) return false;
    moved.at[i] = at;
    const here = { ...parts, frames: framesAt(lines, one.takeOne(slots, i, by), hold, moves, i) };
    composeInto(placed, i, i + 1, moved, here, i);
    if (beneath) dropInto(placed, i, i + 1, moved, here, dropping, beneath, flags, i);
    return true;
  };
  const { others, bounds, bodies } = around;
  const crowd = others.length > 0 ? crowdOf(placed, slots.prop, flags, hold.boxes, others, bounds) : null;
  keepClear(clearing, slots, placed, flags, near, hold.boxes, bodies, push, crowd, among);
  return { placed, flags, slots: moved };
}

function shaped(
  before: Uint16Array,
  params: Pick<Dressing["fit"], "bend" | "clip">,
  lines: readonly GuideLine[],
  slots: Slots,
  hold: Parts["hold"],
  moves: Moves,
  placed: Placed,
): Pick<Adjusted, "flags" | "shapes"> {
  const flags = before.slice();
  const shapes = shapesOf(params, lines, slots, { hold }, moves, placed, flags);
  return { flags, shapes };
}
