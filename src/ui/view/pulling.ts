/** Surfaces taken hold of by hand in the view: pulled here and there, and held fast at places. */
import { add, conjugate, rotate, scale, type Vec3 } from "@/core/math";
import type { Mover, Pull } from "@/core/movers";
import { nextNumber } from "@/core/schema";
import type { Scene, Surface } from "@/core/scene";
import { useSceneStore } from "@/store";
import { boxOf } from "../assets";
import { holdPlace, inField, millimetre, surfaceOf, useSession, writePull } from "../state";
import type { Aim } from "./aim";
import { KNOT } from "./caught";
import type { Draft } from "immer";

/** A place of a surface that has been taken hold of. */
export interface HeldPull {
  kind: "pull";
  surface: string;
  mover: number;
  pull: Pull;
  start: Vec3;
}

/** A surface that is pulled for the first time follows over this share of its extent. */
const REACH = 0.25;

/** The surface in focus and the mover of it that is chosen; null where the hand does something else. */
function gripped(grip: "pull" | "hold"): { surface: Surface; mover: Mover } | null {
  const session = useSession.getState();
  if (session.grip !== grip || session.focus.kind !== "surface") return null;
  const surface = surfaceOf(useSceneStore.getState().shown, session.focus.id);
  const mover = (surface?.movers as Mover[] | undefined)?.find(({ id }) => id === session.mover);
  return surface && mover ? { surface, mover } : null;
}

/** Where the pulls of a mover have taken what they took hold of, in the world. */
export function pullRings(surface: Surface, mover: Mover): { pull: Pull; position: Vec3 }[] {
  if (mover.kind !== "pulls") return [];
  return (mover.pulls as Pull[]).map((pull) => ({
    pull,
    position: add(surface.position, rotate(surface.rotation, add(scale(pull.at, surface.scale), pull.by))),
  }));
}

/** What a press takes hold of: a pull that is there, or a new place of the surface. */
export function takenPull(aim: Aim): HeldPull | null {
  const found = gripped("pull");
  if (!found || found.mover.kind !== "pulls") return null;
  const { surface, mover } = found;
  const rings = pullRings(surface, mover);
  const ring = aim.nearest(
    rings.map(({ position }) => position),
    KNOT,
  );
  const held = { kind: "pull", surface: surface.id, mover: mover.id } as const;
  if (ring !== null) return { ...held, pull: rings[ring].pull, start: rings[ring].position };
  const start = aim.surface() === surface.id ? aim.on(surface.id) : null;
  if (!start) return null;
  const reach = Number((REACH * Math.max(...boxOf(surface))).toPrecision(2)) || 1;
  const at = inField(useSceneStore.getState().shown, surface.id, start);
  return { ...held, start, pull: { id: nextNumber(mover.pulls), at, by: [0, 0, 0], reach, soft: 1 } };
}

/** Writes a pull that has been dragged so far from where it was. */
export function dragPull(draft: Draft<Scene>, { surface: id, mover: own, pull }: HeldPull, by: Vec3): void {
  const surface = surfaceOf(draft, id);
  const mover = surface?.movers.find((one) => one.id === own);
  if (!surface || !mover) return;
  const far = add(pull.by, rotate(conjugate(surface.rotation), by)).map(millimetre) as unknown as Vec3;
  writePull(mover as Draft<Mover>, { ...pull, by: far });
}

/** Holds the surface fast where the pointer is; whether that is what the hand does. */
export function holdUnder(aim: Aim): boolean {
  const found = gripped("hold");
  if (!found) return false;
  const { surface, mover } = found;
  const point = aim.surface() === surface.id ? aim.on(surface.id) : null;
  if (point) holdPlace(surface.id, mover.id, inField(useSceneStore.getState().shown, surface.id, point));
  return true;
}
