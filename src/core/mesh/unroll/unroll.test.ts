/** Meshes laid flat: what can be without stretch is, nothing turns over, and what is cut is cut as little as that takes. */
import fc from "fast-check";
import { unroll, type Unrolled } from ".";
import { areasOf } from "../facets";
import { evenly } from "../../math/testing";
import { worstOf } from "./stretch";

type At = (u: number, v: number) => readonly [number, number, number];

/** A lattice of so many rows and columns; closed, its last column is its first. */
function lattice(rows: number, columns: number, at: At, closed = false): [Float64Array, Uint32Array] {
  const wide = closed ? columns : columns + 1;
  const position: number[] = [];
  for (let r = 0; r <= rows; r++) for (let c = 0; c < wide; c++) position.push(...at(c / columns, r / rows));
  const id = (r: number, c: number) => r * wide + (c % wide);
  const index: number[] = [];
  for (let r = 0; r < rows; r++) {
    for (let c = 0; c < columns; c++)
      index.push(id(r, c), id(r + 1, c), id(r + 1, c + 1), id(r, c), id(r + 1, c + 1), id(r, c + 1));
  }
  return [Float64Array.from(position), Uint32Array.from(index)];
}

const TURN = 2 * Math.PI;
const round = (u: number, radius: number, y: number) => [radius * Math.cos(TURN * u), y, -radius * Math.sin(TURN * u)] as const; // prettier-ignore

/** Twice the area that triangles have where they lie, as seen on the sheet from the front: positive as they do not turn over. */
function flatAreas({ index, places }: Unrolled): number[] {
  return Array.from({ length: index.length / 3 }, (_, t) => {
    const [a, b, c] = [0, 1, 2].map((k) => 2 * index[3 * t + k]);
    const [bx, by, cx, cy] = [places[b] - places[a], places[b + 1] - places[a + 1], places[c] - places[a], places[c + 1] - places[a + 1]]; // prettier-ignore
    // y runs downwards.
    return -(bx * cy - by * cx);
  });
}

test("planes, cylinders and cones are true to length wherever they stand, and cut by the shortest way from rim to rim", () => {
  fc.assert(
    fc.property(
      evenly(0.2, 3),
      evenly(0.3, 3),
      evenly(0, 1),
      fc.integer({ min: 3, max: 14 }),
      (r, high, taper, rows) => {
        const columns = 4 * rows;
        const side = Math.hypot(high, r * (1 - taper) * 0.9);
        for (const [at, closed, seams] of [
          [(u: number, v: number) => [3 * u, high * v, 2 * u - v] as const, false, 0],
          [(u: number, v: number) => round(u, r * (1 - 0.9 * (1 - taper) * v), high * v), true, side],
        ] as const) {
          const [position, index] = lattice(rows, columns, at, closed);
          const flat = unroll(position, index)!;
          expect([flat.parts, flat.flipped, flat.index.length]).toEqual([1, 0, index.length]);
          expect(worstOf(flat, areasOf({ position, index }), 0) - 1).toBeLessThan(1e-4);
          // Columns are chords of the round; the seam runs straight up one of them.
          expect(Math.abs(flat.seams - seams)).toBeLessThan(1e-9 + 1e-6 * seams);
        }
      },
    ),
    { numRuns: 40 },
  );
});

test("what bends both ways is laid without turning over, a ball along one cut, and said how much it is stretched", () => {
  const cases: [string, [Float64Array, Uint32Array], number][] = [
    ["hull", lattice(16, 30, (u, v) => { const b = 0.8 * (1 - (2 * Math.abs(u - 0.5)) ** 2.5); return [4 * u, -b * Math.cos(Math.PI * (v - 0.5)), b * Math.sin(Math.PI * (v - 0.5))]; }), 1.3], // prettier-ignore
    ["hills", lattice(24, 24, (u, v) => [10 * u, 0.7 * Math.sin(7 * u) * Math.cos(6 * v), 10 * v]), 1.3],
    ["pot", lattice(20, 40, (u, v) => round(u, 0.4 + 0.15 * Math.sin(5 * v), v), true), 1.3],
    ["ball", lattice(20, 40, (u, v) => { const p = 1e-3 + v * (Math.PI - 2e-3); return round(u, Math.sin(p), Math.cos(p)); }, true), 1.6], // prettier-ignore
    ["ring", lattice(16, 30, (u, v) => round(u, 2 + 0.5 * Math.cos(TURN * v), 0.5 * Math.sin(TURN * v)), true), 1.6],
  ];
  for (const [, [position, index], most] of cases) {
    const flat = unroll(position, index)!;
    const area = areasOf({ position, index });
    expect([flat.parts, flat.flipped]).toEqual([1, 0]);
    expect(worstOf(flat, area, 0.01)).toBeLessThan(most);
    const twice = flatAreas(flat);
    // They all face outwards, and show that side.
    twice.forEach((own, t) => expect(own > 0 || area[t] < 1e-9).toBe(true));
    // Each triangle's two stretches multiply to how its area changed.
    twice.forEach((own, t) => expect(Math.abs(own) / (2 * area[t])).toBeCloseTo(flat.most[t] * flat.least[t], 6));
  }
});

test("a box comes apart at its edges, standing sides upright; what is closed with no edge, torn or without area breaks nothing", () => {
  const corners = Float64Array.from({ length: 24 }, (_, c) => (Math.floor(c / 3) >> (c % 3)) & 1);
  const faces = [
    0, 2, 3, 0, 3, 1, 4, 5, 7, 4, 7, 6, 0, 1, 5, 0, 5, 4, 2, 6, 7, 2, 7, 3, 0, 4, 6, 0, 6, 2, 1, 3, 7, 1, 7, 5,
  ];
  const box = unroll(corners, Uint32Array.from(faces))!;
  expect([box.parts, box.flipped, box.seams]).toEqual([6, 0, 12]);
  expect(worstOf(box, new Float64Array(12).fill(1), 0)).toBeCloseTo(1, 6);
  // Corners above others lie above them on the sheet, where y runs downwards.
  for (let t = 4; t < 12; t++) {
    for (let k = 0; k < 3; k++) {
      const [a, b] = [3 * t + k, 3 * t + ((k + 1) % 3)];
      const height = (c: number) => corners[3 * faces[c] + 1];
      if (normalIsLevel(t)) expect(box.places[2 * box.index[a] + 1] - box.places[2 * box.index[b] + 1]).toBeCloseTo(height(b) - height(a), 6); // prettier-ignore
    }
  }
  expect(unroll(new Float64Array(9), Uint32Array.of(0, 1, 2))).toBeNull();
  expect(unroll(new Float64Array(0), new Uint32Array(0))).toBeNull();
  // Three triangles at one edge, and one without area.
  const fins = Float64Array.of(0, 0, 0, 0, 1, 0, 1, 0, 0, -1, 0, 1, 0, 0, 1, 0, 0.5, 0);
  expect(unroll(fins, Uint32Array.of(0, 1, 2, 0, 1, 3, 0, 1, 4, 0, 1, 5))!.parts).toBeGreaterThanOrEqual(3);

  function normalIsLevel(t: number): boolean {
    const y = [0, 1, 2].map((k) => corners[3 * faces[3 * t + k] + 1]);
    return new Set(y).size > 1;
  }
});
