/** The steps of a dressing that is spread over surfaces and areas: where, what the gaps leave free, spacing and pegs. */
import { densityMaskOf, type DensityMask } from "./gaps/density-mask";
import { peggedKeys, peggedOver } from "./pegs-over";
import { over } from "./spacing/over";
import { fieldsOf, type Field } from "./where/over";
import { where } from "./where/where";
import type { Raster } from "../image";
import type { Surroundings } from "./evaluate";
import type { Placements } from "./placements";
import type { GroundSurface } from "../mesh";
import type { StepMemory } from "./memory";
import type { Pegged } from "./pegs";
import type { Dressing } from "./schema";
import type { PropChoice } from "./what/what";

const NO_SURFACES: ReadonlyMap<string, GroundSurface> = new Map();
const NO_FIELDS: readonly Field[] = [];
const NO_PLACED: ReadonlyMap<string, Placements> = new Map();
const NO_IMAGES: ReadonlyMap<string, Raster> = new Map();

/** Where, over: the surfaces and areas. */
export function fieldsUnder({ where: params }: Dressing, scene: Surroundings, memory: StepMemory): readonly Field[] {
  const { guides, surfaces = NO_SURFACES } = scene;
  const outlines = where({ lines: [...params.areas, ...params.holes] }, guides);
  const meshes = [...params.surfaces, ...params.volumes].map((id) => surfaces.get(id)?.mesh);
  return memory.step("fields", [params, outlines, meshes], () => fieldsOf(params, surfaces, guides));
}

/** Gaps, over: how full each field is where. */
export function masksOn(
  dressing: Dressing,
  { guides, surfaces = NO_SURFACES, placed = NO_PLACED, images = NO_IMAGES }: Surroundings,
  fields: readonly Field[],
  memory: StepMemory,
): readonly DensityMask[] {
  const { slopeOn, slope, slopeSoft, heightOn, height, heightSoft, facingOn, facing, facingWithin } = dressing.gaps;
  const { distances, paint, edge, edgeSize, walls, images: pictures, colours } = dressing.gaps;
  const limits = [slopeOn, slope, slopeSoft, heightOn, height, heightSoft, facingOn, facing, facingWithin];
  const others = distances.map(({ to }) => guides.get(to) ?? surfaces.get(to)?.mesh ?? placed.get(to));
  const rasters = pictures.map(({ asset }) => images.get(asset));
  const inputs = [fields, limits, distances, paint, pictures, colours, rasters, edge, edgeSize, walls, others];
  return memory.step("masks", inputs, () =>
    fields.map((field) => densityMaskOf(dressing.gaps, field, { guides, surfaces, placed, images })),
  );
}

/** Spacing, over: the slots on all fields, without those that the gaps leave out, with what the artist pegged. */
export function sownOver(
  dressing: Dressing,
  fields: readonly Field[],
  masks: readonly DensityMask[],
  choice: PropChoice,
  memory: StepMemory,
): Pegged {
  const { spacing: params, variation, pegs } = dressing;
  const kept = [...peggedKeys(pegs, fields)].sort((a, b) => a - b);
  const { seed } = variation;
  // Loose placements are all put there by hand.
  const samples = dressing.where.kind === "loose" ? NO_FIELDS : fields;
  const all = memory.step("spacing", [samples, choice, params, masks, seed, kept], () =>
    over(samples, params, { choice, masks, seed, pegged: new Set(kept) }),
  );
  return memory.step("pegs", [all, pegs], () => peggedOver(all, pegs, fields, choice));
}
