/**
 * *What it takes to keep dressings as an assembly*: they themselves, and whatever they need of the scene, lines and surfaces; and
 * dressings that these need in turn.
 */
import { withIds } from "../schema";
import type { Line } from "../line";
import { propsNamed } from "./assemblies";
import { PARTS, type Parts } from "./assembly-shape";
import { THING_SCHEMAS } from "./course-paths";
import { newId } from "./make";
import { namedBy, type Thing } from "./named";
import { renamingBy } from "./renaming";
import { assemblySchema, type Assembly } from "./assembly-schema";
import type { Dressing } from "../place";
import type { Prop, Scene } from "./schema";

/** What is kept. */
export interface Kept {
  parts: Parts;
  /** Of what in the scene they are, or are copies. */
  needed: ReadonlySet<string>;
  /** The dressings that are in it, and the lines and seen surfaces that nothing but these needs: the scene has them no more. */
  taken: ReadonlySet<string>;
  /** The dressings that it gave way to, or kept a distance to, and does so no more. */
  left: ReadonlySet<string>;
}

/**
 * @param chosen ids of dressings
 * @param seen ids of surfaces that are part of it, seen wherever it is used
 */
export function keptFrom(scene: Parts, chosen: readonly string[], seen: readonly string[] = []): Kept {
  const listOf = new Map(PARTS.flatMap((list) => scene[list].map((thing) => [thing.id, { list, thing }] as const)));
  const isDressing = (id: string) => listOf.get(id)?.list === "dressings";
  const lines = new Map((scene.lines as Line[]).map((line) => [line.id, line]));
  const grounds = scene.surfaces.filter(({ ground }) => ground);
  /** What something of the scene hangs on; what a dressing only gives way to it does without. */
  const needs = (id: string): string[] => {
    const { list, thing } = listOf.get(id)!;
    const { ids, anyGround, anyLine } = namedBy(list, "fit" in thing ? unhindered(thing, isDressing) : thing, (line) =>
      lines.get(line),
    );
    const any = [...(anyGround ? grounds : []), ...(anyLine ? scene.lines : [])].map((one) => one.id);
    return [...ids, ...any].filter((other) => listOf.has(other));
  };
  const needed = new Set([...chosen, ...seen]);
  for (const id of needed) for (const other of needs(id)) needed.add(other);
  const taken = new Set([...needed].filter(isDressing));
  // What is needed elsewhere is needed by what that is laid on or goes between, too.
  const elsewhere = new Set([...listOf.keys()].filter((id) => !needed.has(id)));
  for (const id of elsewhere) for (const other of needs(id)) elsewhere.add(other);
  for (const { id } of scene.lines) if (needed.has(id) && !elsewhere.has(id)) taken.add(id);
  for (const id of seen) if (!elsewhere.has(id)) taken.add(id);
  const names = new Map([...needed].filter((id) => !taken.has(id)).map((id) => [id, newId()]));
  const renaming = renamingBy(names);
  const those = <L extends keyof Parts>(list: L): Parts[L] =>
    (scene[list] as Thing[])
      .filter(({ id }) => needed.has(id))
      .map((thing) => withIds(THING_SCHEMAS[list], thing, renaming)) as Parts[L];
  const isLeft = (id: string) => isDressing(id) && !needed.has(id);
  const hinder = ({ fit, gaps }: Dressing) => [...fit.clearOf, ...gaps.distances.map(({ to }) => to)];
  const left = new Set(scene.dressings.filter(({ id }) => needed.has(id)).flatMap(hinder).filter(isLeft)); // prettier-ignore
  const dressings = those("dressings").map((dressing) => unhindered(dressing, isLeft));
  const isSeen = new Set(seen.map((id) => names.get(id) ?? id));
  const surfaces = those("surfaces").map((surface) => ({ ...surface, part: isSeen.has(surface.id) }));
  return { parts: { lines: those("lines"), surfaces, dressings }, needed, taken, left };
}

/** A dressing that no more gives way to some others. */
function unhindered(dressing: Dressing, gone: (id: string) => boolean): Dressing {
  const { fit, gaps } = dressing;
  const clearOf = fit.clearOf.filter((id) => !gone(id));
  const distances = gaps.distances.filter(({ to }) => !gone(to));
  if (clearOf.length === fit.clearOf.length && distances.length === gaps.distances.length) return dressing;
  return { ...dressing, fit: { ...fit, clearOf }, gaps: { ...gaps, distances } };
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
