/** Meshes laid flat: what can be without stretch is, nothing turns over, and what is cut is cut as little as that takes. */
import fc from "fast-check";
import { unroll, type Unrolled } from ".";
import { areasOf } from "../facets";
import { evenly } from "../../math/testing";
import { FREE, freeMesh, lattice, round, TURN } from "./testing";
import { offBeside, triangleStretch } from "../stretch";

/** By how many times lengths are off, beside a share of the area. */
function off({ index: laid, places }: Unrolled, position: Float64Array, index: Uint32Array, share: number): number {
  const flat = Float64Array.from({ length: (3 * places.length) / 2 }, (_, c) => (c % 3 === 1 ? 0 : places[2 * Math.floor(c / 3) + (c % 3 === 2 ? 1 : 0)])); // prettier-ignore
  return offBeside(triangleStretch({ position, index }, laid, flat), areasOf({ position, index }), share);
}

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
          expect(off(flat, position, index, 0) - 1).toBeLessThan(1e-4);
          // Columns are chords of the round; the seam runs straight up one of them.
          expect(Math.abs(flat.seams - seams)).toBeLessThan(1e-9 + 1e-6 * seams);
        }
      },
    ),
    { numRuns: 40 },
  );
});

test("a tube that is cut off aslant is opened where it is shortest; a share of the area may be off by more than is said", () => {
  for (const [rows, high] of [
    [4, 1],
    [9, 2.5],
  ]) {
    // prettier-ignore
    const [position, index] = lattice(rows, 6 * rows, (u, v) => round(u, 0.5, high * v * (1 + 0.6 * Math.cos(TURN * u))), true); // prettier-ignore
    expect(unroll(position, index)!.seams).toBeCloseTo(0.4 * high, 6);
  }
  expect([0, 0.01, 0.03, 0.5, 1].map((share) => offBeside([1.5, 1, 3, 2], [2, 95, 1, 2], share))).toEqual([
    3, 2, 1.5, 1, 1,
  ]);
});

test("what bends both ways is laid without turning over, a ball along one cut, and said how much it is stretched", () => {
  const ball = lattice(20, 40, (u, v) => { const p = 1e-3 + v * (Math.PI - 2e-3); return round(u, Math.sin(p), Math.cos(p)); }, true); // prettier-ignore
  const ring = lattice(16, 30, (u, v) => round(u, 2 + 0.5 * Math.cos(TURN * v), 0.5 * Math.sin(TURN * v)), true);
  const free = Object.keys(FREE).map((name) => [freeMesh(name, 3000), 1.3] as const);
  for (const [[position, index], most] of [...free, [ball, 1.6] as const, [ring, 1.6] as const]) {
    const flat = unroll(position, index)!;
    const area = areasOf({ position, index });
    expect([flat.parts, flat.flipped]).toEqual([1, 0]);
    expect(off(flat, position, index, 0.01)).toBeLessThan(most);
    const twice = flatAreas(flat);
    // They all face outwards, and show that side.
    twice.forEach((own, t) => expect(own > 0 || area[t] < 1e-9).toBe(true));
  }
});

test("level ground has north at the top and east on the right, as a map; what stands has its top there", () => {
  for (const slope of [0, 0.2, -0.2]) {
    const [position, index] = lattice(8, 12, (u, v) => [12 * u, slope * 12 * u + 0.2 * Math.sin(9 * v), 8 * v]);
    const { index: laid, places } = unroll(position, index)!;
    index.forEach((a, k) => {
      const b = index[k % 3 === 2 ? k - 2 : k + 1];
      const [from, to] = [2 * laid[k], 2 * laid[k % 3 === 2 ? k - 2 : k + 1]];
      for (const [axis, on] of [
        [0, 0],
        [2, 1],
      ]) {
        // prettier-ignore
        const way = position[3 * b + axis] - position[3 * a + axis];
        if (Math.abs(way) > 0.9) expect(Math.sign(places[to + on] - places[from + on])).toBe(Math.sign(way));
      }
    });
  }
});

test("a box comes apart at its edges, standing sides upright; what is closed with no edge, torn or without area breaks nothing", () => {
  const corners = Float64Array.from({ length: 24 }, (_, c) => (Math.floor(c / 3) >> (c % 3)) & 1);
  const faces = [
    0, 2, 3, 0, 3, 1, 4, 5, 7, 4, 7, 6, 0, 1, 5, 0, 5, 4, 2, 6, 7, 2, 7, 3, 0, 4, 6, 0, 6, 2, 1, 3, 7, 1, 7, 5,
  ];
  const box = unroll(corners, Uint32Array.from(faces))!;
  expect([box.parts, box.flipped, box.seams]).toEqual([6, 0, 12]);
  expect(off(box, corners, Uint32Array.from(faces), 0)).toBeCloseTo(1, 6);
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

test("where it is cut by hand it is cut there, and nowhere else but where it would not lie flat", () => {
  fc.assert(
    fc.property(fc.integer({ min: 4, max: 12 }), fc.nat(30), (rows, at) => {
      const columns = 4 * rows;
      const [position, index] = lattice(rows, columns, (u, v) => round(u, 1, 2 * v), true);
      // A column from the foot to the top, by its angle.
      const angle = (v: number) => Math.round((Math.atan2(position[3 * v], position[3 * v + 2]) / TURN) * columns + columns) % columns; // prettier-ignore
      const onColumn = (v: number) => angle(v) === at % columns;
      const seams: number[] = [];
      index.forEach((a, k) => {
        const b = index[k % 3 === 2 ? k - 2 : k + 1];
        if (onColumn(a) && onColumn(b)) seams.push(a, b);
      });
      const flat = unroll(position, index, Uint32Array.from(seams))!;
      expect([flat.parts, flat.flipped]).toEqual([1, 0]);
      expect(flat.seams).toBeCloseTo(2, 6);
      expect(off(flat, position, index, 0)).toBeLessThan(1 + 1e-6);
      // Only vertices on the seam have become two.
      const laid = new Map<number, Set<number>>();
      index.forEach((v, k) => laid.set(v, (laid.get(v) ?? new Set<number>()).add(flat.index[k])));
      for (const [v, all] of laid) expect(all.size).toBe(onColumn(v) ? 2 : 1);
    }),
    { numRuns: 15 },
  );
  // What bends both ways is cut no further than that, though its lengths would gain by it.
  for (const name of ["float", "pot"]) {
    const [free, on] = freeMesh(name, 1200);
    const edge = 3 * Math.floor(on.length / 6);
    const [found, cut] = [unroll(free, on)!, unroll(free, on, on.slice(edge, edge + 2))!];
    expect([cut.parts, cut.flipped]).toEqual([1, 0]);
    expect(cut.seams).toBeLessThan(0.8 * found.seams);
  }
  const corners = Float64Array.from({ length: 24 }, (_, c) => (Math.floor(c / 3) >> (c % 3)) & 1);
  const faces = Uint32Array.of(0, 2, 3, 0, 3, 1, 4, 5, 7, 4, 7, 6, 0, 1, 5, 0, 5, 4, 2, 6, 7, 2, 7, 3, 0, 4, 6, 0, 6, 2, 1, 3, 7, 1, 7, 5); // prettier-ignore
  // A lid that hangs on one edge; and with that cut as well two parts; edges that there are none of cut nothing.
  const lid = [4, 5, 5, 7, 7, 6];
  expect([lid, [...lid, 6, 4], [0, 7]].map((seams) => unroll(corners, faces, Uint32Array.from(seams))!.parts)).toEqual([
    1, 2, 1,
  ]);
});
