/** Recipes: those that ship come to something on a line; used again they are the same; what was set by hand stays. */
import { foundOn } from "../../check/testing";
import { makeLine } from "../../line/testing";
import { GuideLine } from "../../line";
import { dressingSchema, type Dressing } from "../schema";
import { evaluate } from "../testing";
import { broughtUp, dressedBy, drivenBy, recipeOf, shareOf } from "./recipe";
import { numberAt, recipeSchema, type Dial, type Recipe, type RecipeUse, type Rules } from "./schema";
import { SHIPPED } from "./shipped";

const LINE = makeLine({ kind: "polyline", knots: [[0, 2, 0], [9, 2, 0], [9, 2, 7]] }); // prettier-ignore
/** A small thing, 0.2 m broad, high and deep, whatever it plays. */
const bounds = new Map(["a", "b", "c"].map((id) => [id, { min: [-0.1, 0, -0.1] as const, max: [0.1, 0.2, 0.1] as const }])); // prettier-ignore
const around = { guides: new Map([["line", new GuideLine(LINE)]]), bounds: bounds as never };

const dialAt = (rules: Rules, dial: Dial) => shareOf(dial, numberAt(rules, dial.drives[0].path)!);
const castFor = ({ roles }: Recipe): RecipeUse["roles"] => Object.fromEntries(roles.map(({ id }, i) => [id, ["a", "b", "c"][i]])); // prettier-ignore
const made = (recipe: Recipe, roles = castFor(recipe)): Dressing =>
  dressingSchema.parse({ id: "d", name: "D", ...dressedBy({ id: "r", recipe, roles }, { lines: ["line"] }) });

test.each(Object.entries(SHIPPED).map(([id, recipe]) => [id, recipe()] as const))("%s is a sound recipe, dresses a line with nothing to be found, and its dials turn it", (_, recipe) => {
    expect(recipeSchema.parse(JSON.parse(JSON.stringify(recipe)))).toEqual(recipe);
    const dressing = made(recipe);
    const placements = evaluate(dressing, around);
    expect(placements.count - placements.blanks).toBeGreaterThan(8);
    expect(foundOn(dressing, placements, around).filter(({ check }) => check !== "no-ground")).toEqual([]);
    expect(evaluate(made(recipe), around)).toEqual(placements);
    for (const dial of recipe.dials) {
      expect(dialAt(dressing, dial)).toBeGreaterThanOrEqual(0);
      const ends = [0, 1].map((share) => {
        const turned = structuredClone(dressing) as unknown as Record<string, Record<string, number>>;
        for (const [path, value] of drivenBy(dial, share)) turned[path.split("/")[0]][path.split("/")[1]] = value;
        expect(dialAt(turned as unknown as Dressing, dial)).toBeCloseTo(share, 6);
        return evaluate(dressingSchema.parse(turned), around);
      });
      const [few, many] = ends.map(({ position, flags }) => [[...position], [...flags]]);
      if (dial.name !== "Sunk") expect(few).not.toEqual(many);
    }
}); // prettier-ignore

const RAIL = dressingSchema.parse({
  id: "rail",
  name: "Rail",
  where: { lines: ["line"] },
  what: { entries: [{ prop: "a", count: 2 }, { prop: "b" }], first: "c", own: [{ prop: "b", size: 2 }] },
  spacing: { distance: 0.8 },
  fit: { onto: ["quay"], clearOf: ["other"] },
  gaps: { chance: 0.1, stretches: [{ line: "line", from: 1, to: 2 }] },
  stance: { thing: "line" },
});

test("a recipe of a dressing knows nothing of its scene, and with the same props it is that dressing again", () => {
  const recipe = recipeOf(RAIL, "Rail", (id) => id.toUpperCase());
  expect(recipe.roles.map(({ name }) => name)).toEqual(["A", "B", "C"]);
  expect(JSON.stringify(recipe)).not.toMatch(/"(line|quay|other|a|b|c)"/);
  expect(recipeSchema.parse(recipe)).toEqual(recipe);
  const again = made(recipe);
  expect(again.what).toEqual(RAIL.what);
  expect(evaluate(again, around).position).toEqual(evaluate({ ...RAIL, gaps: { ...RAIL.gaps, stretches: [] } }, around).position); // prettier-ignore
});

test("kept again with its entries in another order, everybody plays the role that they played before", () => {
  const recipe = recipeOf(RAIL, "Rail", (id) => id.toUpperCase());
  const begun = made({ ...recipe, roles: recipe.roles.map((role) => ({ ...role, name: `the ${role.name}` })) }, { "role-1": "a", "role-2": "b", "role-3": "c" }); // prettier-ignore
  const [first, second] = begun.what.entries;
  const turned = { ...begun, what: { ...begun.what, entries: [second, { ...first, id: 9, prop: "net" }, first] } };
  const next = recipeOf(turned, "Rail", (id) => id.toUpperCase());
  expect(next.rules.what.entries.map(({ prop }) => prop)).toEqual(["role-2", "role-4", "role-1"]);
  // A role that is free now is nobody else's.
  const free = recipeOf({ ...turned, recipe: { ...begun.recipe!, roles: { "role-1": "a", "role-2": "b", "role-7": null } } }, "Rail", (id) => id); // prettier-ignore
  expect(free.rules.what.entries[1].prop).toBe("role-8");
  expect(new Map(next.roles.map(({ id, name }) => [id, name]))).toEqual(new Map([["role-1", "the A"], ["role-2", "the B"], ["role-3", "the C"], ["role-4", "NET"]])); // prettier-ignore
});

test("two changes by hand, then a newer recipe: just these two stay; a role that is given a prop later is filled", () => {
  const recipe = recipeOf(RAIL, "Rail", (id) => id);
  const begun = made(recipe, { "role-1": "a", "role-2": null, "role-3": "c" });
  expect(begun.what.entries.map(({ prop }) => prop)).toEqual(["a", null]);
  const byHand = { ...begun, spacing: { ...begun.spacing, slide: 0.2 }, what: { ...begun.what, entries: [{ ...begun.what.entries[0], count: 5 }, begun.what.entries[1]] } }; // prettier-ignore
  const newer: Recipe = {
    ...recipe,
    rules: { ...recipe.rules, spacing: { ...recipe.rules.spacing, distance: 1.1, slide: 0.4 }, gaps: { ...recipe.rules.gaps, chance: 0.3 } }, // prettier-ignore
  };
  const up = broughtUp(byHand, { id: "r", recipe: newer, roles: begun.recipe!.roles });
  expect([up.spacing.distance, up.spacing.slide, up.gaps.chance]).toEqual([1.1, 0.2, 0.3]);
  expect(up.what.entries.map(({ prop, count }) => [prop, count])).toEqual([["a", 5], [null, 1]]); // prettier-ignore
  expect(up.where.lines).toEqual(["line"]);
  const filled = broughtUp(up, { ...up.recipe!, roles: { "role-1": "b", "role-2": "a", "role-3": "c" } });
  expect(filled.what.entries.map(({ prop, count }) => [prop, count])).toEqual([["b", 5], ["a", 1]]); // prettier-ignore
  expect(filled.what.own).toEqual([expect.objectContaining({ prop: "a", size: 2 })]);
  expect(broughtUp(filled, filled.recipe!)).toEqual(filled);
});

test("an empty role is a finding; recipes that are damaged or hostile are refused", () => {
  const recipe = SHIPPED["shipped-railing"]();
  const dressing = made(recipe, { panel: "a" });
  const found = foundOn(dressing, evaluate(dressing, around), around).filter(({ check }) => check === "role-empty");
  expect(found.map(({ message }) => message)).toEqual([
    "The recipe has no prop for “Post” yet, so its slots stay blank.",
  ]);
  const wrong: object[] = [
    { version: 2 },
    { roles: [] },
    { roles: [...recipe.roles, recipe.roles[0]] },
    { rules: { ...recipe.rules, where: { kind: "loose" } } },
    ...["spacing/__proto__", "constructor/name", "spacing/distance/x", "what/entries", "nothing/at"].map((path) => ({
      dials: [{ id: 0, name: "D", drives: [{ path, from: 0, to: 1 }] }],
    })),
    { dials: [{ id: 0, name: "D", drives: [{ path: "spacing/distance", from: -1, to: 1 }] }] },
  ];
  for (const part of wrong) expect(recipeSchema.safeParse({ ...recipe, ...part }).success).toBe(false);
  expect(numberAt(recipe.rules, "spacing/distance")).toBeGreaterThan(0);
});
