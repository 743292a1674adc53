/**
 * *A recipe of an assembly*: its dressings with the lines and made surfaces that they need, roles in place of props, and the few
 * numbers worth changing on top. Like a recipe of one dressing it is a small JSON file of its own.
 */
import { z } from "zod";
import { lineSchema } from "../line";
import { boundsSchema } from "../mesh";
import { filesOf } from "../movers";
import {
  dialSchema,
  MOST_ROLES,
  numberAt,
  numbersOf,
  paramOf,
  propsIn,
  RECIPE_VERSION,
  recipeSchema,
  roleSchema,
  sayOfDials,
  type Dial,
  type Dressing,
  type Recipe,
} from "../place";
import { describeParam, idSchema, nameSchema, shapeOf, unwrapped } from "../schema";
import { PARTS, partsShape, usesShape, type Parts } from "./assembly-shape";
import { preparationSchema } from "./prepare";

export const partsSchema = z.object(partsShape);

export const assemblyRecipeSchema = z
  .object({
    version: z.literal(RECIPE_VERSION),
    name: nameSchema,
    roles: z.array(roleSchema).max(MOST_ROLES),
    parts: partsSchema,
    ...usesShape,
    /** The box of what is in it as it was when it was kept, and how it is prepared. */
    bounds: boundsSchema,
    prepared: preparationSchema.prefault({}),
    dials: z.array(dialSchema).max(40).default([]),
  })
  .superRefine(({ roles, parts, dials }, context) => {
    const say = (message: string, ...path: (string | number)[]) => context.addIssue({ code: "custom", path, message });
    const known = new Set(roles.map(({ id }) => id));
    if (known.size < roles.length) say("a role is there twice", "roles");
    const ids = [...known, ...PARTS.flatMap((list) => parts[list].map(({ id }) => id))];
    if (new Set(ids).size < ids.length) say("two of its things have one id", "parts");
    if (parts.dressings.length === 0) say("there is no dressing in it", "parts", "dressings");
    for (const role of new Set(parts.dressings.flatMap(propsNamedBy)))
      if (!known.has(role)) say(`“${role}” is none of its roles`, "parts", "dressings");
    const file = ofFiles(parts);
    if (file) say(`“${file}” is from a file`, "parts", "surfaces");
    sayOfDials(dials, (path) => numberIn(parts, path)?.schema ?? null, say);
  });
export type AssemblyRecipe = z.infer<typeof assemblyRecipeSchema>;

/** What an assembly keeps of the recipe that it was made by. */
export const assemblyRecipeUseSchema = z.object({
  /** Which it is among those that are kept. */
  id: idSchema,
  /** As it was used: what has been changed since was changed by hand. */
  recipe: assemblyRecipeSchema,
  /** The prop or mix for each role; null where it has none yet. */
  roles: z.record(idSchema, idSchema.nullable()),
  /** What the recipe's things are called here. */
  names: z.record(idSchema, idSchema),
});
export type AssemblyRecipeUse = z.infer<typeof assemblyRecipeUseSchema>;

/** The props and mixes that a dressing names itself. */
export const propsNamedBy = ({ what, pegs, oldPegs }: Dressing): string[] => [
  ...propsIn(what),
  ...what.own.map(({ prop }) => prop),
  ...[...Object.values(pegs), ...oldPegs].flatMap(({ prop }) => prop ?? []),
];

/** What a surface is called whose mesh, or what moves it, is from a file; undefined where there is none such. */
export const ofFiles = ({ surfaces }: Pick<Parts, "surfaces">): string | undefined =>
  surfaces.find(({ asset, movers }) => asset !== null || movers.some((mover) => filesOf(mover).length > 0))?.name;

/** A number of a thing, for a dial. */
interface PartNumber {
  /** From the thing's name on, as “part-2/spacing/distance” or “part-1/sag”. */
  path: string;
  value: number;
  schema: z.ZodType;
}

/** The number that a path names in some parts; null where it names none. */
export function numberIn(parts: Parts, path: string): PartNumber | null {
  const cut = path.indexOf("/");
  const [id, rest] = [path.slice(0, cut), path.slice(cut + 1)];
  const dressing = parts.dressings.find((one) => one.id === id);
  if (dressing) {
    const value = numberAt(dressing, rest);
    return value === null ? null : { path, value, schema: paramOf(rest) };
  }
  const line = parts.lines.find((one) => one.id === id);
  const shape = line && shapeOf(unwrapped(lineSchema), line);
  if (!shape || !Object.hasOwn(shape, rest) || !labelOf(shape[rest])) return null;
  const value = (line as unknown as Record<string, unknown>)[rest];
  return typeof value === "number" ? { path, value, schema: shape[rest] } : null;
}

const labelOf = (schema: z.ZodType): string | undefined => (schema.meta() as { label?: string } | undefined)?.label;

/** The numbers of a dressing or line among some parts that a dial may drive, with what they are called. */
function numbersIn(parts: Parts, id: string): { path: string; label: string }[] {
  const dressing = parts.dressings.find((one) => one.id === id);
  if (dressing)
    return numbersOf(dressing).map(({ path, label }) => ({ path: `${id}/${path}`, label: `${dressing.name}, ${label}` })); // prettier-ignore
  const line = parts.lines.find((one) => one.id === id);
  return Object.keys(line ?? {}).flatMap((name) => {
    const found = numberIn(parts, `${id}/${name}`);
    return found ? [{ path: found.path, label: `${line!.name}: ${describeParam(found.schema).label}` }] : [];
  });
}

/** Sets the number that a path names. */
export function writeNumber(parts: Parts, path: string, value: number): void {
  const [id, ...rest] = path.split("/");
  const thing: unknown = [...parts.dressings, ...parts.lines].find((one) => one.id === id);
  const holder = (rest.length > 1 ? (thing as Record<string, unknown>)?.[rest[0]] : thing) as Record<string, number>;
  if (holder) holder[rest.at(-1)!] = value;
}

/** A dial of a recipe with the paths that it has in an assembly. */
export const dialIn = ({ names }: AssemblyRecipeUse, dial: Dial): Dial => ({
  ...dial,
  drives: dial.drives.map((drive) => {
    const cut = drive.path.indexOf("/");
    const id = drive.path.slice(0, cut);
    return { ...drive, path: `${names[id] ?? id}${drive.path.slice(cut)}` };
  }),
});

/** A recipe of either sort. */
export type AnyRecipe = Recipe | AssemblyRecipe;
export const isAssemblyRecipe = (recipe: AnyRecipe): recipe is AssemblyRecipe => "parts" in recipe;

/** Reads a recipe of either sort from outside. */
export const readRecipe = (data: unknown): z.ZodSafeParseResult<AnyRecipe> =>
  typeof data === "object" && data !== null && "parts" in data
    ? assemblyRecipeSchema.safeParse(data)
    : recipeSchema.safeParse(data);

/** The number that a path names in a recipe of either sort; null where it names none. */
export function numberOfRecipe(recipe: AnyRecipe, path: string): Omit<PartNumber, "path"> | null {
  if (isAssemblyRecipe(recipe)) return numberIn(recipe.parts, path);
  const value = numberAt(recipe.rules, path);
  return value === null ? null : { value, schema: paramOf(path) };
}

/** The things of a recipe whose numbers a dial may drive; of a dressing's there is none but itself. */
export const thingsOfRecipe = (recipe: AnyRecipe): { id: string; name: string }[] =>
  isAssemblyRecipe(recipe)
    ? [...recipe.parts.dressings, ...recipe.parts.lines].map(({ id, name }) => ({ id, name }))
    : [{ id: "", name: recipe.name }];

/**
 * The numbers of one of {@link thingsOfRecipe} that a dial may drive, with what they are called: first those that are no longer
 * as they begin.
 */
export function numbersOfRecipe(recipe: AnyRecipe, thing: string): { path: string; label: string }[] {
  const all = isAssemblyRecipe(recipe) ? numbersIn(recipe.parts, thing) : numbersOf(recipe.rules);
  const isChanged = ({ path }: { path: string }): boolean => {
    const { value, schema } = numberOfRecipe(recipe, path)!;
    return schema.safeParse(undefined).data !== value;
  };
  return [...all.filter(isChanged), ...all.filter((one) => !isChanged(one))];
}

/** What the number is called that a path names. */
export const labelInRecipe = (recipe: AnyRecipe, path: string): string =>
  numbersOfRecipe(recipe, path.slice(0, path.indexOf("/"))).find((one) => one.path === path)?.label ?? path;
