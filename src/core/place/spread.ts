/** Anchors over surfaces and areas, inside volumes and loose: what the gaps leave free of them, spacing and pegs. */
import { step, type Ask } from "../graph";
import { densityMaskOf, type DensityMask, type MaskSources } from "./gaps/density-mask";
import { MASKING } from "./gaps/schema";
import type { Pegged } from "./pegs";
import { peggedKeys, peggedOver } from "./pegs-over";
import { pick } from "../schema";
import { known, type Sources } from "./sources";
import { over } from "./spacing/over";
import { fieldsOf, type Field } from "./where/over";
import type { Dressing } from "./schema";
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
    pegged: ReadonlySet<number>,
  ) => over(fields, params, { choice, masks, seed, pegged }),
);
const pegsStep = step("pegs", peggedOver);

/** Where: the surfaces, areas and volumes. */
export function fieldsUnder(ask: Pick<Ask, "step">, { where }: Dressing, from: Sources): readonly Field[] {
  const outlines = known([...where.areas, ...where.holes], (id) => from.guide(id));
  const surfaces = known(where.surfaces, (id) => from.surface(id));
  const volumes = known(where.volumes, (id) => from.volume(id));
  return ask.step(fieldsStep, where, surfaces, outlines, volumes);
}

/** Gaps: how full each field is where. */
export function masksOn(
  ask: Pick<Ask, "step">,
  { gaps }: Dressing,
  fields: readonly Field[],
  from: Sources,
): readonly DensityMask[] {
  const to = gaps.distances.map((distance) => distance.to);
  const sources: MaskSources = {
    guides: known(to, (id) => from.guide(id)),
    surfaces: known(to, (id) => from.surface(id)),
    placed: known(to, (id) => from.placements(id)),
    images: known(
      gaps.images.map(({ asset }) => asset),
      (asset) => from.image(asset),
    ),
  };
  return ask.step(masksStep, pick(gaps, MASKING), fields, sources);
}

/** Spacing: the slots on all fields, without those that the gaps leave out, with what the artist pegged. */
export function anchorsOver(
  ask: Pick<Ask, "step">,
  { where, spacing, variation, pegs }: Dressing,
  fields: readonly Field[],
  masks: readonly DensityMask[],
  rules: PropChoice,
  choice: PropChoice,
): Pegged {
  // Loose placements are all put there by hand.
  const ruled = where.kind === "loose" ? NO_FIELDS : fields;
  const kept = ask.step(keptStep, pegs, fields);
  const all = ask.step(samplesStep, ruled, spacing, rules, masks, variation.seed, kept);
  return ask.step(pegsStep, all, pegs, fields, choice);
}

const NO_FIELDS: readonly Field[] = [];
