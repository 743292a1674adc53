/** Edits of lines as a whole: made, changed in kind, cut, joined, copied, deleted, with all that speaks of them. */
import { hexOf, keyOfHex, keyOnOther, lineKey, nextAdded } from "@/core/place";
import { toast } from "sonner";
import {
  asKind,
  familyOf,
  curveOf,
  hasKnots,
  joined,
  LINE_KINDS,
  lineSchema,
  reversed,
  splitAt,
  type LaidOnEdges,
  type Line,
  type LineKind,
  type Shape,
} from "@/core/line";
import type { Vec3 } from "@/core/math";
import type { Dressing } from "@/core/place";
import { freeName, newId, nextLineNumber, type Scene } from "@/core/scene";
import { drawnLine } from "../guides";
import { selectDressing, selectLine, selectNothing } from "../session";
import { dressingOf, lineOf, scene, store } from "./common";
import { familiesWithout, pegsOnCopy, type PickedEnd } from "./families";
import { makeOf, makeWithout } from "./made";
import { dropPegs } from "./pegs";
import { alongLine, propsOf } from "./dressings";
import { edgeLine } from "./laid";
import type { Draft } from "immer";

const freeLineName = (wanted: string): string =>
  freeName(
    wanted,
    scene().lines.map((line) => line.name),
  );

/** How a new line lies on surfaces. */
type Lies = Partial<Pick<Line, "laid" | "drawnOn">>;

/** A new line through the given knots; dressed at once if a prop or mix is given. */
export function addLine(
  ends: readonly (PickedEnd | Vec3)[],
  closed: boolean,
  prop: string | null,
  lies: Lies = {},
  form: string = "free",
): void {
  const knots = ends.map((end) => ("position" in end ? end : { position: end, held: null }));
  const kind = form === "hanging" ? form : knots.length > 2 ? "smooth" : "polyline";
  const described = {
    name: freeLineName("Line 1"),
    kind,
    closed,
    knots: knots.map(({ position, held }) => ({ position, ...(held && { held }) })),
    ...lies,
  };
  placeLine(described, prop);
}

/** A new shape about a point; dressed at once if a prop or mix is given. */
export function addShape(kind: Shape["kind"], middle: Vec3, prop: string | null, lies: Lies = {}): void {
  placeLine({ name: freeLineName(`${LINE_KINDS[kind].label} 1`), kind, knots: [{ position: middle }], ...lies }, prop);
}

/** A new line along the edges of a surface's mesh; dressed at once if a prop or mix is given. */
export function addEdgeLine(
  follow: LaidOnEdges["follow"],
  { on, at, value }: { on: string; at: Vec3; value: number },
  prop: string | null,
): void {
  const described = edgeLine(follow, on, at, value);
  placeLine({ ...described, name: freeLineName(described.name as string) }, prop);
}

/** A new line along the edges of a surface's mesh, at which that is cut open to be laid flat. */
export function addSeam(
  follow: LaidOnEdges["follow"],
  { on, at, value }: { on: string; at: Vec3; value: number },
): void {
  const described = edgeLine(follow, on, at, value, "Seam");
  const name = freeLineName(described.name as string);
  const line = lineSchema.parse({ ...described, name, id: newId(), number: nextLineNumber(scene()) });
  store().change("Pick seam", (draft) => {
    draft.lines.push(line as Draft<Line>);
    const laying = draft.surfaces.find(({ id }) => id === on)?.laying;
    if (!laying) return;
    laying.seams.push(line.id);
    laying.by = "unrolled";
  });
}

/** Of which dressing a drawn line becomes an area or a hole. */
export interface Outline {
  dressing: string;
  list: "areas" | "holes";
}

/** A new closed line through the knots, as an area or a hole of a dressing. */
export function addOutline(knots: readonly Vec3[], outline: Outline, lies: Lies = {}): void {
  placeOutline({ kind: "smooth", closed: true, knots: knots.map((position) => ({ position })), ...lies }, outline);
}

/** @param sizes what the shape is to have other than its defaults, such as a circle's radius */
export const addOutlineShape = (
  kind: Shape["kind"],
  middle: Vec3,
  outline: Outline,
  sizes: Record<string, number> | Lies = {},
): void => placeOutline({ kind, knots: [{ position: middle }], ...sizes }, outline);

function placeOutline(described: Record<string, unknown>, { dressing, list }: Outline): void {
  const name = freeLineName(list === "areas" ? "Area 1" : "Hole 1");
  const line = lineSchema.parse({ ...described, name, id: newId(), number: nextLineNumber(scene()) });
  store().change(list === "areas" ? "Draw area" : "Draw hole", (draft) => {
    draft.lines.push(line as Draft<Line>);
    const where = dressingOf(draft, dressing)?.where;
    if (!where) return;
    where[list].push(line.id);
    // What was drawn on a surface is filled on it.
    if (where.surfaces.length === 0) where.surfaces = surfacesOf(line, draft);
  });
  selectDressing(dressing);
}

/** The surfaces that an area within a line is filled on: those that it lies on or was drawn on, as far as they are there. */
export const surfacesOf = ({ laid, drawnOn }: Line, { surfaces }: Pick<Scene, "surfaces">): string[] =>
  (laid?.kind === "surface" ? laid.on : laid ? [laid.on] : drawnOn).filter((on) =>
    surfaces.some(({ id }) => id === on),
  );

function placeLine(described: Record<string, unknown>, prop: string | null): void {
  const line = lineSchema.parse({ ...described, id: newId(), number: nextLineNumber(scene()) });
  const dressing = prop !== null && propsOf(prop).length > 0 ? alongLine(line.id, prop) : null;
  store().change("Draw line", (draft) => {
    draft.lines.push(line as Draft<Line>);
    if (dressing) draft.dressings.push(dressing as Draft<Dressing>);
  });
  if (dressing) selectDressing(dressing.id);
  else selectLine(line.id);
}

function replaceLine(
  id: string,
  label: string,
  remake: (line: Line) => Line | null,
  also?: (draft: Draft<Scene>) => void,
): void {
  const line = lineOf(scene(), id);
  const made = line && remake(line);
  if (!made || made === line) return;
  store().change(label, (draft) => {
    draft.lines[draft.lines.findIndex((l) => l.id === id)] = made as Draft<Line>;
    also?.(draft);
  });
  selectLine(id);
}

/** The same line as another kind: what both kinds have is kept, the rest takes its defaults. */
export const setLineKind = (id: string, kind: LineKind): void =>
  replaceLine(id, "Change kind of line", (line) => asKind(line, kind));

/** Runs a line the other way. Stretches held open and placements moved or added by hand stay where they are. */
export function reverseLine(id: string): void {
  const line = lineOf(scene(), id);
  if (!line) return;
  const { length } = drawnLine(line).curve;
  replaceLine(
    id,
    "Reverse line",
    (old) => (hasKnots(old) ? reversed(old) : null),
    (draft) => moveThings(draft, id, () => ({ line: id, place: (at) => length - at })),
  );
}

/**
 * Moves what lies at places of a line by hand to where `where` says: stretches held open, and pegs that have been moved
 * or added. A stretch may come to lie on two lines; then each gets its part.
 */
function moveThings(
  draft: Draft<Scene>,
  id: string,
  where: (at: number) => { line: string; place: (at: number) => number },
): void {
  for (const dressing of draft.dressings) {
    dressing.gaps.stretches = dressing.gaps.stretches.flatMap((stretch) => {
      if (stretch.line !== id) return [stretch];
      const [from, to] = [where(stretch.from), where(stretch.to)];
      const whole = ({ line, place }: typeof from) => {
        const ends = [place(stretch.from), place(stretch.to)];
        return { line, from: Math.min(...ends), to: Math.max(...ends) };
      };
      return from.line === to.line ? [whole(from)] : [whole(from), whole(to)];
    });
    for (const [hex, peg] of Object.entries(dressing.pegs)) {
      if (peg.on !== id || peg.at === undefined) continue;
      const { line, place } = where(peg.at);
      // A slot of the rules belongs to its line; only what was added by hand can go over to another.
      if (line !== id && !peg.added) continue;
      peg.at = Math.max(0, place(peg.at));
      const other = line === id ? undefined : draft.lines.find((one) => one.id === line);
      if (!other) continue;
      delete dressing.pegs[hex];
      const number = nextAdded(dressing.pegs, ({ on }) => on === line);
      dressing.pegs[hexOf(lineKey(other.number, number))] = { ...peg, on: line };
    }
  }
}

/** Cuts a line at a knot. What ran along it runs along both parts. */
export function splitLine(id: string, knot: number): void {
  const line = lineOf(scene(), id);
  if (!line || !hasKnots(line)) return;
  const parts = splitAt(line, knot, { id: newId(), number: nextLineNumber(scene()), name: freeLineName(line.name) });
  if (!parts) return;
  const [first, second] = parts;
  const { curve } = drawnLine(line);
  const cut = curve.knotAt[knot] ?? 0;
  store().change("Split line", (draft) => {
    const index = draft.lines.findIndex((l) => l.id === id);
    draft.lines.splice(index, 1, ...parts.map((part) => part as Draft<Line>));
    if (!second) {
      const turn = (at: number) => (at >= cut ? at - cut : at - cut + curve.length);
      return moveThings(draft, id, () => ({ line: id, place: turn }));
    }
    makeOf(draft, id, [id, second.id]);
    for (const { where, gaps } of draft.dressings) {
      for (const list of [where.lines, where.areas, where.holes, gaps.avoid]) {
        const at = list.indexOf(id);
        if (at >= 0) list.splice(at + 1, 0, second.id);
      }
    }
    moveThings(draft, id, (at) =>
      at < cut ? { line: id, place: (s) => Math.min(s, cut) } : { line: second.id, place: (s) => Math.max(0, s - cut) },
    );
  });
  selectLine(first.id);
}

/** Leads a line on by another one, which is then part of it. */
export function joinLines(id: string, other: string): void {
  const [line, added] = [lineOf(scene(), id), lineOf(scene(), other)];
  if (!line || !added || line === added || !hasKnots(line) || !hasKnots(added)) return;
  const made = joined(line, added);
  const curve = curveOf(made);
  // The line's own knots keep their places where it leads; where it is led into, they come behind the other's.
  const first = made.knots.findIndex((knot) => knot.position === line.knots[0].position);
  const start = curve.knotAt[Math.max(0, first)] ?? 0;
  store().change("Join lines", (draft) => {
    draft.lines[draft.lines.findIndex((l) => l.id === id)] = made as Draft<Line>;
    if (first > 0 && made.knots.length - first === line.knots.length) {
      moveThings(draft, id, () => ({ line: id, place: (at) => at + start }));
    }
    dropLine(draft, other);
  });
  selectLine(id);
}

/** Takes a line out of the scene and out of everything that speaks of it. */
function dropLine(draft: Draft<Scene>, id: string): void {
  draft.lines = draft.lines.filter((line) => line.id !== id);
  for (const { laying } of draft.surfaces)
    if (laying.seams.includes(id)) laying.seams = laying.seams.filter((other) => other !== id);
  makeWithout(draft, id);
  familiesWithout(draft, id);
  for (const dressing of draft.dressings) {
    const { where, gaps, stance } = dressing;
    for (const list of ["lines", "areas", "holes"] as const) where[list] = where[list].filter((other) => other !== id);
    gaps.distances = gaps.distances.filter(({ to }) => to !== id);
    gaps.avoid = gaps.avoid.filter((other) => other !== id);
    gaps.stretches = gaps.stretches.filter((stretch) => stretch.line !== id);
    if (stance.thing === id) stance.thing = null;
    if (where.deepLine === id) [where.deepLine, where.deepBy] = [null, "number"];
    if (where.highLine === id) [where.highLine, where.highBy] = [null, "number"];
    dropPegs(dressing, id);
    gaps.stretches = gaps.stretches.filter((stretch) => familyOf(stretch.line) !== id);
  }
}

/** Copies a line a metre aside, with what hangs on it: whatever dresses it dresses the copy, pegs and held gaps included. */
export function duplicateLine(id: string): void {
  const original = lineOf(scene(), id);
  if (!original) return;
  const copy: Line = {
    ...structuredClone(original),
    id: newId(),
    number: nextLineNumber(scene()),
    name: freeLineName(original.name),
  };
  for (const knot of copy.knots) knot.position = [knot.position[0], knot.position[1], knot.position[2] + 1];
  store().change("Duplicate line", (draft) => {
    draft.lines.splice(draft.lines.findIndex((line) => line.id === id) + 1, 0, copy as Draft<Line>);
    makeOf(draft, id, [id, copy.id]);
    for (const dressing of draft.dressings) {
      const { where, gaps } = dressing;
      for (const list of [where.areas, where.holes]) if (list.includes(id)) list.push(copy.id);
      const at = where.lines.indexOf(id);
      if (at < 0) continue;
      where.lines.splice(at + 1, 0, copy.id);
      const onCopy = <T extends { line: string }>(things: T[]) =>
        things.filter(({ line }) => line === id).map((thing) => ({ ...thing, line: copy.id }));
      gaps.stretches.push(...onCopy(gaps.stretches));
      for (const [hex, peg] of Object.entries(dressing.pegs)) {
        const key = peg.on === id ? keyOnOther(keyOfHex(hex), copy.id, where as Dressing["where"], [copy]) : null;
        if (key !== null) dressing.pegs[hexOf(key)] = { ...peg, on: copy.id };
      }
      for (const [hex, peg] of pegsOnCopy(dressing.pegs, id, copy, where as Dressing["where"]))
        dressing.pegs[hex] = peg as Draft<typeof peg>;
    }
  });
  selectLine(copy.id);
}

export function deleteLine(id: string): void {
  const line = lineOf(scene(), id);
  if (!line) return;
  store().change("Delete line", (draft) => dropLine(draft, id));
  selectNothing();
  toast(`Deleted the line “${line.name}”.`, { action: { label: "Undo", onClick: () => store().undo() } });
}
