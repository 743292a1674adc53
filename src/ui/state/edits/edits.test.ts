import { hexOf, lineKey, type Key } from "@/core/place";
import fc from "fast-check";
import { parseScene, surfaceSchema } from "@/core/scene";
import { harbourScene } from "@/core/scene/testing";
import { Engine } from "@/engine/engine";
import { handlesOf, placeOn, type BezierLine } from "@/core/line";
import { add, dot, normalize, type Vec3 } from "@/core/math";
import { useSceneStore } from "@/store/scene-store";
import { drawnLine } from "../guides";
import { addKnot, drawShape, finishDrawing, startDrawing, takeBackKnot } from "../../view/draw-state";
import {
  addEdgeLine,
  addLine,
  addMix,
  addOutline,
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
  setJoin,
  setLineKind,
  setPegs,
  splitLine,
  surfacesOf,
  pegAt,
  swapPlacements,
  turnPlacements,
  unpeg,
  writeAdded,
  writeHandle,
  writeStart,
} from ".";
import { laidOut, scene, startInHarbour } from "./testing";
import { putLaid } from "../laid";
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

test("a drawn line is dressed at once with the chosen prop; one knot alone makes none", () => {
  startDrawing();
  addKnot([0, 0, 0]);
  finishDrawing(false);
  expect(scene()).toEqual(harbourScene());
  startDrawing();
  for (const x of [0, 0, 2, 5, 9]) addKnot([x, 0, 0]);
  takeBackKnot();
  finishDrawing(true);
  const line = scene().lines.at(-1)!;
  expect(line).toMatchObject({ kind: "smooth", closed: true, number: 3, name: "Line 1" });
  expect(line.knots.map((knot) => knot.position[0])).toEqual([0, 2, 5]);
  expect(scene().dressings.at(-1)!.where.lines).toEqual([line.id]);
  expect(useSession.getState().dressing).toBe(scene().dressings.at(-1)!.id);
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

test("a line that is split keeps its dressings on both parts, and joined again it is one line for them", () => {
  insertKnotBeside("jetty", 0);
  splitLine("jetty", 1);
  const [, first, second] = scene().lines;
  expect([first.id, second.name, second.number]).toEqual(["jetty", "Jetty 2", 3]);
  expect(scene().dressings[1].where.lines).toEqual(["jetty", second.id, "quay"]);
  joinLines("jetty", second.id);
  expect(scene().lines).toHaveLength(2);
  expect(scene().dressings[1].where.lines).toEqual(["jetty", "quay"]);
  expect(scene().lines[1].knots).toHaveLength(3);
});

test("a drawn shape lies about its middle and is dressed at once", () => {
  startDrawing();
  drawShape("coil", [4, 0, -2]);
  const line = scene().lines.at(-1)!;
  expect(line).toMatchObject({ kind: "coil", name: "Coil 1", knots: [{ position: [4, 0, -2] }] });
  expect(scene().dressings.at(-1)!.where.lines).toEqual([line.id]);
  expect(useSession.getState().tool).toBe("select");
});

test("a copied line is dressed as the first one is, with its pegs and held gaps; the copy moved away takes its own along", () => {
  editDressing("oars", "Gap", ({ gaps }) => void gaps.stretches.push({ line: "jetty", from: 1, to: 2 }));
  const before = structuredClone(scene().dressings[1]);
  duplicateLine("jetty");
  const copy = scene().lines[2];
  const { where, gaps, pegs } = scene().dressings[1];
  expect(where.lines).toEqual(before.where.lines.flatMap((id) => (id === "jetty" ? [id, copy.id] : [id])));
  expect(gaps.stretches).toContainEqual({ line: copy.id, from: 1, to: 2 });
  const on = (all: typeof pegs, id: string) => Object.values(all).filter((peg) => peg.on === id);
  expect(on(pegs, copy.id)).toHaveLength(on(before.pegs, "jetty").length);
  const { placements: p } = new Engine().evaluate(scene()).find(({ id }) => id === "oars")!;
  const rows = ["jetty", copy.id].map((id) =>
    Array.from({ length: p.count }, (_, i) => i).filter((i) => p.lines[p.line[i]] === id),
  );
  expect(rows[0].length).toBeGreaterThan(2);
  expect(rows[1].map((i) => p.at[i])).toEqual(rows[0].map((i) => p.at[i]));
});

test("what lies on a line by hand stays where it was when the line is reversed, or cut", () => {
  insertKnotBeside("jetty", 0);
  const { length, knotAt } = drawnLine(scene().lines[1]).curve;
  const cut = knotAt[1];
  editDressing("oars", "By hand", (dressing) => {
    dressing.gaps.stretches = [{ line: "jetty", from: cut - 0.5, to: cut + 1 }];
    writeAdded(dressing, [{ line: "jetty", at: cut + 0.75, prop: "buoy" }]);
  });
  reverseLine("jetty");
  const by = () => scene().dressings[1];
  expect(by().gaps.stretches[0].from).toBeCloseTo(length - cut - 1, 9);
  expect(by().gaps.stretches[0].to).toBeCloseTo(length - cut + 0.5, 9);
  reverseLine("jetty");
  splitLine("jetty", 1);
  const second = scene().lines[2].id;
  const [left, right] = by().gaps.stretches;
  expect([left.line, right.line]).toEqual(["jetty", second]);
  expect([left.from, left.to, right.from, right.to]).toEqual([cut - 0.5, cut, 0, 1].map((x) => expect.closeTo(x, 9)));
  const added = Object.values(by().pegs).find((peg) => peg.added)!;
  expect([added.on, added.at]).toEqual([second, expect.closeTo(0.75, 9)]);
});

test("joined behind another line, what lies on a line by hand moves on by that one's length and stays in its place", () => {
  editDressing("oars", "Gap", ({ gaps }) => void gaps.stretches.push({ line: "jetty", from: 1, to: 2 }));
  const place = (id: string, at: number) => {
    const line = scene().lines.find((one) => one.id === id)!;
    return placeOn(drawnLine(line).curve, at);
  };
  const before = [1, 2].map((at) => place("jetty", at));
  const start = scene().lines[1].knots[0].position;
  addLine([add(start, [0, 0, -3]), start], false, null);
  joinLines("jetty", scene().lines[2].id);
  const [{ from, to }] = scene().dressings[1].gaps.stretches;
  expect(to - from).toBeCloseTo(1, 6);
  const after = [from, to].map((at) => place("jetty", at));
  const same = after.map((at) => Math.min(...before.map((old) => Math.hypot(...at.map((x, k) => x - old[k])))));
  for (const away of same) expect(away).toBeLessThan(1e-6);
});

test("a smooth knot's handles stay on one line, a free one's do not, and a corner has none", () => {
  setLineKind("quay", "bezier");
  insertKnotBeside("quay", 0);
  const line = () => scene().lines[0] as BezierLine;
  const write = (end: Vec3) =>
    store().change("Handle", (draft) => writeHandle(draft.lines[0], 1, "after", add(line().knots[1].position, end)));
  write([0, 0, 2]);
  let { before, after } = handlesOf(line().knots, false, 1);
  expect(after).toEqual([0, 0, 2].map((x) => expect.closeTo(x, 9)));
  expect(Math.abs(dot(normalize(before), normalize(after)) + 1)).toBeLessThan(1e-9);
  setJoin("quay", [1], "free");
  write([3, 0, 0]);
  ({ before, after } = handlesOf(line().knots, false, 1));
  expect(after[0]).toBeCloseTo(3, 9);
  expect(before[2]).toBeLessThan(-0.1);
  setJoin("quay", [1], "corner");
  expect(handlesOf(line().knots, false, 1)).toEqual({ before: [0, 0, 0], after: [0, 0, 0] });
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

test("rows of a mesh run side by side and are dressed alike; a surface that goes leaves its lines as they lay", () => {
  makeSurface("bumps", [0, 1, 0]);
  const [ground] = scene().surfaces;
  expect(ground.position).toEqual([0, 1, 0]);
  addEdgeLine("v", { on: ground.id, at: [0, 0, 0], value: 0.3 }, "buoy");
  const row = scene().lines.at(-1)!;
  makeRows(row.id, 4);
  const rows = scene().lines.filter(({ laid }) => laid?.kind === "edges");
  expect(rows.map(({ laid }) => laid?.kind === "edges" && laid.value)).toEqual([0.125, 0.375, 0.625, 0.875]);
  expect(scene().dressings.at(-1)!.where.lines).toEqual(rows.map(({ id }) => id));
  expect(new Set(scene().lines.map(({ number }) => number)).size).toBe(scene().lines.length);
  const engine = new Engine();
  engine.evaluate(structuredClone(scene()));
  putLaid({ changed: [...engine.tracks], gone: [] });
  makeKnots(rows[0].id);
  const kept = scene().lines.find(({ id }) => id === rows[0].id)!;
  expect(kept.laid).toBeNull();
  expect(kept.knots.length).toBeGreaterThan(10);
  editLine(
    "quay",
    "Lay",
    (draft) => void (draft.laid = { kind: "surface", on: [ground.id], way: "down", axis: [0, -1, 0], how: "densely" }),
  );
  deleteSurface(ground.id);
  expect(scene().lines.every(({ laid }) => laid === null)).toBe(true);
  const lifted = scene().lines.find(({ id }) => id === rows[3].id)!;
  expect(lifted.knots.length).toBeGreaterThan(10);
  const z = lifted.knots.map(({ position }) => position[2]);
  expect(Math.max(...z) - Math.min(...z)).toBeLessThan(0.01);
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

test("an area is filled on the surface that its outline was drawn on, and a hole drawn first brings the surface along", () => {
  addSurfaces([surfaceSchema.parse({ id: "quay", name: "Quay", asset: "a".repeat(64), triangles: 2 })]);
  const on = "quay";
  const corners: [number, number, number][] = [[0, 0, 0], [2, 0, 0], [2, 0, 2]]; // prettier-ignore
  addLine(corners, true, null, { drawnOn: [on, "gone"] });
  const line = scene().lines.at(-1)!;
  expect(surfacesOf(line, scene())).toEqual([on]);
  dressField({ areas: [line.id], surfaces: surfacesOf(line, scene()) }, 2, "oar");
  expect(scene().dressings.at(-1)!.where).toMatchObject({
    kind: "over",
    areas: [line.id],
    surfaces: [on],
  });
  dressField({ areas: [line.id] }, 2, "oar");
  const dressing = scene().dressings.at(-1)!.id;
  addOutline(corners, { dressing, list: "holes" }, { drawnOn: [on] });
  expect(scene().dressings.at(-1)!.where.surfaces).toEqual([on]);
  deleteSurface(on);
  expect(scene().lines.every(({ drawnOn }) => !drawnOn.includes(on))).toBe(true);
});
