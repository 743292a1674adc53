import fc from "fast-check";
import { evaluate, dressing, straight, surroundings } from "@/core/place/testing";
import { type Placements } from "@/core/place";
import { levelsOf, regionsOf, type Sight } from "./levels";
import { membersOf } from "./placed";

const row = (count: number): Placements =>
  evaluate(dressing({ spacing: { by: "count", count } }, [straight(100)]), surroundings([straight(100)]));

const sight = (extra: Partial<Sight> = {}): Sight => ({
  display: "full",
  share: { full: 1e6, light: 0, boxes: 1e6 },
  hasFull: true,
  hasLight: false,
  eye: [0, 0, 0],
  extent: 1,
  pixels: 800,
  ...extra,
});

const all = (levels: ReturnType<typeof levelsOf>): number[] => Object.values(levels).flat() as number[];

test("whatever is asked for, each is drawn once and no more than there is room for", () => {
  const placements = row(200);
  const [members] = membersOf(placements);
  const counts = fc.integer({ min: 0, max: 250 });
  fc.assert(
    fc.property(
      fc.constantFrom("full", "auto", "boxes", "points"),
      counts,
      counts,
      fc.boolean(),
      fc.boolean(),
      fc.integer({ min: -50, max: 150 }),
      fc.constantFrom(1000, 20),
      (display, full, light, hasFull, hasLight, x, boxes) => {
        const share = { full, light: hasLight ? light : 0, boxes };
        const levels = levelsOf(placements, members, sight({ display, share, hasFull, hasLight, eye: [x, 2, 5] }));
        expect(all(levels).sort((a, b) => a - b)).toEqual(Array.from({ length: 200 }, (_, i) => i));
        expect(levels.full.length).toBeLessThanOrEqual(hasFull ? full : 0);
        expect(levels.light.length).toBeLessThanOrEqual(share.light);
        if (display === "boxes" && boxes === 1000) expect(levels.boxes).toHaveLength(200);
        expect(levels.boxes.length).toBeLessThanOrEqual(boxes + share.full + share.light);
        if (display === "points") expect(levels.points).toHaveLength(200);
      },
    ),
  );
});

test("in auto what is near is drawn in full, farther off as boxes or lightly, and farthest as points", () => {
  const placements = row(100);
  const [members] = membersOf(placements);
  const far = (i: number) => placements.origin[0] + placements.position[3 * i];
  const levels = levelsOf(placements, members, sight({ display: "auto", extent: 0.2, pixels: 400 }));
  const [full, boxes, points] = [levels.full, levels.boxes, levels.points].map((some) => some.map(far));
  expect(Math.min(full.length, boxes.length, points.length)).toBeGreaterThan(3);
  expect(Math.max(...full)).toBeLessThan(Math.min(...boxes));
  expect(Math.max(...boxes)).toBeLessThan(Math.min(...points));
});

test("regions have each placement once, and hold together", () => {
  const placements = row(20_000);
  const [{ plain }] = membersOf(placements);
  const regions = regionsOf(placements, plain);
  expect(regions.flat().sort((a, b) => a - b)).toEqual(plain);
  expect(regions.length).toBeGreaterThan(2);
  for (const region of regions) {
    const at = region.map((i) => placements.position[3 * i]);
    expect(Math.max(...at) - Math.min(...at)).toBeLessThan(60);
  }
  expect(regionsOf(placements, plain.slice(0, 100))).toHaveLength(1);
});
