/** Edits of a line's knots, one or several at once. */
import { toast } from "sonner";
import { handlesOf, isFamily, type Knot, type Line } from "@/core/line";
import { add, lengthOf, scale, subtract, type Vec3 } from "@/core/math";
import { nextNumber } from "@/core/schema";
import { spanMiddles } from "../guides";
import { knotAtRest } from "../seen-line";
import { selectLine } from "../session";
import { editLine, lineOf, scene } from "./common";
import { withPartners } from "./families";
import type { Draft } from "immer";

export function insertKnot(id: string, after: number, position: Vec3): void {
  const before = lineOf(scene(), id)?.knots[after];
  editLine(id, "Insert knot", (line) => {
    // The new knot's span is a part of the one that it divides.
    const knot: Knot = {
      id: nextNumber(line.knots),
      position: [...knotAtRest(line as Line, position)],
      ...(before?.tag !== undefined && { tag: before.tag }),
    };
    line.knots.splice(after + 1, 0, knot as Draft<Knot>);
  });
  selectLine(id, after + 1);
}

/** Inserts a knot in the middle of the span that follows a knot; after the last one, of the span before it. */
export function insertKnotBeside(id: string, knot: number): void {
  const line = lineOf(scene(), id);
  const middles = line ? spanMiddles(line) : [];
  const span = Math.min(knot, middles.length - 1);
  if (span >= 0) insertKnot(id, span, middles[span]);
}

export function deleteKnots(id: string, knots: readonly number[]): void {
  const line = lineOf(scene(), id);
  if (!line) return;
  const gone = withPartners(line, new Set(knots.filter((knot) => knot >= 0 && knot < line.knots.length)));
  if (gone.size === 0) return;
  if (!isFamily(line) && line.knots.length - gone.size < 2) {
    toast.error(`“${line.name}” needs two knots. Delete the line itself if you want it gone.`);
    return;
  }
  editLine(id, gone.size === 1 ? "Delete knot" : "Delete knots", (draft) => {
    draft.knots = draft.knots.filter((_, i) => !gone.has(i));
  });
  selectLine(id, null);
}

/** Writes into the draft: the knots of a line, each where it was moved by so much. */
export function moveKnots(line: Draft<Line>, from: ReadonlyMap<number, Vec3>, by: Vec3): void {
  for (const [knot, position] of from) {
    if (line.knots[knot]) line.knots[knot].position = [...knotAtRest(line as Line, add(position, by))];
  }
}

/** Changes knots of a line alike. */
export function editKnots(
  id: string,
  knots: readonly number[],
  label: string,
  edit: (knot: Draft<Knot>) => void,
  mark?: string,
): void {
  editLine(id, label, (line) => knots.forEach((k) => line.knots[k] && edit(line.knots[k])), mark);
}

export type Side = "before" | "after";

/**
 * Writes a Bézier handle's end (a position) into the draft. A smooth knot's other handle stays on one line with it; a knot
 * without handles of its own gets both.
 */
export function writeHandle(line: Draft<Line>, knot: number, side: Side, end: Vec3): void {
  if (line.kind !== "bezier" || !line.knots[knot]) return;
  const held = line.knots[knot];
  const shown = handlesOf(line.knots as readonly Knot[], line.closed, knot);
  const handle = subtract(end, held.position as Vec3);
  if (held.join === "corner") held.join = "free";
  const other = side === "before" ? "after" : "before";
  held[side] = handle as [number, number, number];
  held[other] = shown[other] as [number, number, number];
  if (held.join !== "free" && lengthOf(handle) > 0) {
    const length = lengthOf(shown[other]);
    held[other] = scale(handle, -length / lengthOf(handle)) as [number, number, number];
  }
}

/** How a Bézier knot joins its spans. Handles that were shown become the knot's own, so that nothing jumps. */
export function setJoin(id: string, knots: readonly number[], join: NonNullable<Knot["join"]>): void {
  const line = lineOf(scene(), id);
  if (!line || line.kind !== "bezier") return;
  editLine(id, "Join of a knot", (draft) => {
    for (const k of knots) {
      const knot = draft.knots[k];
      if (!knot) continue;
      if (join === "free") Object.assign(knot, handlesOf(line.knots, line.closed, k));
      if (join === "corner" || knot.join === "corner") {
        delete knot.before;
        delete knot.after;
      }
      knot.join = join;
    }
  });
}

/** The places of some knots of a line. */
export const placesOf = (line: Line, knots: readonly number[]): Map<number, Vec3> =>
  new Map(knots.flatMap((k) => (line.knots[k] ? [[k, line.knots[k].position] as const] : [])));

/** All knots of a line: moving them moves the line. */
export const allKnots = (line: Line): number[] => line.knots.map((_, i) => i);
