/** How values go over time, and how keyframes are set, moved and taken off. */
import fc from "fast-check";
import { evenly } from "../math/testing";
import {
  courseSchema,
  integralOf,
  keyframeAt,
  SAME_MOMENT,
  valueAt,
  withKeyframe,
  withMoved,
  withoutKeyframes,
} from ".";
import type { Course, Keyframe } from ".";

const share = evenly(0, 1);
const number = evenly(-50, 50);
const go = fc.constantFrom("smooth" as const, "straight" as const, "hold" as const);
const beyond = fc.constantFrom("hold" as const, "repeat" as const, "toAndFro" as const, "goOn" as const);
const handle = fc.option(fc.tuple(share, share), { nil: undefined });
const keyframe = fc.record({ at: fc.integer({ min: -40, max: 40 }), value: number, go, leave: handle, arrive: handle });
const courses = fc.record({
  keyframes: fc
    .uniqueArray(keyframe, { minLength: 2, maxLength: 7, selector: ({ at }) => at })
    .map((all): Keyframe[] => all.map((one) => ({ ...one, at: one.at / 4 })).sort((a, b) => a.at - b.at)),
  before: beyond,
  after: beyond,
});
const at = (course: Course, t: number) => valueAt(course, t, "numbers") as number;
const endsOf = ({ keyframes }: Course) => [keyframes[0], keyframes[keyframes.length - 1]] as const;

test("a course has its keyframes' values at their moments, and between two of them is never beyond both", () => {
  fc.assert(
    fc.property(courses, share, (course, share) => {
      expect(courseSchema.parse(course)).toEqual(course);
      const { keyframes } = course;
      keyframes.forEach((one, i) => {
        expect(at(course, one.at)).toBeCloseTo(one.value as number, 9);
        const next = keyframes[i + 1];
        if (!next) return;
        const value = at(course, one.at + share * (next.at - one.at));
        const [a, b] = [one.value as number, next.value as number];
        expect(value).toBeGreaterThanOrEqual(Math.min(a, b) - 1e-9);
        expect(value).toBeLessThanOrEqual(Math.max(a, b) + 1e-9);
        if (one.go === "straight") expect(value).toBeCloseTo(a + share * (b - a), 9);
        if (one.go === "hold" && share < 0.999) expect(value).toBeCloseTo(a, 12);
      });
    }),
  );
});

test("it goes gently through what lies on its way: as fast before a keyframe as behind it, and at rest where it turns back", () => {
  fc.assert(
    fc.property(fc.array(evenly(-5, 5), { minLength: 3, maxLength: 8 }), (values) => {
      const keyframes = values.map((value, i) => ({ at: i + 0.2 * Math.sin(i), value, go: "smooth" as const }));
      const course: Course = { keyframes, before: "hold", after: "hold" };
      const h = 1e-6;
      keyframes.slice(1, -1).forEach(({ at: t, value }, i) => {
        const [before, behind] = [(value - at(course, t - h)) / h, (at(course, t + h) - value) / h];
        expect(Math.abs(before - behind)).toBeLessThan(1e-3);
        if ((value - values[i]) * (values[i + 2] - value) < 0) expect(Math.abs(before)).toBeLessThan(1e-3);
      });
    }),
  );
  // Half of the way at half of the time, and at rest at both ends.
  const course: Course = { keyframes: [{ at: 0, value: 0, go: "smooth" }, { at: 2, value: 8, go: "smooth" }], before: "hold", after: "hold" }; // prettier-ignore
  expect([0.5, 1, 1.5].map((t) => at(course, t))).toEqual([1.25, 4, 6.75]);
  // A handle keeps it where it was for longer.
  const late = { ...course, keyframes: course.keyframes.with(0, { ...course.keyframes[0], leave: [0.9, 0] as const }) };
  expect(at(late, 1)).toBeLessThan(2);
});

test("before and after it stays, comes again, goes to and fro, or goes on as fast as it did", () => {
  fc.assert(
    fc.property(courses, evenly(0.001, 9.9), fc.integer({ min: 1, max: 5 }), (course, by, n) => {
      const [first, last] = endsOf(course);
      const length = last.at - first.at;
      const inside = by % length;
      fc.pre(Math.min(inside, length - inside) > 1e-6);
      const outside = { before: first.at - n * length - inside, after: last.at + n * length + inside };
      for (const side of ["before", "after"] as const) {
        const value = at(course, outside[side]);
        const end = side === "before" ? first : last;
        const [from, back] = side === "before" ? [last.at - inside, first.at + inside] : [first.at + inside, last.at - inside]; // prettier-ignore
        if (course[side] === "hold") expect(value).toBe(end.value);
        if (course[side] === "repeat") expect(value).toBeCloseTo(at(course, from), 5);
        if (course[side] === "toAndFro") expect(value).toBeCloseTo(at(course, n % 2 ? from : back), 5);
        if (course[side] === "goOn") {
          const [near, far] = [1, 2].map((k) => at(course, end.at + k * (outside[side] - end.at)));
          expect(far - near).toBeCloseTo(near - (end.value as number), 4);
        }
      }
    }),
  );
});

test("turns go the shorter way round at an even pace, colours by their parts; switches and choices stay until they change", () => {
  const turn = (angle: number) => [0, Math.sin(angle / 2), 0, Math.cos(angle / 2)];
  const between = (a: Keyframe["value"], b: Keyframe["value"], mixing: Parameters<typeof valueAt>[2], t: number) =>
    valueAt({ keyframes: [{ at: 0, value: a, go: "straight" }, { at: 1, value: b, go: "straight" }], before: "hold", after: "goOn" }, t, mixing); // prettier-ignore
  fc.assert(
    fc.property(number, evenly(-3.1, 3.1), share, fc.boolean(), (from, by, t, other) => {
      // The same turn has two quaternions.
      const to = turn(from + by).map((x) => (other ? -x : x));
      const mixed = between(turn(from), to, "turn", t) as number[];
      const expected = turn(from + t * by);
      const dot = mixed.reduce((sum, x, k) => sum + x * expected[k], 0);
      expect(Math.abs(dot)).toBeCloseTo(1, 9);
      expect(Math.hypot(...mixed)).toBeCloseTo(1, 12);
    }),
  );
  expect(between("#ff8000", "#0080ff", "colour", 0.5)).toBe("#808080");
  expect(between("line", "world", "hold", 0.99)).toBe("line");
  expect(between(true, false, "hold", 1)).toBe(false);
  expect(between([1, 2], [3, 6], "numbers", 0.5)).toEqual([2, 4]);
  expect(between([1, 2], [3, 6], "numbers", 2)).toEqual([5, 10]);
});

test("a keyframe set at a moment is there with its value and leaves the others; taken off again it is as before", () => {
  fc.assert(
    fc.property(courses, evenly(-12, 12), number, (course, t, value) => {
      const had = keyframeAt(course, t);
      const now = withKeyframe(course, t, value);
      expect(courseSchema.safeParse(now).success).toBe(true);
      expect(at(now, now.keyframes[keyframeAt(now, t)].at)).toBeCloseTo(value, 9);
      expect(now.keyframes.length).toBe(course.keyframes.length + (had < 0 ? 1 : 0));
      if (had < 0) expect(withoutKeyframes(now, [t])).toEqual(course);
      else expect(withKeyframe(now, t, course.keyframes[had].value)).toEqual(course);
    }),
  );
  const one = withKeyframe(undefined, 3, 7);
  expect(at(one, -100)).toBe(7);
  expect(withoutKeyframes(one, [3])).toBeNull();
});

test("keyframes moved or copied keep their order and their values; what they come to lie on gives way", () => {
  fc.assert(
    fc.property(
      courses,
      fc.integer({ min: -40, max: 40 }),
      fc.boolean(),
      fc.nat(),
      (course, quarters, copied, which) => {
        const { keyframes } = course;
        const chosen = keyframes.filter((_, i) => (which >> i) & 1);
        const to = (t: number) => t + quarters / 4;
        const moved = withMoved(course, chosen.map(({ at }) => at), to, copied); // prettier-ignore
        expect(courseSchema.safeParse(moved).success).toBe(true);
        const landed = chosen.map((one) => ({ ...one, at: to(one.at) }));
        const near = (a: Keyframe) => (b: Keyframe) => Math.abs(a.at - b.at) < SAME_MOMENT;
        const stay = keyframes.filter((one) => (copied || !chosen.includes(one)) && !landed.some(near(one)));
        expect(moved.keyframes).toEqual([...stay, ...landed].sort((a, b) => a.at - b.at));
      },
    ),
  );
});

test("what a course adds up to is what many small steps add up to; from one moment to the next as from the first to the last", () => {
  const t = fc.integer({ min: -60, max: 60 }).map((quarters) => quarters / 4 + 0.1);
  // Such as have no jumps, at which steps would go astray.
  const even = courses.map((course): Course => ({
    keyframes: course.keyframes.map(({ at, value, go }) => ({ at, value, go: go === "hold" ? "straight" : go })),
    before: course.before === "repeat" ? "toAndFro" : course.before,
    after: course.after === "repeat" ? "toAndFro" : course.after,
  }));
  fc.assert(
    fc.property(even, t, t, (course, a, b) => {
      const steps = 20_000;
      const h = (b - a) / steps;
      let sum = 0;
      for (let i = 0; i < steps; i++) sum += h * at(course, a + (i + 0.5) * h);
      const whole = integralOf(course, b) - integralOf(course, a);
      expect(Math.abs(whole - sum)).toBeLessThan(0.05);
      expect(integralOf(course, 0)).toBe(0);
    }),
    { numRuns: 60 },
  );
  // Exactly that of its curve, whatever its handles are, also where it begins again with a jump.
  const handled: Course = { keyframes: [{ at: 0, value: 1, go: "smooth", leave: [0.8, 0.1] }, { at: 2, value: 3, go: "smooth", arrive: [0.9, 0.3] }], before: "hold", after: "repeat" }; // prettier-ignore
  let steps = 0;
  for (let i = 0; i < 100_000; i++) steps += 2e-5 * at(handled, 2e-5 * (i + 0.5));
  expect(integralOf(handled, 2)).toBeCloseTo(steps, 6);
  expect(integralOf(handled, 7)).toBeCloseTo(3 * steps + integralOf(handled, 1), 6);
  const fast: Course = { keyframes: [{ at: 0, value: 0, go: "smooth" }, { at: 2, value: 6, go: "hold" }, { at: 3, value: 2, go: "hold" }], before: "hold", after: "hold" }; // prettier-ignore
  // Half of the way gently, then six a second, then two.
  expect(integralOf(fast, 2)).toBeCloseTo(6, 12);
  expect(integralOf(fast, 4)).toBeCloseTo(14, 12);
  expect(integralOf(fast, 4, (x) => 1 / (1 + x))).not.toBeNaN();
});
