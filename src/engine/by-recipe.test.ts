/** Recipes of assemblies: nothing of their scene is in them, used again they come to the same, what was set by hand stays. */
import {
  assembledBy,
  assemblyBroughtUp,
  assemblyRecipeSchema,
  dialIn,
  numberIn,
  labelInRecipe,
  numbersOfRecipe,
  thingsOfRecipe,
  parseScene,
  propSchema,
  readRecipe,
  recipeOfAssembly,
  recipeTrouble,
  writeNumber,
  type Assembly,
  type AssemblyRecipe,
  type Prop,
  type Scene,
} from "@/core/scene";
import { Engine } from "./engine";
import { shelves } from "./testing-assemblies";

type Assembled = Prop & { assembly: Assembly };

const scene = shelves({ inner: { pegs: { "0000000100000001": { on: "edge", prop: "oar" } } } });
const tray = scene.props.find(({ id }) => id === "tray") as Assembled;
const nameOf = (prop: string) => prop.toUpperCase();
const recipe = recipeOfAssembly(tray, "Tray", nameOf);
const DIAL = { id: 0, name: "Jars", drives: [{ path: "part-2/spacing/count", from: 2, to: 10 }] };
const roles = { "role-1": "buoy", "role-2": "oar" };

const made = (id: string, use: AssemblyRecipe, cast: Record<string, string | null> = roles): Assembled =>
  propSchema.parse({ ...tray, ...use, id, name: id, assembly: assembledBy({ id: "r", recipe: use, roles: cast, names: {} }) }) as Assembled; // prettier-ignore

/** A scene in which an assembly stands where trays did. */
const withTray = (prop: Prop): Scene =>
  parseScene(
    JSON.parse(
      JSON.stringify({ ...scene, props: [...scene.props.filter(({ id }) => id !== "tray"), { ...prop, id: "tray" }] }),
    ),
  );

function standing(of: Scene) {
  const { placements } = new Engine().evaluate(of)[0].apart!;
  return [placements.count, [...placements.position], [...placements.rotation], placements.props];
}

test("nothing of its scene is in it, and with the same props it comes to the same again, as often as it is used", () => {
  expect(JSON.stringify(recipe)).not.toMatch(/(?<!"name":)"(buoy|oar|edge|jars|tray)"(?!:)/);
  expect(recipe.roles.map(({ name }) => name).sort()).toEqual(["BUOY", "OAR"]);
  expect(assemblyRecipeSchema.parse(JSON.parse(JSON.stringify(recipe)))).toEqual(recipe);
  const cast = Object.fromEntries(recipe.roles.map(({ id, name }) => [id, name.toLowerCase()]));
  const [first, second] = ["one", "two"].map((id) => made(id, recipe, cast));
  const ids = [first, second].flatMap(({ assembly }) => [...assembly.lines, ...assembly.dressings].map(({ id }) => id));
  expect(new Set(ids).size).toBe(4);
  const wanted = standing(scene);
  expect(standing(withTray(first))).toEqual(wanted);
  expect(standing(withTray(second))).toEqual(wanted);
});

test("two changes by hand, then a newer recipe: just these stay; what was put there or taken away by hand, too", () => {
  const begun = made("one", recipe);
  const [jars] = begun.assembly.dressings;
  const ownLid = { ...jars, id: "lid", name: "Lid" };
  const byHand: Assembled = {
    ...begun,
    prepared: { ...begun.prepared, size: 3 },
    assembly: { ...begun.assembly, dressings: [{ ...jars, spacing: { ...jars.spacing, count: 7 } }, ownLid] },
  };
  const [line] = recipe.parts.lines;
  const newer: AssemblyRecipe = {
    ...recipe,
    most: 4,
    prepared: { ...recipe.prepared, size: 2, front: "-x" },
    parts: {
      ...recipe.parts,
      lines: [
        { ...line, name: "Rim" },
        { ...line, id: "part-3", number: 2 },
      ],
      dressings: recipe.parts.dressings.map((one) => ({
        ...one,
        spacing: { ...one.spacing, count: 5, slide: 0.3 },
      })),
    },
  };
  const up = assemblyBroughtUp(byHand, { ...byHand.assembly.recipe!, recipe: newer });
  const [own, lid] = up.assembly.dressings;
  expect([own.id, own.spacing.count, own.spacing.slide]).toEqual([jars.id, 7, 0.3]);
  expect(lid).toBe(ownLid);
  expect(up.assembly.lines.map(({ name }) => name)).toEqual(["Rim", "edge"]);
  expect(up.assembly.lines[1].id).toBe(up.assembly.recipe!.names["part-3"]);
  expect([up.assembly.most, up.prepared.size, up.prepared.front]).toEqual([4, 3, "-x"]);
  expect(assemblyBroughtUp(up, up.assembly.recipe!)).toEqual(up);
  const without = { ...up, assembly: { ...up.assembly, dressings: [lid] } };
  expect(assemblyBroughtUp(without, up.assembly.recipe!).assembly.dressings).toEqual([lid]);
  // What the recipe has no more goes, unless it is another by now.
  const back = (prop: Assembled) => assemblyBroughtUp(prop, { ...up.assembly.recipe!, recipe }).assembly.lines.map(({ name }) => name); // prettier-ignore
  expect(back(up)).toEqual(["edge"]);
  const [rim, second] = up.assembly.lines;
  expect(back({ ...up, assembly: { ...up.assembly, lines: [rim, { ...second, name: "Mine" }] } })).toEqual(["edge", "Mine"]); // prettier-ignore
});

test("kept again after changes, its parts and roles have the names that they had, and dials what is still there", () => {
  const dials = [DIAL, { id: 1, name: "Rim", drives: [{ path: "part-1/cornerRadius", from: 0, to: 1 }] }];
  const begun = made("one", { ...recipe, roles: recipe.roles.map((role) => ({ ...role, name: `the ${role.name}` })), dials }); // prettier-ignore
  expect(recipeOfAssembly(begun, "one", nameOf)).toMatchObject({ ...begun.assembly.recipe!.recipe, name: "one" });
  const [jars] = begun.assembly.dressings;
  const lid = { ...jars, id: "lid", name: "Lid", what: { ...jars.what, entries: [{ ...jars.what.entries[0], prop: "net" }] } }; // prettier-ignore
  const changed = { ...begun, assembly: { ...begun.assembly, lines: [], dressings: [lid, jars] } };
  const next = recipeOfAssembly(changed, "one", nameOf);
  expect(next.parts.dressings.map(({ id, name }) => [id, name])).toEqual([["part-3", "Lid"], ["part-2", "jars"]]); // prettier-ignore
  expect(new Map(next.roles.map(({ id, name }) => [id, name]))).toEqual(new Map([["role-3", "NET"], ["role-1", "the BUOY"], ["role-2", "the OAR"]])); // prettier-ignore
  expect(next.dials).toEqual([DIAL]);
  // Another that was made by it before finds its own things again.
  const other = made("two", begun.assembly.recipe!.recipe);
  const up = assemblyBroughtUp(other, { ...other.assembly.recipe!, recipe: next });
  expect(up.assembly.lines).toEqual([]);
  expect(up.assembly.dressings.map(({ id, name }) => [id === other.assembly.dressings[0].id, name])).toEqual([[true, "jars"], [false, "Lid"]]); // prettier-ignore
});

test("a role that nobody plays stays blank and is found; given a prop it is filled, pegs among it", () => {
  const [empty] = recipe.roles.filter(({ name }) => name === "OAR").map(({ id }) => id);
  const cast = Object.fromEntries(recipe.roles.map(({ id }) => [id, id === empty ? null : "buoy"]));
  const begun = made("tray", recipe, cast);
  const { entries } = begun.assembly.dressings[0].what;
  expect(entries.map(({ prop }) => prop).sort()).toEqual(["buoy", null]);
  expect(begun.assembly.dressings[0].pegs).toEqual({});
  const engine = new Engine();
  engine.evaluate(withTray(begun));
  const found = () => engine.innerFindings().flatMap(({ finding: { check, message } }) => (check === "role-empty" ? message : [])); // prettier-ignore
  expect(found()).toEqual(["The recipe has no prop for “OAR” yet, so its slots stay blank."]);
  const filled = assemblyBroughtUp(begun, { ...begun.assembly.recipe!, roles: { ...cast, [empty]: "oar" } });
  expect(Object.values(filled.assembly.dressings[0].pegs)).toEqual([expect.objectContaining({ prop: "oar" })]);
  engine.evaluate(withTray(filled));
  expect(found()).toEqual([]);
});

test("its numbers are those of its dressings and lines; a dial drives what is called so in the assembly", () => {
  expect(thingsOfRecipe(recipe)).toEqual([{ id: "part-2", name: "jars" }, { id: "part-1", name: "edge" }]); // prettier-ignore
  const paths = thingsOfRecipe(recipe).flatMap(({ id }) => numbersOfRecipe(recipe, id)).map(({ path, label }) => [path, label]); // prettier-ignore
  for (const [path, label] of paths) expect(labelInRecipe(recipe, path)).toBe(label);
  // What is as it begins comes later.
  expect(paths[0]).toEqual(["part-2/spacing/count", "jars, Spacing: Count"]);
  expect(paths).toContainEqual(["part-2/spacing/count", "jars, Spacing: Count"]);
  expect(paths).toContainEqual(["part-1/cornerRadius", "edge: Corners"]);
  for (const [path] of paths) expect(numberIn(recipe.parts, path)).toMatchObject({ path });
  expect(["part-1/number", "part-2/nothing/there", "part-9/spacing/count", "part-2/spacing"].map((path) => numberIn(recipe.parts, path))).toEqual([null, null, null, null]); // prettier-ignore
  const { assembly } = made("one", { ...recipe, dials: [DIAL] });
  const draft = structuredClone(assembly);
  const [{ path }] = dialIn(assembly.recipe!, DIAL).drives;
  writeNumber(draft, path, 9);
  expect(draft.dressings[0].spacing.count).toBe(9);
});

test("of a dressing in it neither its own recipe nor its masks go along", () => {
  const [jars] = tray.assembly.dressings;
  const mask = { ...jars, gaps: { ...jars.gaps, images: [{ asset: "a".repeat(64) } as never] }, recipe: {} as never };
  const [part] = recipeOfAssembly({ ...tray, assembly: { ...tray.assembly, dressings: [mask] } }, "Tray", nameOf).parts.dressings; // prettier-ignore
  expect([part.recipe, part.gaps.images]).toEqual([null, []]);
});

test("what is from files is in none; damaged or hostile ones are refused", () => {
  const hill = scene.surfaces[0] ?? { id: "hill", name: "Hill", asset: "a".repeat(64) };
  const { surfaces } = parseScene({ ...scene, surfaces: [hill] });
  expect(recipeTrouble({ ...tray.assembly, surfaces })).toContain("“Hill”");
  expect(recipeTrouble({ ...tray.assembly, dressings: [] })).toMatch(/no dressing/);
  expect(recipeTrouble(tray.assembly)).toBeNull();
  const [jars] = tray.assembly.dressings;
  const many = Array.from({ length: 201 }, (_, k) => ({ ...jars.what.entries[0], prop: `prop-${k}` }));
  expect(recipeTrouble({ ...tray.assembly, dressings: [{ ...jars, what: { ...jars.what, entries: many } }] })).toMatch(/202 different props/); // prettier-ignore
  const isRead = (change: object) => readRecipe({ ...recipe, ...change }).success;
  expect(isRead({})).toBe(true);
  expect(isRead({ roles: [] })).toBe(false);
  expect(isRead({ dials: [DIAL] })).toBe(true);
  expect(isRead({ dials: [{ ...DIAL, drives: [{ path: "part-2/spacing/count", from: -1, to: 2 }] }] })).toBe(false);
  expect(isRead({ dials: [{ ...DIAL, drives: [{ path: "part-7/spacing/count", from: 1, to: 2 }] }] })).toBe(false);
  expect(isRead({ parts: { ...recipe.parts, surfaces } })).toBe(false);
  expect(isRead({ parts: { ...recipe.parts, lines: [recipe.parts.lines[0], recipe.parts.lines[0]] } })).toBe(false);
  expect(isRead({ parts: { ...recipe.parts, lines: [{ ...recipe.parts.lines[0], id: "role-1" }] } })).toBe(false);
  expect(isRead({ version: 2 })).toBe(false);
});
