/** What stands in assemblies stands where both, one after the other, would bring it. */
import fc from "fast-check";
import { WorldMesh } from "../mesh";
import { fromAxisAngle, multiply, rotate, type Quat, type Vec3 } from "../math";
import { expanded, gathered } from "./expand";
import { keyUnder } from "./under";
import { settledEach } from "./settle-each";
import type { Placements } from "./placements";
import { FLAG } from "./slots";
import { standingAt } from "./standing-at";
import { boxMesh, place } from "./testing";

const varied = (seed: number, uneven: boolean) => ({
  seed,
  positionOn: true,
  turnOn: true,
  turnUp: [-3, 3] as [number, number],
  turnAlong: [-1, 1] as [number, number],
  sizeOn: true,
  size: [0.5, 2] as [number, number],
  ...(uneven && { width: [0.5, 2] as [number, number], height: [0.5, 2] as [number, number] }),
  mirror: 0.4,
  tintOn: true,
  tintFrom: "#8090a0",
  tintTo: "#e0d0c0",
});
const apart = (a: readonly number[], b: readonly number[]) => Math.hypot(...a.map((x, k) => x - b[k]));
/** How something that stands somewhere leads its own three axes, with how long they are. */
const axesOf = ({ rotation, scale }: { rotation: Quat; scale: Vec3 }): Vec3[] =>
  ([[1, 0, 0], [0, 1, 0], [0, 0, 1]] as Vec3[]).map((axis, k) => rotate(rotation, axis.map((x) => x * scale[k]) as unknown as Vec3)); // prettier-ignore

test("wherever an assembly stands, turned, sized and mirrored, all in it is turned, sized and mirrored with it", () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 999 }), fc.boolean(), fc.boolean(), (seed, uneven, atOnce) => {
      const inner = place({ spacing: { distance: 3 }, variation: varied(seed, false), gaps: { chance: 0.2 } });
      const outer = place({
        spacing: { distance: 4 },
        what: { entries: [{ prop: "buoy" }, { prop: "oar" }] },
        variation: varied(seed + 1, uneven),
      });
      const size = 1.5;
      const turn = fromAxisAngle([0, 1, 0], Math.PI / 2);
      const [x, , z] = axesOf({ rotation: turn, scale: [size, size, size] });
      const matrix = [x[0], 0, z[0], 0.3, 0, size, 0, -0.2, x[2], 0, z[2], 0.1];
      const from = [{ salt: 9, inside: { placements: inner, leftOut: 0 } }];
      const standingIn = [...inner.flags.keys()].filter((j) => !(inner.flags[j] & FLAG.blank));
      const inside = atOnce ? { from, matrix, count: standingIn.length } : gathered(from, matrix, 1000);
      const all = expanded(outer, (i) => (outer.props[outer.prop[i]] === "buoy" ? inside : null), 1000)!;
      let k = 0;
      for (let i = 0; i < outer.count; i++) {
        const own = standingAt(outer, i);
        if (own.prop !== "buoy") {
          expect([all.of[k], all.placements.key[k], apart(standingAt(all.placements, k).position, own.position) < 1e-5]).toEqual([i, outer.key[i], true]); // prettier-ignore
          k++;
          continue;
        }
        const mirrored = (outer.flags[i] & FLAG.mirrored) !== 0;
        const flip = (v: Vec3): Vec3 => (mirrored ? [-v[0], v[1], v[2]] : v);
        const grown = own.scale.map(Math.abs) as unknown as Vec3;
        const under = (v: Vec3): Vec3 => rotate(own.rotation, flip(v).map((c, a) => c * grown[a]) as unknown as Vec3);
        for (const j of standingIn) {
          const it = standingAt(inner, j);
          const now = standingAt(all.placements, k);
          const [px, py, pz] = rotate(turn, it.position.map((c) => c * size) as unknown as Vec3);
          const at = under([px + 0.3, py - 0.2, pz + 0.1]);
          expect(
            apart(
              now.position,
              own.position.map((c, a) => c + at[a]),
            ),
          ).toBeLessThan(1e-4);
          expect(now.prop).toBe(it.prop);
          // Its axes lead where both lead them; under uneven stretches only as long as they are stretched.
          const theirs = axesOf({ rotation: multiply(turn, it.rotation), scale: it.scale.map((c) => c * size) as unknown as Vec3 }).map(under); // prettier-ignore
          axesOf(now).forEach((axis, a) => {
            expect(Math.abs(Math.hypot(...axis) - Math.hypot(...theirs[a]))).toBeLessThan(1e-4);
            if (!uneven) expect(Math.min(apart(axis, theirs[a]), apart(axis, theirs[a].map((c) => -c)))).toBeLessThan(1e-4); // prettier-ignore
          });
          expect((all.placements.flags[k] & FLAG.mirrored) !== 0).toBe(mirrored !== it.scale[0] < 0);
          expect(all.placements.key[k]).toBe(keyUnder(outer.key[i], 9, inner.key[j]));
          expect([all.of[k], all.placements.line[k], all.placements.at[k]]).toEqual([i, outer.line[i], outer.at[i]]);
          const [seen, through, colour] = [inner.tints[inner.tint[j]], outer.tints[outer.tint[i]], all.placements.tints[all.placements.tint[k]]]; // prettier-ignore
          for (const c of [1, 3, 5]) {
            const part = (text: string) => Number.parseInt(text.slice(c, c + 2), 16);
            expect(Math.abs(part(colour) - (part(seen) * part(through)) / 255)).toBeLessThanOrEqual(0.5);
          }
          k++;
        }
      }
      expect(k).toBe(all.placements.count);
      expect(all.placements.lineClosed).toEqual(outer.lineClosed);
    }),
    { numRuns: 25 },
  );
});

test("of what is too much whole assemblies are left out, and those before them stand", () => {
  const inner = place({ spacing: { distance: 1 } });
  const outer = place({ spacing: { distance: 2 } });
  const inside = gathered([{ salt: 1, inside: { placements: inner, leftOut: 0 } }], null, 1000);
  const some = expanded(outer, () => inside, 3 * inner.count + 1)!;
  expect([some.placements.count, some.leftOut]).toEqual([3 * inner.count, (outer.count - 3) * inner.count]);
  expect(expanded(outer, () => null, 1000)).toBeNull();
});

test("each thing of an assembly is set down by itself to the ground that is nearest above or below, all others stay", () => {
  const inner = place({ spacing: { distance: 2 }, fit: { up: 0.4 } });
  const outer = place({
    spacing: { distance: 5 },
    fit: { up: 2 },
    what: { entries: [{ prop: "buoy" }, { prop: "oar" }] },
  });
  const inside = gathered([{ salt: 1, inside: { placements: inner, leftOut: 0 } }], null, 1000);
  const all = expanded(outer, (i) => (outer.props[outer.prop[i]] === "buoy" ? inside : null), 1000)!;
  // A floor far below all of it, and a shelf over a part.
  const ground = (min: Vec3, max: Vec3) => {
    const { position, index } = boxMesh(min, max);
    return new WorldMesh("g", Float64Array.from(position), index);
  };
  const grounds = [
    ground([-50, -6, -50], [50, -5, 50]),
    ground([-50, 2.4, 1], [50, 2.5, 5]),
    ground([-50, 2.4, -5], [50, 2.5, -1]),
  ];
  const settled = settledEach(all, outer, outer.props.map((prop) => prop === "buoy"), grounds); // prettier-ignore
  let [low, high] = [0, 0];
  for (let k = 0; k < all.placements.count; k++) {
    const [before, now] = [standingAt(all.placements, k).position, standingAt(settled.placements, k).position];
    const i = all.of[k];
    expect([now[0], now[2]]).toEqual([before[0], before[2]]);
    if (outer.props[outer.prop[i]] !== "buoy") {
      expect(now).toEqual(before);
      continue;
    }
    const foot = standingAt(outer, i).position[1];
    const shelf = Math.abs(before[2]) > 1 && Math.abs(before[2]) < 5;
    if (shelf) high++;
    else low++;
    // The shelf's underside is nearer to the foot than its top.
    const level = shelf ? (Math.abs(2.5 - foot) < Math.abs(2.4 - foot) ? 2.5 : 2.4) : -5;
    expect(now[1]).toBeCloseTo(level + before[1] - foot, 4);
  }
  expect([low > 0, high > 0]).toEqual([true, true]);

  // What is bent goes along: every third has a frame of its own.
  const { count } = all.placements;
  const bent = Array.from({ length: count }, (_, k) => (k % 3 === 0 ? k / 3 : -1));
  const frame = Float32Array.from({ length: 7 * Math.ceil(count / 3) }, (_, c) => c / 10);
  const shapes = { entry: Int32Array.from(bent), frame } as unknown as NonNullable<Placements["shapes"]>;
  const shaped = { ...all, placements: { ...all.placements, shapes } };
  const after = settledEach(shaped, outer, outer.props.map((prop) => prop === "buoy"), grounds).placements; // prettier-ignore
  const wanted = frame.map((x, c) => {
    const y = 3 * 3 * Math.floor(c / 7) + 1;
    return c % 7 === 1 ? x + (after.position[y] - all.placements.position[y]) : x;
  });
  after.shapes!.frame.forEach((x, c) => expect(x).toBeCloseTo(wanted[c], 4));
  expect(shapes.frame).toBe(frame);
});
