/** The line that is being drawn, knot by knot, before it becomes part of the scene. */
import { create } from "zustand";
import { laidSchema, type LaidOnEdges, type Shape } from "@/core/line";
import type { Vec3 } from "@/core/math";
import type { Tie } from "@/core/tie";
import {
  addEdgeLine,
  addFamily,
  addPairs,
  addLine,
  addSeam,
  addOutline,
  addOutlineShape,
  addShape,
  type Outline,
  type PickedEnd,
  useSession,
} from "../state";
import { restMoving } from "./move-state";

interface DrawState {
  /** What is drawn: a free line knot by knot, or a shape about one point. */
  form: "free" | "hanging" | "between" | Shape["kind"] | LaidOnEdges["follow"];
  /** Whether what is drawn is laid onto the ground, or onto one surface. */
  laid: boolean;
  on: string | null;
  /** Whether it is drawn on the sheet of that surface, and runs as it does there. */
  onSheet: boolean;
  knots: readonly Vec3[];
  /** The surface that each knot was put on; null for none. */
  under: readonly (string | null)[];
  /** What each knot is tied to; null for nothing. */
  ties: readonly (Tie | null)[];
  /** The family that picked places go into; null for a new one. */
  into: string | null;
  /** Where the next knot would go. */
  cursor: Vec3 | null;
  /** Whether the cursor is on the first knot, so that a click closes the line. */
  closing: boolean;
  /** Whether it is keys that move the cursor, and not the pointer. */
  byKeys: boolean;
  /** Which dressing's area or hole is drawn; null for a line of its own. */
  outline: Outline | null;
  /** Whether what is taken from a mesh is a seam of it. */
  seam: boolean;
}

/** Forms with an inside. */
export const CLOSED_FORMS: ReadonlySet<string> = new Set(["free", "circle", "ellipse", "rectangle"]);

/** Before a line is begun; what is drawn and whether it stays on the ground goes on from one to the next. */
const nothing = (): Omit<DrawState, "form" | "laid"> => ({
  on: null,
  onSheet: false,
  knots: [],
  under: [],
  ties: [],
  into: null,
  cursor: null,
  closing: false,
  byKeys: false,
  outline: null,
  seam: false,
});

export const useDraw = create<DrawState>()(() => ({ form: "free", laid: false, ...nothing() }));

function clear(): void {
  useDraw.setState(nothing());
  restMoving();
}

/** @param outline of which dressing the line is to become an area or a hole; it is then closed whatever happens */
export function startDrawing(outline: Outline | null = null): void {
  clear();
  useDraw.setState({
    outline,
    ...(outline && !CLOSED_FORMS.has(useDraw.getState().form) && { form: "free" as const }),
  });
  useSession.setState({ tool: "draw", hover: null });
}

/** Says what is drawn; what there is of another form is let go. */
export const drawAs = (form: DrawState["form"]): void =>
  useDraw.setState({ form, knots: [], under: [], ties: [], into: null });

/** Forms that are drawn knot by knot. */
export const BY_KNOTS: ReadonlySet<string> = new Set(["free", "hanging", "between"]);

/** The forms that are taken from the mesh of a surface. */
export const EDGE_FORMS: ReadonlySet<string> = new Set(["boundary", "sharp", "loop", "ring", "u", "v"]);

/** How what is drawn lies. */
const lying = () => {
  const { laid, on, onSheet } = useDraw.getState();
  const how = onSheet ? { way: "nearest", how: "sheet" } : {};
  return laid || onSheet ? laidSchema.parse({ kind: "surface", on: on === null ? [] : [on], ...how }) : null;
};

/** Begins to draw on one surface. */
export function startDrawingOn(surface: string, form: DrawState["form"] = "free"): void {
  startDrawing();
  useDraw.setState({ form, laid: true, on: surface });
}

/** Picks edges of a surface as a seam of it. */
export function startPickingSeam(surface: string): void {
  startDrawingOn(surface, "loop");
  useDraw.setState({ seam: true });
}

/** Takes a line from the mesh of a surface. */
export function drawEdges(follow: LaidOnEdges["follow"], on: string, at: Vec3, value: number): void {
  // One is hardly ever enough to lie flat.
  if (useDraw.getState().seam) return addSeam(follow, { on, at, value });
  stopDrawing();
  addEdgeLine(follow, { on, at, value }, useSession.getState().drawProp);
}

/** Makes the chosen shape about a point. */
export function drawShape(kind: Shape["kind"], middle: Vec3, on: string | null = null): void {
  const { outline } = useDraw.getState();
  const lies = { laid: lying(), drawnOn: on === null ? [] : [on] };
  stopDrawing();
  if (outline) addOutlineShape(kind, middle, outline, lies);
  else addShape(kind, middle, useSession.getState().drawProp, lies);
}

export function stopDrawing(): void {
  clear();
  useSession.setState({ tool: "select" });
}

/** Picks places for a family, two by two. */
export function startPickingPairs(family: string | null): void {
  startDrawing();
  useDraw.setState({ form: "between", into: family });
}

export const addKnot = (position: Vec3, on: string | null = null, tie: Tie | null = null): void =>
  useDraw.setState(({ knots, under, ties }) => {
    const last = knots.at(-1);
    const same = last && Math.hypot(last[0] - position[0], last[1] - position[1], last[2] - position[2]) < 1e-3;
    return same ? {} : { knots: [...knots, position], under: [...under, on], ties: [...ties, tie] };
  });

export const takeBackKnot = (): void =>
  useDraw.setState(({ knots, under, ties }) => ({
    knots: knots.slice(0, -1),
    under: under.slice(0, -1),
    ties: ties.slice(0, -1),
  }));

/** Makes the line of what was drawn; one knot alone makes none. */
export function finishDrawing(closed: boolean): void {
  const { knots, outline, under, form, ties, into } = useDraw.getState();
  const { drawProp } = useSession.getState();
  const drawnOn = [...new Set(under.flatMap((on) => on ?? []))].slice(0, 100);
  const lies = { laid: lying(), drawnOn };
  const ends = knots.map((position, i) => ({ position, held: ties[i] ?? null }));
  stopDrawing();
  if (form === "between") return finishPairs(into, ends);
  if (outline) {
    if (knots.length > 2) addOutline(knots, outline, lies);
    return;
  }
  if (knots.length >= 2) addLine(ends, closed && knots.length > 2 && form !== "hanging", drawProp, lies, form);
}

/** What was picked two by two; a place without a partner is let go. */
function finishPairs(into: string | null, ends: readonly PickedEnd[]): void {
  const whole = ends.slice(0, ends.length - (ends.length % 2));
  if (into !== null) addPairs(into, whole);
  else if (whole.length > 0) addFamily({ pairs: "picked" }, whole);
}

/** What is drawn on the sheet of a surface, place by place: a click sets a knot, or the shape; one on the first knot closes it. */
export const sheetPen = {
  /** @param closes whether the place is that of the first knot */
  click(point: Vec3, on: string, closes: boolean): void {
    const { form, knots } = useDraw.getState();
    if (EDGE_FORMS.has(form)) drawAs("free");
    useDraw.setState({ on, onSheet: true });
    if (closes && knots.length > 2) return finishDrawing(true);
    if (!BY_KNOTS.has(useDraw.getState().form)) return drawShape(useDraw.getState().form as Shape["kind"], point, on);
    addKnot(point, on);
  },
  hover: (point: Vec3 | null, closing: boolean): void =>
    useDraw.setState({ cursor: point, closing: closing && useDraw.getState().knots.length > 2, byKeys: false }),
  knots: (): readonly Vec3[] => useDraw.getState().knots,
};
