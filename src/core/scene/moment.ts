/**
 * *A scene at a moment*: whatever has a course gets the value that it has then. Nothing else knows of time: what comes of it is
 * a scene like any other, and a moment needs nothing of the one before.
 *
 *     sceneAt(scene, 2.5).lines[0].sag // 0.75, where it goes from 0.5 at 2 s to 1 at 3 s straight
 */
import { integralOf, SAME_MOMENT, valueAt, type Course, type CourseValue, type Mixing } from "../course";
import type { Band } from "../made";
import { MOVER_KINDS, type Mover } from "../movers";
import { eased } from "../math";
import { pick } from "../schema";
import { mapped } from "./mapped";
import { paramAt, type CoursedList, COURSED } from "./course-paths";
import type { Dressing } from "../place";
import type { Prop, Scene } from "./schema";
import type { Surface } from "./surface-schema";

type Coursed = { readonly courses: Readonly<Record<string, Course>> };

/** The scene as it is computed: values by their courses, and how far speeds have taken things by then. */
export const sceneAt = <S extends InTime>(scene: S, t: number): S => seenAt(scene, t).computed;

/** What knows of time: things, and assemblies with things in them. */
type InTime = Pick<Scene, CoursedList> & { props?: Scene["props"] };

/** Assemblies with what is in them computed at a moment. */
const propsAt = (props: Prop[], t: number): Prop[] =>
  mapped(props, (prop) => {
    const assembly = prop.assembly && sceneAt(prop.assembly, t);
    return assembly === prop.assembly ? prop : { ...prop, assembly };
  });

/**
 * The scene as it is seen and edited at a moment, and as it is computed. Things that do not change stay the same objects, and so
 * does a scene in which nothing does.
 */
export function seenAt<S extends InTime>(scene: S, t: number): { shown: S; computed: S } {
  const shown = valuesAt(scene, t);
  const dressings = mapped(shown.dressings, (one) => posedAt(isTravelling(one) ? travelledTo(one, t) : one, t));
  const surfaces = mapped(shown.surfaces, (one, i) => movedTo(one, scene.surfaces[i], t));
  const props = shown.props && propsAt(shown.props, t);
  if (dressings === shown.dressings && surfaces === shown.surfaces && props === shown.props)
    return { shown, computed: shown };
  return { shown, computed: { ...shown, dressings, surfaces, ...(props && { props }) } };
}

/** Whether a dressing travels by itself. */
const isTravelling = ({ spacing: { speed, onceIn }, courses }: Dressing): boolean =>
  speed !== 0 || onceIn !== 0 || ["travel", "speed", "onceIn"].some((name) => `spacing/${name}` in courses);

/** What a number adds up to from the first moment on, exactly, whatever its course. */
function addedUp(course: Course | undefined, value: number, t: number, of: (value: number) => number): number {
  return course ? integralOf(course, t, of) : of(value) * t;
}

/** A dressing with how far it has gone, and how fast it goes. */
function travelledTo(dressing: Dressing, t: number): Dressing {
  const { spacing, courses } = dressing;
  const { metres, rounds } = goneBy(spacing, courses, "spacing", t);
  const whole = Math.floor(rounds);
  const along = eased(rounds - whole, spacing.ease);
  const gone = {
    metres,
    rounds: whole + along.at,
    speed: spacing.speed + changeOf(courses["spacing/travel"], t),
    rate: along.speed * (spacing.onceIn > 0 ? 1 / spacing.onceIn : 0),
  };
  return { ...dressing, spacing: { ...spacing, gone } };
}

/** Whether a dressing's props play their clips. */
const isPosing = ({ variation: { pose } }: Dressing): boolean => pose === "step" || pose === "own";

/** A dressing with how far its clips have been played. */
function posedAt(dressing: Dressing, t: number): Dressing {
  if (!isPosing(dressing) || t === 0) return dressing;
  const { variation, courses } = dressing;
  const course = courses["variation/clipSpeed"];
  const played = ([0, 1] as const).map((end) => {
    const own = course && {
      ...course,
      keyframes: course.keyframes.map((one) => ({ ...one, value: (one.value as readonly number[])[end] })),
    };
    return addedUp(own, variation.clipSpeed[end], t, (speed) => speed);
  });
  return { ...dressing, variation: { ...variation, clipGone: [played[0], played[1]] } };
}

/** Moments so far apart tell how fast a number changes, seconds. */
const BRIEF = 1e-3;

/** How fast a number changes by its course, a second; where it leaps from one value to another that is no speed. */
function changeOf(course: Course | undefined, t: number): number {
  if (!course) return 0;
  const within = (brief: number): number => {
    const [before, after] = [t - brief, t + brief].map((at) => valueAt(course, at, "numbers") as number);
    return after - before;
  };
  const [change, less] = [within(BRIEF), within(BRIEF / 10)];
  return Math.abs(less) > 0.5 * Math.abs(change) ? 0 : change / (2 * BRIEF);
}

/** How far a speed, and going once along or round in so many seconds, have come together. */
function goneBy(
  rates: { speed: number; onceIn: number },
  courses: Readonly<Record<string, Course>>,
  part: string,
  t: number,
): { metres: number; rounds: number } {
  const added = (name: "speed" | "onceIn", of: (value: number) => number) =>
    addedUp(courses[`${part}/${name}`], rates[name], t, of);
  return {
    metres: added("speed", (speed) => speed),
    rounds: added("onceIn", (seconds) => (seconds > 0 ? 1 / seconds : 0)),
  };
}

/** What of a surface says where it stands. */
const STAND = ["position", "rotation", "scale"] as const;

/** A surface with where it was at first, where it goes about, and with how far its movers have gone. */
function movedTo(surface: Surface, under: Surface, t: number): Surface {
  const { courses } = surface;
  const goes = STAND.some((name) => name in courses);
  const movers = mapped(surface.movers, (mover) => moverAt(mover, courses, t));
  const made = surface.made?.kind === "band" ? bandAt(surface.made, courses, t) : surface.made;
  if (!goes && movers === surface.movers && made === surface.made) return surface;
  return { ...surface, movers, made, ...(goes && { rest: pick(thingAt("surfaces", under, 0), STAND) }) };
}

/** A band with how far it has gone. */
function bandAt(made: Band, courses: Surface["courses"], t: number): Band {
  const gone = goneBy(made, courses, "made", t);
  return gone.metres === 0 && gone.rounds === 0 ? made : { ...made, gone };
}

function moverAt(mover: Mover, courses: Surface["courses"], t: number): Mover {
  const { rate } = MOVER_KINDS[mover.kind];
  if (!rate) return mover;
  const value = (mover as unknown as Record<string, number>)[rate.name];
  const upTo = (moment: number) => addedUp(courses[`movers/${mover.id}/${rate.name}`], value, moment, rate.perSecond);
  const start = "start" in mover ? mover.start : 0;
  const gone = t > start ? upTo(t) - upTo(start) : 0;
  return gone === 0 ? mover : ({ ...mover, gone } as Mover);
}

/** Whether any of a surface's movers goes by itself. */
const isMovedByItself = ({ movers, made }: Surface): boolean =>
  (made?.kind === "band" && (made.speed !== 0 || made.onceIn !== 0)) ||
  movers.some((mover) => {
    const { rate } = MOVER_KINDS[mover.kind];
    return mover.on && rate !== null && (mover as unknown as Record<string, number>)[rate.name] !== 0;
  });

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
export const isMoving = (scene: InTime): boolean =>
  hasCourses(scene) ||
  !!scene.props?.some(({ assembly }) => assembly && isMoving(assembly)) ||
  scene.dressings.some((one) => isTravelling(one) || isPosing(one)) ||
  scene.surfaces.some(isMovedByItself);

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
  const exact = whole ? Math.round(raw as number) : raw;
  // Two numbers are a range only where they may not be the wrong way round: a place seen from above has two as well.
  const value = allows(exact) ? exact : inOrder(exact);
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
