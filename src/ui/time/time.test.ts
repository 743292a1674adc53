/** Playing in real time, the ruler's measures, and what the time bar is about. */
import fc from "fast-check";
import { evenly } from "@/core/math/testing";
import type { Course } from "@/core/course";
import { playedOf, timeSchema } from "@/core/scene";
import { harbourScene } from "@/core/scene/testing";
import { onFrame, playedMoment, withinSecond } from "./playing";
import { drawnCourse, momentAtX, ticksOf, xOf } from "./scale";
import { targetsOf } from "./targets";

const seconds = evenly(0, 100);
const times = fc
  .record({
    length: evenly(1, 60),
    framesPerSecond: fc.integer({ min: 1, max: 120 }),
    loops: fc.boolean(),
    stretch: fc.option(fc.constant([0.25, 0.75] as const)),
  })
  .map(({ stretch, length, ...rest }) =>
    timeSchema.parse({ ...rest, length, stretch: stretch && stretch.map((share) => share * length) }),
  );

test("what is played is always within its stretch, on a frame, as far on as time has gone; at its end it begins again or is over", () => {
  fc.assert(
    fc.property(times, evenly(0, 1), seconds, (time, share, gone) => {
      const [begin, end] = playedOf(time);
      const from = begin + share * (end - begin);
      const { moment, over } = playedMoment(time, from, gone);
      expect(moment).toBeGreaterThanOrEqual(begin);
      expect(moment).toBeLessThanOrEqual(end);
      expect(over).toBe(!time.loops && from + gone >= end);
      const rounds = (from + gone - moment) / (end - begin);
      if (!over) expect(Math.abs(rounds - Math.round(rounds))).toBeLessThan(1e-6);
      const frame = onFrame(moment, time);
      expect(moment - frame).toBeLessThan(1 / time.framesPerSecond + 1e-9);
      expect(onFrame(frame, time)).toBe(frame);
    }),
  );
  expect(withinSecond([0, 400, 900, 1300, 1500])).toBe(3);
  expect(withinSecond([])).toBe(0);
});

test("the ruler tells moments and pixels into each other; what it names lies far enough apart, in even steps, within the scene", () => {
  fc.assert(
    fc.property(evenly(0.05, 5000), fc.integer({ min: 150, max: 2500 }), (length, width) => {
      const scale = { length, width };
      expect(momentAtX(xOf(0.3 * length, scale), scale)).toBeCloseTo(0.3 * length, 6);
      const { named, marked, step } = ticksOf(scale);
      expect(xOf(step, scale) - xOf(0, scale)).toBeGreaterThanOrEqual(70 - 1e-6);
      expect([named[0], marked.length >= 2 * named.length - 1]).toEqual([0, true]);
      expect(Math.max(...named)).toBeLessThanOrEqual(length * (1 + 1e-6));
    }),
  );
});

const course = (...values: Course["keyframes"][number]["value"][]): Course => ({
  keyframes: values.map((value, at) => ({ at, value, go: "straight" })),
  before: "hold",
  after: "hold",
});

test("a course is drawn from its least to its most, a line for each of its numbers; what has none is not", () => {
  const scale = { length: 2, width: 448 };
  const y = (height: number) => 100 - 100 * height;
  const drawn = (one: Course, at: (t: number) => unknown) => drawnCourse(one, scale, at, y);
  const { paths, heightOf } = drawn(course(5, 9, 5), (t) => 9 - 4 * Math.abs(t - 1));
  expect(paths).toHaveLength(1);
  const points = [...paths[0].matchAll(/[ML]([\d.]+) ([\d.]+)/g)].map(([, x, y]) => [Number(x), Number(y)]);
  expect([points[0], points[points.length - 1]]).toEqual([[24, 100], [424, 100]]); // prettier-ignore
  expect(Math.min(...points.map(([, y]) => y))).toBe(0);
  expect([heightOf(5), heightOf(7), heightOf(9)]).toEqual([0, 0.5, 1]);
  expect(drawn(course([0, 1], [2, 3]), (t) => [t, t + 1]).paths).toHaveLength(2);
  expect(drawn(course(true, false), (t) => t < 1).paths).toHaveLength(0);
  expect(drawn(course(3, 3), () => 3).heightOf(3)).toBe(0.5);
});

test("the bar is about the course that was chosen as long as there is one, else about all that changes of what is selected", () => {
  const scene = harbourScene();
  const [dressing, line] = [scene.dressings[0], scene.lines[0]];
  dressing.courses = { "fit/up": course(0, 1), "gaps/chance": course(0, 1) };
  line.courses = { marks: course(1, 2) };
  const of = (path: string) => ({ list: "dressings" as const, id: dressing.id, path });
  const chosen = { dressing: dressing.id, focus: { kind: "dressing" as const }, course: null };
  expect(targetsOf(scene, chosen)).toEqual([of("fit/up"), of("gaps/chance")]);
  expect(targetsOf(scene, { ...chosen, course: of("gaps/chance") })).toEqual([of("gaps/chance")]);
  expect(targetsOf(scene, { ...chosen, course: of("fit/down") })).toHaveLength(2);
  expect(targetsOf(scene, { ...chosen, focus: { kind: "line", id: line.id } })).toEqual([{ list: "lines", id: line.id, path: "marks" }]); // prettier-ignore
  expect(targetsOf(scene, { ...chosen, focus: { kind: "prop", id: "buoy" } })).toEqual([]);
  expect(targetsOf(scene, { ...chosen, dressing: null })).toEqual([]);
});
