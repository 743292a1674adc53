import { handlesOf, type BezierLine } from "@/core/line";
import { makeLine } from "@/core/line/testing";
import { add } from "@/core/math";
import { handleEnds } from "./handles";
import { restMoving, typeDistance, typedDistance, useMove } from "./move-state";

jest.mock("sonner", () => ({ toast: Object.assign(() => undefined, { error: () => undefined }) }));

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

test("digits, a point or a comma make a distance, Backspace takes one back, other keys are left to others", () => {
  restMoving();
  expect(typedDistance()).toBeNull();
  for (const key of "2,50") expect(typeDistance(key)).toBe(true);
  expect(typedDistance()).toBe(2.5);
  typeDistance("Backspace");
  typeDistance("Backspace");
  expect([useMove.getState().typed, typedDistance()]).toEqual(["2,", 2]);
  expect(["x", "Enter", "-", "F1"].map(typeDistance)).toEqual([false, false, false, false]);
  typeDistance("Backspace");
  typeDistance("Backspace");
  expect(typeDistance("Backspace")).toBe(false);
  for (const key of "0.0") typeDistance(key);
  expect(typedDistance()).toBeNull();
  restMoving();
  expect(useMove.getState().typed).toBe("");
});
