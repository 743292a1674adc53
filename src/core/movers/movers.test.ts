/** What movers do to a mesh. */
import fc from "fast-check";
import { evenly } from "../math/testing";
import { RestMesh, type TriangleMesh } from "../mesh";
import { holdingWeight, moverSchema, movedVertices, weightInputs, type Mover } from ".";

/** A cloth of `n` by `n` squares, one metre each way: from x = 0 to n, up from y = 0 to n (or lying, along −z), with UVs or without. */
function cloth(n: number, { lying = false, uv = true, size = 1 } = {}): RestMesh {
  const [position, index, coordinates]: number[][] = [[], [], []];
  for (let i = 0; i <= n; i++) {
    for (let j = 0; j <= n; j++) {
      position.push(size * i, lying ? 0 : size * j, lying ? -size * j : 0);
      coordinates.push(i / n, j / n);
      if (i === n || j === n) continue;
      const a = i * (n + 1) + j;
      index.push(a, a + n + 1, a + n + 2, a, a + n + 2, a + 1);
    }
  }
  const mesh: TriangleMesh = {
    position: Float32Array.from(position),
    index: Uint32Array.from(index),
    attributes: uv ? [{ name: "TEXCOORD_0", width: 2, array: Float32Array.from(coordinates) }] : [],
  };
  return new RestMesh(mesh);
}

const mover = (says: Record<string, unknown>): Mover => ({ id: 0, ...moverSchema.parse(says) }) as Mover;

function moved(rest: RestMesh, movers: readonly Mover[], size = 1): Float64Array {
  const weight = (one: Mover) => {
    const holding = weightInputs(one);
    return holding && holdingWeight(holding, rest, size);
  };
  return movedVertices(
    movers.map((one) => ({ mover: one, weight: weight(one) })),
    rest,
    size,
  ).position;
}

const at = (P: ArrayLike<number>, v: number): number[] => [P[3 * v], P[3 * v + 1], P[3 * v + 2]];
const apart = (a: readonly number[], b: readonly number[]): number => Math.hypot(...a.map((x, k) => x - b[k]));

test("waves run where they head, as fast as they say: what was somewhere comes farther on", () => {
  fc.assert(
    fc.property(evenly(0.5, 6), evenly(0, 1), evenly(-4, 4), evenly(0, 6.28), (length, pointed, gone, heading) => {
      const rest = cloth(5, { lying: true });
      const wave = { kind: "waves", length, height: 0.4, pointed, heading };
      const before = moved(rest, [mover(wave)]);
      const after = moved(rest, [mover({ ...wave, gone })]);
      const own = rest.mesh.position;
      const [x, z] = [Math.sin(heading), -Math.cos(heading)];
      for (let p = 0; p < own.length; p += 3) {
        // Seen from a place that goes with the waves nothing changes.
        const phase = ((own[p] * x + own[p + 2] * z - gone) * 2 * Math.PI) / length;
        expect(after[p + 1]).toBeCloseTo(0.2 * Math.cos(phase), 9);
        const out = Math.hypot(after[p] - own[p], after[p + 2] - own[p + 2]);
        expect(out).toBeCloseTo(Math.abs(pointed * Math.min(0.2, length / 2 / Math.PI) * Math.sin(phase)), 9);
        expect(Math.abs(before[p + 1])).toBeLessThanOrEqual(0.2 + 1e-12);
      }
    }),
    { numRuns: 30 },
  );
});

test("what is held fast stays, and the rest comes free with the distance from there", () => {
  for (const uv of [true, false]) {
    const rest = cloth(8, { uv });
    const own = rest.mesh.position;
    for (const [side, metres] of [
      ["left", (x: number) => x],
      ["right", (x: number) => 8 - x],
      ["bottom", (_: number, y: number) => y],
      ["top", (_: number, y: number) => 8 - y],
    ] as const) {
      // prettier-ignore
      const flag = mover({ kind: "waves", along: "normal", length: 3, height: 1, held: [side], soft: 4, gone: 0.3 });
      const free = moved(rest, [mover({ ...flag, held: [] })]);
      const held = moved(rest, [flag]);
      for (let v = 0; v < own.length / 3; v++) {
        const share = Math.min(1, metres(own[3 * v], own[3 * v + 1]) / 4);
        expect(held[3 * v + 2]).toBeCloseTo(free[3 * v + 2] * share * share * (3 - 2 * share), 6);
      }
    }
  }
  const rest = cloth(8);
  const pinned = moved(rest, [mover({ kind: "waves", along: "normal", height: 1, places: [{ at: [3.1, 4.2, 0] }] })]);
  expect(at(pinned, 3 * 9 + 4)).toEqual([3, 4, 0]);
  expect(apart(at(pinned, 0), [0, 0, 0])).toBeGreaterThan(0.05);
});

test("a billow is the bulge of a membrane: Poisson's equation on a square, solved by its series", () => {
  const n = 24;
  const rest = cloth(n, { size: 1 / n });
  const bulge = moved(rest, [mover({ kind: "billow", depth: 1 })]);
  const series = (x: number, y: number) => {
    let sum = 0;
    for (let i = 1; i < 40; i += 2)
      for (let j = 1; j < 40; j += 2)
        sum += (Math.sin(i * Math.PI * x) * Math.sin(j * Math.PI * y)) / (i * j * (i * i + j * j));
    return sum;
  };
  const middle = series(0.5, 0.5);
  for (let v = 0; 3 * v < bulge.length; v++) {
    const [x, y, z] = at(bulge, v);
    expect(z).toBeCloseTo(series(x, y) / middle, 2);
  }
  // Half a breath later as much of it has gone as breathes; what holds nothing is blown up alike everywhere.
  const half = moved(rest, [mover({ kind: "billow", depth: 1, breath: 0.6, gone: 0.5 })]);
  half.forEach((x, p) => expect(x).toBeCloseTo(p % 3 === 2 ? 0.4 * bulge[p] : bulge[p], 6));
  const free = moved(rest, [mover({ kind: "billow", depth: -0.2, held: [] })]);
  for (let p = 2; p < free.length; p += 3) expect(free[p]).toBeCloseTo(-0.2, 6);
});

test("what is bent keeps its lengths along the middle, and goes on straight beyond", () => {
  fc.assert(
    fc.property(evenly(-3, 3), evenly(-3, 3), fc.constantFrom("up", "east", "south"), (angle, towards, axis) => {
      const rest = cloth(12, { uv: false, lying: axis === "south" });
      const bent = moved(rest, [mover({ kind: "bend", axis, angle, towards, from: 0.25, to: 0.75 })]);
      const own = rest.mesh.position;
      const along = { east: 0, up: 1, south: 2 }[axis as "up"];
      const middle = axis === "south" ? [6, 0, -6] : [6, 6, 0];
      // Midway across, where nothing is stretched.
      const line = Array.from({ length: 169 }, (_, v) => v)
        .filter((v) => [0, 1, 2].every((k) => k === along || own[3 * v + k] === middle[k]))
        .sort((a, b) => own[3 * a + along] - own[3 * b + along]);
      const way = (a: number, b: number) => at(bent, line[b]).map((x, k) => x - at(bent, line[a])[k]);
      const [first, last] = [way(0, 1), way(line.length - 2, line.length - 1)];
      expect(Math.hypot(...first)).toBeCloseTo(1, 6);
      expect(Math.hypot(...last)).toBeCloseTo(1, 6);
      const cosine = first.reduce((sum, x, k) => sum + x * last[k], 0);
      expect(cosine).toBeCloseTo(Math.cos(angle), 6);
      for (let k = 1; k < line.length; k++) expect(Math.hypot(...way(k - 1, k))).toBeLessThanOrEqual(1 + 1e-9);
    }),
    { numRuns: 40 },
  );
});

test("what is twisted keeps its distance from the axis, and its ends are turned against each other", () => {
  const rest = cloth(6, { uv: false });
  const twisted = moved(rest, [mover({ kind: "twist", axis: "up", angle: 1.2 })]);
  const own = rest.mesh.position;
  for (let p = 0; p < own.length; p += 3) {
    const turn = 1.2 * (own[p + 1] / 6);
    expect(twisted[p + 1]).toBe(own[p + 1]);
    expect(twisted[p]).toBeCloseTo(3 + (own[p] - 3) * Math.cos(turn), 9);
    expect(twisted[p + 2]).toBeCloseTo(-(own[p] - 3) * Math.sin(turn), 9);
  }
});

test("a pull takes along what lies within its reach, all of it where it was taken hold of; sizes are metres of the surface", () => {
  const rest = cloth(6);
  const pull = { at: [3, 3, 0], by: [0.5, 0, 2], reach: 4, soft: 0.5 };
  const pulled = moved(rest, [mover({ kind: "pulls", pulls: [pull] })], 2);
  const own = rest.mesh.position;
  for (let v = 0; 3 * v < own.length; v++) {
    const far = 2 * apart(at(own, v), pull.at);
    const gone = apart(at(pulled, v), at(own, v).map((x) => 2 * x)); // prettier-ignore
    if (far <= 2) expect(gone).toBeCloseTo(Math.hypot(0.5, 2), 9);
    else if (far >= 4) expect(gone).toBe(0);
    else expect(gone).toBeLessThan(Math.hypot(0.5, 2));
  }
});

test("movers work one after the other: waves before a bend follow it", () => {
  const rest = cloth(8, { uv: false });
  const [waves, bend] = [mover({ kind: "waves", along: "normal", length: 4, height: 0.5 }), mover({ kind: "bend", angle: Math.PI / 2 })]; // prettier-ignore
  const [flat, bent, both] = [[waves], [bend], [bend, waves]].map((movers) => moved(rest, movers));
  for (let v = 0; 3 * v < flat.length; v++) expect(apart(at(both, v), at(bent, v))).toBeCloseTo(Math.abs(at(flat, v)[2]), 6); // prettier-ignore
  expect(moved(rest, [waves, bend])).not.toEqual(both);
});

test("a replay puts each vertex where its picture has it, whichever way is up there; another mesh's does nothing", () => {
  const rest = cloth(3, { lying: true });
  const vertices = rest.mesh.position.length / 3;
  const picture = (k: number) => Array.from({ length: 3 * vertices }, (_, p) => Math.sin(p) + k);
  const cache = { vertices, pictures: 3, position: Float32Array.from([0, 1, 5].flatMap(picture)) };
  const played = (says: Record<string, unknown>, of = cache) =>
    movedVertices([{ mover: mover({ kind: "replay", ...says }), weight: null, cache: of }], rest, 2).position;
  for (const [gone, up] of [
    [1, 0],
    [1.25, 1],
    [4, 0],
  ]) {
    // prettier-ignore
    const now = played({ gone, up: up ? "z" : "y", unit: 0.5, times: gone > 2 ? 1 : 0 });
    const height = [0, 1, 5][Math.min(2, Math.floor(gone))] + (gone === 1.25 ? 0.25 * 4 : 0);
    for (let p = 0; p < now.length; p += 3) {
      const [x, y, z] = [0, 1, 2].map((k) => Math.sin(p + k) + height);
      const wanted = up ? [x, z, -y] : [x, y, z];
      wanted.forEach((one, k) => expect(now[p + k]).toBeCloseTo(2 * 0.5 * one, 5));
    }
  }
  expect(played({ gone: 1 }, { ...cache, vertices: 5 })).toEqual(Float64Array.from(rest.mesh.position, (x) => 2 * x));
});
