/** Edits of assemblies: kept from dressings or from single placements, opened, duplicated. */
import { toast } from "sonner";
import {
  addedKey,
  FLAG,
  hexOf,
  indicesOf,
  pegStanding,
  standingAt,
  type Dressing,
  type Key,
  type Placements,
} from "@/core/place";
import type { Vec3 } from "@/core/math";
import type { PropBounds } from "@/core/mesh";
import {
  assemblySchema,
  copyOfAssembly,
  dressOver,
  freeName,
  inside,
  keptFrom,
  propsNamed,
  newId,
  propSchema,
  usesOf,
  type Assembly,
  type Parts,
  type Prop,
  type Scene,
} from "@/core/scene";
import { useSceneStore } from "@/store";
import { boxAbout } from "../around";
import { wholeOf } from "../insides";
import { useResults } from "../results";
import { selectDressing, selectNothing, selectProp, useSession } from "../session";
import { dressingOf, scene, store } from "./common";
import { clearAway } from "./dressings";
import { takeAway } from "./pegs";
import type { Draft } from "immer";

export const namesOf = ({ props, mixes }: Pick<Scene, "props" | "mixes">): string[] =>
  [...props, ...mixes].map(({ name }) => name);

/** A new prop that is put together of some parts, with its pivot below the middle of them. */
function assembledProp(name: string, parts: Partial<Parts>, box: PropBounds): Prop {
  const { min, max } = box;
  const point: Vec3 = [0.5 * (min[0] + max[0]), min[1], 0.5 * (min[2] + max[2])];
  return propSchema.parse({
    id: newId(),
    name: freeName(name, namesOf(scene())),
    asset: null,
    assembly: assemblySchema.parse(parts),
    bounds: box,
    prepared: { pivot: "point", point },
    triangles: 0,
  });
}

/** A loose dressing of nothing but what is pegged in it. */
function looseDressing(name: string, pegs: Dressing["pegs"]): Dressing {
  const taken = scene().dressings.map((one) => one.name);
  const bare = dressOver(newId(), freeName(name, taken), {}, 1, []);
  return { ...bare, where: { ...bare.where, kind: "loose" }, what: { ...bare.what, entries: [] }, pegs };
}

/** Pegs under which props stand just as placements do that are there already. */
function pegsStanding(whole: Placements, members: readonly number[]): Dressing["pegs"] {
  return Object.fromEntries(
    members.map((i, n) => [hexOf(addedKey(n)), pegStanding(whole.props[whole.prop[i]], standingAt(whole, i))]),
  );
}

const isMirrored = (p: Placements, i: number): boolean => (p.flags[i] & FLAG.mirrored) !== 0;

/** Loose dressings in which what stands in others stands just as it does there; mirrored ones in one of their own. */
export function standingLoose(name: string, whole: Placements, members: readonly number[]): Dressing[] {
  return [false, true].flatMap((mirrored) => {
    const own = members.filter((i) => isMirrored(whole, i) === mirrored);
    if (own.length === 0) return [];
    const loose = looseDressing(name, pegsStanding(whole, own));
    return [mirrored ? { ...loose, variation: { ...loose.variation, mirror: 1 } } : loose];
  });
}

/** The use that an assembly leaves where it was made. */
const leftAt = (prop: Prop): Dressing =>
  looseDressing(prop.name, {
    [hexOf(addedKey(0))]: pegStanding(prop.id, {
      position: prop.prepared.point as Vec3,
      rotation: [0, 0, 0, 1],
      scale: [1, 1, 1],
    }),
  });

/** Why some dressings cannot be kept as an assembly now; null where they can. */
export function keepTrouble(dressings: readonly string[]): string | null {
  const results = useResults.getState().byDressing;
  const stands = dressings.some((id) => {
    const result = results.get(id);
    return result !== undefined && wholeOf(result).count > result.placements.blanks;
  });
  return stands ? null : "Nothing stands in it that could be kept.";
}

/**
 * Keeps dressings, with the lines and surfaces that they need, as a prop; one use of it stays where they were.
 *
 * @param seen ids of surfaces that are part of it
 */
export function keepAsAssembly(dressings: readonly string[], name: string, seen: readonly string[] = []): void {
  const { history, opened } = useSceneStore.getState();
  // As it is, not as it is seen: what is held and what moves is so in the assembly, too.
  const { parts, taken } = keptFrom(inside(history.scene, opened.at(-1) ?? null), dressings, seen);
  const box = boxAbout(parts.dressings.map(({ id }) => id));
  if (!box) return void toast("Nothing stands in it that could be kept.");
  const prop = assembledProp(name, parts, box);
  const use = leftAt(prop);
  const also = parts.dressings.filter(({ id }) => !dressings.includes(id)).map((one) => `“${one.name}”`);
  store().change("Keep as an assembly", (draft) => {
    const at = draft.dressings.findIndex(({ id }) => taken.has(id));
    draft.props.push(prop as Draft<Prop>);
    for (const { id } of parts.dressings) clearAway(draft, id);
    draft.dressings = draft.dressings.filter(({ id }) => !taken.has(id));
    draft.lines = draft.lines.filter(({ id }) => !taken.has(id));
    draft.surfaces = draft.surfaces.filter(({ id }) => !taken.has(id));
    draft.dressings.splice(Math.max(0, at), 0, use as Draft<Dressing>);
  });
  selectDressing(use.id);
  const more = also.length > 0 ? ` It needs ${also.join(" and ")}, which ${also.length > 1 ? "are" : "is"} in it too.` : ""; // prettier-ignore
  toast(`“${prop.name}” is in the basket.${more}`, { action: { label: "Undo", onClick: () => store().undo() } });
}

/** Keeps single placements of a dressing, just as they stand, as a prop; one use of it stays where they were. */
export function keepPlacements(dressing: string, keys: Iterable<Key>, name: string): void {
  const result = useResults.getState().byDressing.get(dressing);
  if (!result) return;
  const { placements } = result;
  const members = indicesOf(placements.key, keys).filter((i) => !(placements.flags[i] & FLAG.blank));
  const box = boxAbout([dressing], new Set(members));
  if (!box) return void toast("Nothing stands there that could be kept.");
  const prop = assembledProp(name, { dressings: standingLoose(name, placements, members) }, box);
  const use = leftAt(prop);
  store().change("Keep as an assembly", (draft) => {
    draft.props.push(prop as Draft<Prop>);
    const from = dressingOf(draft, dressing);
    if (!from) return;
    takeAway(from, members.map((i) => placements.key[i])); // prettier-ignore
    draft.dressings.splice(draft.dressings.indexOf(from) + 1, 0, use as Draft<Dressing>);
  });
  selectDressing(use.id);
  toast(`“${prop.name}” is in the basket.`, { action: { label: "Undo", onClick: () => store().undo() } });
}

export const editAssembly = (id: string, label: string, edit: (assembly: Draft<Assembly>) => void): void =>
  store().change(label, (draft) => {
    const prop = draft.props.find((one) => one.id === id);
    if (prop?.assembly) edit(prop.assembly);
  });

/** Goes into an assembly; from inside another one it is behind that. */
export function openAssembly(id: string): void {
  const { opened, enter } = useSceneStore.getState();
  const at = opened.indexOf(id);
  lookElsewhere(() => enter(at < 0 ? [...opened, id] : opened.slice(0, at + 1)));
}

/** Goes into an assembly through those that it is in. */
export function openPath(path: readonly string[]): void {
  const { opened, enter } = useSceneStore.getState();
  lookElsewhere(() => enter([...opened, ...path]));
}

/** Goes out of the assembly that is open, or out of several. @param left how many stay open */
export function leaveAssembly(left: number): void {
  const { opened, enter } = useSceneStore.getState();
  const from = opened[left];
  if (from === undefined) return;
  lookElsewhere(() => enter(opened.slice(0, left)));
  const { shown } = useSceneStore.getState();
  const user = shown.dressings.find((dressing) => propsNamed(dressing, shown.mixes).has(from));
  if (user) useSession.setState({ dressing: user.id });
  selectProp(from);
}

function lookElsewhere(go: () => void): void {
  selectNothing();
  go();
  const { shown } = useSceneStore.getState();
  useSession.setState({
    dressing: shown.dressings[0]?.id ?? null,
    hover: null,
    why: null,
  });
}

export function duplicateAssembly(id: string): void {
  const prop = scene().props.find((one) => one.id === id);
  if (!prop?.assembly) return;
  const copy: Prop = {
    ...structuredClone(prop),
    id: newId(),
    name: freeName(prop.name, namesOf(scene())),
    assembly: copyOfAssembly(prop.assembly),
  };
  store().change("Duplicate assembly", (draft) => {
    draft.props.splice(draft.props.findIndex((one) => one.id === id) + 1, 0, copy as Draft<Prop>);
  });
  selectProp(copy.id);
}

/** Where an assembly is used, in words; null where it is not. */
export function usesSaid(prop: string): string | null {
  const { history } = useSceneStore.getState();
  const { dressings, within } = usesOf(history.scene, prop);
  const parts = [
    dressings > 0 ? `${dressings} ${dressings === 1 ? "dressing" : "dressings"}` : "",
    within.length > 0 ? within.map(({ name }) => `“${name}”`).join(", ") : "",
  ].filter(Boolean);
  return parts.length > 0 ? parts.join(" and ") : null;
}
