/** What is looked at and held at the moment. None of it is part of the scene, and none of it is saved. */
import type { Key } from "@/core/place";
import { create } from "zustand";
import type { Timed } from "./edits/courses";
import type { Dressing, Reason, StepName } from "@/core/place";

/** What the left column is about. */
export type Focus = { kind: "dressing" } | { kind: "line" | "prop" | "mix" | "surface"; id: string };

export type Tool = "select" | "draw" | "pin" | "paint" | "sow";
export type Display = "full" | "auto" | "boxes" | "points";
export type DialogName =
  | "export"
  | "palette"
  | "keys"
  | "dress"
  | "seeds"
  | "prepare"
  | "drawing"
  | "recipes"
  | "save-recipe"
  | "keep"
  | null;

/** A wish to the camera; each is a new object, so that the same wish can be made twice. */
export type CameraWish =
  | { kind: "selection" | "all" }
  | { kind: "view"; id: string }
  /** A surface, as soon as it is there to be seen. */
  | { kind: "surface"; id: string }
  /** A place in the world, from as near as shows so many metres of it. */
  | { kind: "place"; at: readonly [number, number, number]; size: number }
  /** A turn about what is looked at, nearer or farther, by a key; three times as far with Shift. */
  | { kind: "turn"; key: string; far: boolean };

export interface Hover {
  dressing: string;
  key: Key;
  /** Where the pointer is, in pixels of the window. */
  x: number;
  y: number;
}

/** Why nothing stands where the pointer is, or less than might. */
export interface Why {
  dressing: string;
  reason: Reason | null;
  /** How full it is there, from 0 to 1. */
  share: number;
  x: number;
  y: number;
}

/** What knots catch on: knots, ends and marks; and a grid of so many metres, 0 for none. */
export interface Snap {
  /** Whether anything is caught on but the grid. */
  knots: boolean;
  /** The step of the grid, metres; 0 for none. */
  grid: number;
  /** Whether knots stay tied to what they were caught on, and whether props do. */
  tie: boolean;
  tieProps: boolean;
}

/** Flat as a patch's layout lies, where there is one; seen from above; or laid out by UVs. */
export type SheetBy = "flat" | "above" | "uv";

/** Below the view, beside it, or all over it. */
export const SHEET_SIZES = { low: "Low", half: "Half", whole: "Whole" } as const;

export type SheetSize = keyof typeof SHEET_SIZES;

interface Session {
  dressing: string | null;
  focus: Focus;
  /** Keys of the selected placements of the dressing. */
  keys: ReadonlySet<Key>;
  /** Indices of the selected knots of the line in focus, the one chosen last at the end. */
  knots: readonly number[];
  tool: Tool;
  /** The surface that the hand moves wherever it is taken; others only by their handle. */
  moving: string | null;
  /** The mover of the surface in focus whose numbers are shown. */
  mover: number | null;
  /** What the hand does to the surface in focus by that mover: pulls it, or says where it is held fast. */
  grip: "pull" | "hold" | null;
  /** The prop that a drawn line is dressed with at once, if any. */
  drawProp: string | null;
  display: Display;
  /** Whether the view tells by a veil how full what the dressing is spread over is. */
  tinted: boolean;
  hover: Hover | null;
  why: Why | null;
  openSteps: ReadonlySet<StepName>;
  /** Steps that stay open when another is opened. */
  pinnedSteps: ReadonlySet<StepName>;
  dialog: DialogName;
  /** What the dialog for a new dressing begins with; null for a line. */
  dressKind: Dressing["where"]["kind"] | null;
  cameraWish: CameraWish | null;
  basketFolded: boolean;
  /** How the sheet lays things flat. */
  sheetBy: SheetBy;
  sheetSize: SheetSize;
  /** Whether the sheet tells by a tint how far lengths are off on it. */
  sheetStretch: boolean;
  /** The value whose course is shown on the time bar. */
  course: Timed | null;
  /** The moments of the keyframes that are held there. */
  moments: readonly number[];
  /** What the basket shows. */
  basketShows: "props" | "surfaces";
  snap: Snap;
  set: (change: Partial<Omit<Session, "set">>) => void;
}

const NO_KNOTS: readonly number[] = [];

/** What a scene begins with. */
const BEGIN: Omit<Session, "set"> = {
  dressing: null,
  focus: { kind: "dressing" },
  keys: new Set(),
  knots: NO_KNOTS,
  tool: "select",
  moving: null,
  mover: null,
  grip: null,
  drawProp: null,
  display: "full",
  tinted: false,
  hover: null,
  why: null,
  openSteps: new Set<StepName>(["spacing"]),
  pinnedSteps: new Set<StepName>(),
  dialog: null,
  dressKind: null,
  cameraWish: null,
  basketFolded: false,
  sheetBy: "flat",
  sheetSize: "low",
  sheetStretch: false,
  course: null,
  moments: [],
  basketShows: "props",
  snap: { knots: true, grid: 0, tie: true, tieProps: false },
};

export const useSession = create<Session>()((set) => ({ ...BEGIN, set }));

const { setState: set, getState: get } = useSession;

export const NO_KEYS: ReadonlySet<Key> = new Set();

/** Whoever goes to something else stops painting and sowing, and what was said of the place under the pointer is over. */
const unpainted = (): Pick<Session, "tool" | "moving" | "grip" | "why"> => ({
  tool: get().tool === "paint" || get().tool === "sow" ? "select" : get().tool,
  moving: null,
  grip: null,
  why: null,
});

/** Another scene begins as the first one does, whatever was held, open or caught on in the one before. */
export const beginScene = (dressing: string | null, drawProp: string | null): void =>
  set({ ...BEGIN, dressing, drawProp });

export const selectDressing = (id: string | null): void =>
  set({ ...unpainted(), dressing: id, focus: { kind: "dressing" }, keys: NO_KEYS, knots: NO_KNOTS });

/** Selects placements of a dressing; with `more`, adds them to the selection or takes them from it. */
export function selectPlacements(dressing: string, keys: readonly Key[], more = false): void {
  const base = more && get().dressing === dressing ? new Set(get().keys) : new Set<Key>();
  for (const key of keys) {
    if (more && base.has(key)) base.delete(key);
    else base.add(key);
  }
  set({ ...unpainted(), dressing, focus: { kind: "dressing" }, keys: base, knots: NO_KNOTS });
}

/** The knot that was chosen last, or null. */
export const currentKnot = ({ knots }: Pick<Session, "knots">): number | null => knots.at(-1) ?? null;

/** Selects a line and one of its knots; with `more`, adds the knot to those selected or takes it from them. */
export function selectLine(id: string, knot: number | null = null, more = false): void {
  const { focus, knots } = get();
  const held = more && focus.kind === "line" && focus.id === id ? knots : NO_KNOTS;
  const next =
    knot === null ? NO_KNOTS : held.includes(knot) ? held.filter((other) => other !== knot) : [...held, knot];
  set({ ...unpainted(), focus: { kind: "line", id }, knots: next, keys: NO_KEYS });
}

export const selectProp = (id: string): void =>
  set({ ...unpainted(), focus: { kind: "prop", id }, knots: NO_KNOTS, keys: NO_KEYS });

export const selectMix = (id: string): void =>
  set({ ...unpainted(), focus: { kind: "mix", id }, knots: NO_KNOTS, keys: NO_KEYS });

export const selectSurface = (id: string): void =>
  set({ ...unpainted(), focus: { kind: "surface", id }, mover: null, knots: NO_KNOTS, keys: NO_KEYS });

export const selectNothing = (): void =>
  set({ focus: { kind: "dressing" }, moving: null, grip: null, keys: NO_KEYS, knots: NO_KNOTS });

/** Opens a step; of the others only those stay open that are pinned. */
export function openStep(step: StepName): void {
  set({ focus: { kind: "dressing" }, openSteps: new Set([...get().pinnedSteps, step]) });
}

export function toggleStep(step: StepName): void {
  const { openSteps, pinnedSteps } = get();
  if (!openSteps.has(step)) return openStep(step);
  const without = (steps: ReadonlySet<StepName>) => new Set([...steps].filter((one) => one !== step));
  set({ openSteps: without(openSteps), pinnedSteps: without(pinnedSteps) });
}

/** Keeps a step open, or no longer. */
export function pinStep(step: StepName): void {
  const { pinnedSteps } = get();
  const next = new Set(pinnedSteps);
  if (!next.delete(step)) next.add(step);
  set({ pinnedSteps: next });
}
