/** What an artist does to the scene, each as one change with a name. The interface calls these and nothing else writes. */
import { toast } from "sonner";
import { keyOf, slotOfKey, lineNumberOfKey, type Dressing, type Peg } from "@/core/place";
import { dressLine, freeName, newId, nextLineNumber, type Prop, type Scene } from "@/core/scene";
import {
  asKind,
  hasKnots,
  joined,
  LINE_KINDS,
  lineSchema,
  reversed,
  splitAt,
  type Line,
  type LineKind,
  type Shape,
} from "@/core/line";
import type { Vec3 } from "@/core/math";
import { useSceneStore } from "@/store";
import { spanMiddles } from "../view/guides";
import { selectDressing, selectLine, selectNothing, useSession } from "./session";
import type { Draft } from "immer";

const store = () => useSceneStore.getState();
const scene = (): Scene => store().history.scene;

export const dressingOf = (draft: Scene | Draft<Scene>, id: string) => draft.dressings.find((d) => d.id === id);
export const lineOf = (draft: Scene | Draft<Scene>, id: string) => draft.lines.find((line) => line.id === id);

/** Changes the dressing with this id. */
export function editDressing(
  id: string,
  label: string,
  edit: (dressing: Draft<Dressing>) => void,
  mark?: string,
): void {
  store().change(
    label,
    (draft) => {
      const dressing = draft.dressings.find((d) => d.id === id);
      if (dressing) edit(dressing);
    },
    mark,
  );
}

/** A new line through the given knots; dressed at once if a prop is given. */
export function addLine(knots: readonly Vec3[], closed: boolean, prop: string | null): void {
  const id = newId();
  const name = freeName(
    "Line 1",
    scene().lines.map((line) => line.name),
  );
  const kind = knots.length > 2 ? "smooth" : "polyline";
  placeLine({ id, name, kind, closed, knots: knots.map((position) => ({ position })) }, prop);
}

/** A new shape about a point; dressed at once if a prop is given. */
export function addShape(kind: Shape["kind"], middle: Vec3, prop: string | null): void {
  const { label } = LINE_KINDS[kind];
  const name = freeName(
    `${label} 1`,
    scene().lines.map((line) => line.name),
  );
  placeLine({ id: newId(), name, kind, knots: [{ position: middle }] }, prop);
}

function placeLine(described: Record<string, unknown> & { id: string }, prop: string | null): void {
  const { id } = described;
  const line = lineSchema.parse({ ...described, number: nextLineNumber(scene()) });
  const props = scene().props.filter((p) => p.id === prop);
  const dressing = props.length > 0 ? makeDressing(id, props) : null;
  store().change("Draw line", (draft) => {
    draft.lines.push(line as Draft<Line>);
    if (dressing) draft.dressings.push(dressing as Draft<Dressing>);
  });
  if (dressing) selectDressing(dressing.id);
  else selectLine(id);
}

function makeDressing(line: string, props: readonly Prop[]): Dressing {
  const taken = scene().dressings.map((d) => d.name);
  return dressLine(newId(), freeName(props[0]?.name ?? "Dressing", taken), line, props);
}

/** A new dressing of a line with a prop. */
export function dress(line: string, prop: string): void {
  const dressing = makeDressing(
    line,
    scene().props.filter((p) => p.id === prop),
  );
  store().change("Dress", (draft) => void draft.dressings.push(dressing as Draft<Dressing>));
  selectDressing(dressing.id);
}

export function duplicateDressing(id: string): void {
  const original = dressingOf(scene(), id);
  if (!original) return;
  const name = freeName(
    original.name,
    scene().dressings.map((d) => d.name),
  );
  const copy = { ...structuredClone(original), id: newId(), name };
  store().change("Duplicate dressing", (draft) => {
    draft.dressings.splice(draft.dressings.findIndex((d) => d.id === id) + 1, 0, copy as Draft<Dressing>);
  });
  selectDressing(copy.id);
}

export function deleteDressing(id: string): void {
  const index = scene().dressings.findIndex((d) => d.id === id);
  if (index < 0) return;
  const { name } = scene().dressings[index];
  store().change("Delete dressing", (draft) => void draft.dressings.splice(index, 1));
  const rest = scene().dressings;
  selectDressing(rest[Math.min(index, rest.length - 1)]?.id ?? null);
  toast(`Deleted the dressing “${name}”.`, { action: { label: "Undo", onClick: () => store().undo() } });
}

export function moveDressing(id: string, before: string): void {
  store().change("Reorder dressings", (draft) => {
    const from = draft.dressings.findIndex((d) => d.id === id);
    const to = draft.dressings.findIndex((d) => d.id === before);
    if (from < 0 || to < 0) return;
    const [moved] = draft.dressings.splice(from, 1);
    draft.dressings.splice(to, 0, moved);
  });
}

/** Changes the line with this id. */
export function editLine(id: string, label: string, edit: (line: Draft<Line>) => void, mark?: string): void {
  store().change(
    label,
    (draft) => {
      const line = draft.lines.find((l) => l.id === id);
      if (line) edit(line);
    },
    mark,
  );
}

function replaceLine(id: string, label: string, remake: (line: Line) => Line | null): void {
  const line = lineOf(scene(), id);
  const made = line && remake(line);
  if (!made || made === line) return;
  store().change(label, (draft) => {
    draft.lines[draft.lines.findIndex((l) => l.id === id)] = made as Draft<Line>;
  });
  selectLine(id);
}

/** The same line as another kind: what both kinds have is kept, the rest takes its defaults. */
export const setLineKind = (id: string, kind: LineKind): void =>
  replaceLine(id, "Change kind of line", (line) => asKind(line, kind));

export const reverseLine = (id: string): void =>
  replaceLine(id, "Reverse line", (line) => (hasKnots(line) ? reversed(line) : null));

/** Cuts a line at a knot. What ran along it runs along both parts. */
export function splitLine(id: string, knot: number): void {
  const line = lineOf(scene(), id);
  if (!line || !hasKnots(line)) return;
  const name = freeName(
    line.name,
    scene().lines.map((l) => l.name),
  );
  const parts = splitAt(line, knot, { id: newId(), number: nextLineNumber(scene()), name });
  if (!parts) return;
  const [first, second] = parts;
  store().change("Split line", (draft) => {
    const index = draft.lines.findIndex((l) => l.id === id);
    draft.lines.splice(index, 1, ...parts.map((part) => part as Draft<Line>));
    for (const { where } of draft.dressings) {
      const at = where.lines.indexOf(id);
      if (second && at >= 0) where.lines.splice(at + 1, 0, second.id);
    }
  });
  selectLine(first.id);
}

/** Leads a line on by another one, which is then part of it. */
export function joinLines(id: string, other: string): void {
  const [line, added] = [lineOf(scene(), id), lineOf(scene(), other)];
  if (!line || !added || line === added || !hasKnots(line) || !hasKnots(added)) return;
  store().change("Join lines", (draft) => {
    draft.lines[draft.lines.findIndex((l) => l.id === id)] = joined(line, added) as Draft<Line>;
    dropLine(draft, other);
  });
  selectLine(id);
}

/** Takes a line out of the scene and out of everything that speaks of it. */
function dropLine(draft: Draft<Scene>, id: string): void {
  draft.lines = draft.lines.filter((line) => line.id !== id);
  for (const dressing of draft.dressings) {
    dressing.where.lines = dressing.where.lines.filter((other) => other !== id);
    dressing.pegs = dressing.pegs.filter((peg) => peg.line !== id);
  }
}

export function insertKnot(id: string, after: number, position: Vec3): void {
  editLine(id, "Insert knot", (line) => void line.knots.splice(after + 1, 0, { position: [...position] }));
  selectLine(id, after + 1);
}

/** Inserts a knot in the middle of the span that follows a knot; after the last one, of the span before it. */
export function insertKnotBeside(id: string, knot: number): void {
  const line = lineOf(scene(), id);
  const middles = line ? spanMiddles(line) : [];
  const span = Math.min(knot, middles.length - 1);
  if (span >= 0) insertKnot(id, span, middles[span]);
}

export function deleteKnot(id: string, knot: number): void {
  const line = lineOf(scene(), id);
  if (!line) return;
  if (line.knots.length <= 2) {
    toast.error(`“${line.name}” needs two knots. Delete the line itself if you want it gone.`);
    return;
  }
  editLine(id, "Delete knot", (draft) => void draft.knots.splice(knot, 1));
  selectLine(id, null);
}

export function duplicateLine(id: string): void {
  const original = lineOf(scene(), id);
  if (!original) return;
  const name = freeName(
    original.name,
    scene().lines.map((line) => line.name),
  );
  const copy = { ...structuredClone(original), id: newId(), number: nextLineNumber(scene()), name };
  for (const knot of copy.knots as { position: Vec3 }[]) {
    knot.position = [knot.position[0], knot.position[1], knot.position[2] + 1];
  }
  store().change("Duplicate line", (draft) => void draft.lines.push(copy as Draft<Line>));
  selectLine(copy.id);
}

export function deleteLine(id: string): void {
  const line = lineOf(scene(), id);
  if (!line) return;
  store().change("Delete line", (draft) => dropLine(draft, id));
  selectNothing();
  toast(`Deleted the line “${line.name}”.`, { action: { label: "Undo", onClick: () => store().undo() } });
}

export function deleteProp(id: string): void {
  const prop = scene().props.find((p) => p.id === id);
  if (!prop) return;
  store().change("Delete prop", (draft) => {
    draft.props = draft.props.filter((p) => p.id !== id);
    for (const dressing of draft.dressings) {
      const { what } = dressing;
      what.entries = what.entries.filter((entry) => entry.prop !== id);
      for (const name of ["first", "last", "nthProp"] as const) if (what[name] === id) what[name] = null;
      for (const peg of dressing.pegs) if (peg.prop === id) delete peg.prop;
      dressing.pegs = dressing.pegs.filter((peg) => peg.at !== undefined || peg.prop !== undefined || peg.removed);
    }
  });
  if (useSession.getState().drawProp === id) useSession.setState({ drawProp: null });
  selectNothing();
  toast(`Deleted the prop “${prop.name}”.`, { action: { label: "Undo", onClick: () => store().undo() } });
}

export function renameProp(id: string, name: string): void {
  store().change("Rename prop", (draft) => {
    const prop = draft.props.find((p) => p.id === id);
    if (prop) prop.name = name;
  });
}

/** The line and slot that a key of a placement stands for. */
function slotOf(key: number): Pick<Peg, "line" | "slot"> | null {
  const line = scene().lines.find((l) => l.number === lineNumberOfKey(key));
  return line ? { line: line.id, slot: slotOfKey(key) } : null;
}

/** Writes into the draft what pegs at the given keys say; an edit that leaves a peg with nothing to say takes it off. */
export function writePegs(dressing: Draft<Dressing>, keys: Iterable<number>, edit: (peg: Draft<Peg>) => void): void {
  for (const key of keys) {
    const slot = slotOf(key);
    if (!slot) continue;
    const index = dressing.pegs.findIndex((peg) => peg.line === slot.line && peg.slot === slot.slot);
    const peg: Draft<Peg> = index >= 0 ? dressing.pegs[index] : { ...slot };
    edit(peg);
    const empty = peg.at === undefined && peg.prop === undefined && !peg.removed;
    if (index >= 0) {
      if (empty) dressing.pegs.splice(index, 1);
    } else if (!empty) dressing.pegs.push(peg);
  }
}

export function setPegs(
  dressing: string,
  keys: Iterable<number>,
  label: string,
  edit: (peg: Draft<Peg>) => void,
): void {
  const list = [...keys];
  editDressing(dressing, label, (draft) => writePegs(draft, list, edit));
}

export const removePlacements = (dressing: string, keys: Iterable<number>): void =>
  setPegs(dressing, keys, "Leave blank", (peg) => {
    peg.removed = true;
  });

export const swapPlacements = (dressing: string, keys: Iterable<number>, prop: string): void =>
  setPegs(dressing, keys, "Swap prop", (peg) => {
    peg.prop = prop;
    delete peg.removed;
  });

export const unpeg = (dressing: string, keys: Iterable<number>): void =>
  setPegs(dressing, keys, "Take peg off", (peg) => {
    delete peg.at;
    delete peg.prop;
    delete peg.removed;
  });

/** The keys of all pegs of a dressing. */
export function peggedKeys(dressing: Dressing, lines: readonly Line[]): number[] {
  const numberOf = new Map(lines.map((line) => [line.id, line.number]));
  return dressing.pegs.flatMap((peg) => {
    const number = numberOf.get(peg.line);
    return number === undefined ? [] : [keyOf(number, peg.slot)];
  });
}
