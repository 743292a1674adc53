/** Step 4, Stance: how props are held in the line's frame, and where their front points. */
import { fromAxisAngle, fromTurns, multiply, rotate, type Quat, type Vec3 } from "../../math";
import { sizeOf, type PropBounds } from "../../mesh";
import type { UpRule } from "../../line";
import type { What } from "../what/schema";
import type { Bank } from "./bank";
import type { Stance } from "./schema";

/** Where front points other than along the line: a direction of the world, or at a point or away from it. */
export type Aim = { direction: Vec3 } | { point: Vec3; away: boolean };

/** *How each of a dressing's props is held.* Arrays count the dressing's props. */
export interface Hold {
  up: UpRule;
  /** Whether forward stays exact and up gives way where both cannot be had, as with up from the world. */
  forwardFirst: boolean;
  aim: Aim | null;
  /** How what travels leans into bends. */
  bank: Bank | null;
  /** How things stand that are spread over a surface. */
  spread: Pick<Stance, "forward" | "thing" | "upBy"> & { normal: boolean; flat: boolean };
  /** Each prop's turn within the frame, 4 numbers a prop; then the same for slots that are flipped. */
  turn: Float64Array;
  flips: boolean;
  /** The point at which a prop meets the line, in its own metres, 3 numbers a prop. */
  contact: Float64Array;
  /** Each prop's own size. */
  size: Float64Array;
  /** The prop's own axis, 0 to 2, that lies most along the line. */
  axis: Uint8Array;
  /** 1 for props that lie along the line by two places of theirs, between which they meet it; null where none does. */
  byEnds: Uint8Array | null;
  /** How far each prop reaches along the line from where it meets it, behind and before, metres: 2 numbers a prop. */
  reaches: Float64Array;
  /** The middle of each prop's box and half its extents: 6 numbers a prop. */
  boxes: Float64Array;
}

const FLIPS: Readonly<Record<Stance["flip"], Vec3>> = {
  none: [0, 0, 0],
  up: [0, 1, 0],
  along: [0, 0, 1],
  across: [1, 0, 0],
};

/**
 * @param props ids of the dressing's props, and `bounds` their boxes
 * @param ends of props that lie along the line by two places of theirs, these; null where all do by their boxes
 * @param thing the middle of the line or surface that is named, if it is there
 */
export function stance(
  params: Stance,
  own: What["own"],
  props: readonly string[],
  bounds: readonly PropBounds[],
  thing: Vec3 | undefined,
  bank: Bank | null,
  ends: readonly (readonly [Vec3, Vec3] | null)[] | null = null,
): Hold {
  const n = props.length;
  const held = fromTurns(params.turnAlong, params.turnAcross, params.turnUp);
  const flip: Quat = fromAxisAngle(FLIPS[params.flip], Math.PI);
  const hold: Hold = {
    up: params.up === "point" ? (thing ?? params.point) : params.up,
    forwardFirst: params.up === "world" || params.up === "normal",
    aim: aimOf(params, thing),
    bank,
    spread: {
      forward: params.forward,
      thing: params.thing,
      upBy: params.upBy,
      normal: params.up === "normal",
      flat: params.normals === "flat",
    },
    turn: new Float64Array(8 * n),
    flips: params.flip !== "none",
    contact: new Float64Array(3 * n),
    size: new Float64Array(n),
    axis: new Uint8Array(n),
    byEnds: ends && Uint8Array.from(ends, (one) => (one ? 1 : 0)),
    reaches: new Float64Array(2 * n),
    boxes: new Float64Array(6 * n),
  };
  props.forEach((prop, i) => {
    const box = bounds[i];
    const { size, turn } = own.find((one) => one.prop === prop) ?? { size: 1, turn: 0 };
    const turned = multiply(held, fromAxisAngle([0, 1, 0], turn));
    const between = ends?.[i] ?? null;
    const contact = between ? middleOf(between) : contactOf(params, box);
    const half = sizeOf(box).map((extent) => extent / 2);
    const middle = [0, 1, 2].map((k) => (box.min[k] + box.max[k]) / 2);
    hold.turn.set(turned, 4 * i);
    hold.turn.set(params.flip === "none" ? turned : multiply(flip, turned), 4 * (n + i));
    hold.contact.set(contact, 3 * i);
    hold.size[i] = size;
    hold.boxes.set([...middle, ...half], 6 * i);
    // How much of each of the prop's axes lies along the line.
    const along = [rotate(turned, [1, 0, 0])[2], rotate(turned, [0, 1, 0])[2], rotate(turned, [0, 0, 1])[2]];
    hold.axis[i] = along.reduce((best, value, k) => (Math.abs(value) > Math.abs(along[best]) + 1e-9 ? k : best), 2);
    const reach = along.reduce((sum, value, k) => sum + Math.abs(value) * half[k], 0) * size;
    const on = along.reduce((sum, value, k) => sum + value * (middle[k] - contact[k]), 0) * size;
    if (!between) return hold.reaches.set([reach - on, reach + on], 2 * i);
    const far = Math.abs(along.reduce((sum, value, k) => sum + value * (between[1][k] - between[0][k]), 0)) * size;
    hold.reaches.set([far / 2, far / 2], 2 * i);
  });
  return hold;
}

const middleOf = ([a, b]: readonly [Vec3, Vec3]): Vec3 => [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2];

/** Ways that only a surface knows go along where there is a line. */
function aimOf(params: Stance, thing: Vec3 | undefined): Aim | null {
  if (params.forward === "heading") return { direction: [Math.sin(params.heading), 0, -Math.cos(params.heading)] };
  if (params.forward !== "at" && params.forward !== "away") return null;
  return { point: thing ?? params.point, away: params.forward === "away" };
}

/** Where on the prop it meets the line, in its own coordinates: left is +X, up +Y, front +Z. */
function contactOf({ meetsAcross, meetsUp, meetsAlong }: Stance, { min, max }: PropBounds): Vec3 {
  const on = (axis: 0 | 1 | 2, side: "low" | "centre" | "high" | "pivot") =>
    ({ low: min[axis], centre: (min[axis] + max[axis]) / 2, high: max[axis], pivot: 0 })[side];
  const across = { right: "low", centre: "centre", left: "high", pivot: "pivot" } as const;
  const up = { bottom: "low", centre: "centre", top: "high", pivot: "pivot" } as const;
  const along = { back: "low", centre: "centre", front: "high", pivot: "pivot" } as const;
  return [on(0, across[meetsAcross]), on(1, up[meetsUp]), on(2, along[meetsAlong])];
}
