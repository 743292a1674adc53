/** Families of lines and snap points of props, through their life: made, changed, copied, taken apart, deleted; and what names them. */
import { hexOf, lineKey, type Dressing } from "@/core/place";
import { memberId, memberNumber, type Between, type Members } from "@/core/line";
import { sceneSchema, snapPointsOf, type Prop } from "@/core/scene";
import { Engine } from "@/engine/engine";
import { useFamilies } from "../families";
import {
  addFamily,
  addPairs,
  addSnap,
  copySnaps,
  deleteDressing,
  deleteKnots,
  deleteLine,
  deleteSnap,
  duplicateLine,
  editDressing,
  loosenFamily,
  mirrorSnap,
  renameSnap,
  setTurn,
  snapComplaint,
  suitingPairs,
  tieKnot,
  unhook,
} from ".";
import { laidOut, scene, startInHarbour } from "./testing";

beforeEach(startInHarbour);

const family = (id: string): Between => scene().lines.find((line) => line.id === id) as Between;
const prop = (id: string): Prop => scene().props.find((one) => one.id === id)!;
const dressing = (id: string): Dressing => scene().dressings.find((one) => one.id === id)!;
const end = (x: number) => ({ position: [x, 1, 0] as const, held: null });

/** Works out what families come to, as the worker would tell. */
function told(): Members {
  const engine = new Engine();
  engine.take(scene());
  useFamilies.setState({ families: engine.families });
  return [...engine.families.values()].at(-1)!;
}

test("a new family goes between what is in focus: a line's divisions, the snap points of a dressing, or what is picked", () => {
  expect(suitingPairs({ line: "jetty", dressing: null })).toEqual({ pairs: "along", lines: ["jetty"] });
  expect(suitingPairs({ line: "quay", dressing: null })).toEqual({ pairs: "across", lines: ["quay", "jetty"] });
  expect(suitingPairs({ line: null, dressing: "buoys" })).toEqual({ pairs: "snaps", dressing: "buoys", snap: "top" });
  addSnap("buoy", { name: "ring", position: [0, 1, 0], direction: [0, 1, 0] });
  expect(suitingPairs({ line: null, dressing: "buoys" })).toMatchObject({ snap: "ring" });
  const id = addFamily(suitingPairs({ line: null, dressing: "buoys" }));
  expect(told().lines.length).toBeGreaterThan(3);
  expect(family(id)).toMatchObject({ kind: "between", name: "Lines between 1" });
  expect(sceneSchema.safeParse(scene()).success).toBe(true);
});

test("picked places come and go two by two, whatever is selected of them", () => {
  const id = addFamily({ pairs: "picked" }, [end(0), end(1)]);
  addPairs(id, [end(2), end(3), end(4)]);
  expect(family(id).knots.map(({ position }) => position[0])).toEqual([0, 1, 2, 3]);
  addPairs(id, [end(5), end(6)]);
  deleteKnots(id, [3]);
  expect(family(id).knots.map(({ position }) => position[0])).toEqual([0, 1, 5, 6]);
  expect(new Set(family(id).knots.map((knot) => knot.id)).size).toBe(4);
  expect(told().lines).toHaveLength(2);
  deleteKnots(id, [0, 2]);
  expect(family(id).knots).toHaveLength(0);
});

test("pegs and open stretches go along with members: onto a copy, onto lines of their own, and away with the family", () => {
  const id = addFamily({ pairs: "snaps", dressing: "buoys", snap: "top" });
  const [first] = told().lines;
  const pair = first.id.slice(id.length + 1);
  editDressing("oars", "Onto the family", (draft) => {
    draft.where.lines = [id];
    draft.gaps.stretches = [{ line: first.id, from: 0.2, to: 0.4 }];
    draft.pegs = { [hexOf(lineKey(first.number, 1))]: { on: first.id, at: 0.3 } };
  });
  const before = scene();
  duplicateLine(id);
  const copy = scene().lines.find((line) => line.kind === "between" && line.id !== id)!;
  expect(dressing("oars").pegs[hexOf(lineKey(memberNumber(copy.number, pair), 1))]).toEqual({ on: memberId(copy.id, pair), at: 0.3 }); // prettier-ignore
  deleteLine(copy.id);
  expect(Object.keys(dressing("oars").pegs)).toHaveLength(1);

  laidOut(before);
  const { lines } = told();
  loosenFamily(id);
  const own = scene().lines.slice(-lines.length);
  expect(own.map(({ kind, name }) => [kind, name])).toEqual(lines.map((_, i) => ["polyline", `Lines between 1 ${i + 1}`])); // prettier-ignore
  expect(dressing("oars").where.lines).toEqual(own.map((line) => line.id));
  expect(dressing("oars").gaps.stretches).toEqual([{ line: own[0].id, from: 0.2, to: 0.4 }]);
  expect(dressing("oars").pegs).toEqual({ [hexOf(lineKey(own[0].number, 1))]: { on: own[0].id, at: 0.3 } });

  laidOut(before);
  deleteLine(id);
  expect([dressing("oars").pegs, dressing("oars").gaps.stretches]).toEqual([{}, []]);
});

test("what a family goes between may be deleted: it is there still, and between nothing", () => {
  const along = addFamily({ pairs: "along", lines: ["jetty", "quay"], parts: 3 });
  const snaps = addFamily({ pairs: "snaps", dressing: "buoys" });
  deleteLine("jetty");
  deleteDressing("buoys");
  expect(family(along).lines).toEqual(["quay"]);
  expect(family(snaps).dressing).toBeNull();
  expect(told().lines).toHaveLength(0);
});

test("a snap point is added under a free name, mirrored, copied to props that have none such, renamed wherever it is named", () => {
  addSnap("buoy", { name: "eye", position: [0.1, 0.4, 0], direction: [0, 0, -3] });
  addSnap("buoy", { name: "eye", position: [0, 0.2, 0], direction: [0, 0, 0] });
  expect(prop("buoy").prepared.snaps.map(({ name, direction }) => [name, direction])).toEqual([
    ["eye", [0, 0, -1]],
    ["eye 2", [0, 1, 0]],
  ]);
  mirrorSnap(prop("buoy"), 0);
  const { min, max } = prop("buoy").bounds;
  expect(prop("buoy").prepared.snaps[2].position[0]).toBeCloseTo(min[0] + max[0] - 0.1, 9);
  deleteSnap("buoy", 1);
  copySnaps(prop("buoy"), ["oar"]);
  copySnaps(prop("buoy"), ["oar"]);
  expect(prop("oar").prepared.snaps.map(({ name }) => name)).toEqual(["eye", "eye 3"]);

  const id = addFamily({ pairs: "snaps", dressing: "buoys", snap: "eye 3", toSnap: "eye" });
  expect(renameSnap("buoy", 0, "eye 3")).toBe(false);
  expect(renameSnap("buoy", 0, "ring")).toBe(true);
  // Another prop has one of the old name still.
  expect(family(id).toSnap).toBe("eye");
  deleteSnap("oar", 1);
  renameSnap("buoy", 2, "other ring");
  expect(family(id).snap).toBe("other ring");
  expect(snapPointsOf(prop("buoy")).filter(({ own }) => own).map(({ name }) => name)).toEqual(["ring", "other ring"]); // prettier-ignore
  expect(snapComplaint({ direction: [0, 0, 0] })).toMatch(/points somewhere/);
  expect(snapComplaint({ position: [1e9, 0, 0] })).not.toBeNull();
  expect(sceneSchema.safeParse(scene()).success).toBe(true);
});

test("a knot pulled off what it was caught on is free; one that a thing holds as a whole stays held", () => {
  const stood = { position: [0, 0, 0], rotation: [0, 0, 0, 1] } as const;
  const caught = { kind: "placement", dressing: "buoys", key: "1", snap: "top", stood } as const;
  const knot = { id: 0, position: [0, 0, 0] } as unknown as Parameters<typeof tieKnot>[0];
  tieKnot(knot, caught);
  expect(knot.held).toEqual(caught);
  tieKnot(knot, null);
  expect(knot.held).toBeUndefined();
  tieKnot(knot, { kind: "line", line: "quay", at: { by: "end", number: 0 }, stood });
  tieKnot(knot, null);
  expect(knot.held).toBeUndefined();
  const whole = { kind: "placement", dressing: "buoys", key: "1", stood } as const;
  tieKnot(knot, whole);
  tieKnot(knot, null);
  expect(knot.held).toEqual(whole);
});

test("what hangs is turned about what it hangs on, and can be unhooked", () => {
  const key = 1n;
  editDressing("buoys", "Loose", (draft) => {
    draft.where.kind = "loose";
    const hangs = { by: "top", at: [0, 2, 0], turned: [0, 0, 0, 1], turn: 0, free: true } as const;
    draft.pegs = { [hexOf(key)]: { on: "loose", point: [0, 1, 0], prop: "buoy", added: true, hangs: structuredClone(hangs) as never } }; // prettier-ignore
    setTurn(draft.pegs[hexOf(key)], 0.5);
  });
  const peg = () => dressing("buoys").pegs[hexOf(key)];
  expect([peg().turn, peg().hangs!.turn]).toEqual([undefined, expect.closeTo(0.5, 3)]);
  unhook("buoys", [key]);
  expect(peg().hangs).toBeUndefined();
});
