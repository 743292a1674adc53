/** Recipes made of dressings, and dressings made by recipes; what was set by hand stays when a recipe has changed. */
import { propsIn, type What } from "../what/schema";
import { same } from "../../graph";
import { omit } from "../../schema";
import {
  numberAt,
  paramOf,
  RECIPE_VERSION,
  rulesSchema,
  type Dial,
  type Recipe,
  type RecipeUse,
  type Rules,
} from "./schema";
import type { Dressing } from "../schema";
import type { z } from "zod";

/** Where a recipe is used: lines, or surfaces, areas or volumes, by their ids. */
export type Target = Partial<Pick<Rules["where"], "lines" | "surfaces" | "areas" | "volumes">>;

/** The rules of a dressing without what belongs to its scene. */
function bare({ where, what, spacing, stance, fit, variation, gaps }: Rules): Rules {
  const empty = { lines: [], surfaces: [], areas: [], holes: [], volumes: [], deepLine: null, highLine: null };
  return {
    where: { ...where, ...empty },
    what,
    spacing: omit(spacing, "gone"),
    stance: { ...stance, thing: null },
    fit: { ...fit, onto: [], ontoProps: [], clearOf: [] },
    variation,
    gaps: { ...gaps, stretches: [], avoid: [], distances: [], images: [], paint: { ...gaps.paint, strokes: [] } },
  };
}

/** Rules with other ids in place of their props; where there is none their slots stay blank. */
export function recast(what: What, castOf: (prop: string) => string | null): What {
  const cast = (prop: string | null) => (prop === null ? null : castOf(prop));
  return {
    ...what,
    entries: what.entries.map((entry) => ({ ...entry, prop: cast(entry.prop) })),
    own: what.own.flatMap((one) => {
      const prop = cast(one.prop);
      return prop === null ? [] : [{ ...one, prop }];
    }),
    first: cast(what.first),
    last: cast(what.last),
    corner: cast(what.corner),
    nthProp: cast(what.nthProp),
    tagged: what.tagged.map((one) => ({ ...one, prop: cast(one.prop) })),
  };
}

/**
 * Names for ids, as “part-3”: those that they had, and for others the next numbers.
 *
 * @param had names, and what was called so; of one that is free it is null
 */
export function namesFor(
  ids: readonly string[],
  word: string,
  had: readonly (readonly [string, string | null])[],
): Map<string, string> {
  const before = new Map(had.map(([name, id]) => [id, name]));
  let last = Math.max(0, ...had.map(([name]) => Number(name.slice(word.length + 1)) || 0));
  return new Map(ids.map((id) => [id, before.get(id) ?? `${word}-${++last}`]));
}

/**
 * The roles that some props play, and the role of each: who has played one in a recipe before plays it again.
 *
 * @param nameOf what props and mixes are called, as new roles are
 */
export function rolesFor(
  props: readonly string[],
  used: { recipe: Pick<Recipe, "roles">; roles: RecipeUse["roles"] } | null,
  nameOf: (prop: string) => string,
): { roles: Recipe["roles"]; cast: ReadonlyMap<string, string> } {
  const cast = namesFor(props, "role", Object.entries(used?.roles ?? {}));
  const called = new Map(used?.recipe.roles.map(({ id, name }) => [id, name]));
  return { roles: [...cast].map(([prop, id]) => ({ id, name: called.get(id) ?? nameOf(prop) })), cast };
}

/** @param nameOf what props and mixes are called, which their roles are at first */
export function recipeOf(
  dressing: Dressing,
  name: string,
  nameOf: (prop: string) => string,
  dials: readonly Dial[] = [],
): Recipe {
  const { roles, cast } = rolesFor(propsIn(dressing.what), dressing.recipe, nameOf);
  const what = recast(dressing.what, (prop) => cast.get(prop) ?? null);
  const rules = rulesSchema.parse({ ...bare(dressing), what });
  return { version: RECIPE_VERSION, name, roles, rules, dials: [...dials] };
}

/** The rules of a recipe with props for its roles. */
const rulesFor = ({ rules }: Recipe, roles: RecipeUse["roles"]): Rules => ({
  ...rules,
  what: recast(rules.what, (role) => roles[role] ?? null),
});

/** What a dressing becomes by a recipe, on something. */
export function dressedBy(use: RecipeUse, target: Target): Rules & { recipe: RecipeUse } {
  const rules = rulesFor(use.recipe, use.roles);
  return { ...rules, where: { ...rules.where, ...target }, recipe: use };
}

/** The same dressing by another recipe, or with other props for its roles: all that was set by hand stays. */
export function broughtUp<D extends Dressing>(dressing: D, next: RecipeUse): D {
  const { recipe: before } = dressing;
  if (!before) return dressing;
  const [was, now] = [before, next].map(({ recipe, roles }) => rulesFor(recipe, roles));
  const rules = Object.fromEntries(
    (Object.keys(was) as (keyof Rules)[]).map((step) => [step, merged(was[step], dressing[step], now[step])]),
  );
  return { ...dressing, ...rules, recipe: next };
}

const isObject = (value: unknown): value is Record<string, unknown> => typeof value === "object" && value !== null;

/** What is as it was becomes as it is to be; what is otherwise stays. Lists of one length are compared one by one. */
export function merged<T>(was: T, own: T, now: T): T {
  return mergedAny(was, own, now) as T;
}

function mergedAny(was: unknown, own: unknown, now: unknown): unknown {
  if (same(was, own)) return now;
  if (Array.isArray(was) && Array.isArray(own) && Array.isArray(now)) {
    if (was.length !== own.length || was.length !== now.length) return own;
    return own.map((one, i) => mergedAny(was[i], one, now[i]));
  }
  if (!isObject(was) || !isObject(own) || !isObject(now) || Array.isArray(own)) return own;
  const names = new Set([...Object.keys(own), ...Object.keys(now)]);
  const out = [...names].map((name): [string, unknown] => [name, mergedAny(was[name], own[name], now[name])]);
  return Object.fromEntries(out.filter(([, value]) => value !== undefined));
}

/** Lists of things, each merged with what it was by its id: what was taken away or put there by hand stays so. */
export function mergedById<T extends { id: string }>(was: readonly T[], own: readonly T[], now: readonly T[]): T[] {
  const [before, next] = [was, now].map((list) => new Map(list.map((one) => [one.id, one])));
  const there = new Set(own.map(({ id }) => id));
  const kept = own.flatMap((one): T[] => {
    const [old, fresh] = [before.get(one.id), next.get(one.id)];
    if (!old) return [one];
    if (!fresh) return same(old, one) ? [] : [one];
    return [merged(old, one, fresh)];
  });
  return [...kept, ...now.filter(({ id }) => !there.has(id) && !before.has(id))];
}

/** The numbers of a dressing's steps that a dial may drive, with what they are called. */
export function numbersOf(rules: Rules): { path: string; label: string }[] {
  return (Object.keys(rulesSchema.shape) as (keyof Rules)[]).flatMap((step) =>
    Object.keys(rules[step]).flatMap((name) => {
      const path = `${step}/${name}`;
      if (numberAt(rules, path) === null) return [];
      const { label } = (paramOf(path).meta() ?? {}) as { label?: string };
      return label ? [{ path, label: `${step[0].toUpperCase()}${step.slice(1)}: ${label}` }] : [];
    }),
  );
}

/** Where a dial stands, 0 to 1, by the first number that it drives. */
export function shareOf({ drives: [{ from, to }] }: Dial, value: number): number {
  return from === to ? 0 : Math.min(1, Math.max(0, (value - from) / (to - from)));
}

/** What the numbers are that a dial drives, by their paths; whole ones are rounded. @param schemaOf that of a path's number */
export const drivenBy = (
  { drives }: Dial,
  share: number,
  schemaOf: (path: string) => z.ZodType = paramOf,
): [path: string, value: number][] =>
  drives.map(({ path, from, to }) => {
    const value = Number((from + share * (to - from)).toPrecision(4));
    return [path, schemaOf(path).safeParse(value).success ? value : Math.round(value)];
  });
