import fc from "fast-check";
import { evenly } from "../../math/testing";
import { GuideLine } from "../../line";
import { makeLine } from "../../line/testing";
import { Body, shapedMesh, type TriangleMesh, samplesOf } from "../../mesh";
import { distance, quatAt, rotate, vectorAt, type Vec3 } from "../../math";
import { placingMatrix } from "../bodies";
import { Boxes } from "../boxes";

import { lineKey, placeOfKey } from "../keys";
import { FLAG, NO_PROP } from "../slots";
import { evaluate, BOUNDS, boxMesh, dressing, pegsOn, place, straight, surroundings } from "../testing";
import type { Placements } from "../placements";

type Input = Parameters<typeof place>[0];

const ring = (radius: number) => makeLine({ kind: "circle", knots: [[0, 0, 0]], radius });
const wavy = makeLine({
  kind: "smooth",
  knots: [
    [0, 0, 0],
    [4, 1, 2],
    [9, 0, -2],
    [14, 2, 1],
  ],
});

const positions = (p: Placements): Vec3[] =>
  Array.from({ length: p.count }, (_, i) => {
    const [x, y, z] = vectorAt(p.position, i);
    return [x + p.origin[0], y + p.origin[1], z + p.origin[2]];
  });

describe("rows", () => {
  test("lie exactly as far apart as they say, wherever the line bends", () => {
    const spacing = { distance: 0.5 };
    const one = positions(place({ spacing, stance: { up: "line" } }, [wavy]));
    const rows = place({ spacing, stance: { up: "line" }, fit: { rows: 3, rowDistance: 0.4 } }, [wavy]);
    expect(rows.count).toBe(3 * one.length);
    positions(rows).forEach((position, i) => {
      const away = distance(position, one[i % one.length]);
      expect(away).toBeCloseTo(rows.row[i] === 1 ? 0 : 0.4, 5);
    });
    const circles = place({ spacing, fit: { rows: 2, rowDistance: 1, rowSide: "left" } }, [ring(3)]);
    positions(circles).forEach(([x, , z], i) => expect(Math.hypot(x, z)).toBeCloseTo(circles.row[i] === 0 ? 3 : 2, 5));
  });

  test("each keeps its own numbers: one more row, or a longer line, leaves all others as they were", () => {
    const draws = (rows: number, length: number) => {
      const p = place({ spacing: { distance: 1 }, fit: { rows }, variation: { turnOn: true } }, [straight(length)]);
      return new Map(Array.from(p.key, (key, i) => [key, [...p.rotation.subarray(4 * i, 4 * i + 4)].join()]));
    };
    const [few, more] = [draws(5, 10), draws(7, 25)];
    expect(new Set(few.keys()).size).toBe(55);
    for (const [key, turn] of few) expect(more.get(key)).toBe(turn);
  });

  test("a number says its row, for every row and every slot that a row may have", () => {
    const p = place({ spacing: { distance: 0.05 }, fit: { rows: 40, rowDistance: 0.5 } }, [straight(20)]);
    const seen = new Set<bigint>();
    p.key.forEach((key, i) => {
      expect(key).toBe(lineKey(1, i % 401, p.row[i]));
      seen.add(key);
    });
    expect(seen.size).toBe(40 * 401);
  });

  test("staggered, every second row lies half way between", () => {
    const p = place({ spacing: { distance: 1 }, fit: { rows: 2, rowDistance: 1, stagger: true } }, [straight(4)]);
    expect(Array.from(p.at, (at) => Number(at.toFixed(4)))).toEqual([0, 1, 2, 3, 4, 0.5, 1.5, 2.5, 3.5]);
    const round = place({ spacing: { by: "count", count: 4 }, fit: { rows: 2, stagger: true } }, [ring(1)]);
    expect(round.count).toBe(8);
    expect(round.at[7] % (2 * Math.PI)).toBeCloseTo((7 / 8) * 2 * Math.PI, 4);
  });
});

describe("keeping clear", () => {
  const crowded: Input = {
    what: { order: "mixed", entries: [{ prop: "buoy" }, { prop: "oar" }] },
    spacing: { distance: 0.23 },
    variation: { turnOn: true, turnUp: [-3, 3], positionOn: true, across: [-0.4, 0.4], sizeOn: true, size: [0.5, 1.5] },
  };
  const six = (p: Placements) =>
    Float64Array.from(
      p.props.flatMap((prop) => {
        const { min, max } = BOUNDS.get(prop)!;
        return [...[0, 1, 2].map((k) => (min[k] + max[k]) / 2), ...[0, 1, 2].map((k) => (max[k] - min[k]) / 2)];
      }),
    );
  /** Pairs that overlap, looked for one by one without any grid. */
  function overlaps(p: Placements, shape: "radius" | "footprint" | "box"): number {
    const standing = Array.from({ length: p.count }, (_, i) => i).filter(
      (i) => !(p.flags[i] & FLAG.blank) && p.prop[i] !== NO_PROP,
    );
    const boxes = new Boxes(p, Uint32Array.from(standing), six(p), shape);
    let pairs = 0;
    for (let i = 0; i < standing.length; i++) {
      for (let j = i + 1; j < standing.length; j++) if (boxes.overlap(i, j) > 0) pairs++;
    }
    return pairs;
  }

  test("leaves no two that overlap, by radius, by footprint or by box, left out or pushed", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 999 }),
        fc.constantFrom("radius" as const, "footprint" as const, "box" as const),
        fc.constantFrom("leave" as const, "push" as const),
        (seed, clear, clearBy) => {
          const input = { ...crowded, variation: { ...crowded.variation, seed } };
          const free = place({ ...input, fit: { rows: 2, rowDistance: 0.5 } }, [wavy]);
          const p = place({ ...input, fit: { rows: 2, rowDistance: 0.5, clear, clearBy } }, [wavy]);
          expect(overlaps(free, clear)).toBeGreaterThan(10);
          expect(overlaps(p, clear)).toBe(0);
          expect(p.blanks).toBeLessThan(p.count);
          expect([...p.key]).toEqual([...free.key]);
        },
      ),
      { numRuns: 16 },
    );
  });

  test("by mesh no two meet, and of props that fill little of their boxes more can stay", () => {
    const lines = [straight(12)];
    // A post with a wide, thin plate on top.
    const parts = [boxMesh([-0.05, 0, -0.05], [0.05, 1, 0.05]), boxMesh([-0.2, 0.95, -0.2], [0.2, 1, 0.2])];
    const post = {
      position: Float32Array.from(parts.flatMap(({ position }) => [...position])),
      index: Uint32Array.from(parts.flatMap(({ index }, k) => [...index].map((v) => v + 8 * k))),
    };
    const body = new Body(post);
    const placed = (clear: "box" | "mesh", seed: number) =>
      evaluate(
        dressing(
          {
            spacing: { distance: 0.17 },
            variation: { seed, positionOn: true, up: [-0.6, 0.6], turnOn: true, turnUp: [-3, 3] },
            fit: { clear },
          },
          lines,
        ),
        { ...surroundings(lines), bodies: new Map([["buoy", body]]) },
      );
    for (const seed of [1, 2, 3]) {
      const [boxes, meshes] = [placed("box", seed), placed("mesh", seed)];
      expect(meshes.blanks).toBeLessThan(boxes.blanks);
      expect(meshes.blanks).toBeGreaterThan(0);
      const standing = Array.from({ length: meshes.count }, (_, i) => i).filter((i) => !(meshes.flags[i] & FLAG.blank));
      const matrices = standing.map((i) => placingMatrix(meshes, i));
      for (const [k, a] of matrices.entries())
        for (const b of matrices.slice(k + 1, k + 8)) expect(body.meets(body, a, b)).toBe(false);
    }
  });

  test("what is far from all others is untouched, and a turned neighbour is found wherever it was turned to", () => {
    const lonely = place({ spacing: { distance: 3 }, fit: { clear: "box" } });
    expect(lonely.blanks).toBe(0);
    const oars: Input = { what: { entries: [{ prop: "oar" }] }, spacing: { distance: 0.75 } };
    const blanks = (turnUp: number) => place({ ...oars, stance: { turnUp }, fit: { clear: "footprint" } }).blanks;
    expect(blanks(0)).toBeGreaterThan(4);
    expect(blanks(Math.PI / 2)).toBe(0);
  });

  test("a pegged one stays and the others give way to it; room between is kept", () => {
    const pegs = pegsOn({ slot: 3, at: 2.1 });
    const p = place({ spacing: { distance: 1 }, pegs, fit: { clear: "footprint" } });
    expect(p.flags[3] & FLAG.blank).toBe(0);
    expect(p.flags[2] & FLAG.blank).toBeTruthy();
    expect(p.flags[2] & FLAG.crowded).toBeTruthy();
    const pushed = place({ spacing: { distance: 0.5 }, fit: { clear: "footprint", clearBy: "push", clearance: 0.25 } });
    const at = Array.from(pushed.at).filter((_, i) => !(pushed.flags[i] & FLAG.blank));
    for (let i = 1; i < at.length; i++) expect(at[i] - at[i - 1]).toBeCloseTo(0.65, 3);
  });
});

/** A bar along Z of a square section, in so many pieces. */
function bar(half: number, from: number, to: number): TriangleMesh {
  const position: number[] = [];
  for (const z of [from, to]) {
    for (const [x, y] of [
      [-half, -half],
      [half, -half],
      [half, half],
      [-half, half],
    ]) {
      position.push(x, y, z);
    }
  }
  const index = [0, 1, 2, 3].flatMap((k) => {
    const [a, b] = [k, (k + 1) % 4];
    return [a, b, a + 4, b, b + 4, a + 4];
  });
  return { position: Float32Array.from(position), index: Uint32Array.from(index), attributes: [] };
}

/** The vertices of a shaped mesh in the world. */
function inWorld(p: Placements, i: number, mesh: TriangleMesh): { points: Vec3[]; index: Uint32Array } {
  const entry = p.shapes!.entry[i];
  const shaped = shapedMesh(mesh, p.shapes!, p.shapes!.form[entry]);
  const frame = p.shapes!.frame.subarray(7 * entry, 7 * entry + 7);
  const turn = quatAt(frame.subarray(3), 0);
  const points = Array.from({ length: shaped.position.length / 3 }, (_, k): Vec3 => {
    const [x, y, z] = rotate(turn, vectorAt(shaped.position, k));
    return [x + frame[0] + p.origin[0], y + frame[1] + p.origin[1], z + frame[2] + p.origin[2]];
  });
  return { points, index: shaped.index };
}

const areaOf = (points: readonly Vec3[], index: Uint32Array): number => {
  let sum = 0;
  for (let t = 0; t < index.length; t += 3) {
    const [a, b, c] = [points[index[t]], points[index[t + 1]], points[index[t + 2]]];
    const [u, v] = [b.map((x, k) => x - a[k]), c.map((x, k) => x - a[k])];
    sum += Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2;
  }
  return sum;
};

describe("bending", () => {
  const LONG = new Map([["pole", { min: [-0.05, -0.05, -1] as Vec3, max: [0.05, 0.05, 2] as Vec3 }]]);
  const poles = (input: Input, line = wavy): Placements => {
    const made = dressing({ what: { entries: [{ prop: "pole" }] }, stance: { meetsUp: "pivot" }, ...input }, [line]);
    return evaluate(made, { ...surroundings([line]), bounds: LONG });
  };

  test("a thin bar comes to lie along the line and keeps its length to a thousandth, at any place on it", () => {
    fc.assert(
      fc.property(evenly(1, 12), (at) => {
        const p = poles({ spacing: { by: "list", list: [at] }, fit: { bend: true } });
        const { points, index } = inWorld(p, 0, bar(1e-4, -1, 2));
        const { curve } = new GuideLine(wavy);
        const sample = new Float64Array(6);
        // Every vertex lies on the line, and the first and last where the bar's ends are by arc length.
        const nearest = (point: Vec3) => {
          let best = Infinity;
          for (let s = at - 1.01; s <= at + 2.01; s += 0.005) {
            curve.sampleAt(s, sample);
            best = Math.min(best, distance(point, [sample[0], sample[1], sample[2]]));
          }
          return best;
        };
        points.filter((_, k) => k % 7 === 0).forEach((point) => expect(nearest(point)).toBeLessThan(4e-3));
        for (const [vertex, z] of [
          [0, -1],
          [4, 2],
        ] as const) {
          const found = points.findIndex((_, k) => k === vertex);
          curve.sampleAt(at + z, sample);
          const ends = points.map((point) => distance(point, [sample[0], sample[1], sample[2]]));
          expect(Math.min(...ends)).toBeLessThan(3e-3);
          expect(found).toBe(vertex);
        }
        // Four sides of 2e-4 by 3 m.
        expect(Math.abs(areaOf(points, index) / (4 * 2e-4) - 3)).toBeLessThan(3e-3);
      }),
      { numRuns: 12 },
    );
  });

  test("in a row beside the line the length is kept as well", () => {
    const p = poles({ spacing: { by: "list", list: [3] }, fit: { bend: true, across: 1 } }, ring(4));
    const { points, index } = inWorld(p, 0, bar(1e-4, -1, 2));
    for (const [x, , z] of points) expect(Math.hypot(x, z)).toBeCloseTo(3, 2);
    expect(Math.abs(areaOf(points, index) / (4 * 2e-4) - 3)).toBeLessThan(3e-3);
  });

  test("round a circle all share one form; on a straight line nothing is bent", () => {
    const round = poles({ spacing: { by: "count", count: 24 }, fit: { bend: true } }, ring(3));
    expect(round.shapes!.form.length).toBe(24);
    expect(new Set(round.shapes!.form).size).toBe(1);
    expect(samplesOf(round.shapes!, 0)).toBeGreaterThan(4);
    expect(poles({ spacing: { distance: 4 }, fit: { bend: true } }, straight(20)).shapes).toBeNull();
  });

  test("end to end, bent ones take as much of the line as they are long, and fill a circle without a gap", () => {
    const length = 2 * Math.PI * 3;
    const p = poles({ spacing: { by: "end", remainder: "stretched" }, fit: { bend: true } }, ring(3));
    expect(p.count).toBe(6);
    expect(p.scale[2]).toBeCloseTo(length / 18, 6);
    for (let i = 1; i < p.count; i++) expect(p.at[i] - p.at[i - 1]).toBeCloseTo(length / 6, 4);
  });
});

describe("clipping", () => {
  test("a prop that sticks out past an end is cut off square to it, and nothing before the end is touched", () => {
    const line = straight(10);
    const what = { entries: [{ prop: "oar" }] };
    const p = place({ what, spacing: { by: "end" }, fit: { clip: true } }, [line]);
    // Eight oars of 1.2 m end at 9.6 m; the ninth is cut after 0.4 m.
    expect(p.count).toBe(9);
    expect(Array.from(p.shapes!.entry).filter((entry) => entry >= 0)).toHaveLength(1);
    const { points, index } = inWorld(p, 8, bar(0.05, -0.5, 0.7));
    expect(Math.max(...points.map(([x]) => x))).toBeCloseTo(10, 5);
    expect(Math.min(...points.map(([x]) => x))).toBeCloseTo(9.6, 5);
    expect(areaOf(points, index)).toBeCloseTo(4 * 0.1 * 0.4, 5);
  });

  test("what lies past an end altogether is blank; a closed line has no ends", () => {
    const p = place({ spacing: { distance: 5 }, fit: { clip: true, along: 1 } });
    expect(Array.from(p.flags, (flags) => (flags & FLAG.blank) !== 0)).toEqual([false, false, true]);
    expect(place({ spacing: { distance: 1 }, fit: { clip: true } }, [ring(1)]).shapes).toBeNull();
  });
});

test("of boxes that overlap as many are told as are asked for, and all of them when there are no more", () => {
  const coordinate = evenly(-2, 2);
  fc.assert(
    fc.property(
      fc.array(fc.tuple(coordinate, coordinate, coordinate), { minLength: 2, maxLength: 30 }),
      fc.integer({ min: 1, max: 40 }),
      (places, most) => {
        const n = places.length;
        const standing = {
          position: Float32Array.from(places.flat()),
          rotation: Float32Array.from(places.flatMap(() => [0, 0, 0, 1])),
          scale: new Float32Array(3 * n).fill(1),
          prop: new Uint16Array(n),
          flags: new Uint16Array(n),
        };
        const boxes = new Boxes(
          standing,
          Uint32Array.from(places, (_, i) => i),
          Float64Array.of(0, 0, 0, 0.5, 0.5, 0.5),
          "box",
        );
        for (let i = 0; i < n; i++) {
          const met = places.slice(0, i).flatMap((place, j) => {
            const by = Math.min(...place.map((x, axis) => 1 - Math.abs(x - places[i][axis])));
            return by > 1e-3 ? [[j, by] as const] : [];
          });
          const told = new Map<number, number>();
          boxes.eachHit(
            i,
            most,
            () => false,
            (j, by) => told.set(j, by),
          );
          if (most >= n) for (const [j, by] of met) expect(told.get(j)).toBeCloseTo(by, 4);
          expect(told.size).toBeLessThanOrEqual(most);
          if (met.length > 0) expect(told.size).toBeGreaterThan(0);
          boxes.put(i);
        }
      },
    ),
  );
});

test("a peg may ask for a mix: its slot draws one of the mix's props, the same each time, whatever else is pegged", () => {
  const mixes = new Map([["pair", ["buoy", "oar"].map((prop) => ({ prop, weight: 1 }))]]);
  const pegs = (slots: readonly number[]) => pegsOn(...slots.map((slot) => ({ slot, prop: "pair" })));
  const drawn = (slots: readonly number[]) => {
    const lines = [straight(30)];
    const asked = dressing({ what: { entries: [{ prop: "buoy" }] }, pegs: pegs(slots), where: { lines: ["line"] } });
    const p = evaluate(asked, { ...surroundings(lines), mixes });
    return new Map(slots.map((slot) => [slot, p.props[p.prop[p.key.findIndex((key) => placeOfKey(key) === slot)]]]));
  };
  const all = drawn(Array.from({ length: 30 }, (_, i) => i));
  expect(new Set(all.values())).toEqual(new Set(["buoy", "oar"]));
  for (const slot of [3, 7, 21]) expect(drawn([slot]).get(slot)).toBe(all.get(slot));
});
