/** Leaning into bends, and the ease and pace of what travels. */
import fc from "fast-check";
import { eased, rotate, quatAt, type Quat, type Vec3 } from "../../math";
import { evenly } from "../../math/testing";
import { makeLine } from "../../line/testing";
import { place, straight } from "../testing";

const up = (q: Quat): Vec3 => rotate(q, [0, 1, 0]);
const ring = (radius: number) => makeLine({ kind: "circle", knots: [[0, 0, 0]], radius });

test("round a circle what goes at a speed leans inwards by atan(v² / r g), no further than it may, and not at all at rest", () => {
  fc.assert(
    fc.property(evenly(2, 30), evenly(-12, 12), evenly(0.1, 1.4), (radius, speed, bankMost) => {
      const lean = (gone?: { metres: number; rounds: number; speed: number; rate: number }) => {
        const p = place({ spacing: { by: "count", count: 3, gone }, stance: { banks: true, bankMost } }, [
          ring(radius),
        ]);
        return Array.from({ length: 3 }, (_, i) => {
          const [x, y, z] = up(quatAt(p.rotation, i));
          const [px, pz] = [0, 2].map((k) => p.origin[k] + p.position[3 * i + k]);
          return Math.atan2(-(x * px + z * pz) / radius, y);
        });
      };
      const wanted = Math.min(bankMost, Math.atan((speed * speed) / radius / 9.80665));
      const going = { metres: 1.3, rounds: 0, speed, rate: 0 };
      for (const angle of lean(going)) expect(angle).toBeCloseTo(wanted, 2);
      // By the metre and by the round together as well.
      for (const share of [0, 0.4]) {
        const rounds = { ...going, speed: share * speed, rate: ((1 - share) * speed) / (2 * Math.PI * radius) };
        for (const angle of lean(rounds)) expect(angle).toBeCloseTo(wanted, 2);
      }
      for (const angle of lean()) expect(angle).toBeCloseTo(0, 6);
    }),
    { numRuns: 60 },
  );
});

test("who has come to the end of the line and stays there leans no more, while those on another line do", () => {
  const half = Array.from({ length: 13 }, (_, k): Vec3 => [
    9 * Math.cos((k * Math.PI) / 12),
    0,
    9 * Math.sin((k * Math.PI) / 12),
  ]);
  const lines = [1, 4].map((size) =>
    makeLine({
      id: `of ${size}`,
      number: size,
      kind: "smooth",
      knots: half.map(([x, y, z]): Vec3 => [size * x, y, size * z]),
    }),
  );
  for (const anew of [false, true]) {
    const gone = { metres: 40, rounds: 0, speed: 6, rate: 0 };
    const p = place(
      { spacing: { by: "list", list: [1, 2, 5], anew, gone, travelEnds: "stay" }, stance: { banks: true } },
      lines,
    );
    const leans = Array.from({ length: p.count }, (_, i) => Math.acos(Math.min(1, up(quatAt(p.rotation, i))[1])));
    expect(Array.from(p.line)).toEqual([0, 0, 0, 1, 1, 1]);
    for (const lean of leans.slice(0, 3)) expect(lean).toBeLessThan(1e-3);
    for (const lean of leans.slice(3)) expect(lean).toBeGreaterThan(0.05);
  }
});

test("who leans rolls about the way ahead alone, which stays what it was, up and down hills as well", () => {
  const knots = Array.from({ length: 7 }, (_, k): Vec3 => [5 * k, 1.5 * (k % 3), k % 2 === 0 ? 0 : 6]);
  const line = makeLine({ kind: "smooth", knots });
  const gone = { metres: 2, rounds: 0, speed: 7, rate: 0 };
  const [level, leaning] = [false, true].map((banks) =>
    place({ spacing: { by: "count", count: 25, gone }, stance: { banks, bankMost: 1.2 } }, [line]),
  );
  let leaned = 0;
  for (let i = 0; i < level.count; i++) {
    const [a, b] = [level, leaning].map((p) => quatAt(p.rotation, i));
    expect(Math.hypot(...b)).toBeCloseTo(1, 5);
    const [ahead, still] = [rotate(b, [0, 0, 1]), rotate(a, [0, 0, 1])];
    ahead.forEach((value, k) => expect(value).toBeCloseTo(still[k], 5));
    leaned = Math.max(
      leaned,
      Math.acos(
        Math.min(
          1,
          up(a).reduce((sum, x, k) => sum + x * up(b)[k], 0),
        ),
      ),
    );
  }
  expect(leaned).toBeGreaterThan(0.6);
});

test("on a winding way nobody flips: from frame to frame the lean turns no faster than the way bends, and straight on there is none", () => {
  const knots = Array.from({ length: 12 }, (_, k): Vec3 => [4 * k, 0.3 * (k % 2), k % 2 === 0 ? 0 : 5]);
  const line = makeLine({ kind: "smooth", knots });
  let before: Quat | null = null;
  let leaned = 0;
  for (let frame = 0; frame < 500; frame++) {
    const gone = { metres: frame / 12, rounds: 0, speed: 6, rate: 0 };
    const p = place({ spacing: { by: "count", count: 1, gone }, stance: { banks: true, bankAfter: 0.2 } }, [line]);
    if (p.count === 0) continue;
    const q = quatAt(p.rotation, 0);
    if (before) expect(Math.abs(q.reduce((sum, x, k) => sum + x * before![k], 0))).toBeGreaterThan(0.98);
    leaned = Math.max(leaned, Math.acos(Math.min(1, up(q)[1])));
    before = q;
  }
  expect(leaned).toBeGreaterThan(0.3);
  const on = place(
    { spacing: { by: "count", count: 4, gone: { metres: 1, rounds: 0, speed: 9, rate: 0 } }, stance: { banks: true } },
    [straight(6)],
  );
  for (let i = 0; i < 4; i++) expect(up(quatAt(on.rotation, i))[1]).toBeCloseTo(1, 9);
});

test("eased ways begin and end at rest, are even between, and come as far as others", () => {
  fc.assert(
    fc.property(evenly(0, 1), evenly(0, 1), evenly(0, 1), (share, a, b) => {
      const [early, late] = [eased(Math.min(a, b), share), eased(Math.max(a, b), share)];
      expect(late.at).toBeGreaterThanOrEqual(early.at);
      expect(eased(1 - a, share).at).toBeCloseTo(1 - eased(a, share).at, 9);
      const h = 1e-6;
      const slope = (eased(Math.min(1, a + h), share).at - eased(Math.max(0, a - h), share).at) / (Math.min(1, a + h) - Math.max(0, a - h)); // prettier-ignore
      if (share > 0.01) expect(Math.abs(slope - eased(a, share).speed)).toBeLessThan(1e-3);
    }),
  );
  expect([eased(0, 0.4), eased(1, 0.4).at, eased(1, 0.4).speed]).toEqual([{ at: 0, speed: 0 }, 1, 0]);
  expect(eased(0.3, 0)).toEqual({ at: 0.3, speed: 1 });
});

test("slower at knots: each knot is passed when it was before, order is kept, and at 1 it is a stop", () => {
  const line = makeLine({ kind: "polyline", knots: [[0, 0, 0], [2, 0, 0], [2, 0, 3], [7, 0, 3]] }); // prettier-ignore
  const at = (travel: number, atKnots: number) =>
    place({ spacing: { by: "count", count: 1, travel, atKnots } }, [line]).at[0];
  const start = at(0, 0);
  fc.assert(
    fc.property(evenly(0, 1), evenly(0, 9.9), (atKnots, to) => {
      const slow = at(to - start, atKnots);
      const knot = [0, 2, 5, 10].filter((one) => one <= to).at(-1)!;
      expect(slow).toBeGreaterThanOrEqual(knot - 1e-9);
      expect(slow).toBeLessThanOrEqual([2, 5, 10].find((one) => one > to)! + 1e-9);
      expect(at(to + 0.05 - start, atKnots)).toBeGreaterThanOrEqual(slow - 1e-9);
    }),
  );
  for (const knot of [2, 5]) expect(at(knot + 0.01 - start, 1) - knot).toBeLessThan(1e-3);
});

test("who is first and who is last goes by the place, however far they have travelled", () => {
  const what = { entries: [{ prop: "oar" }], first: "buoy", last: "buoy" };
  fc.assert(
    fc.property(evenly(-20, 20), fc.constantFrom(ring(1.5), straight(6)), (travel, line) => {
      const p = place({ what, spacing: { by: "count", count: 7, travel } }, [line]);
      const on = [...p.at.keys()].filter((i) => p.prop[i] < p.props.length).sort((a, b) => p.at[a] - p.at[b]);
      const special = on.map((i) => p.props[p.prop[i]] === "buoy");
      expect(special).toEqual(on.map((_, k) => k === 0 || k === on.length - 1));
    }),
  );
});
