/** Step 1, Where, for what is spread: the fields that a dressing is spread over, or that it fills. */
import { flatUnder, hasInside, levelUnder, Plan, regionOf, regionOfPlane, type Field, type Volume } from "../../host";
import { hashText } from "../../math";
import { WorldMesh } from "../../mesh";
import { ADDED_TAG } from "../keys";
import { fieldIdsOf, kindOf, type WhereThings } from "./kinds";
import { LOOSE, type Where } from "./schema";
import { where } from "./where";
import type { GuideLine } from "../../line";

/** Tags of fields, the last one of all being kept for what is added by hand. */
const TAGS = ADDED_TAG;

/**
 * By the ids of surfaces, or of areas where there are none, what tells their keys apart. Whatever comes first keeps its own.
 *
 * @param most so many tags there are; further fields have none
 */
export function tagsOf(where: WhereThings, most = TAGS): Map<string, number> {
  const tags = new Map<string, number>();
  const taken = new Set<number>();
  for (const id of new Set(fieldIdsOf(where))) {
    if (taken.size === most) break;
    // A layout is the same on whatever surface it lies.
    let tag = kindOf(where).laysOut ? 0 : hashText(id) % most;
    while (taken.has(tag)) tag = (tag + 1) % most;
    taken.add(tag);
    tags.set(id, tag);
  }
  return tags;
}

/** What fields are made of: the scene's surfaces, volumes and lines that a Where names, by their ids. */
export interface FieldSources {
  surfaces: ReadonlyMap<string, WorldMesh>;
  volumes: ReadonlyMap<string, Volume>;
  guides: ReadonlyMap<string, GuideLine>;
}

/** What a field is before its tag is known. */
type Bare = Omit<Field, "id" | "tag" | "region">;

/** The fields of each kind of Where in the dressing's own order, without what is gone; none along lines. */
const FIELDS: Readonly<Record<Where["kind"], (params: WhereThings, sources: FieldSources) => Bare[]>> = {
  along: () => [],
  over: surfacesAndAreas,
  inside: (_, { volumes }) =>
    [...volumes.values()].flatMap((volume) =>
      volume.cubic > 0 ? [{ ground: volume.ground, plan: null, plane: false, volume, free: true }] : [],
    ),
  pinned: (_, { surfaces }) => [...[...surfaces.values()].map((ground) => onAll(ground)), nowhere()],
  patch: onFirst,
  wrapped: onFirst,
  loose: () => [nowhere()],
};

/** All of the first surface. */
function onFirst({ surfaces: [first] }: WhereThings, { surfaces }: FieldSources): Bare[] {
  const ground = surfaces.get(first);
  return ground ? [onAll(ground)] : [];
}

/** All of a surface. */
const onAll = (ground: WorldMesh): Bare => ({ ground, plan: null, plane: false, volume: null, free: false });

/** What lies on nothing. */
const nowhere = (): Bare => ({
  ground: new WorldMesh(LOOSE, NOWHERE, Uint32Array.of(0, 0, 0)),
  plan: null,
  plane: false,
  volume: null,
  free: true,
});

export function fieldsOf(params: WhereThings, sources: FieldSources): Field[] {
  const tags = tagsOf(params);
  return FIELDS[params.kind](params, sources).flatMap((bare) => {
    const tag = tags.get(bare.ground.id);
    if (tag === undefined) return [];
    const { ground, plan, plane } = bare;
    return [{ ...bare, id: ground.id, tag, region: plane ? regionOfPlane(ground) : regionOf(ground, plan) }];
  });
}

/** Surfaces within areas, or areas by themselves; outlines of lines that are open or have gone count for nothing. */
function surfacesAndAreas(params: WhereThings, { surfaces, guides }: FieldSources): Bare[] {
  const areas = where({ lines: params.areas }, guides).filter(hasInside);
  const holes = where({ lines: params.holes }, guides);
  const bare = (ground: WorldMesh, plan: Plan | null, plane: boolean): Bare => ({
    ground,
    plan,
    plane,
    volume: null,
    free: false,
  });
  if (params.surfaces.length === 0) return areas.map((line) => bare(flatUnder(line), Plan.of([line], holes), true));
  // Outlines that were asked for and have gone leave nothing, rather than everything.
  if (params.areas.length > 0 && areas.length === 0) return [];
  const plan = Plan.of(areas, holes);
  return [...surfaces.values()].map((ground) => bare(ground, plan, false));
}

/** What a layout within outlines is spread over before it is carried to a surface; null without any that has an inside. */
export function flatField(areas: readonly GuideLine[], holes: readonly GuideLine[]): Field | null {
  const plan = Plan.of(areas, holes);
  if (!plan?.bounded) return null;
  const ground = levelUnder(plan, "flat");
  return { ...onAll(ground), id: ground.id, tag: 0, plan, plane: true, region: regionOfPlane(ground) };
}

/** What loose placements have for a mesh. */
const NOWHERE = new Float64Array(3);
