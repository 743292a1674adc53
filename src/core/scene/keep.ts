/**
 * *What it takes to keep dressings as an assembly*: they themselves, and whatever they need of the scene, lines and surfaces; and
 * dressings that these need in turn.
 */
import { eachId, withIds } from "../schema";
import { familyOf, isFamily, laidOf, memberId, type Line } from "../line";
import { PARTS, propsNamed, type Parts } from "./assemblies";
import { THING_SCHEMAS } from "./course-paths";
import { newId } from "./make";
import { assemblySchema, type Assembly } from "./assembly-schema";
import type { Dressing } from "../place";
import type { Prop, Scene } from "./schema";

type Thing = Parts[keyof Parts][number];

/** Gives things other ids, and so the members of families. */
export const renamingBy =
  (names: ReadonlyMap<string, string>) =>
  (id: string): string => {
    const family = familyOf(id);
    const other = family === null ? undefined : names.get(family);
    return names.get(id) ?? (other === undefined ? id : memberId(other, id.slice(family!.length + 1)));
  };

/** What is kept. */
export interface Kept {
  parts: Parts;
  /** The dressings that are in it, and the lines that nothing but these needs: the scene has them no more. */
  taken: ReadonlySet<string>;
}

/** @param chosen ids of dressings */
export function keptFrom(scene: Parts, chosen: readonly string[]): Kept {
  const listOf = new Map(PARTS.flatMap((list) => scene[list].map((thing) => [thing.id, { list, thing }] as const)));
  const needed = new Set(chosen);
  for (const id of needed) {
    const { list, thing } = listOf.get(id)!;
    for (const other of namedBy(scene, list, thing))
      // What a dressing only gives way to, or stands on, it does not need.
      if (listOf.has(other) && !(list === "dressings" && listOf.get(other)!.list === "dressings")) needed.add(other);
  }
  const isDressing = (id: string) => listOf.get(id)!.list === "dressings";
  const taken = new Set([...needed].filter(isDressing));
  const elsewhere = new Set<string>();
  for (const list of PARTS)
    for (const thing of scene[list])
      if (!needed.has(thing.id)) for (const other of namedBy(scene, list, thing)) elsewhere.add(other);
  // What is needed elsewhere is needed by what that is laid on or goes between, too.
  for (const id of elsewhere) {
    const found = listOf.get(id);
    if (found) for (const other of namedBy(scene, found.list, found.thing)) elsewhere.add(other);
  }
  for (const { id } of scene.lines) if (needed.has(id) && !elsewhere.has(id)) taken.add(id);
  const names = new Map([...needed].filter((id) => !taken.has(id)).map((id) => [id, newId()]));
  const renaming = renamingBy(names);
  const those = <L extends keyof Parts>(list: L): Parts[L] =>
    (scene[list] as Thing[])
      .filter(({ id }) => needed.has(id))
      .map((thing) => withIds(THING_SCHEMAS[list], thing, renaming)) as Parts[L];
  const dressings = those("dressings").map((dressing) => {
    const inside = (id: string) => needed.has(id);
    const { fit, gaps } = dressing;
    return {
      ...dressing,
      fit: { ...fit, clearOf: fit.clearOf.filter(inside), ontoProps: fit.ontoProps.filter(inside) },
      gaps: { ...gaps, distances: gaps.distances.filter(({ to }) => [...names.values()].includes(to) || inside(to)) },
    };
  });
  return { parts: { lines: those("lines"), surfaces: those("surfaces"), dressings }, taken };
}

/** The ids that a thing names, and all ground where it lies on any. */
function namedBy(scene: Parts, list: keyof Parts, thing: Thing): Set<string> {
  const found = new Set<string>();
  eachId(THING_SCHEMAS[list], thing, (id) => {
    if (id !== thing.id) found.add(id).add(familyOf(id) ?? id);
  });
  const laid = "knots" in thing ? laidOf(thing as Line) : null;
  const onAny = laid ? laid.kind !== "edges" && laid.on.length === 0 : "fit" in thing && thing.fit.drop !== "off" && thing.fit.onto.length === 0; // prettier-ignore
  if (onAny) for (const { id, ground } of scene.surfaces) if (ground) found.add(id);
  // Who faces the nearest line faces any.
  const faces = "stance" in thing && thing.stance.forward === "line" ? thing.stance.thing : undefined;
  const faced = scene.lines.find(({ id }) => id === faces);
  if (faces !== undefined && (!faced || isFamily(faced as Line))) for (const { id } of scene.lines) found.add(id);
  return found;
}

/** A copy of an assembly all of whose things are others. */
export function copyOfAssembly(assembly: Assembly): Assembly {
  const names = new Map(PARTS.flatMap((list) => assembly[list].map(({ id }) => [id, newId()] as const)));
  return withIds(assemblySchema, assembly, renamingBy(names));
}

/** Where a prop is used: in how many dressings of the scene, and in which assemblies. */
export function usesOf(
  scene: Pick<Scene, "props" | "mixes"> & Parts,
  prop: string,
): { dressings: number; within: Prop[] } {
  const named = (dressing: Dressing) => propsNamed(dressing, scene.mixes).has(prop);
  return {
    dressings: scene.dressings.filter(named).length,
    within: scene.props.filter(({ assembly }) => assembly?.dressings.some(named)),
  };
}
