import { handlesOf, type BezierLine } from "@/core/line";
import { makeLine } from "@/core/line/testing";
import { add } from "@/core/math";
import { handleEnds } from "./handles";
import { axisOfKey, restMoving, typedDistance, typedPlace, typeKey, useMove } from "./move-state";
import { stepOfKey } from "./key-steps";

const line = (closed: boolean) =>
  makeLine({
    kind: "bezier",
    closed,
    knots: [
      [0, 0, 0],
      [4, 0, 1],
      [6, 2, 5],
    ],
  }) as BezierLine;

test("handles stand at the ends that are drawn: an open line's first and last knot have one, a corner has none", () => {
  const open = line(false);
  expect(handleEnds(open, [0, 1, 2]).map(({ knot, side }) => `${knot} ${side}`)).toEqual([
    "0 after",
    "1 before",
    "1 after",
    "2 before",
  ]);
  expect(handleEnds(line(true), [0]).map(({ side }) => side)).toEqual(["before", "after"]);
  for (const { knot, side, position } of handleEnds(open, [1])) {
    expect(position).toEqual(add(open.knots[knot].position, handlesOf(open.knots, false, knot)[side]));
  }
  const cornered = { ...open, knots: open.knots.map((knot) => ({ ...knot, join: "corner" as const })) };
  expect(handleEnds(cornered, [0, 1, 2])).toEqual([]);
  expect(handleEnds(open, [9])).toEqual([]);
  expect(
    handleEnds(
      makeLine({
        kind: "smooth",
        knots: [
          [0, 0, 0],
          [1, 0, 0],
        ],
      }),
      [0],
    ),
  ).toEqual([]);
});

const type = (keys: Iterable<string>, places = false) => [...keys].map((key) => typeKey(key, places));

test("M and figures make a distance; Backspace takes one back, Escape all; other keys are left to others", () => {
  restMoving();
  expect(type(["2", "Backspace", "x", "Enter", "F1", "-"])).not.toContain(true);
  expect(type("m2,50")).not.toContain(false);
  expect([typedDistance(), typedPlace()]).toEqual([2.5, null]);
  type(["Backspace", "Backspace"]);
  expect([useMove.getState().typed, typedDistance()]).toEqual(["2,", 2]);
  expect(type(["x", "Enter", "-"])).not.toContain(true);
  type(["Escape"]);
  expect([useMove.getState().typing, typeKey("Escape")]).toEqual([null, false]);
  type("m0.0");
  expect(typedDistance()).toBeNull();
  restMoving();
  expect(useMove.getState().typed).toBe("");
  expect(["E", "u", "n", "x"].map(axisOfKey)).toEqual(["x", "y", "z", null]);
});

test("figures alone make a place while drawing: two on the ground, three in space, with semicolons or blanks", () => {
  const placed = (keys: string) => {
    restMoving();
    expect(type(keys, true)).not.toContain(false);
    return typedPlace();
  };
  expect(placed("3;-2")).toEqual([3, -2]);
  expect(placed("-1,5; 0.25; 7")).toEqual([-1.5, 0.25, 7]);
  expect(placed("4 5")).toEqual([4, 5]);
  expect(["3", "3;", "1;2;3;4", "1;-", "1,2,3"].map(placed)).toEqual([null, null, null, null, null]);
  expect([typedDistance(), type(["Backspace"], true)]).toEqual([null, [true]]);
  restMoving();
});

test("arrows move along the axis that lies nearest to what they point to on the screen, however the view is turned", () => {
  const of = (key: string, facing: [number, number], more = {}) =>
    stepOfKey({ key, shiftKey: false, altKey: false, ...more }, facing);
  expect(of("ArrowUp", [0.2, -0.9])).toEqual([0, 0, -0.1]);
  expect(of("ArrowRight", [0.2, -0.9])).toEqual([0.1, 0, 0]);
  expect(of("ArrowUp", [1, 0.3])).toEqual([0.1, 0, 0]);
  expect(of("ArrowRight", [1, 0.3])).toEqual([0, 0, 0.1]);
  expect(of("ArrowLeft", [0, 1], { shiftKey: true })).toEqual([1, 0, 0]);
  expect(of("PageDown", [0, 1], { altKey: true })![1]).toBeCloseTo(-0.01, 9);
  expect([of("ArrowUp", [0, 0]), of("a", [0, 1])]).toEqual([[0, 0, -0.1], null]);
});
