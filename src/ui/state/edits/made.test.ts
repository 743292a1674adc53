/** What is made of lines, surfaces and dressings keeps to them: copied, parted, deleted, brought again; and undone in one step. */
import { readSvg, type DrawingPlace } from "@/core/files";
import { addedKey, dressingSchema, hexOf } from "@/core/place";
import type { Smoothed, Solid, Tube } from "@/core/made";
import { surfaceSchema } from "@/core/scene";
import { Engine } from "@/engine/engine";
import { useSceneStore } from "@/store/scene-store";
import {
  bringDrawing,
  deleteDressing,
  deleteLine,
  deleteSurface,
  duplicateLine,
  holesOf,
  makeSurface,
  mendFinding,
  placeOfDrawing,
  remakeOf,
  splitLine,
} from ".";
import { selectLine, selectSurface } from "../session";
import { scene, startInHarbour } from "./testing";

beforeEach(startInHarbour);

const made = <T>(id: string) => scene().surfaces.find((one) => one.id === id)!.made as T;
const last = () => scene().surfaces.at(-1)!;
const undo = () => useSceneStore.getState().undo();

test("a tube is made of the line in focus, of its copies and halves too, and goes on without what is deleted", () => {
  selectLine("quay");
  makeSurface("tube", [0, 0, 0]);
  const { id, ground } = last();
  const lines = () => made<Tube>(id).lines;
  expect([lines(), ground]).toEqual([["quay"], false]);
  duplicateLine("quay");
  expect(lines()).toHaveLength(2);
  undo();
  expect(lines()).toEqual(["quay"]);
  duplicateLine("quay");
  splitLine("quay", 1);
  deleteLine("quay");
  expect(lines()).not.toContain("quay");
  expect(lines().every((line) => scene().lines.some((one) => one.id === line))).toBe(true);
});

test("parts of a solid are not drawn as long as they are; the first is always joined to", () => {
  makeSurface("box", [0, 0, 0]);
  const box = last().id;
  makeSurface("box", [1, 0, 0]);
  const other = last().id;
  selectSurface(box);
  makeSurface("solid", [0, 0, 0]);
  const solid = last().id;
  const hidden = () => [box, other].map((id) => scene().surfaces.find((one) => one.id === id)!.hidden);
  expect([made<Solid>(solid).parts, hidden()]).toEqual([[{ id: 0, how: "join", of: box }], [true, false]]);
  const add = (of: string, how: "cut" | "join") =>
    remakeOf(solid, "Add", (draft) => void (draft as Solid).parts.push({ id: (draft as Solid).parts.length, how, of }));
  add(other, "cut");
  add("buoys", "join");
  expect(hidden()).toEqual([true, true]);
  deleteSurface(box);
  expect(made<Solid>(solid).parts.map(({ of, how }) => [of, how])).toEqual([[other, "join"], ["buoys", "join"]]); // prettier-ignore
  deleteDressing("buoys");
  expect(made<Solid>(solid).parts.map(({ of }) => of)).toEqual([other]);
  deleteSurface(solid);
  expect(scene().surfaces.map((one) => [one.id, one.hidden])).toEqual([[other, false]]);
  undo();
  expect(scene().surfaces.find((one) => one.id === other)!.hidden).toBe(true);
});

test("a shell of a surface that goes has none any more", () => {
  makeSurface("bumps", [0, 0, 0]);
  const ground = last().id;
  makeSurface("shell", [0, 0, 0]);
  expect(surfaceSchema.parse(last()).made).toMatchObject({ kind: "shell", of: ground });
  deleteSurface(ground);
  expect(last().made).toMatchObject({ kind: "shell", of: null });
});

test("a drawing is lines in one step; brought again it changes those and keeps their names and what hangs on them", () => {
  const place: DrawingPlace = { middle: [3, 0, 0], right: [1, 0, 0], down: [0, 0, 1], scale: 100 };
  const drawing = (size: number) =>
    readSvg(
      new TextEncoder().encode(
        `<svg viewBox="0 0 9 9"><path id="ring" fill-rule="evenodd" d="M0 0H9V${size}H0ZM3 3H6V6H3Z"/><circle r="${size}"/></svg>`,
      ),
      "ring.svg",
    );
  const before = scene().lines.length;
  bringDrawing(drawing(9), "ring.svg", place);
  const [ring, hole, dot] = scene().lines.slice(before);
  expect([ring, hole, dot].map(({ name, kind }) => [name, kind])).toEqual([["Ring 1", "polyline"], ["Ring hole 1", "polyline"], ["Ring 2", "bezier"]]); // prettier-ignore
  expect([holesOf(ring, scene()), holesOf(hole, scene()), placeOfDrawing(scene(), "ring.svg")]).toEqual([[hole.id], [], place]); // prettier-ignore
  bringDrawing(drawing(8), "ring.svg", place);
  const again = scene().lines.slice(before);
  expect(again.map(({ id, number, name }) => [id, number, name])).toEqual([ring, hole, dot].map(({ id, number, name }) => [id, number, name])); // prettier-ignore
  expect(again[0].knots[2].position).not.toEqual(ring.knots[2].position);
  expect(again[1].knots).toEqual(hole.knots);
  undo();
  expect(scene().lines[before]).toEqual(ring);
  undo();
  expect(scene().lines).toHaveLength(before);
});

test("what is bent over a crease goes over to a smoothed copy with all that is pinned; copies of each other are none", () => {
  makeSurface("box", [0, 0, 0]);
  const box = last();
  const peg = { on: box.id, point: [1.8, 3, 0] as const, prop: "buoy", size: 2, turn: 0.5, added: true };
  const crest = dressingSchema.parse({
    id: "crest",
    name: "Crest",
    where: { kind: "pinned", surfaces: [box.id] },
    what: { entries: [{ prop: "buoy" }] },
    stance: { up: "normal" },
    fit: { bend: true },
    pegs: { [hexOf(addedKey(1))]: peg },
  });
  useSceneStore.getState().change("Crest", (draft) => void draft.dressings.push(crest as never));
  const evaluated = () => new Engine().evaluate(scene()).find(({ id }) => id === "crest")!;
  const creased = () => evaluated().findings.find(({ check }) => check === "bent-badly");
  const finding = creased()!;
  expect([finding.mend, finding.orElse]).toEqual(["stiff", "smooth"]);
  mendFinding(finding, "smooth");
  const copy = last();
  expect(copy).toMatchObject({ name: "Box, smoothed", made: { kind: "smoothed", of: box.id }, position: box.position });
  expect(scene().surfaces.find(({ id }) => id === box.id)!.hidden).toBe(true);
  const { where, pegs } = scene().dressings.find(({ id }) => id === "crest")!;
  expect([where.surfaces, pegs]).toEqual([[copy.id], { [hexOf(addedKey(1))]: { ...peg, on: copy.id } }]);
  expect([evaluated().placements.count, creased()]).toEqual([1, undefined]);
  mendFinding(finding, "smooth");
  expect(made<Smoothed>(copy.id).rounds).toBe(4);
  undo();
  undo();
  expect([scene().surfaces.at(-1)!.id, scene().surfaces.at(-1)!.hidden]).toEqual([box.id, false]);

  selectSurface(box.id);
  makeSurface("smoothed", [0, 0, 0]);
  const one = last().id;
  selectSurface(one);
  makeSurface("smoothed", [0, 0, 0]);
  const engine = new Engine();
  engine.evaluate(scene());
  expect(engine.made.get(last().id)!.index).toHaveLength(36 * 16 * 16);
  remakeOf(one, "Circle", (draft) => void ((draft as Smoothed).of = last().id));
  engine.evaluate(scene());
  expect([one, last().id].map((id) => engine.made.get(id))).toEqual([undefined, undefined]);
  deleteSurface(one);
  expect(made<Smoothed>(last().id).of).toBeNull();
  // Copies of copies go so deep and no deeper.
  const [first] = scene().surfaces.slice(-1);
  const deep = Array.from({ length: 60 }, (_, k) => ({ ...first, id: `deep${k}`, made: { kind: "smoothed", of: k === 0 ? box.id : `deep${k - 1}`, rounds: 1, keep: 0 } })); // prettier-ignore
  useSceneStore.getState().change("Deep", (draft) => void draft.surfaces.push(...(deep.slice(0, 3) as never[])));
  const far = new Engine();
  far.evaluate({ ...scene(), surfaces: [...scene().surfaces, ...(deep.slice(3) as never[])] });
  expect([far.made.has("deep2"), far.made.has("deep59")]).toEqual([true, false]);
});
