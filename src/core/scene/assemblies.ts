/**
 * *Assemblies*: props that are put together of dressings. What they are made of is looked at and edited as a scene of its own;
 * here is the way in and the way back, and what of a scene hangs on what in it.
 */
import { propsIn, type Dressing } from "../place";
import { mapped } from "./mapped";
import { PARTS, type Parts } from "./assembly-shape";
import type { Assembly } from "./assembly-schema";

/** What of a scene tells what is in what. */
interface Known {
  props: readonly { id: string; name: string; assembly: Assembly | null }[];
  mixes: readonly { id: string; props: readonly { prop: string }[] }[];
}

/** A prop that is put together of others. */
export const isAssembled = <P extends { assembly: Assembly | null }>(
  prop: P | undefined,
): prop is P & { assembly: Assembly } => !!prop?.assembly;

/** Assemblies are in each other no deeper than this. */
export const DEEPEST_ASSEMBLY = 8;

/** The things of a scene and of all its assemblies. */
export function allParts(scene: Parts & { props: readonly { assembly: Assembly | null }[] }): Parts {
  const inner = scene.props.flatMap(({ assembly }) => assembly ?? []);
  if (inner.length === 0) return scene;
  return {
    lines: [...scene.lines, ...inner.flatMap(({ lines }) => lines)],
    surfaces: [...scene.surfaces, ...inner.flatMap(({ surfaces }) => surfaces)],
    dressings: [...scene.dressings, ...inner.flatMap(({ dressings }) => dressings)],
  };
}

/** What of a scene is outside while one of its assemblies is looked at; only there, never in a file. */
export interface Beyond {
  /** The assembly that is open. */
  opened: string;
  parts: Parts;
}

/** A scene, as far as it is another from inside. */
type Whole = Parts & { props: { id: string; assembly: Assembly | null }[]; views: unknown[] };

/** A scene as it is seen from inside one of its assemblies; the scene itself where there is none such. */
export function inside<S extends Whole>(scene: S, opened: string | null): S & { beyond?: Beyond } {
  const own = opened === null ? undefined : scene.props.find(({ id }) => id === opened);
  if (!isAssembled(own)) return scene;
  const { lines, surfaces, dressings } = own.assembly;
  const parts = { lines: scene.lines, surfaces: scene.surfaces, dressings: scene.dressings };
  return { ...scene, lines, surfaces, dressings, views: [], beyond: { opened: own.id, parts } };
}

/** The whole scene after something was changed as it is seen from {@link inside}. */
export function outside<S extends Whole>(scene: S, edited: S & { beyond?: Beyond }): S {
  const { beyond, ...rest } = edited;
  if (!beyond) return edited;
  const own = pickParts(edited);
  const props = mapped(edited.props, (prop) => {
    if (prop.id !== beyond.opened || !prop.assembly) return prop;
    const same = PARTS.every((list) => own[list] === prop.assembly![list]);
    return same ? prop : { ...prop, assembly: { ...prop.assembly, ...own } };
  });
  return { ...(rest as unknown as S), ...beyond.parts, views: scene.views, props };
}

const pickParts = ({ lines, surfaces, dressings }: Parts): Parts => ({ lines, surfaces, dressings });

/** All props that a dressing's slots may take, those in mixes among them. */
export function propsNamed({ what, pegs, oldPegs }: Dressing, mixes: Known["mixes"]): Set<string> {
  const named = new Set([...propsIn(what), ...[...Object.values(pegs), ...oldPegs].flatMap(({ prop }) => prop ?? [])]);
  for (const mix of mixes) if (named.has(mix.id)) for (const { prop } of mix.props) named.add(prop);
  return named;
}

/** For each assembly the props that are right in it, each once. */
function contentsOf({ props, mixes }: Known): Map<string, Set<string>> {
  return new Map(
    props.filter(isAssembled).map(({ id, assembly }) => {
      const named = assembly.dressings.flatMap((dressing) => [...propsNamed(dressing, mixes)]);
      return [id, new Set(named)];
    }),
  );
}

/** Why assemblies cannot be in each other as they are, in a sentence; null where they can. */
export function nestingTrouble(scene: Known): string | null {
  const contents = contentsOf(scene);
  const nameOf = (id: string) => `“${scene.props.find((prop) => prop.id === id)?.name}”`;
  const depths = new Map<string, number>();
  let trouble: string | null = null;
  /** How many are in each other from here on. */
  const depthOf = (id: string, path: readonly string[]): number => {
    let depth = depths.get(id) ?? 0;
    if (trouble) return depth;
    if (path.includes(id)) {
      const through = path.slice(path.indexOf(id) + 1).map(nameOf);
      trouble = `${nameOf(id)} would be in itself${through.length > 0 ? `, through ${through.join(" and ")}` : ""}`;
    } else if (path.length + Math.max(depth, 1) > DEEPEST_ASSEMBLY) {
      trouble = `${nameOf(path[0])} would be more than ${DEEPEST_ASSEMBLY} assemblies deep`;
    } else if (depth === 0) {
      for (const inner of contents.get(id)!)
        if (contents.has(inner)) depth = Math.max(depth, depthOf(inner, [...path, id]));
      depths.set(id, ++depth);
    }
    return depth;
  };
  for (const id of contents.keys()) depthOf(id, []);
  return trouble;
}

/** Tells of dressings all props that their slots may take, and those in assemblies among them. */
export function propsWithin(scene: Known): (dressing: Dressing) => Set<string> {
  const contents = contentsOf(scene);
  return (dressing) => {
    const found = propsNamed(dressing, scene.mixes);
    for (const id of found) for (const inner of contents.get(id) ?? []) found.add(inner);
    return found;
  };
}

/** All assemblies that something is in, directly or through others: it may not be put into these as long as it is in none. */
export function containersOf(scene: Known, prop: string): Set<string> {
  const contents = contentsOf(scene);
  const found = new Set<string>();
  const visit = (inner: string): void => {
    for (const [id, of] of contents) {
      if (found.has(id) || !of.has(inner)) continue;
      found.add(id);
      visit(id);
    }
  };
  visit(prop);
  return found;
}
