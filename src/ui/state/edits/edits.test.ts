import { hexOf, lineKey, type Key } from "@/core/place";
import fc from "fast-check";
import { parseScene, surfaceSchema } from "@/core/scene";
import { harbourScene } from "@/core/scene/testing";
import { Engine } from "@/engine/engine";
import { useSceneStore } from "@/store/scene-store";
import {
  addEdgeLine,
  addLine,
  addMix,
  addShape,
  addSurfaces,
  deleteDressing,
  deleteKnots,
  deleteLine,
  deleteProp,
  deleteSurface,
  dress,
  dressBox,
  dressField,
  dressNothing,
  duplicateDressing,
  duplicateLine,
  duplicateSurface,
  editDressing,
  editEntries,
  editLine,
  editSurface,
  insertKnotBeside,
  joinLines,
  makeKnots,
  makeRows,
  makeSurface,
  makeVolume,
  mendFinding,
  moveDressing,
  peggedKeys,
  removePlacements,
  renameProp,
  replaceProp,
  replaceSurfaceBy,
  reverseLine,
  setLineKind,
  setPegs,
  splitLine,
  pegAt,
  swapPlacements,
  turnPlacements,
  unpeg,
  writeAdded,
  writeStart,
} from ".";
import { laidOut, scene, startInHarbour } from "./testing";
import { selectPlacements, useSession } from "../session";

const store = () => useSceneStore.getState();
const keysOf = (id: string): Key[] =>
  Array.from(new Engine().evaluate(scene()).find((result) => result.id === id)!.placements.key);

beforeEach(startInHarbour);

/** Something of the scene that is there at the moment, or that never was. */
const pick = <T extends { id: string }>(things: readonly T[], n: number): string =>
  things[n % (things.length + 1)]?.id ?? "nobody";

const edits: Record<string, (n: number, m: number) => void> = {
  addLine: (n, m) =>
    addLine(
      [
        [n, 0, 0],
        [m + 0.5, 1, n],
        [3, 0, m],
      ].slice(0, 2 + (n % 2)) as never,
      n % 3 === 0,
      "buoy",
    ),
  deleteDressing: (n) => deleteDressing(pick(scene().dressings, n)),
  deleteKnots: (n, m) => deleteKnots(pick(scene().lines, n), [m % 3]),
  deleteLine: (n) => deleteLine(pick(scene().lines, n)),
  deleteProp: (n) => deleteProp(pick(scene().props, n)),
  dress: (n) => scene().lines[0] && dress(scene().lines[0].id, pick(scene().props, n)),
  duplicateDressing: (n) => duplicateDressing(pick(scene().dressings, n)),
  duplicateLine: (n) => duplicateLine(pick(scene().lines, n)),
  insertKnot: (n, m) => insertKnotBeside(pick(scene().lines, n), m % 4),
  moveDressing: (n, m) => moveDressing(pick(scene().dressings, n), pick(scene().dressings, m)),
  renameProp: (n, m) => renameProp(pick(scene().props, n), `Prop ${m}`),
  addShape: (n, m) => addShape((["circle", "coil", "rectangle"] as const)[n % 3], [n, m, 0], m % 2 ? "oar" : null),
  setLineKind: (n, m) =>
    setLineKind(pick(scene().lines, n), (["polyline", "smooth", "hanging", "arc", "ellipse"] as const)[m % 5]),
  reverseLine: (n) => reverseLine(pick(scene().lines, n)),
  splitLine: (n, m) => splitLine(pick(scene().lines, n), m % 4),
  joinLines: (n, m) => joinLines(pick(scene().lines, n), pick(scene().lines, m)),
  spacing: (n, m) => editDressing(pick(scene().dressings, n), "Every", (d) => void (d.spacing.distance = 0.5 + m)),
  removePlacements: (n, m) => removePlacements(pick(scene().dressings, n), [lineKey(1, m), lineKey(2, m)]),
  swapPlacements: (n, m) => swapPlacements(pick(scene().dressings, n), [lineKey(1, m)], "oar"),
  addMix: (n) =>
    addMix(
      [pick(scene().props, n)]
        .filter((id) => id !== "nobody")
        .concat(scene().props[0]?.id ?? [])
        .slice(0, 1),
    ),
  copies: (n, m) =>
    editDressing(pick(scene().dressings, n), "Copy", (draft) => {
      const [line] = draft.where.lines;
      if (line && scene().props[0]) writeAdded(draft, [{ line, at: m, prop: scene().props[0].id }]);
    }),
  stretches: (n, m) =>
    editDressing(pick(scene().dressings, n), "Gap", (draft) => {
      const [line] = draft.where.lines;
      if (line) draft.gaps.stretches.push({ line, from: m, to: m + n });
    }),
  addSurface: (n) =>
    addSurfaces([
      surfaceSchema.parse({ id: `surface ${scene().surfaces.length} ${n}`, name: "Slab", asset: "c".repeat(64) }),
    ]),
  duplicateSurface: (n) => duplicateSurface(pick(scene().surfaces, n)),
  deleteSurface: (n) => deleteSurface(pick(scene().surfaces, n)),
  editSurface: (n, m) => editSurface(pick(scene().surfaces, n), "Move", (draft) => void (draft.position = [m, n, 0])),
  drop: (n, m) =>
    editDressing(pick(scene().dressings, n), "Drop", ({ fit }) => {
      fit.drop = (["down", "own", "nearest", "off"] as const)[m % 4];
      fit.onto = scene()
        .surfaces.slice(0, n % 3)
        .map(({ id }) => id);
      fit.ontoProps = scene()
        .dressings.slice(0, m % 3)
        .map(({ id }) => id);
    }),
  makeSurface: (n, m) => makeSurface((["box", "bumps", "revolve", "loft"] as const)[m % 4], [n, 0, m]),
  makeVolume: (n) => scene().dressings.length > 0 && makeVolume(pick(scene().dressings, n), [0, n, 0]),
  partSurface: (n, m) => {
    const whole = scene().surfaces.find(({ id }) => id === pick(scene().surfaces, n));
    if (whole)
      replaceSurfaceBy(
        whole.id,
        [1, 2].map((k) => ({ ...whole, id: `${whole.id} ${k} ${m}` })),
      );
  },
  edgeLine: (n, m) =>
    scene().surfaces[n] && addEdgeLine("v", { on: scene().surfaces[n].id, at: [0, 0, 0], value: m / 7 }, null),
  makeRows: (n, m) => makeRows(pick(scene().lines, n), 1 + m),
  makeKnots: (n) => makeKnots(pick(scene().lines, n)),
  lay: (n) =>
    editLine(pick(scene().lines, n), "Lay", (draft) => {
      draft.laid ??= {
        kind: "surface",
        on: scene()
          .surfaces.slice(0, n % 3)
          .map(({ id }) => id),
        way: "down",
        axis: [0, -1, 0],
        how: "knots",
      };
    }),
  kinds: (n, m) =>
    editDressing(pick(scene().dressings, n), "Where", ({ where }) => {
      where.kind = (["along", "over", "inside", "loose"] as const)[m % 4];
      where.surfaces = scene()
        .surfaces.slice(0, m)
        .map(({ id }) => id);
    }),
  dressAnywhere: (n, m) => {
    const prop = pick(scene().props, m);
    if (n % 3 === 0) dressBox(prop, [n, 0, m]);
    else dressNothing(n % 3 === 1 ? "over" : "loose", prop);
  },
  fillVolume: (n) => {
    const surface = scene().surfaces[n];
    if (surface) dressField({ volumes: [surface.id] }, 10, "buoy");
  },
  entries: (n, m) =>
    editEntries(pick(scene().dressings, n), "Swap", (what) => {
      what.entries = what.entries.map((entry) => ({ ...entry, prop: scene().props[m]?.id ?? null }));
    }),
  startOfRim: (n, m) => store().change("Start", (draft) => writeStart(draft, pick(scene().lines, n), [m, 0, n])),
  mendProps: (n, m) =>
    mendFinding(
      { prop: pick(scene().props, n), dressing: pick(scene().dressings, m), keys: new BigUint64Array(0) } as never,
      (["hundredth", "thousandfold", "stand-up", "as-meant", "keep-from-walls"] as const)[m % 5],
    ),
  turnPlacements: (n, m) => turnPlacements(pick(scene().dressings, n), [lineKey(1, m)], m),
  unpeg: (n, m) => unpeg(pick(scene().dressings, n), [lineKey(1, m), lineKey(2, 1)]),
};

test("after any sequence of edits the scene is valid and can be evaluated; undoing all of them gives the first scene back", () => {
  const step = fc.record({
    edit: fc.constantFrom(...Object.keys(edits)),
    n: fc.integer({ min: 0, max: 6 }),
    m: fc.integer({ min: 0, max: 6 }),
  });
  fc.assert(
    fc.property(fc.array(step, { maxLength: 25 }), (steps) => {
      laidOut(harbourScene());
      for (const { edit, n, m } of steps) edits[edit](n, m);
      expect(parseScene(JSON.parse(JSON.stringify(scene())))).toEqual(JSON.parse(JSON.stringify(scene())));
      new Engine().evaluate(structuredClone(scene()));
      const last = scene();
      while (store().history.past.length > 0) store().undo();
      expect(scene()).toEqual(harbourScene());
      while (store().history.future.length > 0) store().redo();
      expect(scene()).toEqual(last);
    }),
    { numRuns: 60 },
  );
});

test("a duplicated dressing keeps its lines, props and pegs, and stands beside the original", () => {
  duplicateDressing("oars");
  const [, original, copy] = scene().dressings;
  expect({ ...copy, id: "oars", name: "Oars" }).toEqual(original);
  expect(copy.name).toBe("Oars 2");
  const [a, b] = [original, copy].map(({ id }) => new Engine().evaluate(scene()).find((r) => r.id === id)!.placements);
  expect(b).toEqual(a);
});

test("deleting a line or a prop leaves nothing behind that speaks of it", () => {
  deleteLine("jetty");
  expect(scene().dressings[1]).toMatchObject({ where: { lines: ["quay"] }, pegs: {} });
  swapPlacements("buoys", keysOf("buoys").slice(0, 2), "oar");
  editDressing("buoys", "First", (d) => void (d.what.first = "oar"));
  deleteProp("oar");
  expect(JSON.stringify(scene().dressings)).not.toContain('"oar"');
  expect(scene().dressings[0].pegs).toEqual({});
});

test("a mix goes with its last prop, and out of what used it; a prop's new file keeps all that refers to the prop", () => {
  addMix(["oar"]);
  const { id } = scene().mixes[0];
  editDressing("buoys", "Mix", ({ what }) => void (what.last = id));
  swapPlacements("buoys", keysOf("buoys").slice(0, 1), id);
  const results = () => new Engine().evaluate(scene()).find((one) => one.id === "buoys")!.placements;
  const p = results();
  expect([p.prop[0], p.prop[p.count - 1]].map((index) => p.props[index])).toEqual(["oar", "oar"]);
  const { bounds, triangles, brought } = scene().props[0];
  replaceProp("oar", { asset: "f".repeat(64), bounds, triangles, brought, file: "other.glb" });
  expect(scene().props.find((prop) => prop.id === "oar")).toMatchObject({ file: "other.glb", name: "Oar" });
  expect(results().props).toContain("oar");
  deleteProp("oar");
  expect(scene().mixes).toEqual([]);
  expect(JSON.stringify(scene().dressings)).not.toContain(id);
});

test("copies are slots of their own beside those of the rules, and are gone when their peg is taken off", () => {
  const count = keysOf("buoys").length;
  const copy = () =>
    editDressing("buoys", "Copy", (draft) => void writeAdded(draft, [{ line: "quay", at: 2.5, prop: "oar" }]));
  copy();
  copy();
  const keys = keysOf("buoys");
  expect(new Set(keys).size).toBe(count + 2);
  setPegs("buoys", keys.slice(count, count + 1), "Move", (peg) => void (peg.at = 3.5));
  removePlacements("buoys", keys.slice(count + 1));
  expect(Object.values(scene().dressings[0].pegs)).toMatchObject([{ added: true, at: 3.5, prop: "oar" }]);
  unpeg("buoys", keys);
  expect(scene().dressings[0].pegs).toEqual({});
});

test("every mend of a finding leaves a scene in which that finding is gone", () => {
  const found = (check: string) => {
    const results = new Engine().evaluate(scene());
    return results.flatMap(({ findings }) => findings).find((finding) => finding.check === check);
  };
  const wrong: [string, () => void][] = [
    ["too-close", () => editDressing("buoys", "Close", ({ spacing }) => void (spacing.distance = 0.1))],
    ["uneven", () => setPegs("buoys", keysOf("buoys").slice(3, 4), "Move", (peg) => void (peg.at = 3.9))],
    [
      "orphan-peg",
      () => editDressing("buoys", "Peg", ({ pegs }) => void (pegs[hexOf(lineKey(1, 900))] = { on: "quay", at: 1 })),
    ],
  ];
  for (const [check, spoil] of wrong) {
    laidOut(harbourScene());
    expect(found(check)).toBeUndefined();
    spoil();
    mendFinding(found(check)!, found(check)!.mend!);
    expect(found(check)).toBeUndefined();
  }
});

test("pegs are made, changed and taken off by key, on the slots that the keys stand for", () => {
  const keys = keysOf("buoys");
  removePlacements("buoys", [keys[2], keys[4]]);
  swapPlacements("buoys", [keys[4]], "oar");
  setPegs("buoys", [keys[5]], "Move", (peg) => void (peg.at = 5.25));
  expect(scene().dressings[0].pegs).toEqual({
    [hexOf(keys[2])]: { on: "quay", removed: true },
    [hexOf(keys[4])]: { on: "quay", prop: "oar" },
    [hexOf(keys[5])]: { on: "quay", at: 5.25 },
  });
  // Turned on and on, and back again: nothing is left of it where nothing else is said.
  for (let k = 0; k < 3; k++) turnPlacements("buoys", [keys[5], keys[7]], Math.PI / 4);
  expect(pegAt(scene().dressings[0], keys[7])!.turn).toBeCloseTo((3 * Math.PI) / 4, 6);
  turnPlacements("buoys", [keys[5], keys[7]], (5 * Math.PI) / 4);
  expect(pegAt(scene().dressings[0], keys[5])).toEqual({ on: "quay", at: 5.25 });
  expect(pegAt(scene().dressings[0], keys[7])).toBeUndefined();
  expect(peggedKeys(scene().dressings[0])).toEqual([keys[2], keys[4], keys[5]]);
  unpeg("buoys", keys);
  expect(scene().dressings[0].pegs).toEqual({});
});

test("a selection is made anew, or added to and taken from", () => {
  const { getState } = useSession;
  selectPlacements("buoys", [1n, 2n]);
  selectPlacements("buoys", [2n, 3n], true);
  expect([...getState().keys]).toEqual([1n, 3n]);
  selectPlacements("oars", [3n], true);
  expect([getState().dressing, ...getState().keys]).toEqual(["oars", 3n]);
  selectPlacements("oars", [8n]);
  expect([...getState().keys]).toEqual([8n]);
});

test("what a deleted surface or dressing was ground for stands on the rest; a copy of a surface stands beside it", () => {
  const [slab, step] = ["slab", "step"].map((id) => surfaceSchema.parse({ id, name: id, asset: "c".repeat(64) }));
  addSurfaces([slab, step]);
  editDressing(
    "buoys",
    "Drop",
    ({ fit }) => void Object.assign(fit, { drop: "down", onto: ["slab", "step"], ontoProps: ["oars"] }),
  );
  duplicateSurface("slab");
  expect(scene().surfaces.map(({ name }) => name)).toEqual(["slab", "step", "slab 2"]);
  expect(scene().surfaces[2].position).not.toEqual(scene().surfaces[0].position);
  deleteSurface("slab");
  deleteDressing("oars");
  expect(scene().dressings[0].fit).toMatchObject({ onto: ["step"], ontoProps: [] });
});
