/**
 * The brush that paints where things of the selected dressing stand, or where a mover of the surface in focus does how much:
 * its size, and the stroke that is being painted.
 */
import { create } from "zustand";
import { distance, type Vec3 } from "@/core/math";
import { useSceneStore } from "@/store";
import type { Dressing } from "@/core/place";
import type { Scene } from "@/core/scene";
import { dressingOf, inField, NO_KEYS, surfaceOf, useSession, type Focus } from "../state";
import { spreadDressing } from "./pegging";
import { stopDrawing } from "./draw-state";
import type { Draft } from "immer";

/** A mover of a surface, which is painted instead of the selected dressing. */
export interface PaintedMover {
  surface: string;
  mover: number;
}

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
  mover: PaintedMover | null;
}

export const useBrush = create<Brush>()(() => ({
  puts: false,
  radius: 1.5,
  strength: 1,
  soft: 0.5,
  at: null,
  mover: null,
}));

/** A stroke has a point at every such share of the brush's radius, and so many points at most. */
const STEP = 0.25;
const MOST = 5_000;

export function startPainting(mover: PaintedMover | null = null): void {
  stopDrawing();
  useBrush.setState({ mover });
  const none = { tool: "paint", hover: null, why: null, keys: NO_KEYS } as const;
  useSession.setState(mover ? { ...none, grip: null } : { ...none, focus: { kind: "dressing" } });
}

export function stopPainting(): void {
  useBrush.setState({ at: null, mover: null });
  useSession.setState({ tool: "select" });
}

/** Whether that mover is what is painted: as long as its surface is in focus. */
const isMoverPainted = (mover: PaintedMover | null, focus: Focus): mover is PaintedMover =>
  mover !== null && focus.kind === "surface" && focus.id === mover.surface;

/** The mover that is painted; null where it is a dressing. */
export function useMoverPainted(): PaintedMover | null {
  const mover = useBrush((brush) => brush.mover);
  const focus = useSession((session) => session.focus);
  return isMoverPainted(mover, focus) ? mover : null;
}

function moverPainted(): PaintedMover | null {
  const { mover } = useBrush.getState();
  return isMoverPainted(mover, useSession.getState().focus) ? mover : null;
}

/** The surfaces or areas to paint on; none where nothing is selected that is spread over one. */
export function paintedFields(): readonly string[] {
  const mover = moverPainted();
  if (mover) return [mover.surface];
  const where = spreadDressing()?.where;
  if (!where) return [];
  return where.surfaces.length > 0 ? where.surfaces : where.areas;
}

type Strokes = Draft<Dressing["gaps"]["paint"]["strokes"]>;

/** What has been painted where the brush paints now. */
type Painted = (draft: Draft<Scene>) => Strokes | undefined;

let stroke: { painted: Painted; field: string; points: Vec3[] } | null = null;

/** Where the strokes of the brush go; null where there is nothing to paint. */
function paintedNow(): Painted | null {
  const mover = moverPainted();
  if (mover) {
    return (draft) =>
      surfaceOf(draft, mover.surface)?.movers.find(({ id }) => id === mover.mover)?.limits?.paint.strokes as
        | Strokes
        | undefined;
  }
  const dressing = spreadDressing()?.id;
  return dressing === undefined ? null : (draft) => dressingOf(draft, dressing)?.gaps.paint.strokes;
}

/** Begins a stroke at a point of a field; false where there is nothing to paint. */
export function beginStroke(field: string, point: Vec3): boolean {
  const painted = paintedNow();
  if (!painted) return false;
  stroke = { painted, field, points: [point] };
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
  const { painted, field, points } = stroke!;
  const { radius, strength, soft, puts } = useBrush.getState();
  useSceneStore.getState().drag((draft) => {
    const own = points.map((point) => inField(draft, field, point));
    painted(draft)?.push({ on: field, points: own, radius, strength, soft, puts });
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
