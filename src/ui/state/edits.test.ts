import fc from "fast-check";
import { parseScene, type Scene } from "@/core/scene";
import { harbourScene } from "@/core/scene/testing";
import { Engine } from "@/engine/engine";
import { startHistory } from "@/store/history";
import { useSceneStore } from "@/store/scene-store";
import { addKnot, drawShape, finishDrawing, startDrawing, takeBackKnot } from "../view/draw-state";
import {
  addLine,
  addShape,
  deleteDressing,
  deleteKnot,
  deleteLine,
  deleteProp,
  dress,
  duplicateDressing,
  duplicateLine,
  editDressing,
  insertKnotBeside,
  joinLines,
  moveDressing,
  peggedKeys,
  removePlacements,
  renameProp,
  reverseLine,
  setLineKind,
  setPegs,
  splitLine,
  swapPlacements,
  unpeg,
} from "./edits";
import { selectPlacements, useSession } from "./session";

jest.mock("sonner", () => ({ toast: Object.assign(() => undefined, { error: () => undefined }) }));

const store = () => useSceneStore.getState();
const scene = (): Scene => store().history.scene;
const keysOf = (id: string): number[] =>
  Array.from(new Engine().evaluate(scene()).find((result) => result.id === id)!.placements.key);

beforeEach(() => {
  useSceneStore.setState({ id: null, history: startHistory(harbourScene()) });
  useSession.setState({ dressing: "buoys", focus: { kind: "dressing" }, keys: new Set(), drawProp: "buoy" });
});

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
  deleteKnot: (n, m) => deleteKnot(pick(scene().lines, n), m % 3),
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
  removePlacements: (n, m) => removePlacements(pick(scene().dressings, n), [1572864 + m, 2621440 + m]),
  swapPlacements: (n, m) => swapPlacements(pick(scene().dressings, n), [1572864 + m], "oar"),
  unpeg: (n, m) => unpeg(pick(scene().dressings, n), [1572864 + m, 2621441]),
};

test("after any sequence of edits the scene is valid and can be evaluated; undoing all of them gives the first scene back", () => {
  const step = fc.record({
    edit: fc.constantFrom(...Object.keys(edits)),
    n: fc.integer({ min: 0, max: 6 }),
    m: fc.integer({ min: 0, max: 6 }),
  });
  fc.assert(
    fc.property(fc.array(step, { maxLength: 25 }), (steps) => {
      useSceneStore.setState({ history: startHistory(harbourScene()) });
      for (const { edit, n, m } of steps) edits[edit](n, m);
      expect(parseScene(JSON.parse(JSON.stringify(scene())))).toEqual(JSON.parse(JSON.stringify(scene())));
      new Engine().evaluate(structuredClone(scene()));
      const last = scene();
      while (store().history.past.length > 0) store().undo();
      expect(scene()).toEqual(harbourScene());
      while (store().history.future.length > 0) store().redo();
      expect(scene()).toEqual(last);
    }),
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
  expect(scene().dressings[1]).toMatchObject({ where: { lines: ["quay"] }, pegs: [] });
  swapPlacements("buoys", keysOf("buoys").slice(0, 2), "oar");
  editDressing("buoys", "First", (d) => void (d.what.first = "oar"));
  deleteProp("oar");
  expect(JSON.stringify(scene().dressings)).not.toContain('"oar"');
  expect(scene().dressings[0].pegs).toEqual([]);
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

test("pegs are made, changed and taken off by key, on the slots that the keys stand for", () => {
  const keys = keysOf("buoys");
  removePlacements("buoys", [keys[2], keys[4]]);
  swapPlacements("buoys", [keys[4]], "oar");
  setPegs("buoys", [keys[5]], "Move", (peg) => void (peg.at = 5.25));
  expect(scene().dressings[0].pegs).toEqual([
    { line: "quay", slot: 2, removed: true },
    { line: "quay", slot: 4, prop: "oar" },
    { line: "quay", slot: 5, at: 5.25 },
  ]);
  expect(peggedKeys(scene().dressings[0], scene().lines)).toEqual([keys[2], keys[4], keys[5]]);
  unpeg("buoys", keys);
  expect(scene().dressings[0].pegs).toEqual([]);
});

test("a selection is made anew, or added to and taken from", () => {
  const { getState } = useSession;
  selectPlacements("buoys", [1, 2]);
  selectPlacements("buoys", [2, 3], true);
  expect([...getState().keys]).toEqual([1, 3]);
  selectPlacements("oars", [3], true);
  expect([getState().dressing, ...getState().keys]).toEqual(["oars", 3]);
  selectPlacements("oars", [8]);
  expect([...getState().keys]).toEqual([8]);
});
