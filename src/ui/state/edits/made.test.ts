/** What is made of lines, surfaces and dressings keeps to them: copied, parted, deleted, brought again; and undone in one step. */
import { readSvg, type DrawingPlace } from "@/core/files";
import type { Solid, Tube } from "@/core/made";
import { surfaceSchema } from "@/core/scene";
import { useSceneStore } from "@/store/scene-store";
import {
  bringDrawing,
  deleteDressing,
  deleteLine,
  deleteSurface,
  duplicateLine,
  holesOf,
  makeSurface,
  placeOfDrawing,
  remakeOf,
  splitLine,
} from ".";
import { selectLine, selectSurface } from "../session";
import { scene, startInHarbour } from "./testing";

jest.mock("sonner", () => ({
  toast: Object.assign(() => undefined, { error: () => undefined, success: () => undefined }),
}));

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
