/**
 * *Assemblies made by recipes*, and recipes made of assemblies; what was set by hand stays when a recipe has changed.
 *
 *     const recipe = recipeOfAssembly(prop, "Stall", nameOf);
 *     const assembly = assembledBy({ id, recipe, roles: { "role-1": jar.id }, names: {} });
 */
import { merged, mergedById, MOST_ROLES, namesFor, RECIPE_VERSION, recast, rolesFor, type Dressing } from "../place";
import { withIds } from "../schema";
import {
  numberIn,
  ofFiles,
  partsSchema,
  propsNamedBy,
  type AssemblyRecipe,
  type AssemblyRecipeUse,
} from "./assembly-recipe";
import { PARTS, type Parts } from "./assembly-shape";
import { newId } from "./make";
import { renamingBy } from "./renaming";
import type { Assembly } from "./assembly-schema";
import type { Prop } from "./schema";

/** Why an assembly cannot be a recipe, in a sentence; null where it can. */
export function recipeTrouble(assembly: Parts): string | null {
  const file = ofFiles(assembly);
  if (file) return `“${file}” in it is from a file, which a recipe does not carry.`;
  const props = new Set(assembly.dressings.flatMap(propsNamedBy)).size;
  if (props > MOST_ROLES)
    return `There are ${props} different props in it, and a recipe has ${MOST_ROLES} roles at most.`;
  return assembly.dressings.length === 0 ? "There is no dressing in it." : null;
}

/** A dressing without what is from files, or of a recipe of its own. */
const withoutFiles = (dressing: Dressing): Dressing => ({
  ...dressing,
  recipe: null,
  gaps: { ...dressing.gaps, images: [] },
});

/**
 * What is in it already under the name of a part or a role of the recipe that it was made by keeps that, so that others that
 * were made by it find it again.
 *
 * @param nameOf what props and mixes are called, which their roles are at first
 */
export function recipeOfAssembly(
  { assembly, bounds, prepared }: Pick<Prop, "bounds" | "prepared"> & { assembly: Assembly },
  name: string,
  nameOf: (prop: string) => string,
): AssemblyRecipe {
  const { lines, surfaces, dressings, each, most, recipe: used } = assembly;
  const parts = { lines, surfaces, dressings: dressings.map(withoutFiles) };
  const things = PARTS.flatMap((list) => parts[list].map(({ id }) => id));
  const names = namesFor(things, "part", Object.entries(used?.names ?? {}));
  const { roles, cast } = rolesFor([...new Set(dressings.flatMap(propsNamedBy))], used, nameOf);
  const renamed = withIds(partsSchema, parts, renamingBy(new Map([...names, ...cast])));
  const dials = (used?.recipe.dials ?? []).flatMap((dial) => {
    const drives = dial.drives.filter(({ path }) => numberIn(renamed, path));
    return drives.length > 0 ? [{ ...dial, drives }] : [];
  });
  return { version: RECIPE_VERSION, name, roles, parts: renamed, each, most, bounds, prepared, dials };
}

/** The parts of a recipe with props for its roles; what nobody plays stays blank, or is not there. */
function partsFor({ recipe: { parts }, roles, names }: AssemblyRecipeUse): Parts {
  const dressings = parts.dressings.map((dressing): Dressing => {
    const what = recast(dressing.what, (role) => (roles[role] ? role : null));
    const pegs = Object.entries(dressing.pegs).filter(([, { prop }]) => prop === undefined || roles[prop]);
    return { ...dressing, what, pegs: Object.fromEntries(pegs) };
  });
  const cast = Object.entries(roles).flatMap(([role, prop]): [string, string][] => (prop ? [[role, prop]] : []));
  return withIds(partsSchema, { ...parts, dressings }, renamingBy(new Map([...Object.entries(names), ...cast])));
}

/** With names for those of a recipe's things that have none yet. */
function named(use: AssemblyRecipeUse): AssemblyRecipeUse {
  const things = PARTS.flatMap((list) => use.recipe.parts[list].map(({ id }) => id));
  return { ...use, names: Object.fromEntries(things.map((id) => [id, use.names[id] ?? newId()])) };
}

/** What a recipe comes to. */
export function assembledBy(use: AssemblyRecipeUse): Assembly {
  const own = named(use);
  return { ...partsFor(own), each: own.recipe.each, most: own.recipe.most, recipe: own };
}

/** The same by another recipe, or with other props for its roles: all that was set by hand stays. */
export function assemblyBroughtUp<P extends Pick<Prop, "assembly" | "prepared">>(prop: P, next: AssemblyRecipeUse): P {
  const { assembly } = prop;
  if (!assembly?.recipe) return prop;
  const use = named(next);
  const [was, now] = [assembly.recipe, use].map((one) => ({
    ...partsFor(one),
    each: one.recipe.each,
    most: one.recipe.most,
  }));
  const of = <L extends keyof Parts>(list: L): Parts[L] =>
    mergedById<{ id: string }>(was[list], assembly[list], now[list]) as Parts[L];
  const up: Assembly = {
    lines: of("lines"),
    surfaces: of("surfaces"),
    dressings: of("dressings"),
    each: merged(was.each, assembly.each, now.each),
    most: merged(was.most, assembly.most, now.most),
    recipe: use,
  };
  return {
    ...prop,
    assembly: up,
    prepared: merged(assembly.recipe.recipe.prepared, prop.prepared, use.recipe.prepared),
  };
}

/** The roles that nobody plays and that a dressing of the assembly needs, by their names. */
export function emptyRoles({ recipe }: Pick<Assembly, "recipe">, dressing: string): string[] {
  if (!recipe) return [];
  const part = recipe.recipe.parts.dressings.find(({ id }) => recipe.names[id] === dressing);
  const needed = new Set(part ? propsNamedBy(part) : []);
  return recipe.recipe.roles.filter(({ id }) => needed.has(id) && !recipe.roles[id]).map(({ name }) => name);
}
