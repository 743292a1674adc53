/** The brush that paints where things of the selected dressing stand: its size, and the stroke that is being painted. */
import { create } from "zustand";
import { distance, type Vec3 } from "@/core/math";
import { useSceneStore } from "@/store";
import { dressingOf, inField, NO_KEYS, useSession } from "../state";
import { spreadDressing } from "./pegging";
import { stopDrawing } from "./draw-state";

export interface Brush {
  /** Whether it lets things stand, or takes them away. */
  puts: boolean;
  /** Metres. */
  radius: number;
  strength: number;
  /** How much of the radius fades. */
  soft: number;
  /** Where it is, in the world. */
  at: Vec3 | null;
}

export const useBrush = create<Brush>()(() => ({ puts: false, radius: 1.5, strength: 1, soft: 0.5, at: null }));

/** A stroke has a point at every such share of the brush's radius, and so many points at most. */
const STEP = 0.25;
const MOST = 5_000;

export function startPainting(): void {
  stopDrawing();
  useSession.setState({ tool: "paint", hover: null, why: null, keys: NO_KEYS, focus: { kind: "dressing" } });
}

export function stopPainting(): void {
  useBrush.setState({ at: null });
  useSession.setState({ tool: "select" });
}

/** The surface or area to paint on; null where nothing is selected that is spread over one. */
export function paintedFields(): readonly string[] {
  const where = spreadDressing()?.where;
  if (!where) return [];
  return where.surfaces.length > 0 ? where.surfaces : where.areas;
}

let stroke: { dressing: string; field: string; points: Vec3[] } | null = null;

/** Begins a stroke at a point of a field; false where there is nothing to paint. */
export function beginStroke(field: string, point: Vec3): boolean {
  const dressing = spreadDressing();
  if (!dressing) return false;
  stroke = { dressing: dressing.id, field, points: [point] };
  useSceneStore.getState().beginDrag("Paint");
  write();
  return true;
}

/** Takes away all that stands about a point of a field, as one stroke with a hard rim. */
export function paintClearing(dressing: string, field: string, point: Vec3, radius: number): void {
  useSceneStore.getState().change("Hold a clearing open", (draft) => {
    const own = inField(draft, field, point);
    dressingOf(draft, dressing)?.gaps.paint.strokes.push({
      on: field,
      points: [own],
      radius,
      strength: 1,
      soft: 0,
      puts: false,
    });
  });
}

export function leadStroke(point: Vec3): void {
  if (!stroke || stroke.points.length >= MOST) return;
  const last = stroke.points[stroke.points.length - 1];
  if (distance(last, point) < STEP * useBrush.getState().radius) return;
  stroke.points.push(point);
  write();
}

function write(): void {
  const { dressing, field, points } = stroke!;
  const { radius, strength, soft, puts } = useBrush.getState();
  useSceneStore.getState().drag((draft) => {
    const edited = dressingOf(draft, dressing);
    const own = points.map((point) => inField(draft, field, point));
    edited?.gaps.paint.strokes.push({ on: field, points: own, radius, strength, soft, puts });
  });
}

export function endStroke(): void {
  if (stroke) useSceneStore.getState().endDrag();
  stroke = null;
}

export function giveUpStroke(): void {
  if (stroke) useSceneStore.getState().cancelDrag();
  stroke = null;
}

export const isPainting = (): boolean => stroke !== null;
