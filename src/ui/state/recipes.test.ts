import "@/store/testing";
import { SHIPPED } from "@/core/place";
import { useSceneStore } from "@/store";
import { assemblySchema, recipeOfAssembly } from "@/core/scene";
import {
  assembleByRecipe,
  bringAssemblyUp,
  bringRecipeUp,
  castAssemblyRole,
  castRole,
  deleteProp,
  dressByRecipe,
  letGoOfAssemblyRecipe,
  letGoOfRecipe,
  turnDial,
} from "./edits";
import { scene, startInHarbour } from "./edits/testing";
import { changeRecipe, dropRecipe, keepRecipe, readRecipeFile, recipeFile, recipesNow, useRecipes } from "./recipes";
import { useSession } from "./session";

const RAILING = SHIPPED["shipped-railing"]();
const BUNTING = SHIPPED["shipped-bunting"]();

test("recipes are kept for all scenes; equal names get a number, files come in as they went out, and others are refused", async () => {
  const first = await keepRecipe(RAILING);
  const second = await keepRecipe(readRecipeFile(recipeFile(RAILING), "rail.json"), "data:,");
  const own = () => useRecipes.getState().own.map(({ id, recipe, picture }) => [id, recipe.name, picture]);
  // The one that everybody has is called so already.
  expect(own()).toEqual([[first, "Railing with posts 2", null], [second, "Railing with posts 3", "data:,"]]); // prettier-ignore
  await changeRecipe(second, { ...RAILING, name: "Fence" });
  expect(own()).toContainEqual([second, "Fence", "data:,"]);
  // One that could not be read again would be lost.
  await expect(changeRecipe(second, { ...RAILING, version: 9 as never })).rejects.toThrow(/^“Fence” is no recipe: /);
  await expect(keepRecipe({ ...RAILING, roles: [{}] as never })).rejects.toThrow(/is no recipe/);
  expect(own()).toContainEqual([second, "Fence", "data:,"]);
  await dropRecipe(first);
  expect(own()).toEqual([[second, "Fence", "data:,"]]);
  expect(recipesNow()).toHaveLength(1 + Object.keys(SHIPPED).length);
  const file = (text: string) => () => readRecipeFile(new TextEncoder().encode(text), "a.json");
  expect(file("hello")).toThrow("“a.json” is no JSON file.");
  expect(file(JSON.stringify({ ...RAILING, version: 9 }))).toThrow(/^“a.json” is no recipe: /);
  expect(file(" ".repeat(5 * 2 ** 20))).toThrow("larger than 4 MB");
});

test("an assembly by a recipe stands along a line at once; a prop that is deleted plays in it no more", () => {
  startInHarbour();
  const { lines, props, dressings } = scene();
  const standing = { ...dressings[0], id: "held", recipe: null };
  const assembly = assemblySchema.parse({ lines: [lines[0]], dressings: [standing] });
  const recipe = recipeOfAssembly({ assembly, bounds: props[0].bounds, prepared: props[0].prepared }, "Row", () => "Post"); // prettier-ignore
  const role = recipe.roles[0].id;
  assembleByRecipe({ id: "r", recipe, roles: { [role]: props[1].id } }, { line: lines[1].id });
  const made = () => scene().props.find(({ name }) => name === "Row")!;
  const user = scene().dressings.find(({ id }) => id === useSession.getState().dressing)!;
  expect([user.where.lines, user.what.entries[0].prop]).toEqual([[lines[1].id], made().id]);
  castAssemblyRole(made().id, role, props[0].id);
  expect(made().assembly!.dressings[0].what.entries[0].prop).toBe(props[0].id);
  deleteProp(props[0].id);
  expect(made().assembly!.recipe!.roles).toEqual({ [role]: null });
  castAssemblyRole(made().id, role, props[1].id);
  bringAssemblyUp(made().id, { ...recipe, parts: { ...recipe.parts, lines: [{ ...recipe.parts.lines[0], name: "Rim" }] } }); // prettier-ignore
  expect(made().assembly!.lines[0].name).toBe("Rim");
  letGoOfAssemblyRecipe(made().id);
  expect(made().assembly!.recipe).toBeNull();
  useSceneStore.getState().undo();
  expect(made().assembly!.recipe).not.toBeNull();
});

test("a dressing by a recipe is an ordinary one: roles are given, dials turned, a newer recipe leaves what was set by hand", () => {
  startInHarbour();
  const { lines, props } = scene();
  dressByRecipe({ id: "r", recipe: BUNTING, roles: { first: props[0].id, second: null } }, { lines: [lines[0].id] });
  const { dressing: id } = useSession.getState();
  const made = () => scene().dressings.find((one) => one.id === id)!;
  expect(made()).toMatchObject({ name: "Bunting", where: { kind: "along", lines: [lines[0].id] } });
  expect(made().what.entries.map(({ prop }) => prop)).toEqual([props[0].id, null]);
  castRole(id!, "second", props[1].id);
  expect(made().what.entries.map(({ prop }) => prop)).toEqual([props[0].id, props[1].id]);
  const store = useSceneStore.getState();
  const turn = (to: Parameters<typeof turnDial>[2]) =>
    store.change("Dial", (draft) =>
      turnDial(
        draft.dressings.find((one) => one.id === id)!,
        BUNTING.dials[0],
        to,
      ),
    );
  turn({ share: 1 });
  expect(made().spacing.distance).toBe(2);
  turn({ value: 1.7 });
  expect(made().spacing.distance).toBe(1.7);
  const newer = {
    ...BUNTING,
    rules: { ...BUNTING.rules, spacing: { ...BUNTING.rules.spacing, distance: 0.9, slide: 0.1 } },
  };
  bringRecipeUp(id!, newer);
  expect([made().spacing.distance, made().spacing.slide]).toEqual([1.7, 0.1]);
  store.undo();
  expect(made().spacing.slide).toBe(0);
  deleteProp(props[1].id);
  expect(made().recipe!.roles).toEqual({ first: props[0].id, second: null });
  letGoOfRecipe(id!);
  expect(made().recipe).toBeNull();
  expect(made().spacing.distance).toBe(1.7);
});
