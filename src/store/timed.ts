/**
 * *Edits at a moment.* What has a course is edited as it is at that moment, and the edit sets the keyframe there; whatever has
 * none is changed for all time.
 */
import { original, produce } from "immer";
import { withKeyframe, type Course, type CourseValue } from "@/core/course";
import {
  carriedScene,
  COURSED,
  hasCourses,
  inside,
  isCoursed,
  outside,
  paramAt,
  uncarried,
  valuesAt,
  withValue,
} from "@/core/scene";
import type { Carries, CoursedList, Scene } from "@/core/scene";
import type { Recipe } from "./history";

type Coursed = { readonly id: string; readonly courses: Record<string, Course> };

/** The same recipe, done to the scene as it is at a moment, seconds, with what is held where it has been carried. */
export function atMoment(recipe: Recipe, t: number, carries: Carries = new Map()): Recipe {
  return (draft) => {
    const scene = original(draft) as Scene;
    if (!hasCourses(scene) && carries.size === 0) return recipe(draft);
    const shown = valuesAt(scene, t);
    const seen = carriedScene(shown, carries);
    const edited = uncarried(shown, seen, produce(seen, recipe), carries);
    const out = draft as unknown as Record<string, unknown>;
    for (const name of Object.keys(edited) as (keyof Scene)[]) {
      if (edited[name] === shown[name]) continue;
      const list = COURSED.find((one) => one === name);
      if (!list) out[name] = edited[name];
      else takeOver(list, t, scene[list], shown[list], edited[list], draft[list] as unknown as Coursed[]);
    }
  };
}

/** A recipe for what is in an assembly, as one for the scene; the same where none is open. */
export function within(recipe: Recipe, opened: string | null): Recipe {
  if (opened === null) return recipe;
  return (draft) => {
    const scene = original(draft) as Scene;
    const edited = outside(scene, produce(inside(scene, opened), recipe));
    const out = draft as unknown as Record<string, unknown>;
    for (const name of Object.keys(edited) as (keyof Scene)[])
      if (edited[name] !== scene[name]) out[name] = edited[name];
  };
}

/** Takes over what became of a list, seen at a moment. */
function takeOver(
  list: CoursedList,
  t: number,
  before: readonly Coursed[],
  shown: readonly Coursed[],
  edited: readonly Coursed[],
  draft: Coursed[],
): void {
  const known = new Map(before.map((thing, i) => [thing.id, { thing, seen: shown[i] }]));
  edited.forEach((thing, i) => {
    const old = known.get(thing.id);
    const now = !old ? thing : old.seen === thing ? old.thing : withCourses(list, t, old.thing, old.seen, thing);
    if (before[i] !== now) draft[i] = now;
  });
  if (draft.length > edited.length) draft.length = edited.length;
}

/** A thing that was edited as it is seen: what was done to values with courses is in these, and under them is what was. */
function withCourses(list: CoursedList, t: number, before: Coursed, seen: Coursed, edited: Coursed): Coursed {
  if (!isCoursed(before)) return edited;
  let now = edited;
  const courses = { ...edited.courses };
  for (const path of Object.keys(before.courses)) {
    // Without its course it stays as it is seen.
    if (!courses[path]) continue;
    const [under, was, is] = [before, seen, edited].map((thing) => paramAt(list, thing, path));
    // What is gone takes its course along, and so does what has become something for which its values mean nothing.
    if (!is || !courses[path].keyframes.every(({ value }) => is.allows(value))) delete courses[path];
    else if (under && was) {
      if (!isSame(is.value, was.value)) courses[path] = withKeyframe(courses[path], t, is.value);
      now = withValue(now, is.steps, under.value);
    }
  }
  return { ...now, courses };
}

const isSame = (a: CourseValue, b: CourseValue): boolean =>
  typeof a === "object" && typeof b === "object" ? a.every((x, i) => x === b[i]) : a === b;
