/** Scenes at a moment. */
import fc from "fast-check";
import { evenly } from "../math/testing";
import {
  COURSED,
  coursesComplaint,
  isMoving,
  momentsOf,
  paramAt,
  parseScene,
  sceneAt,
  surfaceSchema,
  valuesAt,
} from ".";
import type { Course, CourseValue } from "../course";
import { harbourScene } from "./testing";
import { frameAt, frameCount, momentOf, timeSchema } from "./time";
import type { Scene } from "./schema";

const course = (from: CourseValue, to: CourseValue, more: Partial<Course> = {}): Course => ({
  keyframes: [
    { at: 1, value: from, go: "straight" },
    { at: 3, value: to, go: "straight" },
  ],
  before: "hold",
  after: "hold",
  ...more,
});
/** The harbour with courses on its first line and dressing. */
const moving = (line: Record<string, Course>, dressing: Record<string, Course> = {}): Scene => {
  const scene = parseScene(JSON.parse(JSON.stringify(harbourScene())));
  return {
    ...scene,
    lines: scene.lines.with(0, { ...scene.lines[0], courses: line }),
    dressings: scene.dressings.with(0, { ...scene.dressings[0], courses: dressing }),
  };
};

/** The paths of all that can have a course in a thing. */
function pathsOf(list: (typeof COURSED)[number], thing: object): string[] {
  const found: string[] = [];
  const walk = (value: unknown, path: string): void => {
    if (path && paramAt(list, thing, path)) found.push(path);
    if (typeof value !== "object" || value === null || path.split("/").length > 4) return;
    for (const [name, inner] of Object.entries(value)) {
      const step = Array.isArray(value) ? (inner as { id?: unknown } | null)?.id : name;
      if (step !== undefined) walk(inner, path ? `${path}/${String(step)}` : String(step));
    }
  };
  walk(thing, "");
  return found;
}

test("whatever has a course has its value at a moment, at any path; all else stays the same object", () => {
  const scene = moving({});
  let paths = 0;
  for (const list of COURSED) {
    for (const thing of scene[list]) {
      for (const path of pathsOf(list, thing)) {
        paths++;
        const { value, steps } = paramAt(list, thing, path)!;
        const other = typeof value === "boolean" ? !value : value;
        const changed = { ...thing, courses: { [path]: course(value, other) } };
        const all = (scene[list] as object[]).map((one) => (one === thing ? changed : one));
        const now = sceneAt({ ...scene, [list]: all }, 3);
        let found: unknown = now[list].find(({ id }) => id === thing.id);
        for (const step of steps) found = (found as Record<string | number, unknown>)[step];
        expect(found).toEqual(other);
        for (const rest of COURSED) if (rest !== list) expect(now[rest]).toBe(scene[rest]);
      }
    }
  }
  // Every number, range, switch, colour and choice of the steps, and knots.
  expect(paths).toBeGreaterThan(120);
  expect(sceneAt(scene, 2)).toBe(scene);
  expect([isMoving(scene), isMoving(moving({ marks: course(0, 9) }))]).toEqual([false, true]);
});

test("a range whose ends pass each other has both where they met; a place has its two numbers whichever is larger", () => {
  const [own] = harbourScene().dressings;
  const change = (path: string, value: unknown, other: unknown) => ({ ...own, where: { ...own.where, patch: { ...own.where.patch, layout: { ...own.where.patch.layout, middle: [0, 0] as [number, number] } } }, courses: { [path]: course(value as never, other as never) } }); // prettier-ignore
  const at = (dressing: typeof own) => sceneAt({ ...harbourScene(), dressings: [dressing] }, 3).dressings[0];
  expect(at(change("where/patch/layout/middle", [1, 2], [5, -4])).where.patch.layout.middle).toEqual([5, -4]);
  expect(at(change("variation/size", [0.5, 1], [2, 1])).variation.size).toEqual([1.5, 1.5]);
});

test("ids, kinds and names do not change over time, nor does what is not there; files that say so are refused by name", () => {
  const [line] = harbourScene().lines;
  for (const path of [
    "id",
    "number",
    "kind",
    "name",
    "knots",
    "knots/99/position",
    "knots/0/id",
    "laid/kind",
    "nothing",
    "",
    "knots/0/position/x",
    "constructor",
  ])
    // prettier-ignore
    expect(paramAt("lines", line, path)).toBeNull();
  const read = (scene: Scene) => () => parseScene(JSON.parse(JSON.stringify(scene)));
  expect(read(moving({ marks: course(1, 7) }))().lines[0].courses.marks).toEqual(course(1, 7));
  expect(read(moving({ speed: course(1, 7) }))).toThrow(
    `of “${line.name}” “speed” is nothing that can change over time`,
  );
  expect(read(moving({}, { "gaps/chance": course(0, 3) }))).toThrow("cannot be 3 at a keyframe");
  expect(read(moving({}, { "gaps/chance": course(0, true) }))).toThrow("values of one sort");
  const backwards = course(0, 1);
  backwards.keyframes.reverse();
  expect(read(moving({}, { "gaps/chance": backwards }))).toThrow("keyframes follow each other in time");
});

test("whole numbers are whole, ranges keep their ends in order, seeds stay; what goes on stops at its limits", () => {
  const t = evenly(-9, 9);
  fc.assert(
    fc.property(t, (t) => {
      const range = course([-1, 0], [0.2, 0.3]);
      range.keyframes[0].leave = [0.1, 0.9];
      for (const one of range.keyframes) one.go = "smooth";
      const at = (dressing: Record<string, Course>) => sceneAt(moving({}, dressing), t).dressings[0];
      const { spacing, variation, gaps } = at({
        "spacing/count": course(3, 12),
        "variation/turnUp": range,
        "variation/seed": course(5, 50),
        "gaps/chance": course(0.2, 0.8, { before: "goOn", after: "goOn" }),
      });
      expect(Number.isInteger(spacing.count)).toBe(true);
      expect(variation.turnUp[0]).toBeLessThanOrEqual(variation.turnUp[1]);
      expect(variation.seed).toBe(t < 3 ? 5 : 50);
      const free = 0.2 + 0.3 * (t - 1);
      expect(gaps.chance).toBeCloseTo(free >= 0 && free <= 1 ? free : free < 0 ? 0.2 : 0.8, 9);
    }),
  );
});

test("a moment is the same however it was come to", () => {
  const scene = moving({ "knots/0/position": course([0, 0, 0], [4, 1, 0], { after: "toAndFro" }) });
  fc.assert(
    fc.property(fc.array(evenly(0, 30), { minLength: 1, maxLength: 6 }), (moments) => {
      const last = moments[moments.length - 1];
      const played = moments.reduce((scene, t) => sceneAt(scene, t), scene);
      expect(played).toEqual(sceneAt(scene, last));
      expect(played.lines[0].courses).toBe(scene.lines[0].courses);
    }),
  );
});

test("keyframes lie in seconds, so another number of frames a second moves none; frames are counted from the beginning", () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 240 }), fc.integer({ min: 1, max: 5000 }), (framesPerSecond, frame) => {
      const time = timeSchema.parse({ framesPerSecond, length: 30 });
      expect(frameAt(momentOf(frame, time), time)).toBe(frame);
      expect(momentOf(frameCount(time) - 1, time)).toBeCloseTo(30, 9);
    }),
  );
  expect(momentsOf([{ courses: { a: course(1, 2), b: course(0, 1) } }, { courses: { c: { ...course(1, 2), keyframes: [{ at: 2, value: 1, go: "hold" }] } } }])).toEqual([1, 2, 3]); // prettier-ignore
  expect(coursesComplaint("lines", moving({ marks: course(1, 7) }).lines[0])).toBeNull();
});

test("speeds have taken what travels as far as they add up to, without a jump where they change; what is seen stays as it is set", () => {
  const at = (t: number, spacing: object, courses: Record<string, Course> = {}) => {
    const scene = moving({}, courses);
    const first = { ...scene.dressings[0], spacing: { ...scene.dressings[0].spacing, ...spacing } };
    const now = sceneAt({ ...scene, dressings: scene.dressings.with(0, first) }, t).dressings[0].spacing;
    return now.gone;
  };
  fc.assert(
    fc.property(evenly(0, 60), evenly(-3, 3), (t, speed) => {
      expect(at(t, { speed, onceIn: 12 })).toEqual({ metres: expect.closeTo(speed * t, 9), rounds: expect.closeTo(t / 12, 9), speed, rate: 1 / 12 }); // prettier-ignore
      // Eased, it is never far from there, and halves are halves.
      const eased = at(t, { onceIn: 12, ease: 0.6 })!;
      expect(Math.abs(eased.rounds - t / 12)).toBeLessThan(0.15);
      expect(at(12 * Math.floor(t / 12) + 6, { onceIn: 12, ease: 0.6 })!.rounds % 1).toBeCloseTo(0.5, 9);
      const speeds = { "spacing/speed": course(0, speed) };
      const [a, b] = [at(t, {}, speeds)!.metres, at(t + 1e-3, {}, speeds)!.metres];
      // At rest for a second, faster for two, and on at that speed.
      if (t > 3) expect(a).toBeCloseTo(speed * (t - 2), 9);
      expect(Math.abs(b - a)).toBeLessThanOrEqual(1e-3 * Math.abs(speed) + 1e-9);
    }),
  );
  expect(at(5, {})).toBeUndefined();
  const scene = moving({}, { "spacing/speed": course(0, 1) });
  expect(valuesAt(scene, 2).dressings[0].spacing).toMatchObject({ speed: 0.5, travel: 0 });
  expect(valuesAt(scene, 2).dressings[0].spacing.gone).toBeUndefined();
});

test("a clip begins at its moment, and is where its speed has taken it since", () => {
  const raft = surfaceSchema.parse({ id: "raft", name: "Raft", made: { kind: "box" }, movers: [{ kind: "file", start: 1.5, speed: 2 }] }); // prettier-ignore
  const gone = (t: number) => (sceneAt({ ...harbourScene(), surfaces: [raft] }, t).surfaces[0].movers[0] as { gone?: number }).gone; // prettier-ignore
  expect([gone(0), gone(1.4), gone(4)]).toEqual([undefined, undefined, 5]);
});

test("a travel that is keyframed has the speed of its course, and a leap is none", () => {
  const at = (t: number, go: "straight" | "hold") => {
    const travel = { keyframes: [0, 6].map((value, k) => ({ at: 2 * k, value, go })), before: "hold" as const, after: "hold" as const }; // prettier-ignore
    const scene = moving({}, { "spacing/travel": travel });
    return sceneAt(scene, t).dressings[0].spacing.gone!.speed;
  };
  expect([at(1, "straight"), at(5, "straight")]).toEqual([expect.closeTo(3, 6), 0]);
  for (const t of [0, 1, 2, 3]) expect(at(t, "hold")).toBe(0);
});
