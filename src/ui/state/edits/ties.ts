/** What an artist lets be held by what. */
import type { Quat, Vec3 } from "@/core/math";
import { carriedHangs, hexOf, indicesOf, type Key, type Peg, type Placements } from "@/core/place";
import { tieOfPeg } from "@/core/scene";
import { back, carriedPoint, carriedTurn, type Carry, type Tie } from "@/core/tie";
import type { Knot, Line } from "@/core/line";
import { pick } from "@/core/schema";
import { carriedByMovers } from "../moved";
import { useResults } from "../results";
import { inField, scene, store } from "./common";
import { editKnots } from "./knots";
import { setPegs } from "./pegs";
import { editSurface, surfaceOf } from "./surfaces";
import type { Draft } from "immer";

/** What is to hold: a surface, or of a dressing the placement that is nearest; null for nothing. */
export type Holder = { kind: "surface" | "dressing"; id: string } | null;

/** A tie of what is seen at a place, and how far its holder's movers have taken that place from where it is at rest. */
function tieTo({ kind, id }: NonNullable<Holder>, at: Vec3): { tie: Tie; by: Carry | null } | null {
  if (kind === "dressing") {
    const placements = useResults.getState().byDressing.get(id)?.placements;
    const nearest = placements && nearestTo(placements, at);
    return nearest ? { tie: { kind: "placement", dressing: id, ...nearest }, by: null } : null;
  }
  const surface = surfaceOf(scene(), id);
  if (!surface) return null;
  const stood = pick(surface, ["position", "rotation", "scale"]);
  const place = inField(scene(), id, at);
  return { tie: { kind: "surface", surface: id, at: place, stood }, by: carriedByMovers(id, place, stood) };
}

/** The standing placement that is nearest to a point. */
function nearestTo(
  { count, prop, props, position: P, rotation: R, origin, key }: Placements,
  [x, y, z]: Vec3,
): { key: string; stood: { position: Vec3; rotation: Quat } } | null {
  let [best, least] = [-1, Infinity];
  for (let i = 0; i < count; i++) {
    if (prop[i] >= props.length) continue;
    const far = Math.hypot(origin[0] + P[3 * i] - x, origin[1] + P[3 * i + 1] - y, origin[2] + P[3 * i + 2] - z);
    if (far < least) [best, least] = [i, far];
  }
  if (best < 0) return null;
  return {
    key: hexOf(key[best]),
    stood: {
      position: [origin[0] + P[3 * best], origin[1] + P[3 * best + 1], origin[2] + P[3 * best + 2]],
      rotation: [R[4 * best], R[4 * best + 1], R[4 * best + 2], R[4 * best + 3]],
    },
  };
}

/** Lets a surface be held; it stays where it is. Whether there was anything to hold it. */
export function holdSurface(id: string, holder: Holder): boolean {
  const surface = surfaceOf(scene(), id);
  const held = surface && holder && tieTo(holder, surface.position);
  if (!surface || (holder && !held)) return false;
  editSurface(id, holder ? "Hold surface" : "Let surface go", (draft) => {
    draft.held = held ? (held.tie as Draft<Tie>) : null;
    if (!held?.by) return;
    draft.position = [...carriedPoint(back(held.by), surface.position)];
    draft.rotation = [...carriedTurn(back(held.by), surface.rotation)];
  });
  return true;
}

/** The same of knots, each by the place that is nearest to it. */
export function holdKnots(line: string, knots: readonly number[], holder: Holder): boolean {
  const seen = scene().lines.find(({ id }) => id === line);
  const places = knots.flatMap((k) => (seen?.knots[k] ? [seen.knots[k] as Knot] : []));
  const held = new Map(places.map((knot) => [knot.id, holder && tieTo(holder, knot.position)]));
  if (places.length === 0 || (holder && [...held.values()].some((one) => !one))) return false;
  editKnots(line, knots, holder ? "Hold knot" : "Let knot go", (draft) => {
    const own = held.get((draft as Knot).id);
    if (!own) return void delete draft.held;
    draft.held = own.tie as Draft<Tie>;
    if (own.by) draft.position = [...carriedPoint(back(own.by), draft.position)];
  });
  return true;
}

/** Writes into the draft what a knot that is moved by hand is tied to now; off what it was caught on, it is free again. */
export function tieKnot(knot: Draft<Line>["knots"][number], tie: Tie | null): void {
  if (tie) knot.held = tie as Draft<Tie>;
  else if (knot.held && isCaught(knot.held as Tie)) delete knot.held;
}

/** Whether a tie is to a place that things are caught on, and not to a thing as one piece. */
export const isCaught = (tie: Tie): boolean =>
  tie.kind === "line" || (tie.kind === "placement" && tie.snap !== undefined);

/** The same of loose placements, each by the place that is nearest to it. */
export function holdLoose(dressing: string, keys: Iterable<Key>, holder: Holder): boolean {
  const placements = useResults.getState().byDressing.get(dressing)?.placements;
  if (!placements) return false;
  const found = indicesOf(placements.key, keys).map((i) => {
    const { origin, position } = placements;
    const at = [0, 1, 2].map((k) => origin[k] + position[3 * i + k]) as unknown as Vec3;
    return { key: placements.key[i], at, own: holder && tieTo(holder, at) };
  });
  if (found.length === 0 || (holder && found.some(({ own }) => !own))) return false;
  const by = new Map(found.map((one) => [one.key, one]));
  setPegs(dressing, by.keys(), holder ? "Hold placement" : "Let placement go", (peg, key) => {
    const { own } = by.get(key)!;
    const carried = carryOf(dressing, key);
    const seen = carried && peg.point ? carriedPoint(carried, peg.point) : peg.point;
    if (own) peg.held = own.tie as Draft<Tie>;
    else delete peg.held;
    // What it hangs on is where it is seen, as the new holder has it.
    for (const by of [carried, own?.by && back(own.by)])
      if (by && peg.hangs) peg.hangs = carriedHangs(peg.hangs as NonNullable<Peg["hangs"]>, by) as typeof peg.hangs;
    if (seen) peg.point = [...(own?.by ? carriedPoint(back(own.by), seen) : seen)];
  });
  return true;
}

/** How far one of a dressing's placements has been carried by what holds it. */
export const carryOf = (dressing: string, key: Key): Carry | undefined =>
  store().carries.get(tieOfPeg(dressing, hexOf(key)));
