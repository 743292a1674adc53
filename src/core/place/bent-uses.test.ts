/** Assemblies that are bent: what is in them goes where it would go if all of it were one mesh. */
import fc from "fast-check";
import { add, quatAt, rotate, vectorAt, type Quat, type Vec3 } from "../math";
import { evenly } from "../math/testing";
import { AS_IT_COMES, shapedMesh, WorldMesh, type Shapes } from "../mesh";
import { lattice, round } from "../mesh/unroll/testing";
import { GuideLine } from "../line";
import { makeLine } from "../line/testing";
import { expanded } from "./expand";
import { FLAG } from "./slots";
import { BOUNDS, dressing, evaluate, straight, type DressingInput } from "./testing";
import { emptyPlacements } from "./under";
import type { Placements } from "./placements";

interface Thing {
  at: Vec3;
  turn: Quat;
  size: number;
  mirrored: boolean;
}

/** A tripod: its foot, and a little to its left, up and ahead. */
const EPS = 0.01;
const TRIPOD = [[0, 0, 0], [EPS, 0, 0], [0, EPS, 0], [0, 0, EPS]] as const; // prettier-ignore

const inAssembly = ({ at, turn, size, mirrored }: Thing): Vec3[] =>
  TRIPOD.map(([x, y, z]) => add(at, rotate(turn, [(mirrored ? -size : size) * x, size * y, size * z])));

function insideOf(things: readonly Thing[]): Placements {
  const p = { ...emptyPlacements(things.length, [0, 0, 0], null), props: ["thing"], tints: ["#ffffff"] };
  things.forEach(({ at, turn, size, mirrored }, k) => {
    p.position.set(at, 3 * k);
    p.rotation.set(turn, 4 * k);
    p.scale.fill(size, 3 * k, 3 * k + 3);
    p.flags[k] = mirrored ? FLAG.mirrored : 0;
    p.key[k] = BigInt(k);
  });
  return p;
}

/** Where points come to lie in the shape that an entry has, in the world. */
function inWorld(points: readonly (readonly number[])[], shapes: Shapes, entry: number, origin: Vec3): Vec3[] {
  const foot = add(origin, vectorAt(shapes.frame.subarray(7 * entry), 0));
  const turn = quatAt(shapes.frame.subarray(7 * entry + 3), 0);
  return points.map((point) => {
    const mesh = { position: Float32Array.from([...point, ...point, ...point]), index: Uint32Array.of(0, 1, 2), attributes: [] }; // prettier-ignore
    return add(foot, rotate(turn, vectorAt(shapedMesh(mesh, shapes, shapes.form[entry]).position, 0)));
  });
}

const REACH = { min: [-1.2, 0, -1.2] as Vec3, max: [1.2, 1, 1.2] as Vec3 };

function barrel(): WorldMesh {
  const [position, index] = lattice(6, 240, (u, v) => round(u, 1.5, 4 - 4 * v), true);
  const mesh = { position: Float32Array.from(position), index, attributes: [] };
  return WorldMesh.of("barrel", mesh, { position: [3, 1, -2], rotation: [0, 0, 0, 1], scale: 1 }, AS_IT_COMES);
}

/** Uses of an assembly, bent: wrapped round a barrel, over its neighbourhood, or along a line. */
function uses(host: string, input: DressingInput): Placements {
  const around = { bounds: new Map([...BOUNDS, ["use", REACH]]), assembled: new Set(["use"]) };
  const what = { entries: [{ prop: "use" }] };
  if (host === "along") {
    const line = makeLine({ kind: "circle", knots: [[0, 0, 0]], radius: 4 });
    const own = dressing({ what, spacing: { by: "count", count: 3 }, stance: { meetsUp: "pivot" }, ...input }, [line]);
    return evaluate(own, { ...around, guides: new Map([[line.id, new GuideLine(line)]]) });
  }
  const places: { at: [number, number] }[] = [{ at: [0.4, 0.2] }, { at: [-2, 0] }];
  const layout = { kind: "list" as const, places };
  const where: DressingInput["where"] =
    host === "wrapped"
      ? { kind: "wrapped", surfaces: ["barrel"], patch: { layout } }
      : { kind: "over", surfaces: ["barrel"] };
  const own = dressing({ where, what, spacing: { pattern: "even", by: "distance", distance: 3 }, stance: { up: "normal", meetsUp: "pivot" }, ...input }, []); // prettier-ignore
  return evaluate(own, { ...around, guides: new Map(), surfaces: new Map([["barrel", { mesh: barrel(), ground: true }]]) }); // prettier-ignore
}

const thing: fc.Arbitrary<Thing> = fc
  .tuple(evenly(-1, 1), evenly(0, 0.4), evenly(-1, 1), evenly(0, 6), evenly(0.5, 2), fc.boolean())
  .map(([x, y, z, angle, size, mirrored]) => ({
    at: [x, y, z],
    turn: [0.3 * Math.sin(angle), Math.sin(angle / 2), 0.2, Math.cos(angle / 2)].map(
      (c, _, q) => c / Math.hypot(...q),
    ) as unknown as Quat,
    size,
    mirrored,
  }));

describe.each(["wrapped", "over", "along"])("%s", (host) => {
  const bent = uses(host, { fit: { bend: true, bendOff: 1 } });
  const apart = host === "along" ? bent : uses(host, { fit: { apart: "each" } });

  test("each thing is bent as the whole would be, however it stands in its assembly", () => {
    expect(bent.shapes!.entry.filter((entry) => entry >= 0).length).toBeGreaterThan(1);
    fc.assert(
      fc.property(fc.array(thing, { minLength: 1, maxLength: 4 }), (things) => {
        const out = expanded(bent, () => ({ placements: insideOf(things), leftOut: 0 }), 1e6)!.placements;
        for (let i = 0, o = 0; i < Math.min(2, bent.count); i++) {
          const whole = inWorld(things.flatMap(inAssembly), bent.shapes!, bent.shapes!.entry[i], bent.origin);
          for (let k = 0; k < things.length; k++, o++) {
            const entry = out.shapes!.entry[o];
            const own = inWorld(TRIPOD, out.shapes!, entry, out.origin);
            own.forEach((place, v) => place.forEach((x, c) => expect(x).toBeCloseTo(whole[4 * k + v][c], 3.5)));
          }
        }
      }),
      { numRuns: 5 },
    );
  });

  test("whole things stand where their feet would be, turned as these are, and as large as they were", () => {
    expect(apart.shapes).not.toBeNull();
    fc.assert(
      fc.property(fc.array(thing, { minLength: 1, maxLength: 4 }), (things) => {
        const out = expanded(apart, () => ({ placements: insideOf(things), leftOut: 0 }), 1e6, true)!.placements;
        expect(out.shapes).toBeNull();
        for (let i = 0, o = 0; i < Math.min(2, apart.count); i++) {
          const whole = inWorld(things.flatMap(inAssembly), apart.shapes!, apart.shapes!.entry[i], apart.origin); // prettier-ignore
          for (const { size, mirrored } of things) {
            const [foot, left, up, ahead] = whole.slice(4 * (o % things.length));
            const turn = quatAt(out.rotation, o);
            foot.forEach((x, c) => expect(out.origin[c] + out.position[3 * o + c]).toBeCloseTo(x, 3.5));
            // Beyond the barrel's rims its neighbourhood goes on as it comes.
            const isBeyond = host !== "along" && Math.abs(foot[1] - 3) > 1.95;
            // What is bent is stretched round the bend by up to a quarter, which no whole thing is.
            for (const [axis, tip] of [[0, left], [1, up], [2, ahead]] as const) {
              const way = [0, 1, 2].map((c) => (c === axis ? (axis === 0 && mirrored ? -1 : 1) : 0)) as unknown as Vec3;
              const [a, b] = [rotate(turn, way), tip.map((x, c) => (x - foot[c]) / (EPS * size))];
              expect(a[0] * b[0] + a[1] * b[1] + a[2] * b[2]).toBeGreaterThan((isBeyond ? 0.6 : 0.97) * Math.hypot(...b));
            } // prettier-ignore
            expect(out.scale[3 * o]).toBeCloseTo(size, 5);
            o++;
          }
        }
      }),
      { numRuns: 5 },
    );
  });
});

test("on a straight line and a plane nothing is bent, and what is in an assembly stands as it did", () => {
  const line = straight(20);
  const own = dressing({ what: { entries: [{ prop: "use" }] }, spacing: { by: "count", count: 3 }, fit: { bend: true } }, [line]); // prettier-ignore
  const p = evaluate(own, { bounds: new Map([["use", REACH]]), guides: new Map([[line.id, new GuideLine(line)]]) });
  expect(expanded(p, () => ({ placements: insideOf([{ at: [0.5, 0, 0.5], turn: [0, 0, 0, 1], size: 1, mirrored: false }]), leftOut: 0 }), 9)!.placements.shapes).toBeNull(); // prettier-ignore
});

test("where things go each by themselves only assemblies are carried: other props stand as they do anywhere", () => {
  const what = { entries: [{ prop: "use" }, { prop: "buoy" }] };
  const p = uses("over", { what, fit: { apart: "each" } });
  const carried = [...p.prop.keys()].map((i) => p.shapes!.entry[i] >= 0);
  expect(carried).toEqual([...p.prop].map((prop) => p.props[prop] === "use"));
  expect(new Set(carried).size).toBe(2);
});
