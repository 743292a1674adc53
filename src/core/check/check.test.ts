import { makeLine } from "../line/testing";
import { dressing, straight, surroundings } from "../place/testing";
import { evaluate } from "../place";
import { findings } from ".";
import type { Line } from "../line";

function found(input: Parameters<typeof dressing>[0], lines: Line[] = [straight(10)]) {
  const dressed = dressing(input, lines);
  return findings({ dressing: dressed, placements: evaluate(dressed, surroundings(lines)), lineName: () => "Quay" });
}

test("props with room between them are not too close; props nearer than their footprint are, by the right amount", () => {
  expect(found({ spacing: { distance: 0.5, remainder: "end" } })).toEqual([]);
  expect(found({ spacing: { distance: 0.4, remainder: "end" } })).toEqual([]);
  const [finding] = found({ spacing: { distance: 0.3, remainder: "end" } });
  expect(finding.check).toBe("too-close");
  expect(finding.worst).toBeCloseTo(0.1, 4);
  expect(finding.count).toBe(34);
  expect(finding.message).toContain("Quay");
});

test("the footprint follows the prop's turn and is not symmetric where the prop is not", () => {
  const oars = { what: { entries: [{ prop: "oar" }] } };
  expect(found({ ...oars, spacing: { distance: 1, remainder: "end" } })).toHaveLength(1);
  expect(found({ ...oars, spacing: { distance: 1, remainder: "end" }, stance: { turnUp: Math.PI / 2 } })).toEqual([]);
});

test("one pair pushed together by hand is one finding that names both, and a blank between them hides nothing", () => {
  const [one, ...none] = found({ spacing: { distance: 1 }, pegs: [{ line: "line", slot: 3, at: 4.2 }] });
  expect(none).toEqual([]);
  expect(one.keys).toHaveLength(2);
  const removed = [
    { line: "line", slot: 4, removed: true },
    { line: "line", slot: 3, at: 4.9 },
  ];
  expect(found({ spacing: { distance: 1 }, pegs: removed })[0].count).toBe(2);
});

test("on a closed line the last is a neighbour of the first", () => {
  const ring = makeLine({
    kind: "polyline",
    knots: [
      [0, 0, 0],
      [1, 0, 0],
      [1, 0, 1],
      [0, 0, 1],
    ],
    closed: true,
  });
  expect(found({ spacing: { by: "count", count: 8 } }, [ring])).toEqual([]);
  expect(found({ spacing: { distance: 0.95, remainder: "end" } }, [ring])).toEqual([]);
  expect(
    found({ spacing: { by: "count", count: 4 }, pegs: [{ line: "line", slot: 0, at: 3.3 }] }, [ring])[0].count,
  ).toBe(2);
});

test("a line on which nothing fits is told, with its length; so is one that asks for too many", () => {
  const short = found({ spacing: { fromStart: 0.7, fromEnd: 0.6 } }, [straight(1.2)]);
  expect(short.map((finding) => finding.check)).toEqual(["line-too-short"]);
  expect(short[0].message).toBe("No slot fits on Quay: it is 1.20 m long and 1.30 m of it stay free.");
  expect(found({}, [straight(0)])[0].check).toBe("line-too-short");
  const many = found({ what: { entries: [] }, spacing: { distance: 0.0001 } }, [straight(100)]);
  expect(many.map((finding) => finding.check)).toEqual(["too-many"]);
});
