/** Lines that are drawn, joined, cut, reversed, copied and shaped; what lies on them by hand stays where it was. */
import { surfaceSchema } from "@/core/scene";
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
  addOutline,
  addSurfaces,
  deleteSurface,
  dressField,
  duplicateLine,
  editDressing,
  editLine,
  insertKnotBeside,
  joinLines,
  makeKnots,
  makeRows,
  makeSurface,
  reverseLine,
  setJoin,
  setLineKind,
  splitLine,
  surfacesOf,
  writeAdded,
  writeHandle,
} from ".";
import { scene, startInHarbour } from "./testing";
import { putLaid } from "../laid";
import { useSession } from "../session";

const store = () => useSceneStore.getState();

beforeEach(startInHarbour);

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
