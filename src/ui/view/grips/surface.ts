/** The surface in focus: moved by its handle or anywhere on it, pulled out at a side of a box. */
import { add, type Vec3 } from "@/core/math";
import { useSceneStore } from "@/store";
import { millimetre, surfaceOf, useSession } from "../../state";
import { beyondSide, boxSides, pullSide, type BoxSide } from "../box-sides";
import { KNOT } from "../caught";
import { shownWay } from "./pull";
import type { Aim } from "../aim";
import type { Grip } from "./grip";
import type { Surface } from "@/core/scene";

function focusedSurface(): Surface | undefined {
  const { focus } = useSession.getState();
  return focus.kind === "surface" ? surfaceOf(useSceneStore.getState().shown, focus.id) : undefined;
}

/** The side of the box in focus that the pointer is on. */
export function sideGrip(aim: Aim): Grip | null {
  const surface = focusedSurface();
  const sides = surface ? boxSides(surface) : [];
  const found = aim.nearest(
    sides.map(({ middle }) => middle),
    KNOT,
  );
  return surface && found !== null ? gripOf(surface, sides[found]) : null;
}

function gripOf(from: Surface, side: BoxSide): Grip {
  return {
    label: "Size of box",
    drag({ aim }) {
      const to = aim.along(side.middle, side.way);
      if (!to) return;
      shownWay(side.middle, to);
      useSceneStore.getState().drag((draft) => {
        const surface = surfaceOf(draft, from.id);
        if (surface) pullSide(surface, from, side, beyondSide(side, to));
      });
    },
  };
}

/** The surface in focus, if the pointer is on its handle, or anywhere on it while it is being moved. */
export function surfaceGrip(aim: Aim): Grip | null {
  const surface = focusedSurface();
  if (!surface || surface.locked) return null;
  const { id, position: start } = surface;
  const moving = useSession.getState().moving === id;
  const on = () => (surface.outline ? aim.on(id) !== null : aim.surface() === id);
  if (aim.nearest([start], KNOT) === null && !(moving && on())) return null;
  return {
    label: "Move surface",
    drag(pull) {
      const taken = pull.gripped(start);
      const to = pull.destination(taken);
      if (!to) return;
      const place = add(start, shownWay(taken, to)).map(millimetre) as unknown as Vec3;
      useSceneStore.getState().drag((draft) => {
        const moved = surfaceOf(draft, id);
        if (moved) moved.position = [...place];
      });
    },
  };
}
