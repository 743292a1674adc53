import fc from "fast-check";
import { evenly } from "./testing";
import {
  writeSines,
  angleBetween,
  anyPerpendicular,
  chanceOfEach,
  cross,
  dot,
  drawEach,
  fromAxisAngle,
  fromTurns,
  hash,
  lengthOf,
  multiply,
  normalize,
  shareOnSegment,
  squaredToSegment,
  quatAt,
  rotate,
  signedKeys,
  streamOf,
  turnsOf,
  unit,
  writeFromBasis,
  type Vec3,
} from ".";

const direction = fc
  .tuple(evenly(-1, 1), evenly(-1, 1), evenly(-1, 1))
  .filter((v) => lengthOf(v) > 1e-3)
  .map((v) => normalize(v as Vec3));
const angle = evenly(-Math.PI, Math.PI);

describe("keyed randomness", () => {
  test("draws of many keys at once are those of each by itself", () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 2 ** 32 - 1 })),
        fc.integer(),
        fc.integer(),
        (keys, seed, channel) => {
          const [draws, below] = [new Float32Array(2 * keys.length + 1), new Uint8Array(keys.length)];
          const [signed, stream] = [signedKeys(Uint32Array.from(keys)), streamOf(seed, channel)];
          drawEach(draws, 1, 2, signed, stream, -0.5, 2);
          chanceOfEach(below, signed, stream, 0.3);
          keys.forEach((key, i) => {
            expect(draws[2 * i + 1]).toBe(Math.fround(-0.5 + 2 * unit(seed, channel, key, 0)));
            expect(draws[2 * i]).toBe(0);
            expect(below[i]).toBe(unit(seed, channel, key, 0) < 0.3 ? 1 : 0);
          });
        },
      ),
    );
  });

  test("draws over consecutive keys are even: chi-square over 64 bins stays near its expectation", () => {
    for (const channel of [1, 2, 0x0601]) {
      const bins = new Array<number>(64).fill(0);
      for (let key = 0; key < 64_000; key++) bins[Math.floor(unit(7, channel, key, 0) * 64)]++;
      const chi = bins.reduce((sum, n) => sum + (n - 1000) ** 2 / 1000, 0);
      expect(chi).toBeLessThan(120); // 63 degrees of freedom: P(chi > 120) < 2e-5
      expect(chi).toBeGreaterThan(25);
    }
  });

  test("flipping one bit of any of the four words flips about half of the result's bits", () => {
    const ones = (n: number) => n.toString(2).replaceAll("0", "").length;
    for (let word = 0; word < 4; word++) {
      let flipped = 0;
      for (let k = 0; k < 2000; k++) {
        const args = [k * 31, k * 17, k, k & 7];
        const other = [...args];
        other[word] ^= 1 << (k % 32);
        flipped += ones(
          (hash(args[0], args[1], args[2], args[3]) ^ hash(other[0], other[1], other[2], other[3])) >>> 0,
        );
      }
      expect(flipped / 2000).toBeGreaterThan(15);
      expect(flipped / 2000).toBeLessThan(17);
    }
  });

  test("two channels of the same key are not correlated", () => {
    let sum = 0;
    const n = 50_000;
    for (let key = 0; key < n; key++) sum += (unit(1, 0x0601, key, 0) - 0.5) * (unit(1, 0x0602, key, 0) - 0.5);
    expect(Math.abs((12 * sum) / n)).toBeLessThan(0.025);
  });
});

describe("quaternions", () => {
  test("a basis and its quaternion turn the axes alike, for every direction and angle", () => {
    fc.assert(
      fc.property(direction, angle, (axis, a) => {
        const q = fromAxisAngle(axis, a);
        const [x, y, z] = [rotate(q, [1, 0, 0]), rotate(q, [0, 1, 0]), rotate(q, [0, 0, 1])];
        const out = new Float64Array(4);
        writeFromBasis(out, 0, ...x, ...y, ...z);
        expect(angleBetween(quatAt(out, 0), q)).toBeLessThan(1e-7);
        expect(Math.hypot(...out)).toBeCloseTo(1, 9);
      }),
    );
  });

  test("the product of two rotations turns as the second and then the first", () => {
    fc.assert(
      fc.property(direction, angle, direction, angle, direction, (a1, t1, a2, t2, v) => {
        const [p, q] = [fromAxisAngle(a1, t1), fromAxisAngle(a2, t2)];
        const once = rotate(multiply(p, q), v);
        const twice = rotate(p, rotate(q, v));
        expect(Math.hypot(once[0] - twice[0], once[1] - twice[1], once[2] - twice[2])).toBeLessThan(1e-9);
      }),
    );
  });

  test("a turn about up alone takes along to across for a quarter", () => {
    const v = rotate(fromTurns(0, 0, Math.PI / 2), [0, 0, 1]);
    expect(v[0]).toBeCloseTo(1);
    expect(v[2]).toBeCloseTo(0);
  });

  test("the three angles of a turn make the same turn again, also where it looks straight up or down", () => {
    const angle = fc.oneof(evenly(-3.1, 3.1), fc.constantFrom(0, Math.PI / 2, -Math.PI / 2));
    fc.assert(
      fc.property(angle, angle, angle, (a, b, c) => {
        const { along, across, up } = turnsOf(fromTurns(a, b, c));
        expect(angleBetween(fromTurns(along, across, up), fromTurns(a, b, c))).toBeLessThan(1e-4);
      }),
    );
  });
});

test("any perpendicular is a unit vector at right angles, and spans a right-handed frame", () => {
  fc.assert(
    fc.property(direction, (t) => {
      const p = anyPerpendicular(t);
      expect(Math.abs(dot(p, t))).toBeLessThan(1e-12);
      expect(lengthOf(p)).toBeCloseTo(1, 12);
      expect(dot(cross(t, p), cross(t, p))).toBeCloseTo(1, 12);
    }),
  );
});

test("sines and cosines of many angles are those of the standard library", () => {
  fc.assert(
    fc.property(fc.array(fc.oneof(evenly(-20, 20), evenly(-1e6, 1e6))), (angles) => {
      const out = new Float64Array(2 * angles.length);
      writeSines(Float64Array.from(angles), angles.length, out);
      angles.forEach((angle, i) => {
        expect(Math.abs(out[2 * i] - Math.sin(angle))).toBeLessThan(1e-9);
        expect(Math.abs(out[2 * i + 1] - Math.cos(angle))).toBeLessThan(1e-9);
      });
    }),
  );
});

test("no other place of a segment is nearer to a point than its nearest, and one without length is its start", () => {
  const point = fc.tuple(evenly(-3, 3), evenly(-3, 3), evenly(-3, 3));
  fc.assert(
    fc.property(point, point, evenly(0, 1), (p, d, other) => {
      const squaredAt = (share: number) => p.reduce((sum, value, k) => sum + (value - share * d[k]) ** 2, 0);
      const squared = squaredToSegment(...p, ...d);
      expect(Math.abs(shareOnSegment(...p, ...d) - 0.5)).toBeLessThanOrEqual(0.5);
      expect(squared).toBeCloseTo(squaredAt(shareOnSegment(...p, ...d)), 12);
      expect(squared).toBeLessThanOrEqual(Math.min(squaredAt(other), squaredAt(0), squaredAt(1)) + 1e-12);
      expect(squaredToSegment(...p, 0, 0, 0)).toBeCloseTo(squaredAt(0), 12);
    }),
  );
});
