/** What an artist does to how things change over time. */
import type { Draft } from "immer";
import { withKeyframe, withMoved, withoutKeyframes, type Course, type Keyframe } from "@/core/course";
import { paramAt, type CoursedList, type Scene, type Time } from "@/core/scene";
import { store } from "./common";

/** A value that can change over time: of which thing, at which path. */
export interface Timed {
  list: CoursedList;
  id: string;
  path: string;
}

const thingOf = (scene: Scene | Draft<Scene>, { list, id }: Timed) =>
  (scene[list] as readonly { id: string; name: string; courses: Record<string, Course> }[]).find(
    (one) => one.id === id,
  );

/** The course of a value, as the scene has it; undefined where it has none. */
export const courseOf = (scene: Scene, at: Timed): Course | undefined => thingOf(scene, at)?.courses[at.path];

/** What a value is called, and of what it is; null where it is gone. */
export function timedOf(scene: Scene, at: Timed) {
  const thing = thingOf(scene, at);
  const param = thing && paramAt(at.list, thing, at.path);
  return param ? { ...param, of: thing.name } : null;
}

/** Changes courses, as one change with a name; null takes one off. */
function changeCourses(scene: Draft<Scene>, all: readonly Timed[], change: (course: Course) => Course | null): void {
  for (const at of all) {
    const courses = thingOf(scene, at)?.courses;
    if (!courses?.[at.path]) continue;
    const next = change(courses[at.path]);
    if (next) courses[at.path] = next;
    else delete courses[at.path];
  }
}

/** Sets a keyframe at the moment with the value that is seen. */
export function setKeyframe(at: Timed): void {
  const { change, moment, shown } = store();
  const param = timedOf(shown, at);
  if (!param) return;
  change(`Keyframe of ${param.label}`, (scene) => {
    const courses = thingOf(scene, at)!.courses;
    courses[at.path] = withKeyframe(courses[at.path], moment, param.value);
  });
}

export const takeKeyframes = (all: readonly Timed[], moments: readonly number[]): void =>
  store().change("Take keyframes off", (scene) =>
    changeCourses(scene, all, (course) => withoutKeyframes(course, moments)),
  );

/** Takes all of a course off; the value stays as it is seen. */
export const takeCourse = (at: Timed): void =>
  store().change("Let it stay", (scene) => changeCourses(scene, [at], () => null));

/** How keyframes are moved: from where they are to where they come to lie; or copies of them. */
export interface KeyframeMove {
  moments: readonly number[];
  to: (moment: number) => number;
  copied?: boolean;
}

export const moveKeyframes = (all: readonly Timed[], { moments, to, copied }: KeyframeMove, mark?: string): void =>
  store().change(
    copied ? "Copy keyframes" : "Move keyframes",
    (scene) => changeCourses(scene, all, (course) => withMoved(course, moments, to, copied)),
    mark,
  );

/** The same while they are dragged. */
export const dragKeyframes = (all: readonly Timed[], { moments, to, copied }: KeyframeMove): void =>
  store().drag((scene) => changeCourses(scene, all, (course) => withMoved(course, moments, to, copied)));

/** How keyframes go on to the next ones; handles of their own are let go. */
export const setGo = (all: readonly Timed[], moments: readonly number[], go: Keyframe["go"]): void =>
  store().change("How it goes on", (scene) =>
    changeCourses(scene, all, (course) => ({
      ...course,
      keyframes: course.keyframes.map((one) => (moments.includes(one.at) ? { at: one.at, value: one.value, go } : one)),
    })),
  );

export const setBeyond = (at: Timed, side: "before" | "after", how: Course["before"]): void =>
  store().change(side === "before" ? "Before the first keyframe" : "After the last keyframe", (scene) =>
    changeCourses(scene, [at], (course) => ({ ...course, [side]: how })),
  );

export const editTime = (label: string, change: Partial<Time>): void =>
  store().change(label, (scene) => void Object.assign(scene.time, change));
