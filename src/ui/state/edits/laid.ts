/** Edits of lines that lie on surfaces or follow their edges. */
import { kindOf } from "@/core/place";
import { laidSchema, lineSchema, type LaidOnEdges, type LaidTrack, type Line } from "@/core/line";
import type { Vec3 } from "@/core/math";
import { newId, nextLineNumber, type Scene } from "@/core/scene";
import { trackOf } from "../laid";
import { selectLine } from "../session";
import { inField, lineOf, millimetre, scene, store } from "./common";
import type { Draft } from "immer";

const FOLLOWED = { boundary: "Rim", sharp: "Edge", loop: "Loop", ring: "Ring", u: "Row", v: "Row" } as const;
/** A line is made of so many knots at most. */
const MOST_KNOTS = 2000;

/**
 * What a line along the edges of a surface begins with.
 *
 * @param at where it was taken, in the surface's own coordinates
 * @param value for rows, the texture coordinate there
 * @param what it is called
 */
export function edgeLine(
  follow: LaidOnEdges["follow"],
  on: string,
  at: Vec3,
  value: number,
  what: string = FOLLOWED[follow],
): Record<string, unknown> {
  const surface = scene().surfaces.find(({ id }) => id === on);
  return {
    name: `${what} of ${surface?.name ?? "a surface"}`.slice(0, 100),
    kind: "polyline",
    knots: [{ position: surface?.position ?? [0, 0, 0] }],
    laid: laidSchema.parse({ kind: "edges", follow, on, at, value }),
  };
}

/** Whether where a line starts is a matter of choice: it runs round along the edges of a mesh. */
export const startsAnywhere = (line: Line): boolean => line.laid?.kind === "edges" && trackOf(line)?.closed === true;

/** Makes a line along edges start at a point of the world, as near as it comes to it. */
export function writeStart(draft: Draft<Scene>, id: string, point: Vec3): void {
  const laid = lineOf(draft, id)?.laid;
  if (laid?.kind === "edges") laid.at = inField(draft, laid.on, point);
}

/** The line as one of its own knots, where it lies at the moment; it follows the surface no more. */
export function makeKnots(id: string): void {
  store().change("Make knots of a line", (draft) => {
    const line = lineOf(draft, id);
    const track = line && trackOf(line as Line);
    if (track) knotted(line, track);
  });
}

/** Writes a track into a line as a polyline's knots. */
export function knotted(line: Draft<Line>, { points, closed }: LaidTrack): void {
  const n = points.length / 3;
  const step = Math.max(1, Math.ceil(n / MOST_KNOTS));
  const kept = Array.from({ length: n }, (_, i) => i).filter((i) => i % step === 0 || (i === n - 1 && !closed));
  Object.assign(line, {
    kind: "polyline",
    cornerRadius: 0,
    closed,
    laid: null,
    knots: kept.map((i) => ({ position: [0, 1, 2].map((axis) => millimetre(points[3 * i + axis])) })),
  });
}

/** Of one row of texture coordinates so many, evenly over all of them; they run alike. Whatever dresses it dresses all. */
export function makeRows(id: string, count: number): void {
  const row = lineOf(scene(), id);
  if (row?.laid?.kind !== "edges") return;
  const values = Array.from({ length: count }, (_, i) => (i + 0.5) / count);
  const first = nextLineNumber(scene());
  const added = values.slice(1).map((value, i) =>
    lineSchema.parse({
      ...row,
      id: newId(),
      number: first + i,
      name: `${row.name} ${i + 2}`,
      laid: { ...row.laid, value },
    }),
  );
  store().change("Make rows", (draft) => {
    const own = lineOf(draft, id);
    if (own?.laid?.kind === "edges") own.laid.value = values[0];
    draft.lines.splice(draft.lines.findIndex((line) => line.id === id) + 1, 0, ...(added as Draft<Line>[]));
    for (const { where } of draft.dressings) {
      if (kindOf(where).ordered && where.lines.includes(id)) where.lines.push(...added.map((line) => line.id));
    }
  });
  selectLine(id);
}

/** What becomes of lines when a surface goes: those along its edges stay as they are, as lines of their own. */
export function liftFrom(draft: Draft<Scene>, surface: string): void {
  for (const line of draft.lines) {
    const { laid } = line;
    if (laid?.kind === "edges" && laid.on === surface) {
      const track = trackOf(line as Line);
      if (track) knotted(line, track);
      else line.laid = null;
    } else if (laid?.kind === "surface" && laid.on.includes(surface)) {
      laid.on = laid.on.filter((id) => id !== surface);
      // Without any it would lie on all that is ground, which nobody asked for.
      if (laid.on.length === 0) line.laid = null;
    }
  }
}
