import fc from "fast-check";
import { fromAxisAngle, rotate, type Vec3 } from "../math";
import { evenly } from "../math/testing";
import { GuideLine, lineSchema, type Line } from "../line";
import { shellSchema, tubeSchema } from "../made";
import {
  closedBodies,
  creased,
  factsOf,
  inCell,
  Joiner,
  meetingEnds,
  sectionOf,
  shellOf,
  solidLibrary,
  tubeOf,
  uncreased,
  volumeOf,
  type ClosedMesh,
  type JoinStep,
} from ".";
import { cutAt } from "./cut";
import { rimmed } from "./stitch";

/** A box of eight vertices, turned so that nothing of it lies along an axis. */
function box(size: Vec3, at: Vec3 = [0, 0, 0], turn = 0): ClosedMesh {
  const q = fromAxisAngle([0.6, 0.48, 0.64], turn);
  const corners = Array.from({ length: 8 }, (_, i) => {
    const own = [0, 1, 2].map((k) => ((i >> k) & 1 ? 0.5 : -0.5) * size[k]) as unknown as Vec3;
    return rotate(q, own).map((x, k) => x + at[k]);
  });
  const quads = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ];
  return {
    position: Float32Array.from(corners.flat()),
    index: Uint32Array.from(quads.flatMap(([a, b, c, d]) => [a, b, c, a, c, d])),
  };
}

const line = (own: object): Line => lineSchema.parse({ id: "l", name: "l", number: 1, ...own });
const polyline = (...points: Vec3[]) =>
  line({ kind: "polyline", knots: points.map((position, id) => ({ id, position })) });
const guide = (own: object) => new GuideLine(line({ knots: [{ id: 0, position: [0, 0, 0] }], ...own }));

function tubes(made: object, guides: GuideLine[]): ClosedMesh[] {
  const rules = tubeSchema.parse({ kind: "tube", ...made });
  const meets = meetingEnds(guides, rules.radius);
  return guides.flatMap((one, k) => tubeOf(rules, sectionOf(rules, undefined)!, one, meets[k]).bodies);
}

const named = (meshes: readonly ClosedMesh[], from = "") => meshes.map((mesh, k) => ({ name: `${from}${k}`, mesh }));

async function joiner(): Promise<Joiner> {
  const library = await solidLibrary();
  return new Joiner(library, (steps) => Promise.resolve(inCell(library, steps)));
}

async function joined(steps: JoinStep[], side?: number | null): Promise<ClosedMesh> {
  const result = (await (await joiner()).join(steps, { side }))!;
  expect(result.open).toBe(0);
  return result.mesh;
}

describe("joining", () => {
  // Where the shared part is known: boxes that are moved along one direction of their own.
  const apart: Vec3 = rotate(fromAxisAngle([0.6, 0.48, 0.64], 0.7), [0.25, 0, 0]) as Vec3;
  const [a, b] = [box([1, 1, 1], [0, 0, 0], 0.7), box([1, 2, 0.5], apart, 0.7)];
  const shared = 0.75 * 1 * 0.5;

  test.each([
    ["join", 1 + 1 - shared],
    ["cut", 1 - shared],
    ["common", shared],
  ] as const)("%s: two boxes have the volume that they should, in one cell and in many", async (how, volume) => {
    const steps: JoinStep[] = [
      { how: "join", bodies: named([a], "a") },
      { how, bodies: named([b], "b") },
    ];
    for (const side of [null, 0.25, 0.5]) {
      const mesh = await joined(steps, side);
      expect(volumeOf(mesh)).toBeCloseTo(volume, 5);
      // The walls of cells are gone.
      expect(closedBodies(mesh).bodies).toHaveLength(1);
    }
  });

  it("comes to the same whatever the cells, closed everywhere, also where many bodies meet", async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(evenly(0, 1), { minLength: 54, maxLength: 54 }), async (numbers) => {
        const seed = numbers.join(" ");
        const left = [...numbers];
        const dice = () => left.pop()!;
        const boxes = Array.from({ length: 9 }, () =>
          box([0.4 + dice(), 0.2, 0.3 + dice()], [dice(), dice(), dice()], 6 * dice()),
        );
        const steps: JoinStep[] = [
          { how: "join", bodies: named(boxes.slice(0, 6), `${seed} `) },
          { how: "cut", bodies: named(boxes.slice(6), `${seed} cut `) },
        ];
        const volumes = [];
        for (const side of [null, 1, 0.5]) volumes.push(volumeOf(await joined(steps, side)));
        for (const volume of volumes) expect(volume).toBeCloseTo(volumes[0], 6);
      }),
      { numRuns: 6 },
    );
  });

  it("goes on joining where nothing was left before, in each cell by itself", async () => {
    const at = (x: number) => box([0.6, 0.5, 0.5], [x, 0, 0], 0.3);
    const steps: JoinStep[] = [
      { how: "join", bodies: named([at(0)], "first") },
      { how: "common", bodies: named([at(5)], "nothing") },
      { how: "cut", bodies: named([at(9)], "away") },
      { how: "join", bodies: named([at(9)], "last") },
    ];
    for (const side of [null, 0.5]) expect(volumeOf(await joined(steps, side))).toBeCloseTo(0.15, 5);
  });

  it("does again only the cells that a change reaches, and is given up when it is told so", async () => {
    const work = await joiner();
    const boxes = Array.from({ length: 12 }, (_, k) => box([1.3, 0.2, 0.2], [k, 0, 0], 0.1));
    const first = (await work.join([{ how: "join", bodies: named(boxes) }], { side: 1 }))!;
    expect(first.kept).toBe(0);
    const moved = [...named(boxes.slice(0, 11)), { name: "moved", mesh: box([1.3, 0.2, 0.2], [11, 0.05, 0], 0.1) }];
    const second = (await work.join([{ how: "join", bodies: moved }], { side: 1 }))!;
    expect(second.done).toBeLessThan(9);
    expect(second.kept).toBeGreaterThan(2 * second.done);
    const given = await work.join([{ how: "join", bodies: named(boxes, "x") }], {
      side: 1,
      goOn: (share) => Promise.resolve(share < 0.5),
    });
    expect(given).toBeNull();
  });

  it("is cut at the very same places on both sides of a wall, however often, and closed again", () => {
    const body = tubes({ radius: 0.4, sides: 17 }, [new GuideLine(polyline([-1, -1, -1], [1, 1.3, 0.7]))])[0];
    const fill = () => {
      throw new Error("One outline needs no library.");
    };
    const halves = cutAt(body, 0, Math.fround(0.123), fill).map((half) => cutAt(half!, 1, Math.fround(0.21), fill));
    const quarters = halves.flat().map((one) => one!);
    for (const quarter of quarters) expect(rimmed(quarter).rim.length).toBe(0);
    expect(quarters.reduce((sum, one) => sum + volumeOf(one), 0)).toBeCloseTo(volumeOf(body), 5);
    const onWall = (mesh: ClosedMesh) => {
      const points: string[] = [];
      for (let p = 0; p < mesh.position.length; p += 3)
        if (mesh.position[p] === Math.fround(0.123)) points.push(mesh.position.slice(p, p + 3).join(" "));
      return points.sort();
    };
    for (const k of [0, 1]) expect(onWall(halves[0][k]!)).toEqual(onWall(halves[1][k]!));
  });

  it("says how thick the thinnest wall is, and keeps creases", async () => {
    const hollow = await joined([
      { how: "join", bodies: named([box([1, 1, 1])]) },
      { how: "cut", bodies: named([box([0.9, 0.96, 0.9])], "in") },
    ]);
    const { volume, size, thinnest, closed } = factsOf(hollow, 0);
    expect([volume, ...size].map((value) => value.toFixed(4))).toEqual(["0.2224", "1.0000", "1.0000", "1.0000"]);
    expect([closed, thinnest!.thickness.toFixed(4)]).toEqual([true, "0.0200"]);
    // What only comes to a point has no walls.
    const pyramid = { position: Float32Array.from([1, 1, 1, -1, -1, 1, -1, 1, -1, 1, -1, -1]), index: Uint32Array.from([0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3]) }; // prettier-ignore
    expect([volumeOf(pyramid).toFixed(3), factsOf(pyramid, 0).thinnest]).toEqual(["2.667", null]);
    const shown = creased(hollow);
    expect(shown.position.length / 3).toBe(48);
    expect(uncreased(shown).position.length / 3).toBe(16);
  });
});

describe("mending", () => {
  const whole = box([1, 2, 3], [1, 0, 0], 0.4);

  it("makes one of vertices at one place, turns faces over, fills small holes, and finds hollows", () => {
    const soup = { position: new Float32Array(3 * 36), index: Uint32Array.from({ length: 36 }, (_, i) => i) };
    whole.index.forEach((v, i) => soup.position.set(whole.position.subarray(3 * v, 3 * v + 3), 3 * i));
    for (const t of [3, 12, 30]) [soup.index[t], soup.index[t + 1]] = [soup.index[t + 1], soup.index[t]];
    const mended = closedBodies(soup);
    expect([mended.bodies.map((one) => volumeOf(one).toFixed(5)), mended.turned]).toEqual([["6.00000"], 3]);
    const inside = box([0.5, 1, 1], [1, 0, 0], 0.4);
    const both = {
      position: Float32Array.from([...whole.position, ...inside.position]),
      index: Uint32Array.from([...whole.index, ...inside.index.map((v) => v + 8).reverse()]),
    };
    expect(closedBodies(both).bodies.map((one) => volumeOf(one).toFixed(5))).toEqual(["5.50000"]);
  });

  it("leaves out what is open, and counts how many edges are", () => {
    const open = closedBodies({ ...whole, index: whole.index.slice(6) });
    expect([open.bodies.length, open.open]).toEqual([0, 4]);
    const [tube] = tubes({ sides: 16 }, [new GuideLine(polyline([0, 0, 0], [3, 0, 0]))]);
    const pierced = closedBodies({ ...tube, index: tube.index.slice(3) });
    expect([pierced.bodies.length, pierced.filled]).toEqual([1, 1]);
  });
});

describe("tubes", () => {
  const close = (bodies: ClosedMesh[]) => {
    for (const body of bodies) expect(rimmed(body).rim.length).toBe(0);
    return bodies.reduce((sum, body) => sum + volumeOf(body), 0);
  };

  it("have the volume of what they go by", () => {
    const straight = new GuideLine(polyline([0, 0, 0], [1, 0, 1], [2, 0, 2]));
    const way = 2 * Math.SQRT2;
    const flat = { sides: 128, radius: 0.1, ends: "flat" };
    expect(close(tubes(flat, [straight])) / (Math.PI * 0.01 * way)).toBeCloseTo(1, 3);
    const cone = { ...flat, course: [[0, 1], [1, 0.001]] }; // prettier-ignore
    expect(close(tubes(cone, [straight])) / ((Math.PI * 0.01 * way) / 3)).toBeCloseTo(1, 2);
    expect(close(tubes({ ...flat, ends: "round" }, [straight])) - close(tubes(flat, [straight]))).toBeCloseTo(
      (4 / 3) * Math.PI * 0.001,
      3,
    );
    const torus = close(tubes({ sides: 96, radius: 0.1 }, [guide({ kind: "circle", radius: 1 })]));
    expect(torus / (2 * Math.PI ** 2 * 0.01)).toBeCloseTo(1, 2);
    // Mitred: a bar keeps its breadth round a corner, so its volume is that of its middle line.
    const corner = new GuideLine(polyline([0, 0, 0], [2, 0, 0], [2, 0, 2]));
    expect(close(tubes({ section: "square", radius: 0.1, ends: "flat" }, [corner]))).toBeCloseTo(0.04 * 4, 5);
  });

  it("that meet or cross themselves are joined without counting anything twice", async () => {
    const elbow = [polyline([0, 0, 0], [2, 0, 0]), polyline([2, 0, 0], [2, 0, 2])].map((one) => new GuideLine(one));
    const ends = await joined([{ how: "join", bodies: named(tubes({ radius: 0.1, sides: 64, ends: "flat" }, elbow)) }]);
    // Where they meet, a quarter of a ball fills what a mitre would.
    expect(volumeOf(ends)).toBeGreaterThan(Math.PI * 0.01 * 3.9);
    expect(volumeOf(ends)).toBeLessThan(Math.PI * 0.01 * 4.02);
    const loop = new GuideLine(polyline([0, 0, 0], [2, 0, 0], [2, 0, 1], [1, 0, 1], [1, 0, -1]));
    const bodies = tubes({ radius: 0.1, section: "square", ends: "flat" }, [loop]);
    expect(bodies.length).toBeGreaterThan(1);
    expect(volumeOf(await joined([{ how: "join", bodies: named(bodies) }]))).toBeCloseTo(0.04 * 6 - 0.008, 4);
  });

  it("that bend more sharply than they are wide are told of", () => {
    const tight = guide({ kind: "circle", radius: 0.3 });
    const rules = (radius: number) => tubeSchema.parse({ kind: "tube", radius });
    const folded = (radius: number) =>
      tubeOf(rules(radius), sectionOf(rules(radius), undefined)!, tight, [false, false]).folded;
    expect([folded(0.2), folded(0.35)]).toEqual([false, true]);
  });
});

test("a shell has the thickness all over, to whichever side, closed along rims", () => {
  const sheet = { ...box([2, 0, 3]), index: Uint32Array.from([2, 6, 7, 2, 7, 3]) };
  for (const side of ["out", "in", "both"]) {
    const rules = shellSchema.parse({ kind: "shell", side, thickness: 0.1 });
    const { body, folded } = shellOf(rules, sheet);
    expect([rimmed(body!).rim.length, folded]).toEqual([0, 0]);
    expect(volumeOf(body!)).toBeCloseTo(0.6, 5);
    // A cube's shell grows to all sides alike, its inside a hollow.
    const cube = closedBodies(shellOf(rules, box([1, 1, 1])).body!).bodies;
    const inner = { out: 1, in: 0.8, both: 0.9 }[side]!;
    expect(cube.map((one) => volumeOf(one).toFixed(4))).toEqual([((inner + 0.2) ** 3 - inner ** 3).toFixed(4)]);
  }
});
