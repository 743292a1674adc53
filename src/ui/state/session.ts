/** What is looked at and held at the moment. None of it is part of the scene, and none of it is saved. */
import { create } from "zustand";
import type { StepName } from "@/core/place";

/** What the left column is about. */
export type Focus = { kind: "dressing" } | { kind: "line"; id: string } | { kind: "prop"; id: string };

export type Tool = "select" | "draw";
export type Display = "full" | "boxes";
export type DialogName = "export" | "palette" | "keys" | "dress" | null;

/** A wish to the camera; each is a new object, so that the same wish can be made twice. */
export type CameraWish = { kind: "selection" } | { kind: "all" } | { kind: "view"; id: string };

export interface Hover {
  dressing: string;
  key: number;
  /** Where the pointer is, in pixels of the window. */
  x: number;
  y: number;
}

interface Session {
  dressing: string | null;
  focus: Focus;
  /** Keys of the selected placements of the dressing. */
  keys: ReadonlySet<number>;
  /** Index of the selected knot of the line in focus. */
  knot: number | null;
  tool: Tool;
  /** The prop that a drawn line is dressed with at once, if any. */
  drawProp: string | null;
  display: Display;
  hover: Hover | null;
  openSteps: ReadonlySet<StepName>;
  dialog: DialogName;
  cameraWish: CameraWish | null;
  basketFolded: boolean;
  set: (change: Partial<Omit<Session, "set">>) => void;
}

export const useSession = create<Session>()((set) => ({
  dressing: null,
  focus: { kind: "dressing" },
  keys: new Set(),
  knot: null,
  tool: "select",
  drawProp: null,
  display: "full",
  hover: null,
  openSteps: new Set<StepName>(["spacing"]),
  dialog: null,
  cameraWish: null,
  basketFolded: false,
  set,
}));

const { setState: set, getState: get } = useSession;

export const NO_KEYS: ReadonlySet<number> = new Set();

export const selectDressing = (id: string | null): void =>
  set({ dressing: id, focus: { kind: "dressing" }, keys: NO_KEYS, knot: null });

/** Selects placements of a dressing; with `more`, adds them to the selection or takes them from it. */
export function selectPlacements(dressing: string, keys: readonly number[], more = false): void {
  const base = more && get().dressing === dressing ? new Set(get().keys) : new Set<number>();
  for (const key of keys) {
    if (more && base.has(key)) base.delete(key);
    else base.add(key);
  }
  set({ dressing, focus: { kind: "dressing" }, keys: base, knot: null });
}

export const selectLine = (id: string, knot: number | null = null): void =>
  set({ focus: { kind: "line", id }, knot, keys: NO_KEYS });

export const selectProp = (id: string): void => set({ focus: { kind: "prop", id }, knot: null, keys: NO_KEYS });

export const selectNothing = (): void => set({ focus: { kind: "dressing" }, keys: NO_KEYS, knot: null });

export function openStep(step: StepName): void {
  set({ focus: { kind: "dressing" }, openSteps: new Set([...get().openSteps, step]) });
}

export function toggleStep(step: StepName): void {
  const next = new Set(get().openSteps);
  if (!next.delete(step)) next.add(step);
  set({ openSteps: next });
}
