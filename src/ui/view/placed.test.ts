import { Ray, Vector3 } from "three";
import fc from "fast-check";
import { drawnOf, type Placements } from "@/core/place";
import { BOUNDS, pegsOn, place } from "@/core/place/testing";
import { propSchema } from "@/core/scene";
import { shareOut } from "./budget";
import { boxAround, boxAroundAll, pick } from "./placed";

const drawn = (p: Placements) => drawnOf(p, (id) => BOUNDS.get(id));

test("what can be drawn is shared out in order: full first, then boxes, and what is left is told", () => {
  const prop = (id: string) =>
    propSchema.parse({ id, name: id, asset: "0".repeat(64), bounds: BOUNDS.get("buoy"), triangles: 100 });
  const result = (id: string, count: number) => {
    const placements = place({ spacing: { by: "count" as const, count } });
    return { id, findings: [], apart: null, placements, drawn: drawn(placements) };
  };
  const results = [result("a", 10), result("b", 20)];
  const props = [prop("buoy"), prop("oar")];
  const least = fc.property(fc.nat(4000), fc.nat(40), (triangles, boxes) => {
    const budget = shareOut(results, props, { triangles, boxes });
    expect(budget).toMatchObject({ count: 30, triangles: 3000, full: Math.min(30, Math.floor(triangles / 100)) });
    expect(budget.boxes).toBe(Math.min(30 - budget.full, boxes));
    const [first] = budget.shares.get("a")!;
    expect(first.full).toBe(Math.min(10, budget.full));
  });
  fc.assert(least);
});

test("a ray straight at a placement's middle picks it, the nearer of two in a row, and nothing where there is nothing", () => {
  const p = place({ spacing: { distance: 1 }, what: { entries: [{ prop: "buoy" }] } });
  for (let i = 0; i < p.count; i++) {
    const middle = new Vector3(p.origin[0] + p.position[3 * i], 0.5, p.origin[2] + p.position[3 * i + 2]);
    const ray = new Ray(middle.clone().add(new Vector3(0, 0, 8)), new Vector3(0, 0, -1));
    expect(pick(p, drawn(p), BOUNDS, ray)).toMatchObject({ index: i });
    expect(pick(p, drawn(p), BOUNDS, ray)!.distance).toBeCloseTo(7.8, 4);
  }
  const along = new Ray(new Vector3(-5, 0.5, 0), new Vector3(1, 0, 0));
  expect(pick(p, drawn(p), BOUNDS, along)!.index).toBe(0);
  const back = new Ray(new Vector3(50, 0.5, 0), new Vector3(-1, 0, 0));
  expect(pick(p, drawn(p), BOUNDS, back)!.index).toBe(p.count - 1);
  expect(pick(p, drawn(p), BOUNDS, new Ray(new Vector3(0, 5, 0), new Vector3(0, 1, 0)))).toBeNull();
});

test("a blank is not picked: the ray goes on to what stands behind it", () => {
  const p = place({ spacing: { distance: 1 }, pegs: pegsOn({ slot: 0, removed: true }) });
  expect(pick(p, drawn(p), BOUNDS, new Ray(new Vector3(-5, 0.5, 0), new Vector3(1, 0, 0)))!.index).toBe(1);
});

test("the box around placements holds the corners of their props and no more", () => {
  const p = place({ spacing: { by: "count", count: 3 } });
  const box = boxAroundAll(p, drawn(p));
  expect(box.min.toArray().map((x) => Number(x.toFixed(3)) + 0)).toEqual([-0.2, 0, -0.2]);
  expect(
    boxAround(p, BOUNDS, [0, 1, 2])
      .min.toArray()
      .map((x) => Number(x.toFixed(3)) + 0),
  ).toEqual([-0.2, 0, -0.2]);
  expect(box.max.toArray().map((x) => Number(x.toFixed(3)) + 0)).toEqual([10.2, 1, 0.2]);
  const one = boxAround(p, BOUNDS, [1]);
  expect(one.min.x).toBeCloseTo(4.8, 4);
  expect(boxAround(p, BOUNDS, []).isEmpty()).toBe(true);
});
