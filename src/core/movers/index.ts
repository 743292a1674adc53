/**
 * *Movers*: what gives a surface another shape over time, each kind in a file of its own. All see the surface as the ones before
 * have left it, and none knows of time: how far speeds have come is among their numbers.
 *
 *     const { position } = movedVertices([{ mover, weight: null }], rest, 1); // 3v, metres
 */
import { bend } from "./bend";
import { billow } from "./billow";
import { fileMotion } from "./file";
import { freedom, membrane } from "./held";
import { Moving, type Moves, type Weight } from "./moving";
import { pulls } from "./pulls";
import { replay } from "./replay";
import {
  bendSchema,
  billowSchema,
  fileMotionSchema,
  pullsSchema,
  replaySchema,
  twistSchema,
  wavesSchema,
  type Mover,
  type MoverKind,
} from "./schema";
import { twist } from "./twist";
import { waves } from "./waves";
import type { MovedVertices, RestMesh } from "../mesh";
import type { PointCache } from "../rig";
import type { z } from "zod";

export * from "./schema";
export { movedShape, type MovedShape } from "./shown";
export type { Weight } from "./moving";

interface Kind<M> {
  label: string;
  help: string;
  schema: z.ZodObject;
  moves: Moves<M>;
  /** How much of it each vertex does because of where the surface is held, whatever moment it is. */
  weight: ((mover: M, rest: RestMesh, size: number) => Weight) | null;
  /** The number that says how fast it goes, and what that comes to a second. */
  rate: { name: string; perSecond: (value: number) => number } | null;
}

/** The table of kinds. */
export const MOVER_KINDS: { readonly [K in MoverKind]: Kind<Extract<Mover, { kind: K }>> } = {
  waves: {
    label: "Waves",
    help: "Run over it, as over water or through a flag.",
    schema: wavesSchema,
    moves: waves,
    weight: (mover, rest, size) => freedom(mover, mover.soft, rest, size),
    rate: { name: "speed", perSecond: (speed) => speed },
  },
  billow: {
    label: "Billow",
    help: "A bulge between the sides that are held, as in a sail.",
    schema: billowSchema,
    moves: billow,
    weight: membrane,
    rate: { name: "every", perSecond: (seconds) => (seconds > 0 ? 1 / seconds : 0) },
  },
  bend: {
    label: "Bend",
    help: "Along one of its directions.",
    schema: bendSchema,
    moves: bend,
    weight: null,
    rate: null,
  },
  twist: {
    label: "Twist",
    help: "About one of its directions.",
    schema: twistSchema,
    moves: twist,
    weight: null,
    rate: null,
  },
  pulls: {
    label: "Pulls",
    help: "By hand, here and there.",
    schema: pullsSchema,
    moves: pulls,
    weight: null,
    rate: null,
  },
  file: {
    label: "Its file's own",
    help: "What its file moves by itself: bones, shapes, parts.",
    schema: fileMotionSchema,
    moves: fileMotion,
    weight: null,
    rate: { name: "speed", perSecond: (speed) => speed },
  },
  replay: {
    label: "Replay",
    help: "A simulation's vertices, picture by picture, from a point cache (PC2, MDD) or the shapes in a GLB.",
    schema: replaySchema,
    moves: replay,
    weight: null,
    rate: { name: "rate", perSecond: (rate) => rate },
  },
};

const kindOf = (kind: MoverKind) => MOVER_KINDS[kind] as Kind<Mover>;

/** What of a mover its weight hangs on: not on how far it has gone. */
export const weightInputs = (mover: Mover) =>
  "held" in mover
    ? { kind: mover.kind, held: mover.held, places: mover.places, soft: "soft" in mover ? mover.soft : 0 }
    : null;

/** How much of a mover each vertex does because of where the surface is held; null for all of it everywhere. */
export function holdingWeight(
  mover: NonNullable<ReturnType<typeof weightInputs>>,
  rest: RestMesh,
  size: number,
): Weight {
  return kindOf(mover.kind).weight?.(mover as unknown as Mover, rest, size) ?? null;
}

/** Two weights together. */
export function weightsTogether(a: Weight, b: Weight): Weight {
  if (!a || !b) return a ?? b;
  return a.map((share, v) => share * b[v]);
}

/** The point cache that a mover replays; null for none. */
export const cacheOf = (mover: Mover): string | null => ("asset" in mover ? mover.asset : null);

/** The assets that a mover asks for: pictures that limit it, what it replays. */
export const filesOf = (mover: Mover): string[] => [
  ...(mover.limits?.images ?? []).map(({ asset }) => asset),
  ...[cacheOf(mover) ?? []].flat(),
];

/** Whether a mover does anything at all. */
export const isOn = ({ on }: Mover): boolean => on;

/**
 * Where the vertices of a surface go, at the size that it has and in its own directions.
 *
 * @param movers in the artist's order, with how much of it each vertex does and what it replays
 * @param size how many times as large the surface is as in its file
 * @param from where its vertices are before any mover, where that is not at rest, metres of its file: 3v
 */
export function movedVertices(
  movers: readonly { mover: Mover; weight: Weight; cache?: PointCache }[],
  rest: RestMesh,
  size: number,
  from?: ArrayLike<number>,
): MovedVertices {
  const moving = new Moving(rest, size, from);
  for (const { mover, weight, cache } of movers) kindOf(mover.kind).moves.move(mover, moving, weight, cache);
  return { position: moving.position, normal: moving.normals };
}
