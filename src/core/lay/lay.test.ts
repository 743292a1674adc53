import fc from "fast-check";
import { evenly } from "../math/testing";
import { GuideLine, laidSchema, type Knot, type Laid, type LaidTrack, type Line } from "../line";
import { makeLine } from "../line/testing";
import { madeMesh, madeSchema } from "../made";
import { fromTurns, rotate, vectorAt, type Quat, type Vec3 } from "../math";
import { Chart, WorldMesh, type Grounds, type Met, type Stand } from "../mesh";
import { lattice, round } from "../mesh/unroll/testing";
import { field, STAND } from "../place/testing";
import { laidTrack, offSheet, surfacesUnder } from ".";

const hills = (x: number, z: number) => 1.4 * Math.sin(0.6 * x + 0.3) + Math.cos(0.8 * z) - 0.2 * x;
const HILLS = field(24, hills, "hills");

const under = (...grounds: WorldMesh[]): Grounds => ({
  surface: (id) => grounds.find((ground) => ground.id === id),
  grounds: () => grounds.map(({ id }) => id),
});

const trackOn = (line: Line, grounds: readonly WorldMesh[]): LaidTrack | null =>
  laidTrack(line, new GuideLine(line), surfacesUnder(line, under(...grounds)));

function lay(line: Line, laid: object, ...grounds: WorldMesh[]): { track: LaidTrack; guide: GuideLine } {
  const whole = { ...line, laid: laidSchema.parse(laid) as Laid };
  const track = trackOn(whole, grounds)!;
  return { track, guide: new GuideLine(whole, track) };
}

const place = evenly(-8, 8);
const knots = fc.array(fc.tuple(place, evenly(0, 6), place), {
  minLength: 2,
  maxLength: 7,
});

const met: Met = { triangle: -1, x: 0, y: 0, z: 0 };
const fromGround = (ground: WorldMesh, [x, y, z]: Vec3): number => {
  ground.tree.nearest(x, y, z, met);
  return Math.hypot(met.x - x, met.y - y, met.z - z);
};

function sampled({ curve }: GuideLine, n: number): Float64Array {
  const at = Float64Array.from({ length: n }, (_, i) => (curve.length * i) / (n - 1));
  const position = new Float64Array(3 * n);
  curve.sample(at, n, position, null);
  return position;
}

test("a line laid densely lies on the surface everywhere, to a tenth of a millimetre, whichever way it is laid", () => {
  fc.assert(
    fc.property(
      knots,
      fc.constantFrom("polyline", "smooth"),
      fc.boolean(),
      fc.constantFrom("down", "axis"),
      (knots, kind, closed, way) => {
        const line = makeLine({ id: "l", number: 1, kind, closed, knots } as Parameters<typeof makeLine>[0]);
        fc.pre(new GuideLine(line).curve.length > 0.5);
        const { guide } = lay(line, { kind: "surface", way, axis: [0.2, -1, 0.1] }, HILLS);
        const n = 1500;
        const position = sampled(guide, n);
        let worst = 0;
        for (let i = 0; i < n; i++) {
          const point = vectorAt(position, i);
          // What the mesh does not lie under stays where it was.
          if (Math.max(Math.abs(point[0]), Math.abs(point[2])) < 11.9)
            worst = Math.max(worst, fromGround(HILLS, point));
        }
        expect(worst).toBeLessThan(1e-4);
      },
    ),
    { numRuns: 12 },
  );
});

test("laid to the nearest place it lies on the surface everywhere, hollows that it leaps across too; with its knots, the knots do", () => {
  fc.assert(
    fc.property(knots, (knots) => {
      const line = makeLine({ id: "l", number: 1, kind: "smooth", knots });
      fc.pre(new GuideLine(line).curve.length > 0.5);
      const laid = lay(line, { kind: "surface", way: "nearest" }, HILLS);
      // Where all of it is nearest to one place, there is no line to be laid.
      const nearest = (point: Vec3): Vec3 => {
        HILLS.tree.nearest(...point, met);
        return [met.x, met.y, met.z];
      };
      const [first, ...others] = knots.map((knot) => nearest(knot as Vec3));
      fc.pre(others.some((place) => Math.hypot(...place.map((x, axis) => x - first[axis])) > 0.1));
      expect(laid.track.leaps).toBe(0);
      const position = sampled(laid.guide, 3000);
      let worst = 0;
      for (let i = 0; i < 3000; i++) worst = Math.max(worst, fromGround(HILLS, vectorAt(position, i)));
      expect(worst).toBeLessThan(1e-4);
      const { guide } = lay(line, { kind: "surface", way: "nearest", how: "knots" }, HILLS);
      const place = new Float64Array(6);
      for (const at of guide.curve.knotAt) {
        guide.curve.sampleAt(at, place);
        expect(fromGround(HILLS, vectorAt(place, 0))).toBeLessThan(1e-3);
      }
    }),
    { numRuns: 4 },
  );
});

test("where the mesh leads nowhere between, the line leaps, and that is counted", () => {
  const island = (x: number) => field(2, () => 0, `i${x}`, { ...STAND, position: [x, 0, 0] });
  const line = makeLine({ id: "l", number: 1, kind: "polyline", knots: [[-4, 1, 0], [4, 1, 0]] }); // prettier-ignore
  const { guide } = lay(line, { kind: "surface", way: "nearest" }, island(-4), island(4));
  expect(guide.leaps).toBe(1);
  const down = lay(line, { kind: "surface" }, island(-4), island(4));
  expect(down.guide.leaps).toBe(0);
});

test("its frames stand square to the surface, run along it, and do not flip", () => {
  const line = makeLine({
    id: "l",
    number: 1,
    kind: "smooth",
    knots: [
      [-9, 0, -7],
      [0, 0, 4],
      [8, 0, -2],
    ],
  });
  const { guide } = lay(line, { kind: "surface" }, HILLS);
  const n = 400;
  const at = Float64Array.from({ length: n }, (_, i) => (guide.curve.length * (i + 0.5)) / n);
  const [position, rotation] = [new Float64Array(3 * n), new Float64Array(4 * n)];
  guide.frames("normal", at, n, position, rotation);
  const normal = new Float64Array(3);
  for (let i = 0; i < n; i++) {
    const turn = Array.from(rotation.subarray(4 * i, 4 * i + 4)) as unknown as Quat;
    const up = rotate(turn, [0, 1, 0]);
    HILLS.tree.nearest(...vectorAt(position, i), met);
    HILLS.smoothNormal(met.triangle, met.x, met.y, met.z, normal);
    expect(up[0] * normal[0] + up[1] * normal[1] + up[2] * normal[2]).toBeGreaterThan(0.9);
  }
});

test("the knots keep their tags and places along it; where there is no surface it stays as it was", () => {
  const line = makeLine({
    id: "l",
    number: 1,
    kind: "polyline",
    knots: [
      [-5, 3, 0],
      [0, 3, 1],
      [40, 3, 2],
    ],
  });
  const { guide, track } = lay(line, { kind: "surface" }, HILLS);
  expect(guide.curve.knotAt).toHaveLength(3);
  expect([...track.points.slice(-3)]).toEqual([40, 3, 2].map((x) => expect.closeTo(x, 9)));
  const gone = trackOn({ ...line, laid: laidSchema.parse({ kind: "surface", on: ["gone"] }) }, [HILLS]);
  expect(gone).toBeNull();
});

describe("lines from a mesh", () => {
  const tube = (pieces: number, stand: Stand = STAND): WorldMesh => {
    const profile = makeLine({
      id: "p",
      number: 1,
      kind: "polyline",
      knots: [
        [2, 0, 0],
        [2, 5, 0],
      ],
    });
    const made = madeSchema.parse({ kind: "revolve", line: "p", pieces });
    return WorldMesh.of("tube", madeMesh(made, new Map([["p", new GuideLine(profile)]]))!, stand);
  };
  const none = makeLine({ id: "l", number: 1, kind: "polyline", knots: [[0, 0, 0]] });
  const from = (ground: WorldMesh, laid: object) => lay(none, { kind: "edges", on: ground.id, ...laid }, ground).track;

  test("a rim goes all round, begins where it was taken, and the other way round it is the same", () => {
    const ground = tube(12);
    const track = from(ground, { follow: "boundary", at: [0, 5.2, 2] });
    expect(track.closed).toBe(true);
    expect(track.points).toHaveLength(36);
    expect([...track.points.slice(0, 3)]).toEqual([0, 5, 2].map((x) => expect.closeTo(x, 5)));
    for (let i = 0; i < 12; i++) expect(track.points[3 * i + 1]).toBeCloseTo(5, 5);
    const back = from(ground, { follow: "boundary", at: [0, 5.2, 2], reverse: true });
    expect([...back.points.slice(0, 3)]).toEqual([...track.points.slice(0, 3)]);
    expect([...back.points.slice(3, 6)]).toEqual([...track.points.slice(-3)]);
  });

  test("a rim leads past a seam whose two sides rounding has put apart", () => {
    const { rest } = tube(12);
    const position = Float64Array.from(rest.mesh.position, (x, p) => x + (p % 36 >= 33 ? 7e-16 : 0));
    const track = from(WorldMesh.of("tube", { ...rest.mesh, position }, STAND), {
      follow: "boundary",
      at: [0, 5.2, 2],
    });
    expect([track.closed, track.points.length]).toEqual([true, 36]);
  });

  test("sharp edges of a box go from corner to corner; edge loops and rings of a tube go round it and along it", () => {
    const box = WorldMesh.of(
      "box",
      madeMesh(madeSchema.parse({ kind: "box", width: 2, height: 1, depth: 3 }), new Map())!,
      STAND,
    );
    const sharp = from(box, { follow: "sharp", at: [1, 1, 0.2] });
    expect(sharp.points).toHaveLength(6);
    expect(Math.abs(sharp.points[2] - sharp.points[5])).toBeCloseTo(3, 5);
    const ground = tube(16);
    const loop = from(ground, { follow: "loop", at: [2 * Math.cos(0.2), 5 / 96, 2 * Math.sin(0.2)] });
    expect(loop.closed).toBe(true);
    expect(loop.points).toHaveLength(3 * 16);
    const ring = from(ground, { follow: "ring", at: [2 * Math.cos(0.2), 5 / 96, 2 * Math.sin(0.2)] });
    expect(ring.closed).toBe(false);
    expect(ring.points).toHaveLength(3 * 97);
  });

  test("rows of v go round at their height, all the same way, and follow the surface when it moves", () => {
    fc.assert(
      fc.property(evenly(0.05, 0.95), evenly(-3, 3), (value, turn) => {
        const stand: Stand = { position: [turn, 1, 2], rotation: fromTurns(turn, 0.3, turn) as Quat, scale: 1 };
        const ground = tube(24, stand);
        const row = from(ground, { follow: "v", value, at: [2, 5 * (1 - value), 0] });
        expect(row.closed).toBe(true);
        const back = (i: number): Vec3 => {
          const [x, y, z, w] = stand.rotation;
          const [a, b, c] = vectorAt(row.points, i);
          return rotate([-x, -y, -z, w], [a - turn, b - 1, c - 2]);
        };
        const n = row.points.length / 3;
        let [apart, turned] = [0, 0];
        for (let i = 0; i < n; i++) {
          const [p, q] = [back(i), back((i + 1) % n)];
          apart = Math.max(apart, Math.abs(p[1] - 5 * (1 - value)));
          turned += Math.atan2(p[2] * q[0] - p[0] * q[2], p[0] * q[0] + p[2] * q[2]);
        }
        expect(apart).toBeLessThan(1e-4);
        expect(turned).toBeCloseTo(2 * Math.PI, 3);
      }),
      { numRuns: 30 },
    );
    expect(
      trackOn({ ...none, laid: laidSchema.parse({ kind: "edges", on: "hills", follow: "u", at: [0, 0, 0] }) }, [HILLS]),
    ).toBeNull();
  });
});

/** A tube of radius 1 about the y axis, 4 m high. */
const tube = (() => {
  const [position, index] = lattice(8, 360, (u, v) => round(u, 1, 4 - 4 * v), true);
  return WorldMesh.of("tube", { position: Float32Array.from(position), index, attributes: [] }, STAND);
})();
const onTube = (angle: number, y: number): Vec3 => [Math.cos(angle), y, -Math.sin(angle)];

test("on its sheet a line between two places of a tube is the helix between them, the shorter way round", () => {
  fc.assert(
    fc.property(evenly(-3, 3), evenly(-2.8, 2.8), evenly(0.2, 3.8), evenly(0.2, 3.8), (from, turn, low, high) => {
      const knots = [onTube(from, low), onTube(from + turn, high)];
      const { guide } = lay(
        makeLine({ kind: "polyline", knots }),
        { kind: "surface", on: ["tube"], how: "sheet" },
        tube,
      );
      const long = Math.hypot(turn, high - low);
      expect(guide.curve.length).toBeCloseTo(long, 2.5);
      const place = sampled(guide, 200);
      for (let i = 0; i < 200; i++) {
        const share = i / 199;
        const wanted = onTube(from + share * turn, low + share * (high - low));
        expect(Math.hypot(...wanted.map((x, k) => x - place[3 * i + k]))).toBeLessThan(3e-3);
      }
    }),
    { numRuns: 60 },
  );
});

test("what is drawn flat lies on the tube as it is long, its arcs round there, also over the seam; beside the sheet it is nowhere", () => {
  const chart = Chart.of(tube)!;
  const middle = [0, 1].map((axis) => (chart.least[axis] + chart.most[axis]) / 2);
  const share = (4 / 3) * Math.tan(Math.PI / 8);
  fc.assert(
    fc.property(evenly(-3, 3), evenly(-1, 1), evenly(0.2, 0.9), (right, down, radius) => {
      const flat = [0, 1, 2, 3].map((k): Knot => {
        const [c, s] = [Math.cos((k * Math.PI) / 2), Math.sin((k * Math.PI) / 2)];
        const way: Vec3 = [-radius * share * s, 0, radius * share * c];
        const position: Vec3 = [middle[0] + right + radius * c, 0, middle[1] + down + radius * s];
        return { id: k, position, join: "free", before: [-way[0], 0, -way[2]], after: way, sweep: Math.PI / 2 };
      });
      const knots = offSheet(flat, chart)!;
      for (const { position } of knots) expect(Math.hypot(position[0], position[2])).toBeCloseTo(1, 3);
      const line = {
        ...makeLine({ kind: "bezier", closed: true, knots: knots.map(({ position }) => position) }),
        knots,
      };
      const { guide } = lay(line as Line, { kind: "surface", on: ["tube"], way: "nearest", how: "sheet" }, tube);
      expect(Math.abs(guide.curve.length - 2 * Math.PI * radius)).toBeLessThan(2e-3);
    }),
    { numRuns: 40 },
  );
  expect(offSheet([{ id: 0, position: [middle[0], 0, chart.most[1] + 0.1] }], chart)).toBeNull();
});

test("a closed line that goes on round the tube closes beyond the seam, smoothly, and one that does not closes where it is", () => {
  for (const kind of ["polyline", "smooth"] as const) {
    const ring = [0, 1, 2, 3, 4].map((k) => onTube(1 + (2 * Math.PI * k) / 5, 2 + 0.3 * (k % 2)));
    const { guide, track } = lay(makeLine({ kind, closed: true, knots: ring }), { kind: "surface", on: ["tube"], how: "sheet" }, tube); // prettier-ignore
    expect(track.closed).toBe(true);
    expect(guide.curve.length).toBeGreaterThan(2 * Math.PI);
    expect(guide.curve.length).toBeLessThan(2.2 * Math.PI + 0.4);
    const place = sampled(guide, 400);
    const [x, y, z] = [0, 1, 2].map((k) => place[k] - place[3 * 399 + k]);
    expect(Math.hypot(x, y, z)).toBeLessThan(1e-6);
    const patch = [onTube(3, 1), onTube(3.4, 1), onTube(3.2, 1.5)];
    const small = lay(makeLine({ kind, closed: true, knots: patch }), { kind: "surface", on: ["tube"], how: "sheet" }, tube); // prettier-ignore
    expect(small.guide.curve.length).toBeLessThan(2);
  }
});
