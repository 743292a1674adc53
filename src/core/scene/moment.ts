/**
 * *A scene at a moment*: whatever has a course gets the value that it has then. Nothing else knows of time: what comes of it is
 * a scene like any other, and a moment needs nothing of the one before.
 *
 *     sceneAt(scene, 2.5).lines[0].sag // 0.75, where it goes from 0.5 at 2 s to 1 at 3 s straight
 */
import { integralOf, SAME_MOMENT, valueAt, type Course, type CourseValue, type Mixing } from "../course";
import { paramAt, type CoursedList, COURSED } from "./course-paths";
import type { Dressing } from "../place";
import type { Scene } from "./schema";

type Coursed = { readonly courses: Readonly<Record<string, Course>> };

/** The scene as it is computed: values by their courses, and how far speeds have taken things by then. */
export const sceneAt = <S extends Pick<Scene, CoursedList>>(scene: S, t: number): S => seenAt(scene, t).computed;

/**
 * The scene as it is seen and edited at a moment, and as it is computed. Things that do not change stay the same objects, and so
 * does a scene in which nothing does.
 */
export function seenAt<S extends Pick<Scene, CoursedList>>(scene: S, t: number): { shown: S; computed: S } {
  const shown = valuesAt(scene, t);
  if (!shown.dressings.some(isTravelling)) return { shown, computed: shown };
  const dressings = shown.dressings.map((one) => (isTravelling(one) ? travelledTo(one, t) : one));
  return { shown, computed: { ...shown, dressings } };
}

/** Whether a dressing travels by itself. */
const isTravelling = ({ spacing: { speed, onceIn }, courses }: Dressing): boolean =>
  speed !== 0 || onceIn !== 0 || "spacing/speed" in courses || "spacing/onceIn" in courses;

/** A dressing with how far it has gone: what its speeds add up to, exactly, whatever their courses. */
function travelledTo(dressing: Dressing, t: number): Dressing {
  const { spacing, courses } = dressing;
  const added = (name: "speed" | "onceIn", of: (value: number) => number) => {
    const course = courses[`spacing/${name}`];
    return course ? integralOf(course, t, of) : of(spacing[name]) * t;
  };
  const gone = {
    metres: added("speed", (speed) => speed),
    rounds: added("onceIn", (seconds) => (seconds > 0 ? 1 / seconds : 0)),
  };
  return { ...dressing, spacing: { ...spacing, gone } };
}

/**
 * The scene as it is seen and edited: values by their courses. Things that have none stay the same objects.
 */
export function valuesAt<S extends Pick<Scene, CoursedList>>(scene: S, t: number): S {
  let out = scene;
  for (const list of COURSED) {
    const now = listAt(list, scene[list] as readonly Coursed[], t);
    if (now !== scene[list]) out = { ...out, [list]: now };
  }
  return out;
}

function listAt<T extends Coursed>(list: CoursedList, things: readonly T[], t: number): readonly T[] {
  return things.some(isCoursed) ? things.map((thing) => thingAt(list, thing, t)) : things;
}

/** Whether anything of a thing changes over time. */
export function isCoursed({ courses }: Coursed): boolean {
  for (const _ in courses) return true;
  return false;
}

/** Whether anything in the scene has a course. */
export const hasCourses = (scene: Pick<Scene, CoursedList>): boolean =>
  COURSED.some((list) => (scene[list] as readonly Coursed[]).some(isCoursed));

/** Whether anything in the scene changes over time. */
export const isMoving = (scene: Pick<Scene, CoursedList>): boolean =>
  hasCourses(scene) || scene.dressings.some(isTravelling);

function thingAt<T extends Coursed>(list: CoursedList, thing: T, t: number): T {
  let out = thing;
  for (const [path, course] of Object.entries(thing.courses)) {
    const param = paramAt(list, thing, path);
    if (param) out = withValue(out, param.steps, courseValue(course, t, param));
  }
  return out;
}

/** The value of a parameter's course at a moment, within what the parameter allows. */
export function courseValue(
  course: Course,
  t: number,
  { mixing, whole, allows }: { mixing: Mixing; whole: boolean; allows: (value: CourseValue) => boolean },
): CourseValue {
  const raw = valueAt(course, t, mixing);
  const value = whole ? Math.round(raw as number) : inOrder(raw);
  if (allows(value)) return value;
  // What goes on beyond its ends may go beyond the limits.
  const { keyframes } = course;
  return (t < keyframes[0].at ? keyframes[0] : keyframes[keyframes.length - 1]).value;
}

/** A range whose ends have passed each other on their ways has both where they met. */
function inOrder(value: CourseValue): CourseValue {
  if (typeof value !== "object" || value.length !== 2 || value[0] <= value[1]) return value;
  const middle = 0.5 * (value[0] + value[1]);
  return [middle, middle];
}

/** A copy in which the value at a path is another. */
export function withValue<T>(thing: T, steps: readonly (string | number)[], value: unknown): T {
  if (steps.length === 0) return value as T;
  const [first, ...rest] = steps;
  const copy = (Array.isArray(thing) ? [...thing] : { ...thing }) as Record<string | number, unknown>;
  copy[first] = withValue(copy[first], rest, value);
  return copy as T;
}

/** The moments at which anything of some things has a keyframe, ascending, each once. */
export function momentsOf(things: readonly Coursed[]): number[] {
  const all = things.flatMap(({ courses }) => Object.values(courses).flatMap(({ keyframes }) => keyframes));
  const sorted = all.map(({ at }) => at).sort((a, b) => a - b);
  return sorted.filter((at, i) => i === 0 || at - sorted[i - 1] >= SAME_MOMENT);
}
