/** What lies on surfaces that move goes along with them. */
import fc from "fast-check";
import { makeLine } from "@/core/line/testing";
import { madeMesh } from "@/core/made";
import { angleBetween, multiply, rotate, type Quat, type Vec3 } from "@/core/math";
import { evenly } from "@/core/math/testing";
import { movedVertices } from "@/core/movers";
import { bind, carryPoints, RestMesh, WorldMesh } from "@/core/mesh";
import type { Placements } from "@/core/place";
import { addedOn } from "@/core/place/testing";
import { sceneAt, sceneSchema, type Scene } from "@/core/scene";
import { harbourScene } from "@/core/scene/testing";
import { Engine } from "./engine";

const SURFACE = { id: "water", name: "Water", made: { kind: "bumps", width: 8, depth: 6, height: 0.8, size: 4 } };

const PINS = addedOn(
  "water",
  ...Array.from({ length: 24 }, (_, i) => ({ point: [(i % 6) - 2.6, 0.3, Math.floor(i / 6) - 1.4] as Vec3, prop: "buoy", lift: (i % 3) / 10, turn: i })), // prettier-ignore
);

/** Props over the water, along a line that lies on it, and inside a box, with all that the surfaces are told. */
function seaScene(water: object, box: object = {}): Scene {
  const over = { where: { kind: "over", surfaces: ["water"] }, stance: { up: "normal" }, spacing: { distance: 0.7 } };
  const lane = makeLine({ kind: "polyline", knots: [[-3, 2, 0.3], [1, 2, 1], [3, 2, -1.7]] }); // prettier-ignore
  return sceneSchema.parse({
    ...harbourScene(),
    lines: [{ ...lane, id: "lane", number: 1, laid: { kind: "surface", on: ["water"], way: "down" } }],
    surfaces: [
      { ...SURFACE, ...water },
      { id: "hold", name: "Hold", made: { kind: "box" }, outline: true, ...box },
    ],
    dressings: [
      { id: "over", ...over },
      { id: "along", where: { lines: ["lane"] }, stance: { up: "line" }, spacing: { distance: 0.4 } },
      { id: "pins", ...over, where: { kind: "pinned", surfaces: ["water"] }, pegs: PINS },
      { id: "inside", where: { kind: "inside", volumes: ["hold"] }, spacing: { distance: 0.9 } },
    ].map((one) => ({ name: one.id, what: { entries: [{ prop: "buoy" }] }, ...one })),
  });
}

const course = (from: readonly number[], to: readonly number[]) => ({
  keyframes: [from, to].map((value, at) => ({ at, value: [...value], go: "straight" })),
});

function placed(scene: Scene, t: number): Map<string, Placements> {
  const engine = new Engine();
  engine.take(sceneAt(scene, t));
  return new Map(scene.dressings.map(({ id }) => [id, engine.placements(id)!]));
}

const pointOf = ({ origin, position }: Placements, i: number): Vec3 =>
  [0, 1, 2].map((k) => origin[k] + position[3 * i + k]) as unknown as Vec3;
const turnOf = ({ rotation: R }: Placements, i: number): Quat => [R[4 * i], R[4 * i + 1], R[4 * i + 2], R[4 * i + 3]];

test("what a surface carries moves as it does: the same keys, turned and moved exactly as one", () => {
  fc.assert(
    fc.property(
      fc.tuple(evenly(-9, 9), evenly(-9, 9), evenly(-9, 9)),
      evenly(-1.4, 1.4),
      evenly(0.1, 1),
      (to, half, t) => {
        const turn: Quat = [0, Math.sin(half), 0, Math.cos(half)];
        const moves = { courses: { position: course([0, 0, 0], to), rotation: course([0, 0, 0, 1], turn) } };
        const scene = seaScene(moves, moves);
        const [before, now] = [placed(scene, 0), placed(scene, t)];
        const { position, rotation } = sceneAt(scene, t).surfaces[0];
        for (const [id, rest] of before) {
          const there = now.get(id)!;
          expect(rest.count).toBeGreaterThan(10);
          expect(there.key).toEqual(rest.key);
          for (let i = 0; i < rest.count; i++) {
            const wanted = rotate(rotation, pointOf(rest, i)).map((x, k) => x + position[k]);
            const point = pointOf(there, i);
            for (let k = 0; k < 3; k++) expect(Math.abs(point[k] - wanted[k])).toBeLessThan(3e-6);
            expect(angleBetween(turnOf(there, i), multiply(rotation, turnOf(rest, i)))).toBeLessThan(1e-3);
          }
        }
      },
    ),
    { numRuns: 12 },
  );
});

/** The triangle of a mesh that is nearest to a point from above, with the weights of its corners. */
function under(P: Float64Array, index: Uint32Array, [x, , z]: Vec3): { corners: number[]; weights: number[] } {
  let best = { corners: [0, 0, 0], weights: [1, 0, 0] };
  let most = -Infinity;
  for (let t = 0; t < index.length; t += 3) {
    const corners = [index[t], index[t + 1], index[t + 2]];
    const [[ax, az], [bx, bz], [cx, cz]] = corners.map((v) => [P[3 * v], P[3 * v + 2]]);
    const area = (bx - ax) * (cz - az) - (bz - az) * (cx - ax);
    const v = ((x - ax) * (cz - az) - (z - az) * (cx - ax)) / area;
    const w = ((bx - ax) * (z - az) - (bz - az) * (x - ax)) / area;
    const weights = [1 - v - w, v, w];
    if (Math.min(...weights) > most) [most, best] = [Math.min(...weights), { corners, weights }];
  }
  return best;
}

/** Smooth normals of vertices that have gone somewhere, each triangle counting by its angles at rest: from the definition. */
function normalsOf(index: Uint32Array, rest: Float64Array, moved: Float64Array): Float64Array {
  const out = new Float64Array(moved.length);
  const way = (P: Float64Array, a: number, b: number) => [0, 1, 2].map((k) => P[3 * b + k] - P[3 * a + k]);
  for (let c = 0; c < index.length; c++) {
    const t = c - (c % 3);
    const [a, b, d] = [index[c], index[t + ((c + 1) % 3)], index[t + ((c + 2) % 3)]];
    const [p, q] = [way(rest, a, b), way(rest, a, d)];
    const crossed = (u: number[], v: number[]) => [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]; // prettier-ignore
    const area = Math.hypot(...crossed(p, q));
    const angle = Math.atan2(area, p[0] * q[0] + p[1] * q[1] + p[2] * q[2]);
    crossed(way(moved, a, b), way(moved, a, d)).forEach((x, k) => (out[3 * a + k] += (angle / area) * x));
  }
  for (let v = 0; v < out.length; v += 3) {
    const length = Math.hypot(out[v], out[v + 1], out[v + 2]);
    for (let k = 0; k < 3; k++) out[v + k] /= length;
  }
  return out;
}

test("over a surface that waves each keeps its place in its triangle, and stands by the normal there", () => {
  const scene = seaScene({ movers: [{ kind: "waves", length: 3, height: 0.2 }, { kind: "twist", axis: "east", angle: 0.5 }] }); // prettier-ignore
  const still = placed({ ...scene, surfaces: [{ ...scene.surfaces[0], movers: [] }, scene.surfaces[1]] }, 0);
  const mesh = madeMesh(scene.surfaces[0].made!, new Map())!;
  const rest = new RestMesh(mesh);
  const own = Float64Array.from(mesh.position);
  const seen = new Set<string>();
  for (const t of [0, 0.4, 1.7]) {
    const { movers } = sceneAt(scene, t).surfaces[0];
    const { position: moved } = movedVertices(movers.map((mover) => ({ mover: mover as never, weight: null })), rest, 1); // prettier-ignore
    const now = placed(scene, t);
    const normals = normalsOf(mesh.index, own, moved);
    for (const id of ["over", "pins", "along"]) {
      const [before, there] = [still.get(id)!, now.get(id)!];
      expect(there.key).toEqual(before.key);
      expect(there.count).toBeGreaterThan(10);
      for (let i = 0; i < there.count; i++) {
        const { corners, weights } = under(own, mesh.index, pointOf(before, i));
        const wanted = [0, 1, 2].map((k) => corners.reduce((sum, v, c) => sum + weights[c] * moved[3 * v + k], 0));
        const point = pointOf(there, i);
        const off = Math.hypot(...wanted.map((x, k) => x - point[k]));
        // A line's points lie on the mesh to a fiftieth of a millimetre; single precision is as coarse as this here.
        if (id !== "pins") expect(off).toBeLessThan(id === "over" ? 2e-6 : 2e-4);
        const up = rotate(turnOf(there, i), [0, 1, 0]);
        const [a, b, c] = corners.map((v) => [moved[3 * v], moved[3 * v + 1], moved[3 * v + 2]]);
        const [u, v] = [b.map((x, k) => x - a[k]), c.map((x, k) => x - a[k])];
        const normal = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
        const cosine = normal.reduce((sum, x, k) => sum + x * up[k], 0) / Math.hypot(...normal);
        expect(cosine).toBeGreaterThan(0.9);
        if (id !== "over") continue;
        const smooth = [0, 1, 2].map((k) => corners.reduce((sum, v, c) => sum + weights[c] * normals[3 * v + k], 0));
        const apart = Math.hypot(...smooth.map((x, k) => x / Math.hypot(...smooth) - up[k]));
        expect(apart).toBeLessThan(1e-4);
      }
      seen.add(Buffer.from(there.position.buffer).toString("base64"));
    }
  }
  expect(seen.size).toBe(9);
});

test("what is off its surface stays as far off it, along the normal there; each triangle's own is the one of the moment", () => {
  const twice = addedOn("water", ...[0, 0.4].map((lift) => ({ point: [1.1, 0.3, 0.7] as Vec3, prop: "buoy", lift })));
  const movers = [{ kind: "twist", axis: "east", angle: 1.2 }];
  const base = seaScene({ movers });
  const ups: Vec3[] = [];
  for (const normals of ["smooth", "flat"] as const) {
    const pins = base.dressings.find(({ id }) => id === "pins")!;
    const scene = { ...base, dressings: [{ ...pins, pegs: twice, stance: { ...pins.stance, normals } }] };
    const p = placed(scene, 0).get("pins")!;
    const [low, high] = [pointOf(p, 0), pointOf(p, 1)];
    const up = rotate(turnOf(p, 0), [0, 1, 0]);
    // Twisted by so much the surface is far from level there.
    expect(up[1]).toBeLessThan(0.995);
    ups.push(up);
    for (let k = 0; k < 3; k++) expect(high[k] - low[k]).toBeCloseTo(0.4 * up[k], 5);
  }
  expect(Math.hypot(...ups[0].map((x, k) => x - ups[1][k]))).toBeLessThan(0.2);
  const anywhere = WorldMesh.of("w", madeMesh(base.surfaces[0].made!, new Map())!, { position: [1, 2, 3], rotation: [0, 0.6, 0, 0.8], scale: 2 }); // prettier-ignore
  const off = Float64Array.of(1.5, 4, 3.5, 0, 1, 2, 2, 3.5, 4);
  const bound = bind([anywhere], new Uint16Array(3), off, null);
  const turn: Quat = [0.48, 0.36, 0, 0.8];
  const now = anywhere.at({ position: [-1, 0, 2], rotation: multiply(turn, [0, 0.6, 0, 0.8]), scale: 2 }, null);
  const there = new Float64Array(9);
  carryPoints(bound, [now], there);
  for (let i = 0; i < 3; i++) {
    const own = [0, 1, 2].map((k) => off[3 * i + k] - [1, 2, 3][k]) as unknown as Vec3;
    rotate(turn, own).forEach((x, k) => expect(there[3 * i + k]).toBeCloseTo(x + [-1, 0, 2][k], 9));
  }
});

test("a moment of a surface that moves looks for nothing anew: only what carries runs", () => {
  const scene = seaScene({ movers: [{ kind: "waves" }] });
  const engine = new Engine();
  engine.evaluate(sceneAt(scene, 0));
  engine.evaluate(sceneAt(scene, 1));
  for (const node of [
    "samples",
    "spacing",
    "fields",
    "track at rest",
    "bound",
    "bound track",
    "variation",
    "weight of mover",
  ])
    // prettier-ignore
    expect(engine.ran).not.toContain(node);
  expect(engine.ran).toContain("carried");
  expect(engine.ran).toContain("carried along");
});

test("while nobody looks, what was found last still holds; looked for again, it is of the moment", () => {
  const scene = seaScene({ movers: [{ kind: "waves", length: 3, height: 1.5 }] });
  const engine = new Engine();
  engine.take(sceneAt(scene, 0));
  const before = new Map(engine.results().map(({ id, findings }) => [id, findings]));
  engine.take(sceneAt(scene, 0.9));
  const playing = engine.results(undefined, false);
  expect(engine.ran).not.toContain("findings");
  for (const { id, findings } of playing) expect(findings).toBe(before.get(id));
  const fresh = new Engine();
  fresh.take(sceneAt(scene, 0.9));
  const wanted = new Map(fresh.results().map(({ id, findings }) => [id, findings]));
  engine.results();
  for (const { id } of scene.dressings) expect(engine.result(id)!.findings).toEqual(wanted.get(id));
});

test("a mover does as much as is painted: nothing under a hard stroke that takes, all beyond it; the same on any other surface", () => {
  const at = evenly(-2, 2);
  fc.assert(
    fc.property(
      at,
      at,
      evenly(0.4, 1.5),
      fc.boolean(),
      fc.constantFrom("water", "elsewhere"),
      (x, z, radius, puts, on) => {
        const stroke = { on, points: [[x, 0, z]], radius, strength: 1, soft: 0, puts };
        const limits = { paint: { base: puts ? "none" : "all", strokes: [stroke] } };
        const waves = { kind: "waves", length: 3, height: 0.6, pointed: 0 };
        const shape = (movers: object[]) => {
          const engine = new Engine();
          engine.take(sceneAt(seaScene({ made: { kind: "bumps", width: 8, depth: 6, height: 0 }, movers }), 0.3));
          return engine.shapeOf("water")?.position;
        };
        const [all, some] = [shape([waves])!, shape([{ ...waves, limits }])!];
        const rest = madeMesh(seaScene({ made: { kind: "bumps", width: 8, depth: 6, height: 0 } }).surfaces[0].made!, new Map())!.position; // prettier-ignore
        expect(some.length).toBe(rest.length);
        for (let v = 0; v < some.length; v += 3) {
          const far = Math.hypot(rest[v] - x, rest[v + 2] - z);
          if (Math.abs(far - radius) < 1e-3) continue;
          const moves = far < radius === puts;
          for (let k = 0; k < 3; k++) expect(some[v + k]).toBeCloseTo(moves ? all[v + k] : rest[v + k], 5);
        }
      },
    ),
    { numRuns: 20 },
  );
});
