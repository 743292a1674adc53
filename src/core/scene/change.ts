/**
 * *What differs between two scenes*: things are the same as long as they are the same objects. It is what an engine is told
 * and what is written down at each edit.
 */
import type { Dressing } from "../place";
import type { Beyond } from "./assemblies";
import type { Scene } from "./schema";

/** The lists of a scene that placing hangs on. */
export const LISTS = ["props", "mixes", "lines", "surfaces", "dressings"] as const;
type ListName = (typeof LISTS)[number];
type Thing<K extends ListName> = Scene[K][number];

/** What placing hangs on. */
export type PlacedScene = Pick<Scene, ListName> & { beyond?: Beyond };

export const EMPTY_SCENE: PlacedScene = { props: [], mixes: [], lines: [], surfaces: [], dressings: [] };

interface ListChange<K extends ListName> {
  /** New things, and those that are others than before: of dressings only the parts that are. */
  set: (K extends "dressings" ? Partial<Dressing> & Pick<Dressing, "id"> : Thing<K>)[];
  /** All ids in their order, where things came, went or changed places. */
  order?: string[];
}

export interface SceneChange {
  /** Counts the changes that have been sent; the result of one carries its number. */
  revision: number;
  /** Whether nothing of what was known before counts any more. */
  anew: boolean;
  lists: { [K in ListName]?: ListChange<K> };
  /** What differs besides: the scene's name, its views, which of its assemblies is open; undefined for what it has no more. */
  rest?: Partial<Scene & Pick<PlacedScene, "beyond">>;
}

/** @param before null where nothing is known of the scene yet */
export function changeBetween(before: PlacedScene | null, after: PlacedScene, revision: number): SceneChange {
  const lists: Record<string, unknown> = {};
  for (const name of LISTS) {
    const change = listChange(before?.[name] ?? [], after[name]);
    if (change) lists[name] = change;
  }
  const [was, is] = [before ?? {}, after] as Partial<Record<string, unknown>>[];
  const rest = [...new Set([...Object.keys(was), ...Object.keys(is)])]
    .filter((name) => !(name in EMPTY_SCENE) && was[name] !== is[name])
    .map((name) => [name, is[name]] as const);
  return { revision, anew: before === null, lists, ...(rest.length > 0 && { rest: Object.fromEntries(rest) }) };
}

function listChange(before: readonly { id: string }[], after: readonly { id: string }[]) {
  if (before === after) return null;
  const known = new Map(before.map((thing) => [thing.id, thing]));
  const set = after.flatMap((thing) => {
    const old = known.get(thing.id);
    return old === thing ? [] : [old ? partsThatDiffer(old, thing) : thing];
  });
  const moved = before.length !== after.length || after.some(({ id }, i) => id !== before[i].id);
  if (set.length === 0 && !moved) return null;
  return { set, ...(moved && { order: after.map(({ id }) => id) }) };
}

/** Of dressings, which consist of steps and have all of them, the steps that are others; anything else as a whole. */
function partsThatDiffer<T extends { id: string }>(old: T, now: T): T {
  if (!("pegs" in now)) return now;
  const differing = Object.entries(now).filter(([name, part]) => part !== old[name as keyof T]);
  return Object.fromEntries([["id", now.id], ...differing]) as T;
}

/** The scene after a change; whatever the change does not speak of stays the same object. */
export function applyChange<S extends PlacedScene>(before: S, { anew, lists, rest }: SceneChange): S {
  const scene: Record<string, unknown> = { ...(anew ? EMPTY_SCENE : before), ...rest };
  for (const name of LISTS) {
    const change = lists[name];
    if (!change) continue;
    const old = (anew ? EMPTY_SCENE : before)[name] as readonly { id: string }[];
    const things = new Map(old.map((thing) => [thing.id, thing]));
    for (const thing of change.set)
      things.set(thing.id, name === "dressings" ? { ...things.get(thing.id), ...thing } : thing);
    const order = change.order ?? old.map(({ id }) => id);
    scene[name] = order.map((id) => things.get(id)!);
  }
  return scene as S;
}
