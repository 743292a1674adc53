/** Smoothed copies: whatever is flat, turned or sized stays so; rims and kept edges stay where they are; textures go along. */
import fc from "fast-check";
import { madeMesh, madeSchema } from ".";
import { evenly } from "../math/testing";
import { areasOf, facetsOf, trianglesBeyond, weldedVertices, type TriangleMesh } from "../mesh";
import { lattice, round } from "../mesh/unroll/testing";
import { smoothed } from "./smooth";

const box = (width = 1, height = 1, depth = 1) =>
  madeMesh(madeSchema.parse({ kind: "box", width, height, depth }), new Map())!;
const plain = (position: ArrayLike<number>, index: Uint32Array): TriangleMesh => ({ position: Float32Array.from(position), index, attributes: [] }); // prettier-ignore

test("smoothed and then mapped is mapped and then smoothed, whatever is kept sharp and wherever it has rims", () => {
  const [around, index] = lattice(5, 7, (u, v) => round(u, 1 + 0.3 * Math.sin(7 * v), 2 * v), true);
  const cut = index.slice(9);
  fc.assert(
    fc.property(
      fc.array(evenly(-2, 2), { minLength: 12, maxLength: 12 }),
      fc.integer({ min: 1, max: 3 }),
      (m, rounds) => {
        const mapped = (from: ArrayLike<number>) =>
        Array.from(from, (_, c) => [0, 1, 2].reduce((sum, k) => sum + m[4 * (c % 3) + k] * from[c - (c % 3) + k], m[4 * (c % 3) + 3])); // prettier-ignore
        const after = mapped(smoothed(plain(around, cut), { rounds, keep: Math.PI }).position);
        const before = smoothed(plain(mapped(around), cut), { rounds, keep: Math.PI }).position;
        expect(Math.max(...after.map((x, c) => Math.abs(x - before[c])))).toBeLessThan(1e-5);
      },
    ),
    { numRuns: 20 },
  );
});

test("a raised vertex among six goes down as Loop has it, and draws what is about it; a straight rim stays straight", () => {
  const [position, index] = lattice(6, 6, (u, v) => [6 * u, 0, 6 * v]);
  const middle = position.findIndex(
    (_, c) => c % 3 === 0 && Math.abs(position[c] - 3) < 1e-6 && Math.abs(position[c + 2] - 3) < 1e-6,
  );
  position[middle + 1] = 16;
  const { position: out, index: parted } = smoothed(plain(position, index), { rounds: 1, keep: Math.PI });
  expect(parted).toHaveLength(4 * index.length);
  const heights = new Map<number, number>();
  for (let c = 1; c < out.length; c += 3) heights.set(Math.round(out[c]), (heights.get(Math.round(out[c])) ?? 0) + 1);
  // Itself; the six edges to it; its six neighbours with the six edges across from it.
  expect([heights.get(10), heights.get(6), heights.get(1), heights.get(2)]).toEqual([1, 6, 6, 6]);
  for (let c = 0; c < out.length; c += 3) if (out[c + 2] < 0.01) expect(out[c + 1]).toBe(0);
});

test("a box becomes round and stays closed; with its edges kept it stays the box; its texture is as large as it was", () => {
  fc.assert(
    fc.property(evenly(0.5, 3), evenly(0.5, 3), fc.integer({ min: 1, max: 4 }), (width, height, rounds) => {
      for (const keep of [Math.PI, 1]) {
        const mesh = smoothed(box(width, height, 1), { rounds, keep });
        expect(mesh.index).toHaveLength(36 * 4 ** rounds);
        expect(trianglesBeyond(Float64Array.from(mesh.position), mesh.index).every((t) => t >= 0)).toBe(true);
        const uv = mesh.attributes.find(({ name }) => name === "TEXCOORD_0")!.array;
        const flat = Float64Array.from({ length: 1.5 * uv.length }, (_, c) => (c % 3 === 2 ? 0 : uv[2 * Math.floor(c / 3) + (c % 3)])); // prettier-ignore
        const sum = (all: Float64Array) => all.reduce((total, x) => total + x, 0);
        expect(sum(areasOf({ position: flat, index: mesh.index }))).toBeCloseTo(6, 5);
        const area = sum(areasOf({ position: Float64Array.from(mesh.position), index: mesh.index }));
        const own = 2 * (width * height + width + height);
        if (keep < 2) expect(area).toBeCloseTo(own, 4);
        else expect(area).toBeLessThan(0.95 * own);
        if (keep > 2 && rounds > 2) expect(sharpest(mesh)).toBeLessThan((45 * Math.PI) / 180);
      }
    }),
    { numRuns: 20 },
  );
});

test("nothing is parted beyond a million triangles, and what is odd breaks nothing", () => {
  const [position, index] = lattice(300, 300, (u, v) => [u, 0, v]);
  expect(smoothed(plain(position, index), { rounds: 5, keep: 1 }).index.length / 3).toBe(4 * 180_000);
  // Three triangles at one edge, a triangle without area, and nothing at all.
  const fins = Float32Array.of(0, 0, 0, 0, 1, 0, 1, 0, 0, -1, 0, 1, 0, 0, 1);
  const odd = smoothed(plain(fins, Uint32Array.of(0, 1, 2, 0, 1, 3, 0, 1, 4, 0, 0, 1)), { rounds: 2, keep: 1 });
  expect([...odd.position].every(Number.isFinite)).toBe(true);
  expect(smoothed(plain([], new Uint32Array(0)), { rounds: 2, keep: 1 }).index).toHaveLength(0);
});

/** The greatest angle between facets, radians. */
function sharpest({ position, index }: TriangleMesh): number {
  const at = Float64Array.from(position);
  const welded = weldedVertices(at);
  const beyond = trianglesBeyond(
    at,
    index.map((v) => welded[v]),
  );
  const { normal } = facetsOf({ position: at, index });
  return Math.max(...Array.from(beyond, (t, h) => { const o = h - (h % 3); return Math.acos(Math.min(1, [0, 1, 2].reduce((s, k) => s + normal[o + k] * normal[3 * t + k], 0))); })); // prettier-ignore
}
