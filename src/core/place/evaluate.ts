/**
 * *A dressing evaluated*: the seven steps in their order, each a pure function of its input and its own parameters.
 *
 *     const placements = evaluate(dressing, { guides, bounds });
 *     placements.count // 26
 *
 * Steps are remembered by what went into them, so that an edit to one runs that one and those after it.
 */
import { compose, composeInto, mirrorFlags, scalesOf, type Parts, type Placed } from "./compose";
import { keepClear, type Push } from "./fit/clear";
import { dropInto, type Beneath } from "./fit/drop";
import { dropTogether } from "./fit/group";
import { crowdOf } from "./fit/others";
import { nearOthers } from "./fit/near";
import { shapesOf } from "./fit/shape";
import { inRows, rowOffsets } from "./fit/rows";
import { framesAt, type Moves } from "./frames";
import { framesOver } from "./frames-over";
import { gaps } from "./gaps/gaps";
import type { Raster } from "../image";
import { StepMemory } from "./memory";
import { chartMap, footprintsOn } from "./charted";
import { densityMap, type Sampled } from "./gaps/density-map";
import { pegged } from "./pegs";
import { FLAG, Slots } from "./slots";
import { fieldsUnder, masksOn, sownOver } from "./spread";
import { spacing } from "./spacing/spacing";
import { stance } from "./stance/stance";
import { tintsBetween, variation, type Draws } from "./variation/variation";
import { what as choiceOf, type MixOf, type PropChoice } from "./what/what";
import type { DensityMask } from "./gaps/density-mask";
import type { Field } from "./where/over";
import { where } from "./where/where";
import type { GuideLine } from "../line";
import type { Vec3 } from "../math";
import { type Body, type Ground, groundsFor, type GroundSurface, type PropBounds } from "../mesh";
import type { Dressing } from "./schema";
import type { Placements } from "./placements";
import type { Hold } from "./stance/stance";

/** What a dressing needs to know of its scene. */
export interface Surroundings {
  guides: ReadonlyMap<string, GuideLine>;
  bounds: ReadonlyMap<string, PropBounds>;
  /** Several props in one, by their ids. */
  mixes?: ReadonlyMap<string, readonly MixOf[]>;
  /** The middles of lines and surfaces, metres. */
  things?: ReadonlyMap<string, Vec3>;
  /** The surfaces that props may be dropped onto, by their ids; those that count as ground unless others are named. */
  surfaces?: ReadonlyMap<string, GroundSurface>;
  /** The props of other dressings that this one's are dropped onto. */
  propGrounds?: readonly Ground[];
  /** What other dressings came to whose props this one's give way to. */
  others?: readonly Placements[];
  /** What other dressings came to whose distance counts, by their ids. */
  placed?: ReadonlyMap<string, Placements>;
  /** Pictures that are masks, by the hashes of their bytes. */
  images?: ReadonlyMap<string, Raster>;
  /** Corners of the hulls of props, in their own metres: 3k numbers. */
  hulls?: ReadonlyMap<string, Float32Array>;
  /** The meshes of props, where these are kept clear by them. */
  bodies?: ReadonlyMap<string, Body>;
  /** Whether its surfaces are also to be laid out by their UVs. */
  charted?: boolean;
  /** Is told how far the work has come, from 0 to 1. */
  pulse?: (share: number) => void;
}

const NO_SURFACES: ReadonlyMap<string, GroundSurface> = new Map();
const NO_MIXES: ReadonlyMap<string, readonly MixOf[]> = new Map();
const NO_FIELDS: readonly Field[] = [];
const NO_MASKS: readonly DensityMask[] = [];
const NO_OTHERS: readonly Placements[] = [];
const NO_BODIES: ReadonlyMap<string, Body> = new Map();
const NO_THINGS: ReadonlyMap<string, Vec3> = new Map();

export function evaluate(dressing: Dressing, scene: Surroundings): Placements {
  return evaluateChanged(dressing, scene, new StepMemory())!;
}

/** As {@link evaluate}, computing only what changed since the last time with this memory; null where nothing did. */
export function evaluateChanged(dressing: Dressing, scene: Surroundings, memory: StepMemory): Placements | null {
  memory.computed = [];
  scene.pulse?.(0);
  const along = dressing.where.kind === "along" ? dressing.where.lines : [];
  const lines = memory.step("where", [along, scene.guides], () => where({ lines: along }, scene.guides));
  const choice = chosen(dressing, scene, memory);
  const hold = held(dressing, scene, choice, memory);
  const fields = dressing.where.kind === "along" ? NO_FIELDS : fieldsUnder(dressing, scene, memory);
  const spread = fields !== NO_FIELDS;
  const masks = spread ? masksOn(dressing, scene, fields, memory) : NO_MASKS;
  const { slots, orphans } = spread
    ? sownOver(dressing, fields, masks, choice, memory)
    : slotted(dressing, lines, choice, hold, memory);
  scene.pulse?.(0.3);
  const draws = variation(slots, dressing.variation, lines, memory, fields);
  const parts = fitted(dressing, scene, { lines, fields }, slots, hold, draws, memory);
  const tints = tinted(dressing, memory);
  scene.pulse?.(0.55);

  const blanks = gapsOf(dressing, scene, lines, slots, parts, memory);
  const beneath = beneathOf(dressing, scene, choice, memory);
  const others = memory.step("others", [dressing.fit.clear === "off" ? NO_OTHERS : (scene.others ?? NO_OTHERS)], () =>
    dressing.fit.clear === "off" ? NO_OTHERS : (scene.others ?? NO_OTHERS),
  );
  const near = nearOf(dressing, slots, parts, beneath, memory);
  const bodies = bodiesOf(dressing, scene, choice, others, memory);
  const density = memory.step("density", [fields, masks], () => densityMap(fields, masks));
  const asked = scene.charted === true;
  const charts = memory.step("charts", [fields, masks, asked], () => (asked ? chartMap(fields, masks) : null));
  if (memory.computed.length === 0) return null;

  scene.pulse?.(0.65);
  const placed = compose(slots, parts);
  scene.pulse?.(0.8);
  const flags = mirrorFlags(blanks, draws.mirrored);
  if (beneath && dressing.where.kind === "loose" && dressing.fit.dropAs === "group")
    dropTogether(placed, slots, parts, dressing.fit, beneath, flags);
  else if (beneath) dropInto(placed, 0, slots.count, slots, parts, dressing.fit, beneath, flags);
  const clear = { near, beneath, others, bodies, bounds: scene.bounds };
  const standing = dressing.fit.clear === "off" ? slots : cleared(dressing, lines, slots, parts, placed, flags, clear);
  const shapes = slots.spread
    ? null
    : shapesOf(dressing.fit, lines, standing, parts, movesOf(dressing, draws), placed, flags);
  return {
    count: slots.count,
    blanks: countBlanks(flags),
    ...placed,
    prop: slots.prop.slice(),
    key: slots.key.slice(),
    line: slots.line.slice(),
    row: slots.row.slice(),
    flags,
    density: density && { ...density, height: density.height.slice(), ...copied(density) },
    charted: charts && {
      ...charts,
      ...copied(charts),
      footprints: footprintsOn(charts, fields, { count: slots.count, ...placed }, slots.line, slots.prop, hold.boxes),
    },
    tint: draws.tint?.slice() ?? new Uint8Array(slots.count),
    tints: [...tints],
    props: [...choice.props],
    lines: lines.map((line) => line.id),
    fields: fields.map((field) => field.id),
    lineLengths: Float64Array.from(lines, (line) => line.curve.length),
    lineClosed: lines.map((line) => line.curve.closed),
    orphans: [...orphans],
    missing: slots.missing,
    shapes,
  };
}

/** What is remembered stays here when the placements are handed to another thread. */
const copied = ({ share, reason }: Sampled): Pick<Sampled, "share" | "reason"> => ({
  share: share.slice(),
  reason: reason.slice(),
});

function countBlanks(flags: Uint16Array): number {
  let blanks = 0;
  for (let i = 0; i < flags.length; i++) blanks += (flags[i] & FLAG.blank) >> 1;
  return blanks;
}

/** What: which props there are, and which a slot takes. */
function chosen({ where, what, variation, pegs }: Dressing, scene: Surroundings, memory: StepMemory): PropChoice {
  // What is spread stands in no row in which the same could come twice.
  const params = where.kind === "along" ? what : { ...what, noRepeat: false };
  const { bounds, mixes = NO_MIXES } = scene;
  const seed = params.order === "mixed" || mixes.size > 0 ? variation.seed : 0;
  const swapped = pegs.flatMap((peg) => peg.prop ?? []);
  return memory.step("what", [params, seed, [...bounds.keys()], [...mixes], swapped], () =>
    choiceOf(params, seed, { props: bounds, mixes }, swapped),
  );
}

/** Stance: how each prop is held. */
function held(dressing: Dressing, scene: Surroundings, choice: PropChoice, memory: StepMemory): Hold {
  const { stance: params, what } = dressing;
  const { bounds, things = NO_THINGS } = scene;
  const boxes = memory.step("boxes", [choice, bounds], () => choice.props.map((prop) => bounds.get(prop)!));
  const thing = params.thing === null ? null : (things.get(params.thing) ?? null);
  return memory.step("stance", [params, what.own, choice.props, boxes, thing], () =>
    stance(params, what.own, choice.props, boxes, things),
  );
}

/** Spacing: the slots of all lines and rows, with what the artist pegged. */
function slotted(
  dressing: Dressing,
  lines: readonly GuideLine[],
  choice: PropChoice,
  hold: Hold,
  memory: StepMemory,
): { slots: Slots; orphans: number[] } {
  const { spacing: params, what, pegs } = dressing;
  const { rows, stagger, bend } = dressing.fit;
  const endToEnd = params.by === "end";
  // How far props reach only matters to where slots lie where they are laid by it.
  const usesReach = endToEnd || params.inside || (params.anew && choice.corner !== null);
  const reaches = usesReach ? hold.reaches : null;
  const clip = dressing.fit.clip && endToEnd;
  const bent = bend && endToEnd;
  const needs = { choice, reaches: reaches ?? hold.reaches, cornerAngle: what.cornerAngle, clip, bent };
  const base = memory.step("spacing", [lines, choice, params, what.cornerAngle, reaches, clip, bent], () =>
    spacing(lines, params, needs),
  );
  const all = memory.step("rows", [base, rows, stagger], () =>
    inRows(base, { rows, stagger }, lines, choice, endToEnd),
  );
  return memory.step("pegs", [all, pegs], () => pegged(all, pegs, lines, choice));
}

const movesOf = ({ fit }: Dressing, { shift }: Draws): Moves => ({
  offset: [fit.along, fit.across, fit.up],
  rows: rowOffsets(fit),
  shift,
});

/** Fit: the frames at the slots, moved by offsets and into rows. */
function fitted(
  dressing: Dressing,
  { guides }: Surroundings,
  { lines, fields }: { lines: readonly GuideLine[]; fields: readonly Field[] },
  slots: Slots,
  hold: Hold,
  draws: Draws,
  memory: StepMemory,
): Parts {
  const { along, across, up, rows, rowDistance, rowSide } = dressing.fit;
  const moves = [along, across, up, rows, rowDistance, rowSide, ...draws.shift];
  const { forward } = dressing.stance;
  const { seed } = dressing.variation;
  const around = slots.spread && [
    fields,
    hold.spread,
    forward === "random" ? seed : 0,
    forward === "line" ? [...guides.values()] : [],
  ];
  const frames = memory.step("frames", [slots, lines, hold.up, hold.aim, around, ...moves], () =>
    slots.spread
      ? framesOver({ fields, guides, seed }, slots, hold, movesOf(dressing, draws))
      : framesAt(lines, slots, hold, movesOf(dressing, draws)),
  );
  const scale = memory.step("scale", [slots, hold, draws.size, draws.sizes], () => scalesOf(slots, hold, draws));
  const { bend, clip } = dressing.fit;
  memory.step("shape", [bend, clip], () => [bend, clip]);
  const minded = [frames, hold, along, ...draws.turn, scale, draws.mirrored];
  memory.step("parts", minded, () => minded);
  return { frames, hold, along, scale, draws: draws };
}

const tinted = ({ variation: { tintOn, tintFrom, tintTo } }: Dressing, memory: StepMemory): string[] =>
  memory.step("tints", [tintOn, tintFrom, tintTo], () => (tintOn ? tintsBetween(tintFrom, tintTo) : ["#ffffff"]));

/** Gaps: which slots stay blank. */
function gapsOf(
  { gaps: params, variation: { seed } }: Dressing,
  { guides }: Surroundings,
  lines: readonly GuideLine[],
  slots: Slots,
  { frames }: Parts,
  memory: StepMemory,
): Uint16Array {
  // What is spread keeps off by its distances.
  const avoid = slots.spread ? [] : params.avoid;
  const avoided = memory.step("avoided", [avoid, guides], () => where({ lines: avoid }, guides));
  const drawnBy = params.chance > 0 || params.runsOn || params.atMost > 0 ? seed : 0;
  return memory.step("gaps", [slots, params, drawnBy, lines, avoided, avoided.length > 0 ? frames : null], () =>
    gaps(slots, params, seed, lines, avoided, frames),
  );
}

/** What props are dropped onto; null where they are not. */
function beneathOf(
  { fit }: Dressing,
  { surfaces = NO_SURFACES, propGrounds = [], hulls }: Surroundings,
  choice: PropChoice,
  memory: StepMemory,
): Beneath | null {
  const { drop, dropAs, dropSeen, dropBy, dropRest, lean, leanBy, sink, lift, without, floor, play } = fit;
  // What is dropped is not remembered, but whether it has to be dropped anew; and how far it may float, for the checks.
  const params = [drop, dropAs, dropSeen, dropBy, dropRest, lean, leanBy, sink, lift, without, floor, play];
  if (drop === "off") return memory.step("drop", [drop], () => null);
  const grounds = groundsFor(fit, surfaces, propGrounds);
  const shapes = choice.props.map((prop) => hulls?.get(prop) ?? null);
  memory.step("drop", [params], () => params);
  return memory.step("ground", [grounds, shapes], () => ({ grounds, hulls: shapes }));
}

/** The slots that have to be looked at for keeping clear; null for all, as where they are dropped and so no longer at their feet. */
function nearOf(
  { fit }: Dressing,
  slots: Slots,
  { frames, hold, scale }: Parts,
  beneath: Beneath | null,
  memory: StepMemory,
): Uint32Array | null {
  const { clear, clearance, clearBy } = fit;
  const aside = memory.step("clear", [clear, clearance, clearBy], () => [clear, clearance, clearBy]);
  if (clear === "off" || beneath || slots.spread) return null;
  return memory.step("near", [slots, frames, hold, scale, aside], () => nearOthers(slots, frames, hold, scale, fit));
}

/** The meshes of the dressing's props and behind them of those that they give way to; null where others than meshes count. */
function bodiesOf(
  { fit }: Dressing,
  { bodies = NO_BODIES }: Surroundings,
  choice: PropChoice,
  others: readonly Placements[],
  memory: StepMemory,
): readonly (Body | undefined)[] | null {
  const ids = fit.clear === "mesh" ? [...choice.props, ...others.flatMap(({ props }) => props)] : [];
  const found = ids.map((id) => bodies.get(id));
  return memory.step("bodies", [found], () => (fit.clear === "mesh" ? found : null));
}

/** What keeping clear has to know besides the slots and what stands at them. */
interface Clear {
  near: Uint32Array | null;
  beneath: Beneath | null;
  others: readonly Placements[];
  bodies: readonly (Body | undefined)[] | null;
  bounds: ReadonlyMap<string, PropBounds>;
}

/** Keeping clear looks at what stands, so it comes when the gaps are known. Gives the slots at the places they have in the end. */
function cleared(
  dressing: Dressing,
  lines: readonly GuideLine[],
  slots: Slots,
  parts: Parts,
  placed: Placed,
  flags: Uint16Array,
  { near, beneath, others, bodies, bounds }: Clear,
): Slots {
  const { fit } = dressing;
  const { hold } = parts;
  const moves = movesOf(dressing, parts.draws);
  // What is pushed gets places of its own; the slots that are remembered stay as they were.
  const moved = fit.clearBy === "push" ? slots.derive() : slots;
  const one = new Slots(1, slots.span !== null);
  const push: Push = (i, by) => {
    // Only along a line there is a way on.
    if (slots.spread) return false;
    const line = lines[slots.line[i]];
    const at = slots.at[i] + by;
    if (at > line.curve.length && !line.curve.closed) return false;
    moved.at[i] = at;
    const here = { ...parts, frames: framesAt(lines, one.takeOne(slots, i, by), hold, moves, i) };
    composeInto(placed, i, i + 1, moved, here, i);
    if (beneath) dropInto(placed, i, i + 1, moved, here, fit, beneath, flags, i);
    return true;
  };
  const crowd = others.length > 0 ? crowdOf(placed, slots.prop, flags, hold.boxes, others, bounds) : null;
  keepClear(fit, slots, placed, flags, near, hold.boxes, bodies, push, crowd);
  return moved;
}
