import fc from "fast-check";
import { evenly } from "../math/testing";
import { clipped, sliced } from "./slice";
import { shapedMesh } from "./shape";
import { mergedShapes } from "./merged";
import type { TriangleMesh } from "./mesh";
import { dot, rotate, vectorAt, type Quat, type Vec3 } from "../math";
import { hullOf } from "./hull";
import type { Shapes } from ".";

/** A ball of triangles with texture coordinates and normals. */
function ball(rings: number, segments: number): TriangleMesh {
  const position: number[] = [];
  const uv: number[] = [];
  for (let i = 0; i <= rings; i++) {
    for (let j = 0; j <= segments; j++) {
      const [a, b] = [(Math.PI * i) / rings, (2 * Math.PI * j) / segments];
      position.push(Math.sin(a) * Math.cos(b), Math.cos(a), Math.sin(a) * Math.sin(b));
      uv.push(j / segments, i / rings);
    }
  }
  const index: number[] = [];
  for (let i = 0; i < rings; i++) {
    for (let j = 0; j < segments; j++) {
      const a = i * (segments + 1) + j;
      const b = a + segments + 1;
      if (i > 0) index.push(a, a + 1, b + 1);
      if (i < rings - 1) index.push(a, b + 1, b);
    }
  }
  return {
    position: Float32Array.from(position),
    index: Uint32Array.from(index),
    attributes: [
      { name: "TEXCOORD_0", width: 2, array: Float32Array.from(uv) },
      { name: "NORMAL", width: 3, array: Float32Array.from(position) },
    ],
  };
}

const along = (mesh: TriangleMesh, axis = 2) =>
  Float64Array.from({ length: mesh.position.length / 3 }, (_, i) => mesh.position[3 * i + axis]);

/** The area vectors of all triangles, added up, and their lengths, added up. */
function areas({ position: p, index }: TriangleMesh): { sum: number[]; area: number } {
  const sum = [0, 0, 0];
  let area = 0;
  for (let t = 0; t < index.length; t += 3) {
    const [a, b, c] = [3 * index[t], 3 * index[t + 1], 3 * index[t + 2]];
    const [u, v] = [b, c].map((o) => [0, 1, 2].map((k) => p[o + k] - p[a + k]));
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]].map((x) => x / 2);
    n.forEach((x, k) => (sum[k] += x));
    area += Math.hypot(...n);
  }
  return { sum, area };
}

/** How many edges belong to one triangle only, told apart by the places of their ends. */
function openEdges({ position, index }: TriangleMesh): number {
  const name = (i: number) => [0, 1, 2].map((k) => Math.round(position[3 * i + k] * 1e5) + 0).join();
  const count = new Map<string, number>();
  for (let t = 0; t < index.length; t += 3) {
    for (let k = 0; k < 3; k++) {
      const [a, b] = [name(index[t + k]), name(index[t + ((k + 1) % 3)])];
      if (a === b) continue;
      const edge = a < b ? `${a} ${b}` : `${b} ${a}`;
      count.set(edge, (count.get(edge) ?? 0) + 1);
    }
  }
  return [...count.values()].filter((times) => times % 2 === 1).length;
}

const cuts = fc.array(evenly(-1.2, 1.2), { minLength: 1, maxLength: 6 }).map((list) => [...list].sort((a, b) => a - b));

test("slicing changes neither area nor where anything is, leaves no gap, and no triangle crosses a cut", () => {
  const mesh = ball(9, 14);
  fc.assert(
    fc.property(cuts, (values) => {
      const fine = sliced(mesh, along(mesh), values);
      expect(areas(fine).area).toBeCloseTo(areas(mesh).area, 4);
      expect(openEdges(fine)).toBe(openEdges(mesh));
      const z = along(fine);
      const crossed = (t: number, cut: number) => {
        const corners = [z[fine.index[t]], z[fine.index[t + 1]], z[fine.index[t + 2]]];
        return Math.min(...corners) < cut - 1e-5 && Math.max(...corners) > cut + 1e-5;
      };
      const triangles = Array.from({ length: fine.index.length / 3 }, (_, k) => 3 * k);
      expect(triangles.filter((t) => values.some((cut) => crossed(t, cut)))).toEqual([]);
    }),
    { numRuns: 60 },
  );
});

test("clipping keeps just what lies before the cut, texture coordinates going along", () => {
  const mesh = ball(12, 20);
  fc.assert(
    fc.property(evenly(-1.1, 1.1), (most) => {
      const [near, far] = [
        clipped(mesh, along(mesh, 1), most),
        clipped(
          mesh,
          along(mesh, 1).map((y) => -y),
          -most,
        ),
      ];
      expect(Math.max(-2, ...along(near, 1))).toBeLessThanOrEqual(Math.max(most, -1) + 1e-5);
      expect(areas(near).area + areas(far).area).toBeCloseTo(areas(mesh).area, 4);
      const uv = near.attributes[0].array;
      // A ball's height tells its second texture coordinate, roughly so between rings.
      for (let i = 0; i < uv.length / 2; i++) {
        expect(Math.abs(Math.cos(Math.PI * uv[2 * i + 1]) - near.position[3 * i + 1])).toBeLessThan(0.02);
      }
    }),
    { numRuns: 40 },
  );
});

const NOTHING_CUT = [0, 0, -1, Infinity, 0, 0, 1, Infinity];

/** Shapes of one form. */
const shapes = (matrix: number[], planes = NOTHING_CUT, samples: number[] = []): Shapes => ({
  entry: Int32Array.of(0),
  frame: Float32Array.of(0, 0, 0, 0, 0, 0, 1),
  form: Uint32Array.of(0),
  prop: Uint16Array.of(0),
  matrix: Float32Array.from(matrix),
  planes: Float32Array.from(planes),
  sampleAt: Uint32Array.of(0, samples.length / 8),
  samples: Float32Array.from(samples),
  pieceAt: Uint32Array.of(0, 0),
  crease: Float32Array.of(0),
  off: 0,
  pieces: new Float32Array(0),
});

test("a mirrored form shows its outside, and normals stay square to a surface that is stretched", () => {
  const mesh = ball(24, 32);
  const shaped = shapedMesh(mesh, shapes([-3, 0, 0, 0, 0, 1, 0, 0, 0, 0, 0.5, 0]), 0);
  const { position, index, attributes } = shaped;
  const normal = attributes[1].array;
  for (let t = 0; t < index.length; t += 3) {
    const [a, b, c] = [3 * index[t], 3 * index[t + 1], 3 * index[t + 2]];
    const [u, v] = [b, c].map((o) => [0, 1, 2].map((k) => position[o + k] - position[a + k]));
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    const length = Math.hypot(...n);
    if (length < 1e-9) continue;
    const given = [0, 1, 2].map((k) => (normal[a + k] + normal[b + k] + normal[c + k]) / 3);
    expect(n.reduce((sum, x, k) => sum + (x / length) * given[k], 0)).toBeGreaterThan(0.8);
    // Outward: away from the middle.
    expect(n.reduce((sum, x, k) => sum + x * position[a + k], 0)).toBeGreaterThan(0);
  }
});

test("bent round a full circle a bar's ends meet, its middle keeps its length, and normals point away from its middle", () => {
  const radius = 2;
  const length = 2 * Math.PI * radius;
  const samples: number[] = [];
  for (let k = 0; k <= 96; k++) {
    const angle = (2 * Math.PI * k) / 96;
    const half = angle / 2;
    // To the left (+X) round, from the origin: forward turns from +Z towards +X.
    samples.push(
      radius * angle,
      radius * (1 - Math.cos(angle)),
      0,
      radius * Math.sin(angle),
      0,
      Math.sin(half),
      0,
      Math.cos(half),
    );
  }
  // A tube of square section along Z.
  const position: number[] = [];
  const normal: number[] = [];
  const index: number[] = [];
  for (const [x, y] of [
    [1, 0],
    [0, 1],
    [-1, 0],
    [0, -1],
  ]) {
    const first = position.length / 3;
    const [a, b] = [x - y, x + y];
    for (const [p, q, z] of [
      [a, b, 0],
      [x + y, y - x, 0],
      [a, b, length],
      [x + y, y - x, length],
    ]) {
      position.push(0.1 * p, 0.1 * q, z);
      normal.push(x, y, 0);
    }
    index.push(first, first + 1, first + 2, first + 1, first + 3, first + 2);
  }
  const tube = {
    position: Float32Array.from(position),
    index: Uint32Array.from(index),
    attributes: [{ name: "NORMAL", width: 3, array: Float32Array.from(normal) }],
  };
  const bent = shapedMesh(tube, shapes([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0], NOTHING_CUT, samples), 0);
  const outside = bent.attributes[0].array;
  for (let i = 0; i < bent.position.length / 3; i++) {
    const [x, y, z] = bent.position.subarray(3 * i, 3 * i + 3);
    const away = Math.hypot(x - radius, z);
    // On the outline of the square section, somewhere.
    expect(Math.abs(Math.max(Math.abs(away - radius), Math.abs(y)) - 0.1)).toBeLessThan(2e-3);
    const out = ((x - radius) * outside[3 * i] + z * outside[3 * i + 2]) / away;
    if (Math.abs(outside[3 * i + 1]) < 0.5) expect(out * Math.sign(away - radius)).toBeGreaterThan(0.99);
  }
  // Pappus: a closed ring's area is that of its section's outline times the way of its middle.
  expect(areas(bent).area / (0.8 * length)).toBeCloseTo(1, 2);
});

test("merged placements are their shaped meshes, each turned and moved by its frame and tinted, as many as there is room for", () => {
  const mesh = ball(6, 8);
  const one = shapes([2, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0]);
  const turns: Quat[] = [
    [0, 0, 0, 1],
    [0, Math.SQRT1_2, 0, Math.SQRT1_2],
    [0.5, 0.5, 0.5, 0.5],
  ];
  const frame = Float32Array.from(turns.flatMap((turn, k) => [k, 2 * k, -k, ...turn]));
  const all: Shapes = { ...one, frame, entry: Int32Array.of(0, 1, 2), form: Uint32Array.of(0, 0, 0) };
  const members = [0, 1, 2].map((entry) => ({ entry, tint: [entry / 2, 1, 0.5] as const }));
  const shaped = shapedMesh(mesh, all, 0);
  const n = shaped.position.length / 3;
  const triangles = shaped.index.length / 3;
  for (const room of [Infinity, 2 * triangles, 2 * triangles - 1, 0]) {
    const { mesh: merged, members: drawn } = mergedShapes(mesh, all, members, room);
    expect(drawn).toBe(Math.min(3, Math.floor(room / triangles)));
    expect(merged.index).toHaveLength(drawn * shaped.index.length);
    const colours = merged.attributes.find(({ name }) => name === "COLOR_0")!.array;
    const normals = merged.attributes.find(({ name }) => name === "NORMAL")!.array;
    const own = shaped.attributes.find(({ name }) => name === "NORMAL")!.array;
    for (let k = 0; k < drawn; k++) {
      expect(merged.index[k * shaped.index.length]).toBe(shaped.index[0] + k * n);
      for (let i = 0; i < n; i += 7) {
        const at = (array: Float32Array, v: number) => Array.from(array.subarray(3 * v, 3 * v + 3)) as unknown as Vec3;
        const place = rotate(turns[k], at(shaped.position, i)).map((value, axis) => value + [k, 2 * k, -k][axis]);
        at(merged.position, k * n + i).forEach((value, axis) => expect(value).toBeCloseTo(place[axis], 5));
        const normal = rotate(turns[k], at(own, i));
        at(normals, k * n + i).forEach((value, axis) => expect(value).toBeCloseTo(normal[axis], 5));
        expect(at(colours, k * n + i)).toEqual([k / 2, 1, 0.5]);
      }
    }
  }
});

test("whichever way one looks, a corner of the hull is as far as any vertex; what is flat keeps all its vertices", () => {
  const part = evenly(-3, 3);
  const point = fc.tuple(part, part, part);
  fc.assert(
    fc.property(fc.array(point, { minLength: 1, maxLength: 60 }), point, fc.boolean(), (points, way, flat) => {
      const all = points.map(([x, y, z]): Vec3 => (flat ? [x, 0, z] : [x, y, z]));
      const far = (list: readonly Vec3[]) => Math.max(...list.map((p) => dot(p, way)));
      const hull = hullOf(all.flat());
      const corners = Array.from({ length: hull.length / 3 }, (_, i) => vectorAt(hull, i));
      expect(far(corners)).toBeCloseTo(far(all), 4);
      expect(corners.length).toBeLessThanOrEqual(all.length);
    }),
  );
});
