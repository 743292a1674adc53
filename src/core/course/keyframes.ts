/** Keyframes set, moved, copied and taken off; each gives a new course. */
import { SAME_MOMENT, type Course, type CourseValue, type Keyframe } from "./schema";

/** The keyframe at a moment, or -1. */
export const keyframeAt = ({ keyframes }: Pick<Course, "keyframes">, t: number): number =>
  keyframes.findIndex(({ at }) => Math.abs(at - t) < SAME_MOMENT);

/** The course with a value at a moment: that of the keyframe there, or of a new one that goes on as the one before it does. */
export function withKeyframe(course: Course | undefined, t: number, value: CourseValue): Course {
  if (!course) return { keyframes: [{ at: t, value, go: "smooth" }], before: "hold", after: "hold" };
  const { keyframes } = course;
  const there = keyframeAt(course, t);
  if (there >= 0) return { ...course, keyframes: keyframes.with(there, { ...keyframes[there], value }) };
  const before = keyframes.findLast(({ at }) => at < t) ?? keyframes[0];
  return { ...course, keyframes: inOrder([...keyframes, { at: t, value, go: before.go }]) };
}

/** The course without some of its keyframes; null without any. */
export function withoutKeyframes(course: Course, moments: readonly number[]): Course | null {
  const keyframes = course.keyframes.filter(({ at }) => !moments.some((t) => Math.abs(at - t) < SAME_MOMENT));
  return keyframes.length > 0 ? { ...course, keyframes } : null;
}

/** The course with some of its keyframes elsewhere in time, or copies of them; what they come to lie on gives way. */
export function withMoved(
  course: Course,
  moments: readonly number[],
  to: (at: number) => number,
  copied = false,
): Course {
  const taken = course.keyframes.filter(({ at }) => moments.some((t) => Math.abs(at - t) < SAME_MOMENT));
  const moved = taken.map((one) => ({ ...one, at: to(one.at) }));
  const staying = course.keyframes.filter(
    (one) => (copied || !taken.includes(one)) && !moved.some(({ at }) => Math.abs(at - one.at) < SAME_MOMENT),
  );
  return { ...course, keyframes: inOrder([...staying, ...moved]) };
}

/** By their moments; of those that lie on one another the last. */
function inOrder(keyframes: readonly Keyframe[]): Keyframe[] {
  const sorted = keyframes.toSorted((a, b) => a.at - b.at);
  return sorted.filter(({ at }, i) => i + 1 === sorted.length || sorted[i + 1].at - at >= SAME_MOMENT);
}
