/**
 * *What of a scene is held by what*, and where it is by that. A scene says where things stood when they were tied; how far they
 * have been carried since is worked out by the engine, and told by the names that ties have here.
 */
import { back, carriedPoint, carriedTurn, holderOf, type Carry, type Tie } from "../tie";
import { fromStand, intoOwn } from "../mesh";
import { carriedHangs, HANDLE, LOOSE } from "../place";
import type { Vec3 } from "../math";
import { omit } from "../schema";
import { mapped } from "./mapped";
import type { Knot, Line } from "../line";
import type { Scene } from "./schema";
import type { Surface } from "./surface-schema";

/** How far what is held has been carried, by the names of ties; what has not been is not among them. */
export type Carries = ReadonlyMap<string, Carry>;

export const tieOfSurface = (id: string): string => `surface/${id}`;
export const tieOfKnot = (line: string, knot: number): string => `knot/${line}/${knot}`;
/** @param key of a placement, as pegs are written by it; `HANDLE` for the handle of a patch */
export const tieOfPeg = (dressing: string, key: string): string => `peg/${dressing}/${key}`;

/** What is held: a surface, a knot of a line, or a placement that was put where it is by hand. */
export type Held = { surface: string } | { line: string; knot: number } | { dressing: string; key: string };

/** What a tie's name says is held. Ids may have any signs in them. */
export function heldBy(name: string): Held {
  const [kind, rest] = [name.slice(0, name.indexOf("/")), name.slice(name.indexOf("/") + 1)];
  if (kind === "surface") return { surface: rest };
  const cut = rest.lastIndexOf("/");
  const [owner, part] = [rest.slice(0, cut), rest.slice(cut + 1)];
  return kind === "peg" ? { dressing: owner, key: part } : { line: owner, knot: Number(part) };
}

/** The thing of the scene that is held, or part of which is. */
export const ownerOf = (held: Held): string =>
  "surface" in held ? held.surface : "line" in held ? held.line : held.dressing;

/** All ties of a scene, each with its name. */
export function tiesIn({
  surfaces,
  lines,
  dressings,
}: Pick<Scene, "surfaces" | "lines" | "dressings">): { name: string; tie: Tie }[] {
  return [
    ...surfaces.flatMap(({ id, held }) => (held ? [{ name: tieOfSurface(id), tie: held }] : [])),
    ...lines.flatMap(({ id, knots }) =>
      (knots as Knot[]).flatMap((knot) => (knot.held ? [{ name: tieOfKnot(id, knot.id), tie: knot.held }] : [])),
    ),
    ...dressings.flatMap(({ id, where, pegs }) => [
      ...(where.patch.tied ? [{ name: tieOfPeg(id, HANDLE), tie: where.patch.tied }] : []),
      ...Object.entries(pegs).flatMap(([key, { held }]) => (held ? [{ name: tieOfPeg(id, key), tie: held }] : [])),
    ]),
  ];
}

/** A surface carried along. */
export const movedSurface = (surface: Surface, by: Carry | undefined): Surface =>
  by
    ? { ...surface, position: carriedPoint(by, surface.position), rotation: carriedTurn(by, surface.rotation) }
    : surface;

/** Handles go along with their knot. */
export function movedKnot(knot: Knot, by: Carry | undefined): Knot {
  if (!by) return knot;
  const turned = { ...by, from: [0, 0, 0] as const, to: [0, 0, 0] as const };
  return {
    ...knot,
    position: carriedPoint(by, knot.position),
    ...(knot.before && { before: carriedPoint(turned, knot.before) }),
    ...(knot.after && { after: carriedPoint(turned, knot.after) }),
  };
}

/** A line with its knots where what holds them has carried them; the same where none is. */
export function movedLine<L extends Line>(line: L, carry: (name: string) => Carry | undefined): L {
  const old = line.knots as Knot[];
  const knots = mapped(old, (knot) => movedKnot(knot, knot.held && carry(tieOfKnot(line.id, knot.id))));
  return knots === old ? line : { ...line, knots };
}

/** A scene with all that is held where it has been carried; what is not carried stays the same object. */
export function carriedScene<S extends Pick<Scene, "surfaces" | "lines">>(scene: S, carries: Carries): S {
  if (carries.size === 0) return scene;
  const carry = (name: string) => carries.get(name);
  const surfaces = mapped(scene.surfaces, (one) => (one.held ? movedSurface(one, carry(tieOfSurface(one.id))) : one));
  const lines = mapped(scene.lines, (one) => movedLine(one as Line, carry) as typeof one);
  return surfaces === scene.surfaces && lines === scene.lines ? scene : { ...scene, surfaces, lines };
}

/**
 * The way back after an edit: what was done to things where they are seen, done to where they stood when they were tied. What
 * was not touched is the very object of `scene` again; what was let go, tied anew or has lost its hold stays where it is seen.
 *
 * @param scene as it is without ties, `seen` as it is with them, `edited` what that was made
 */
export function uncarried<S extends Pick<Scene, "surfaces" | "lines" | "dressings">>(
  scene: S,
  seen: S,
  edited: S,
  carries: Carries,
): S {
  const ends = new Set([...edited.surfaces, ...edited.dressings, ...edited.lines].map(({ id }) => id));
  const lost = ({ held }: { held?: Tie | null }) => !!held && !ends.has(holderOf(held));
  // Of what is held and seen where it is computed only placements may be: they are not moved in the scene.
  if (seen === scene) {
    const dressings = leftWhereSeen(edited, lost, carries);
    return dressings === edited.dressings ? edited : { ...edited, dressings };
  }
  /** How what is held now was carried; undefined for what stays as it is seen. */
  const undo = (name: string, before: Tie | null | undefined, now: Tie | null | undefined): Carry | undefined => {
    const by = now && before === now && !lost({ held: now }) ? carries.get(name) : undefined;
    return by && back(by);
  };
  const surfaces = eachAgain(scene.surfaces, seen.surfaces, edited.surfaces, lost, (raw, was, now) => {
    const by = undo(tieOfSurface(now.id), raw.held, now.held);
    if (!by) return now;
    const { position, rotation } = movedSurface(now, by);
    return {
      ...now,
      position: now.position === was.position ? raw.position : position,
      rotation: now.rotation === was.rotation ? raw.rotation : rotation,
    };
  });
  const anyLost = ({ knots }: Line) => (knots as Knot[]).some(lost);
  const lines = eachAgain(
    scene.lines as Line[],
    seen.lines as Line[],
    edited.lines as Line[],
    anyLost,
    (raw, was, now) => ({
      ...now,
      knots: eachAgain(raw.knots as Knot[], was.knots as Knot[], now.knots as Knot[], lost, (own, _, knot) =>
        movedKnot(knot, undo(tieOfKnot(now.id, knot.id), own.held, knot.held)),
      ),
    }),
  );
  return { ...edited, surfaces, lines, dressings: leftWhereSeen(edited, lost, carries) };
}

/** Dressings whose placements and handles stay where they are seen when what held them is gone. */
function leftWhereSeen(
  { surfaces, dressings }: Pick<Scene, "surfaces" | "dressings">,
  lost: (thing: { held?: Tie | null }) => boolean,
  carries: Carries,
): Scene["dressings"] {
  /** A point of a surface's own where it has gone with something; of none, in the world. */
  const gone = (on: string, point: Vec3, by: Carry): Vec3 => {
    const stand = on === LOOSE ? undefined : surfaces.find(({ id }) => id === on);
    return stand ? intoOwn(stand, carriedPoint(by, fromStand(stand, point))) : carriedPoint(by, point);
  };
  return mapped(dressings, (dressing) => {
    const { id, where, pegs } = dressing;
    const left = Object.entries(pegs).flatMap(([key, peg]) => {
      const by = lost(peg) ? carries.get(tieOfPeg(id, key)) : undefined;
      if (!by || !peg.point) return [];
      const hangs = peg.hangs && { hangs: carriedHangs(peg.hangs, by) };
      return [[key, { ...omit(peg, "uv"), point: gone(peg.on, peg.point, by), ...hangs }] as const];
    });
    const { tied, handle } = where.patch;
    const by = lost({ held: tied }) ? carries.get(tieOfPeg(id, HANDLE)) : undefined;
    if (left.length === 0 && !by) return dressing;
    const patch = by ? { ...where.patch, handle: gone(where.surfaces[0] ?? LOOSE, handle, by) } : where.patch;
    return { ...dressing, where: { ...where, patch }, pegs: { ...pegs, ...Object.fromEntries(left) } };
  });
}

/**
 * A list after an edit: things that nobody touched as they were before they were carried, the others undone, new ones and those
 * that have lost their hold as they are.
 */
function eachAgain<T extends { id: string | number }>(
  raw: readonly T[],
  seen: readonly T[],
  edited: readonly T[],
  lost: (thing: T) => boolean,
  undone: (raw: T, seen: T, edited: T) => T,
): T[] {
  if (raw === seen) return edited as T[];
  const known = new Map(seen.map((thing, i) => [thing.id, i]));
  const out = edited.map((thing) => {
    const i = known.get(thing.id);
    if (i === undefined || raw[i] === seen[i]) return thing;
    return seen[i] === thing && !lost(thing) ? raw[i] : undone(raw[i], seen[i], thing);
  });
  return out.length === raw.length && out.every((thing, i) => thing === raw[i]) ? (raw as T[]) : out;
}
