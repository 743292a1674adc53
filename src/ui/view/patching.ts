/** The handle of a patch in the view: the whole layout slides over its surface with it. */
import { fromStand } from "@/core/mesh";
import type { Vec3 } from "@/core/math";
import { kindOf, type Dressing } from "@/core/place";
import type { Scene } from "@/core/scene";
import type { Tie } from "@/core/tie";
import { useSceneStore } from "@/store";
import { dressingOf, seenHandle, surfaceOf, useSession, writeHandleOfPatch } from "../state";
import type { Aim } from "./aim";
import { KNOT } from "./caught";
import { nearestIn } from "./nearest";
import type { Draft } from "immer";

/** The handle of a patch that has been taken hold of. */
export interface HeldPatch {
  kind: "patch";
  dressing: string;
  surface: string;
  start: Vec3;
}

/** Where the handle of a dressing of a patch is, in the world, on its surface at rest; null for any other. */
export function handlePlace(scene: Scene, dressing: Dressing): Vec3 | null {
  const { where } = dressing;
  const surface = kindOf(where).handled ? surfaceOf(scene, where.surfaces[0] ?? "") : undefined;
  if (!surface) return null;
  const handle = seenHandle(scene, dressing);
  const place = fromStand(surface, handle);
  if (handle === where.patch.handle) return place;
  // What it is tied to may have left the surface.
  const near = nearestIn.surfaces(place);
  return near?.surface === surface.id ? near.point : place;
}

/** The handle of the dressing that is selected, if the pointer is on it. */
export function takenPatch(aim: Aim): HeldPatch | null {
  const { dressing: id, focus } = useSession.getState();
  const { shown } = useSceneStore.getState();
  const dressing = id === null || focus.kind !== "dressing" ? undefined : dressingOf(shown, id);
  const start = dressing && handlePlace(shown, dressing);
  if (!dressing || !start || aim.nearest([start], KNOT) === null) return null;
  return { kind: "patch", dressing: dressing.id, surface: dressing.where.surfaces[0], start };
}

/** Slides a patch to where the pointer is on its surface, tied to what it is caught on; beside its surface, it stays. */
export const slidePatch = (draft: Draft<Scene>, { dressing }: HeldPatch, to: Vec3, tie: Tie | null): void =>
  writeHandleOfPatch(draft, dressing, to, tie);
