import { Matrix4, Quaternion, Ray, Vector3 } from "three";
import fc from "fast-check";
import { makeLine } from "@/core/line/testing";
import { FLAG } from "@/core/place";
import { BOUNDS, pegsOn, place } from "@/core/place/testing";
import { propSchema } from "@/core/scene";
import { shareOut } from "./budget";
import { boxAround, instancesOf, isShown, membersOf, nearestOf, pick, writeMatrix } from "./placed";

const everything = {
  what: { entries: [{ prop: "buoy" }, { prop: "oar" }] },
  spacing: { distance: 1.7 },
  stance: { up: "line" as const, turnAlong: 0.3 },
  variation: { turnOn: true, sizeOn: true, positionOn: true },
  gaps: { chance: 0.3 },
};
const coordinate = fc.double({ min: -20, max: 20, noNaN: true });

/** Slanted, and far from the world's origin. */
const far = () =>
  makeLine({
    kind: "polyline",
    knots: [
      [1e6, 20, -5e5],
      [1e6 + 12, 29, -5e5 + 20],
    ],
  });

test("a placement's matrix turns, sizes and moves as its quaternion, scale and position say", () => {
  const p = place(everything, [far()]);
  const numbers = new Float32Array(16);
  for (let i = 0; i < p.count; i++) {
    writeMatrix(p, i, numbers, 0);
    const expected = new Matrix4().compose(
      new Vector3().fromArray(p.position, 3 * i),
      new Quaternion().fromArray(p.rotation, 4 * i),
      new Vector3().fromArray(p.scale, 3 * i),
    );
    expected.elements.forEach((value, k) => expect(numbers[k]).toBeCloseTo(value, 5));
  }
});

test("each prop has a matrix for every placement that is shown, blanks have none; mirrored and bent ones stand apart", () => {
  for (const more of [
    {},
    { variation: { ...everything.variation, mirror: 0.4, tintOn: true } },
    { fit: { bend: true } },
  ]) {
    const p = place({ ...everything, ...more }, [far()]);
    const shown = Array.from({ length: p.count }, (_, i) => i).filter((i) => isShown(p, i));
    expect(shown.length).toBeLessThan(p.count);
    const members = membersOf(p);
    const all = members.flatMap(({ plain, mirrored, shaped }) => [...plain, ...mirrored, ...shaped]);
    expect(all.sort((a, b) => a - b)).toEqual(shown);
    members.forEach(({ plain, mirrored, shaped }, prop) => {
      expect([...plain, ...mirrored, ...shaped].every((i) => p.prop[i] === prop)).toBe(true);
      expect(mirrored.every((i) => p.flags[i] & FLAG.mirrored)).toBe(true);
      expect(shaped.every((i) => p.shapes!.entry[i] >= 0)).toBe(true);
      const { matrices, colours } = instancesOf(p, plain);
      plain.forEach((i, k) => expect(matrices[16 * k + 12]).toBe(p.position[3 * i]));
      expect(colours?.length ?? 3 * plain.length).toBe(3 * plain.length);
    });
  }
});

test("what can be drawn is shared out in order: full first, then boxes, and what is left is told", () => {
  const prop = (id: string) =>
    propSchema.parse({ id, name: id, asset: "0".repeat(64), bounds: BOUNDS.get("buoy"), triangles: 100 });
  const result = (id: string, count: number) => ({
    id,
    findings: [],
    placements: place({ spacing: { by: "count" as const, count } }),
  });
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
    expect(pick(p, BOUNDS, ray)).toMatchObject({ index: i });
    expect(pick(p, BOUNDS, ray)!.distance).toBeCloseTo(7.8, 4);
  }
  const along = new Ray(new Vector3(-5, 0.5, 0), new Vector3(1, 0, 0));
  expect(pick(p, BOUNDS, along)!.index).toBe(0);
  const back = new Ray(new Vector3(50, 0.5, 0), new Vector3(-1, 0, 0));
  expect(pick(p, BOUNDS, back)!.index).toBe(p.count - 1);
  expect(pick(p, BOUNDS, new Ray(new Vector3(0, 5, 0), new Vector3(0, 1, 0)))).toBeNull();
});

test("a blank is not picked: the ray goes on to what stands behind it", () => {
  const p = place({ spacing: { distance: 1 }, pegs: pegsOn({ slot: 0, removed: true }) });
  expect(pick(p, BOUNDS, new Ray(new Vector3(-5, 0.5, 0), new Vector3(1, 0, 0)))!.index).toBe(1);
});

test("the box around placements holds the corners of their props and no more", () => {
  const p = place({ spacing: { by: "count", count: 3 } });
  const box = boxAround(p, BOUNDS, () => true);
  expect(box.min.toArray().map((x) => Number(x.toFixed(4)))).toEqual([-0.2, 0, -0.2]);
  expect(box.max.toArray().map((x) => Number(x.toFixed(4)))).toEqual([10.2, 1, 0.2]);
  const one = boxAround(p, BOUNDS, (i) => i === 1);
  expect(one.min.x).toBeCloseTo(4.8, 4);
  expect(boxAround(p, BOUNDS, () => false).isEmpty()).toBe(true);
});

test("of many the nearest are drawn in full: as many as may be, none of the others nearer, and nobody lost", () => {
  fc.assert(
    fc.property(fc.nat(40), fc.tuple(coordinate, coordinate, coordinate), (most, eye) => {
      const p = place({ spacing: { distance: 0.4 }, fit: { rows: 2, rowDistance: 1 } });
      const members = Array.from({ length: p.count }, (_, i) => i);
      const [near, far] = nearestOf(p, members, eye, most);
      expect(near.length).toBe(Math.min(most, p.count));
      expect([...near, ...far].sort((a, b) => a - b)).toEqual(members);
      const away = (i: number) => Math.hypot(...[0, 1, 2].map((k) => p.origin[k] + p.position[3 * i + k] - eye[k]));
      const farthest = Math.max(...near.map(away), 0);
      for (const i of far) expect(away(i)).toBeGreaterThanOrEqual(farthest - 1e-6);
    }),
  );
});
