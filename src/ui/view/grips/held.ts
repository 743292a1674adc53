/** Placements, pins, the handle of a patch, and places of surfaces that are pulled. */
import { distance } from "@/core/math";
import { useSceneStore } from "@/store";
import { runningLinesNow, selectPlacements } from "../../state";
import { caughtOn, tieCaught } from "../caught";
import { snapTargets } from "../snap";
import { useMove } from "../move-state";
import { slidePatch, takenPatch } from "../patching";
import { hookAt, hookingOf, writeHook, type Hooking } from "../hooking";
import { movePlacements, takenPlacements, wantedPlace } from "../pegging";
import { placeUnder, slidePins, takenPin, takenSelectedPin, type HeldPins } from "../pinning";
import { dragPull, takenPull } from "../pulling";
import { shownWay } from "./pull";
import type { Aim } from "../aim";
import type { Grip } from "./grip";
import type { Key } from "@/core/place";

type Hit = { dressing: string; key: Key } | null;

/** Placements on their surfaces, or anywhere where they fill a volume. */
export function placementGrip(hit: Hit): Grip | null {
  const held = takenPlacements(hit);
  let hooking: Hooking | null = null;
  return (
    held && {
      label: "Move placement",
      begin: () => void (hooking = hookingOf(held)),
      drag(pull) {
        const to = held.free ? pull.destination(held.start) : wantedPlace(pull.aim, held);
        if (!to) return;
        const by = shownWay(held.start, to);
        const own = hooking;
        const hook = own && hookAt(pull.aim, own, by, pull.event);
        useSceneStore.getState().drag((draft) => {
          movePlacements(draft, held, () => by);
          if (own) writeHook(draft, held.dressing, own.key, hook);
        });
      },
    }
  );
}

const gripOfPins = (held: HeldPins | null): Grip | null =>
  held && {
    label: "Move pin",
    drag({ aim, event }) {
      const place = placeUnder(aim, event, held);
      if (!place) return;
      useMove.setState({ distance: distance(held.start, place.point) });
      useSceneStore.getState().drag((draft) => slidePins(draft, held, place, tieCaught("tieProps")));
    },
    click: (more) => selectPlacements(held.dressing, [held.taken], more),
  };

/** Any pin, with its tool in hand. */
export const pinGrip = (hit: Hit, alt: boolean): Grip | null => gripOfPins(takenPin(hit, alt));
export const selectedPinGrip = (hit: Hit, alt: boolean): Grip | null => gripOfPins(takenSelectedPin(hit, alt));

export function patchGrip(aim: Aim): Grip | null {
  const held = takenPatch(aim);
  return (
    held && {
      label: "Slide patch",
      drag({ aim, event }) {
        const point = aim.on(held.surface);
        const to = point && caughtOn(aim, snapTargets(runningLinesNow()), event, point);
        if (to) useSceneStore.getState().drag((draft) => slidePatch(draft, held, to, tieCaught("tieProps")));
      },
    }
  );
}

export function pullGrip(aim: Aim): Grip | null {
  const held = takenPull(aim);
  return (
    held && {
      label: "Pull",
      drag(pull) {
        const to = pull.across(held.start);
        if (!to) return;
        const by = shownWay(held.start, to);
        useSceneStore.getState().drag((draft) => dragPull(draft, held, by));
      },
    }
  );
}
