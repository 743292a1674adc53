import fc from "fast-check";
import { BOUNDS, evaluate, dressing, straight, surroundings } from "@/core/place/testing";
import { drawnOf, type Drawn, type Placements } from "@/core/place";
import { levelsOf, type Range, type Sight } from "./levels";
import { chunksOf } from "./placed";

const row = (count: number): { placements: Placements; drawn: Drawn } => {
  const placements = evaluate(
    dressing({ spacing: { by: "count", count } }, [straight(100)]),
    surroundings([straight(100)]),
  );
  return { placements, drawn: drawnOf(placements, (id) => BOUNDS.get(id)) };
};

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

const membersOf = (drawn: Drawn, ranges: readonly Range[]): number[] =>
  ranges.flatMap(({ from, to }) => Array.from(drawn.order.subarray(from, to)));

test("whatever is asked for, each is drawn once and no more than there is room for", () => {
  const { drawn } = row(3000);
  const chunks = chunksOf(drawn, 0);
  expect(chunks.length).toBeGreaterThan(2);
  const counts = fc.integer({ min: 0, max: 3500 });
  fc.assert(
    fc.property(
      fc.constantFrom("full", "auto", "boxes", "points"),
      counts,
      counts,
      fc.boolean(),
      fc.boolean(),
      fc.integer({ min: -50, max: 150 }),
      fc.constantFrom(5000, 20),
      (display, full, light, hasFull, hasLight, x, boxes) => {
        const share = { full, light: hasLight ? light : 0, boxes };
        const levels = levelsOf(drawn, chunks, sight({ display, share, hasFull, hasLight, eye: [x, 2, 5] }));
        const each = Object.values(levels).map((ranges: Range[]) => membersOf(drawn, ranges));
        expect(each.flat().sort((a, b) => a - b)).toEqual(Array.from({ length: 3000 }, (_, i) => i));
        const [, inFull, lightly, asBoxes, asPoints] = each.map(({ length }) => length);
        expect(inFull).toBeLessThanOrEqual(hasFull ? full : 0);
        expect(lightly).toBeLessThanOrEqual(share.light);
        if (display === "boxes" && boxes === 5000) expect(asBoxes).toBe(3000);
        if (display === "full" && hasFull) expect(inFull).toBe(Math.min(full, 3000));
        expect(asBoxes).toBeLessThanOrEqual(boxes + share.full + share.light);
        if (display === "points") expect(asPoints).toBe(3000);
      },
    ),
  );
});

test("in auto what is near is drawn in full, farther off as boxes or lightly, and farthest as points", () => {
  const { placements, drawn } = row(20_000);
  const eye = [-placements.origin[0] - 1, 0, 0] as const;
  const levels = levelsOf(drawn, chunksOf(drawn, 0), sight({ display: "auto", eye, extent: 0.2, pixels: 800 }));
  const [full, boxes, points] = [levels.full, levels.boxes, levels.points].map((some) =>
    membersOf(drawn, some).map((i) => placements.position[3 * i]),
  );
  expect(Math.min(full.length, boxes.length, points.length)).toBeGreaterThan(100);
  expect(Math.max(...full)).toBeLessThanOrEqual(Math.min(...boxes));
  expect(Math.max(...boxes)).toBeLessThanOrEqual(Math.min(...points));
});

test("the nearest are drawn in full, as many as there is room for", () => {
  const { placements, drawn } = row(20_000);
  const eye = [0, 0, 0] as const;
  const share = { full: 5000, light: 0, boxes: 1e6 };
  const { full } = levelsOf(drawn, chunksOf(drawn, 0), sight({ share, eye }));
  const far = membersOf(drawn, full).map((i) => Math.abs(placements.position[3 * i]));
  expect(far).toHaveLength(5000);
  // They stand on 25 m from it on, and chunks are 5 m long.
  expect(Math.max(...far)).toBeLessThan(25 + 5.1);
});
