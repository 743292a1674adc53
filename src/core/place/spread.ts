/** Anchors over surfaces and areas, inside volumes and loose: what the gaps leave free of them, spacing and pegs. */
import { standOf, type Field } from "../host";
import { kindOf } from "./where/kinds";
import { step, type Ask } from "../graph";
import { boundSlots, carriedSlots, movedFields } from "./carry";
import { densityMaskOf, type DensityMask, type MaskSources } from "./gaps/density-mask";
import { MASKING } from "./gaps/schema";
import { goneAlong, peggedKeys, peggedOver, tiedPegs } from "./pegs-over";
import { Chart, type Stand } from "../mesh";
import type { Vec3 } from "../math";
import { pick } from "../schema";
import { heldFrames } from "./held-frames";
import { framesOver } from "./frames-over";
import type { Host } from "./hosts";
import { known, type Sources } from "./sources";
import { over } from "./spacing/over";
import { flatPegs, flatPlaces, patternWithin, placesOfPattern } from "./spacing/flat";
import { heldAt } from "./spacing/held";
import { laidSlots } from "./spacing/laid-out";
import { sheetOf, wrappedRound, wrappingOf } from "./spacing/wrapped";
import { fieldsOf, flatField } from "./where/fields";
import { located, strokesOn, withSown } from "./sown/sown";
import { broughtUp } from "./version-5";
import { keyOfHex, type Key } from "./keys";
import { HANDLE, LOOSE, type Where } from "./where/schema";
import type { Carry } from "../tie";
import type { GuideLine } from "../line";
import type { Pegs } from "./pegs";
import type { Places } from "../layout";
import type { Dressing } from "./schema";
import type { Slots } from "./slots";
import type { PropChoice } from "./what/what";

const fieldsStep = step("fields", fieldsOf);
const masksStep = step(
  "masks",
  (params: Parameters<typeof densityMaskOf>[0], fields: readonly Field[], sources: MaskSources) =>
    fields.map((field) => densityMaskOf(params, field, sources)),
);
const keptStep = step("kept", (pegs: Dressing["pegs"], fields: readonly Field[]) => peggedKeys(pegs, fields));
const samplesStep = step(
  "samples",
  (
    fields: readonly Field[],
    params: Dressing["spacing"],
    choice: PropChoice,
    masks: readonly DensityMask[],
    seed: number,
    pegged: ReadonlySet<Key>,
  ) => over(fields, params, { choice, masks, seed, pegged }),
);
const locatedStep = step("located", located);
const sownStep = step("sown", withSown);
const flatFieldStep = step("flat field", flatField);
const patternStep = step("pattern within", patternWithin);
const placesOfPatternStep = step("places of pattern", placesOfPattern);
const flatPegsStep = step("flat pegs", flatPegs);
const placesStep = step("flat places", flatPlaces);
const heldStep = step("held at a handle", (params: Parameters<typeof heldAt>[0], [field]: readonly Field[]) =>
  field ? heldAt(params, field.ground) : null,
);
const chartStep = step("chart of layout", ([field]: readonly Field[]) => field && Chart.of(field.ground));
const sheetStep = step("sheet of layout", sheetOf);
const wrappedStep = step("wrapped round", wrappedRound);
const laidSlotsStep = step("laid slots", laidSlots);
const broughtUpStep = step("brought up", broughtUp);
const pegsStep = step("pegs", peggedOver);
const tiedStep = step("tied pegs", tiedPegs);
const handleStep = step("tied handle", (handle: Vec3, carry: Carry, field: Field, stand: Stand) =>
  goneAlong(handle, carry, field, stand),
);
const movedStep = step("moved fields", movedFields);
const boundStep = step("bound", boundSlots);
const carriedStep = step("carried", carriedSlots);
const framesStep = step("frames", framesOver);
const heldFramesStep = step("held frames", heldFrames);

export const spread: Host = {
  anchors(ask, dressing, from, { rules, choice }) {
    const { where, spacing, variation, oldPegs } = dressing;
    const fields = ask.step(fieldsStep, pick(where, FIELDED), {
      guides: known(kindOf(where).lines(where), (id) => from.rest.guide(id)),
      surfaces: known(where.surfaces, (id) => from.rest.surface(id)),
      volumes: known(where.volumes, (id) => from.rest.volume(id)),
    });
    const masks = masksOn(ask, dressing, fields, from);
    const { laysOut, ruled: byRules } = kindOf(where);
    const ruled = byRules ? fields : NO_FIELDS;
    const samples = (pegs: Pegs) => {
      if (!laysOut)
        return sown(ask, dressing, { fields, masks, rules, pegged: ask.step(keptStep, pegs, fields) }, sampled(pegs));
      const within = where.patch.layout.kind === "area" ? placesWithin(ask, dressing, from) : null;
      const { carrier, sheet } = carried(ask, where, fields, from);
      const places = ask.step(placesStep, where.patch.layout, within, sheet, ask.step(flatPegsStep, pegs));
      const [mask] = masks;
      const pegged = ask.step(keptStep, pegs, fields);
      const needs = mask ? { choice: rules, mask, seed: variation.seed, pegged, runs: spacing.runs } : null;
      return ask.step(laidSlotsStep, carrier, places, needs, fields[0]?.ground ?? null);
    };
    const sampled = (pegs: Pegs) =>
      ask.step(samplesStep, ruled, spacing, rules, masks, variation.seed, ask.step(keptStep, pegs, fields));
    const saying = { where, spacing, seed: variation.seed, pegs: dressing.pegs, oldPegs };
    const brought =
      oldPegs.length === 0 ? null : ask.step(broughtUpStep, saying, ruled, masks, rules, samples(NO_PEGS));
    const pegs = tied(ask, brought?.pegs ?? dressing.pegs, fields, from);
    return { lines: [], fields, masks, brought, ...ask.step(pegsStep, samples(pegs), pegs, fields, choice) };
  },
  carried(ask, anchored, _, from) {
    const { fields, slots } = anchored;
    const meshes = fields.map(({ ground }) => from.surface(ground.id) ?? ground);
    const now = ask.step(movedStep, fields, meshes);
    if (now === fields) return anchored;
    const moves = now.map((field, k) => field !== fields[k]);
    const bound = ask.step(boundStep, fields, slots, moves);
    return { ...anchored, fields: now, slots: ask.step(carriedStep, slots, bound, fields, now) };
  },
  frames(ask, { fields, slots }, hold, moves, { stance: { forward, thing }, variation: { seed }, pegs }, from) {
    const lines = forward === "line" ? linesFaced(thing, from) : [];
    const own = forward === "random" ? seed : 0;
    const frames = ask.step(framesStep, fields, slots, pick(hold, ["up", "aim", "spread"]), moves, lines, own);
    const carries = carriesOf(pegs, from, true).map(([hex, carry]) => [keyOfHex(hex), carry] as const);
    return carries.length === 0 ? frames : ask.step(heldFramesStep, frames, slots.key, carries);
  },
};

/** The slots of the rules with what was sown besides. Each stroke is looked for by itself, so that one more costs only its own. */
function sown(
  ask: Pick<Ask, "step">,
  { where, sown: strokes, variation: { seed } }: Dressing,
  {
    fields,
    masks,
    rules,
    pegged,
  }: { fields: readonly Field[]; masks: readonly DensityMask[]; rules: PropChoice; pegged: ReadonlySet<Key> },
  slots: Slots,
): Slots {
  const { sows, ruled } = kindOf(where);
  if (!sows || strokes.length === 0) return slots;
  const all = strokesOn(strokes, fields).map(({ sowing, field }) => {
    const { number, from, places } = sowing;
    return { number, field, located: ask.step(locatedStep, { from, places }, fields[field]) };
  });
  return ask.step(sownStep, slots, all, { choice: rules, masks: ruled ? masks : NO_MASKS, seed, pegged });
}

/** The line that is named, or of all lines those that are there. */
function linesFaced(thing: string | null, from: Sources): GuideLine[] {
  const guides = (ids: readonly string[]) => [...known(from.linesIn(ids), (id) => from.guide(id)).values()];
  const named = thing === null ? [] : guides([thing]);
  return named.length > 0 ? named : guides(from.lines());
}

/** What carries a flat layout, and the sheet that it is to fill; null where there is none. */
function carried(ask: Pick<Ask, "step">, where: Where, fields: readonly Field[], from: Sources) {
  const wrapping = wrappingOf(where);
  const carry = where.patch.tied && !wrapping && fields.length > 0 ? from.carry(HANDLE) : null;
  const handle = carry
    ? ask.step(handleStep, where.patch.handle, carry, fields[0], standNow(fields[0], from))
    : where.patch.handle;
  const held = { ...pick(where.patch, ["turn", "held", "beyond"]), handle };
  if (!wrapping) return { carrier: ask.step(heldStep, held, fields), sheet: null };
  const chart = ask.step(chartStep, fields);
  if (!chart) return { carrier: null, sheet: null };
  return { carrier: ask.step(wrappedStep, wrapping, chart), sheet: ask.step(sheetStep, where.wrap, chart) };
}

/** How far what holds placements of pegs has gone, by their keys as pegs are written by them: of those that are loose, or lie on something. */
function carriesOf(pegs: Pegs, from: Sources, loose: boolean): [hex: string, carry: Carry][] {
  return Object.entries(pegs).flatMap(([hex, { on, held }]) => {
    const carry = held && (on === LOOSE) === loose && from.carry(hex);
    return carry ? [[hex, carry]] : [];
  });
}

const standNow = (field: Field, from: Sources): Stand => standOf({ ground: from.surface(field.id) ?? field.ground });

/** Pegs whose places go along with something else than their surface. */
function tied(ask: Pick<Ask, "step">, pegs: Pegs, fields: readonly Field[], from: Sources): Pegs {
  const carries = carriesOf(pegs, from, false);
  if (carries.length === 0) return pegs;
  const stands = fields.map((field) => standNow(field, from));
  return ask.step(tiedStep, pegs, carries, fields, stands);
}

/** What of a patch lies within outlines, in the pattern that Spacing says. */
function placesWithin(ask: Pick<Ask, "step">, { where, spacing, variation }: Dressing, from: Sources): Places {
  const lines = (ids: readonly string[]) => [...known(ids, (id) => from.rest.guide(id)).values()];
  const field = ask.step(flatFieldStep, lines(where.areas), lines(where.holes));
  const pattern = ask.step(patternStep, field, spacing, variation.seed);
  return ask.step(placesOfPatternStep, pattern, field, where.patch.layout.middle);
}

/** Gaps: how full each field is where. */
function masksOn(
  ask: Pick<Ask, "step">,
  { gaps }: Dressing,
  fields: readonly Field[],
  from: Sources,
): readonly DensityMask[] {
  const to = gaps.distances.map((distance) => distance.to);
  const sources: MaskSources = {
    guides: known(to, (id) => from.rest.guide(id)),
    surfaces: known(to, (id) => from.rest.surface(id)),
    placed: known(to, (id) => from.placements(id)),
    images: known(
      gaps.images.map(({ asset }) => asset),
      (asset) => from.image(asset),
    ),
  };
  return ask.step(masksStep, pick(gaps, MASKING), fields, sources);
}

/** What of a Where says which fields there are. */
const FIELDED = ["kind", "lines", "surfaces", "areas", "holes", "volumes"] as const;
const NO_FIELDS: readonly Field[] = [];
const NO_PEGS: Pegs = {};
const NO_MASKS: readonly DensityMask[] = [];
