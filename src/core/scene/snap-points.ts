/**
 * *The snap points of a prop as it is prepared*: those the artist has set, and those that every prop has by itself.
 *
 *     snapPointsOf(lampPost) // hook, pivot, top, bottom, left, right, front, back, first end, last end
 */
import { normalize, type Vec3 } from "../math";
import { sizeOf } from "../mesh";
import { intoPrepared, preparedBounds, turnedInto, type Prepared } from "./prepare";
import type { SnapPoint } from "../tie";

/** Names of the ends of long props. */
export const ENDS = ["first end", "last end"] as const;

/** A prop is long whose longest side is so many times its second. */
const LONG = 1.5;

/** All snap points of a prop, its own first. One of its own takes the place of one by itself that has the same name. */
export function snapPointsOf(prop: Prepared): SnapPoint[] {
  const own = prop.prepared.snaps.map(({ name, position, direction, free }): SnapPoint => ({
    name,
    position: intoPrepared(prop, position),
    direction: normalize(turnedInto(prop.prepared, direction), [0, 1, 0]),
    free,
    own: true,
  }));
  const names = new Set(own.map(({ name }) => name));
  return [...own, ...byThemselves(prop).filter(({ name }) => !names.has(name))];
}

function byThemselves(prop: Prepared): SnapPoint[] {
  const box = preparedBounds(prop);
  const middle = box.min.map((low, k) => (low + box.max[k]) / 2);
  const side = (name: string, axis: 0 | 1 | 2, way: 1 | -1): SnapPoint => {
    const on = (k: number): number => (k === axis ? (way > 0 ? box.max : box.min)[k] : middle[k]);
    const direction = [0, 1, 2].map((k) => (k === axis ? way : 0)) as unknown as Vec3;
    return { name, position: [on(0), on(1), on(2)], direction, free: true, own: false };
  };
  const pivot: SnapPoint = { name: "pivot", position: [0, 0, 0], direction: [0, 1, 0], free: true, own: false };
  const sizes = sizeOf(box);
  const axis = sizes.indexOf(Math.max(...sizes)) as 0 | 1 | 2;
  const second = Math.max(...sizes.filter((_, k) => k !== axis));
  const long = sizes[axis] > LONG * second ? [side(ENDS[0], axis, -1), side(ENDS[1], axis, 1)] : [];
  return [
    pivot,
    side("top", 1, 1),
    side("bottom", 1, -1),
    side("left", 0, 1),
    side("right", 0, -1),
    side("front", 2, 1),
    side("back", 2, -1),
    ...long,
  ];
}
