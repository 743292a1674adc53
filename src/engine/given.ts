/** What of a scene a graph is given, thing by thing; and how it forgets what is there no more. */
import { PARTS, type Parts, type PlacedScene } from "@/core/scene";
import type { Graph, Input } from "@/core/graph";
import { dressingInput, idsInput, lineInput, listName, scopeInput, surfaceInput, WHOLE } from "./scopes";
import { mixInput, propInput } from "./things";

type Thing = { id: string };

/** The things of a scene and of its assemblies: all of them, and by what they are in. */
function everywhere(scene: PlacedScene): { all: Parts; scopes: ReadonlyMap<string, Parts> } {
  const { beyond } = scene;
  const scopes = new Map<string, Parts>([[WHOLE, beyond?.parts ?? scene]]);
  for (const { id, assembly } of scene.props) if (assembly) scopes.set(id, beyond?.opened === id ? scene : assembly);
  const each = [...scopes.values()];
  if (each.length === 1) return { all: each[0], scopes };
  const all = {
    lines: each.flatMap(({ lines }) => lines),
    surfaces: each.flatMap(({ surfaces }) => surfaces),
    dressings: each.flatMap(({ dressings }) => dressings),
  };
  return { all, scopes };
}

/** Gives a graph what differs between two scenes. @returns the ids of what is gone */
export function give(graph: Graph, before: PlacedScene, now: PlacedScene): readonly string[] {
  const [old, next] = [everywhere(before), everywhere(now)];
  const gone = [
    ...giveList(graph, propInput, before.props, now.props),
    ...giveList(graph, mixInput, before.mixes, now.mixes),
    ...giveList(graph, lineInput, old.all.lines, next.all.lines),
    ...giveList(graph, surfaceInput, old.all.surfaces, next.all.surfaces),
    ...giveList(graph, dressingInput, old.all.dressings, next.all.dressings),
  ];
  const idsOf = (things: readonly Thing[]) => things.map(({ id }) => id);
  if (before.props !== now.props) graph.set(idsInput, "props", idsOf(now.props));
  for (const scope of new Set([...old.scopes.keys(), ...next.scopes.keys()]))
    for (const list of PARTS) {
      const [was, is] = [old, next].map(({ scopes }) => scopes.get(scope)?.[list] as readonly Thing[] | undefined);
      if (was === is) continue;
      graph.set(idsInput, listName(list, scope), is && idsOf(is));
      if (scope !== WHOLE) for (const { id } of is ?? []) graph.set(scopeInput, id, scope);
    }
  for (const id of gone) graph.set(scopeInput, id, undefined);
  for (const id of gone) graph.forget(id);
  return gone;
}

/** @returns the ids of what is in the list no more */
function giveList<T extends Thing>(
  graph: Graph,
  of: Input<T | undefined>,
  old: readonly T[],
  next: readonly T[],
): readonly string[] {
  if (old === next) return [];
  const known = new Map(old.map((thing) => [thing.id, thing]));
  for (const thing of next) {
    if (known.get(thing.id) !== thing) graph.set(of, thing.id, thing);
    known.delete(thing.id);
  }
  for (const id of known.keys()) graph.set(of, id, undefined);
  return [...known.keys()];
}
