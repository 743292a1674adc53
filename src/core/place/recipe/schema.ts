/**
 * *A recipe*: the rules of a dressing without what belongs to its scene, with roles in place of its props and the few numbers worth
 * changing on top. It is a small JSON file of its own.
 */
import { z } from "zod";
import { idSchema, nameSchema, numberSchema, within } from "../../schema";
import { schemaOf, STEP_NAMES, STEPS, type StepName } from "../steps";
import { propsIn } from "../what/schema";
import { kindOf } from "../where/kinds";

export const RECIPE_VERSION = 1;
/** A recipe has no more roles than this. */
export const MOST_ROLES = 200;

/** All seven steps; where they name props they name roles. */
export const rulesSchema = z.object(STEPS);
export type Rules = z.infer<typeof rulesSchema>;

/** Who plays is named where a recipe is used. */
export const roleSchema = z.object({ id: idSchema, name: nameSchema });

/** A number of a step, as “spacing/distance”, and what it is at both ends of the dial. */
const driveSchema = z.object({
  path: z.string().max(80),
  from: within(1e9),
  to: within(1e9),
});

export const dialSchema = z.object({
  id: numberSchema,
  name: nameSchema,
  drives: z.array(driveSchema).min(1).max(20),
});
export type Dial = z.infer<typeof dialSchema>;

/** The number that a path names in rules; null where it names none. */
export function numberAt(rules: Rules, path: string): number | null {
  const found = partsOf(path);
  if (!found || !schemaOf(found.step, found.name)) return null;
  const value = (rules[found.step] as Record<string, unknown>)[found.name];
  return typeof value === "number" ? value : null;
}

/** The schema of the number that a path names. */
export function paramOf(path: string): z.ZodType {
  const found = partsOf(path);
  const schema = found && schemaOf(found.step, found.name);
  if (!schema) throw new RangeError(`“${path}” names no parameter of a step`);
  return schema;
}

function partsOf(path: string): { step: StepName; name: string } | null {
  const [step, name, ...more] = path.split("/");
  const isStep = (STEP_NAMES as readonly string[]).includes(step);
  return isStep && name && more.length === 0 ? { step: step as StepName, name } : null;
}

/** Says what is wrong with dials. @param schemaOf that of the number that a path names; null where it names none */
export function sayOfDials(
  dials: readonly Dial[],
  schemaOf: (path: string) => z.ZodType | null,
  say: (message: string, ...path: (string | number)[]) => void,
): void {
  dials.forEach(({ drives }, i) => {
    for (const { path, from, to } of drives) {
      const schema = schemaOf(path);
      if (!schema) say(`“${path}” is no number that can be driven`, "dials", i);
      else if (![from, to].every((value) => schema.safeParse(value).success))
        say(`“${path}” cannot be from ${from} to ${to}`, "dials", i);
    }
  });
}

export const recipeSchema = z
  .object({
    version: z.literal(RECIPE_VERSION),
    name: nameSchema,
    roles: z.array(roleSchema).max(MOST_ROLES),
    rules: rulesSchema,
    dials: z.array(dialSchema).max(40).default([]),
  })
  .superRefine(({ roles, rules, dials }, context) => {
    const say = (message: string, ...path: (string | number)[]) => context.addIssue({ code: "custom", path, message });
    const known = new Set(roles.map(({ id }) => id));
    if (known.size < roles.length) say("a role is there twice", "roles");
    for (const role of [...propsIn(rules.what), ...rules.what.own.map(({ prop }) => prop)])
      if (!known.has(role)) say(`“${role}” is none of its roles`, "rules", "what");
    if (!isRecipeKind(rules.where))
      say("a recipe goes along, over, inside or round something", "rules", "where", "kind");
    sayOfDials(dials, (path) => (numberAt(rules, path) === null ? null : paramOf(path)), say);
  });
export type Recipe = z.infer<typeof recipeSchema>;

/** Whether a kind of Where has rules that are good elsewhere. */
export const isRecipeKind = (where: Pick<Rules["where"], "kind">): boolean =>
  kindOf(where).ruled && !kindOf(where).handled;

/** What a dressing keeps of the recipe that it was made by. */
export const recipeUseSchema = z.object({
  /** Which it is among those that are kept. */
  id: idSchema,
  /** As it was used: what has been changed since was changed by hand. */
  recipe: recipeSchema,
  /** The prop or mix for each role; null where it has none yet. */
  roles: z.record(idSchema, idSchema.nullable()),
});
export type RecipeUse = z.infer<typeof recipeUseSchema>;
