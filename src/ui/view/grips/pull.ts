/** *A drag in the view*: where the pointer is and where it wants things to go. */
import { distance, subtract, type Vec3 } from "@/core/math";
import { caughtOn } from "../caught";
import { typedDistance, useMove } from "../move-state";
import { atDistance, type SnapTarget } from "../snap";
import type { But } from "../snap-field";
import type { Aim } from "../aim";

interface Pressed {
  x: number;
  y: number;
}

export class Pull {
  readonly aim: Aim;
  readonly pressed: Pressed;
  event: PointerEvent;
  #gripped: Vec3 | null = null;

  constructor(aim: Aim, pressed: Pressed, event: PointerEvent) {
    this.aim = aim;
    this.pressed = pressed;
    this.event = event;
  }

  /** Where a thing was taken that is taken anywhere on it: on its own level, where the press was. */
  gripped(start: Vec3): Vec3 {
    if (this.#gripped) return this.#gripped;
    this.aim.at({ clientX: this.pressed.x, clientY: this.pressed.y });
    this.#gripped = this.aim.level(start) ?? start;
    this.aim.at(this.event);
    return this.#gripped;
  }

  /**
   * Where the pointer wants it: on its level, upright, on the ground, along an axis; caught on things; or as far as typed.
   *
   * @param targets what it catches on besides the grid
   * @param but whose snap points it does not catch on
   */
  destination(from: Vec3, targets: readonly SnapTarget[] = [], but: But | null = null): Vec3 | null {
    const { axis } = useMove.getState();
    const { aim, event } = this;
    const aimed = axis
      ? aim.axis(from, axis)
      : event.shiftKey
        ? aim.upright(from)
        : event.altKey
          ? aim.ground()
          : aim.level(from);
    const typed = typedDistance();
    if (typed !== null) {
      if (!aimed) return null;
      useMove.setState({ caught: null });
      return atDistance(from, aimed, typed);
    }
    const free = axis === null && !event.shiftKey;
    return caughtOn(aim, free ? targets : [], event, aimed, free && but !== null, but);
  }

  /** Across what is seen, upright with Shift, or along an axis. */
  across(from: Vec3): Vec3 | null {
    const { axis } = useMove.getState();
    if (axis) return this.aim.axis(from, axis);
    return this.event.shiftKey ? this.aim.upright(from) : this.aim.across(from);
  }
}

/** How far it goes from a place to another, which is shown. */
export function shownWay(from: Vec3, to: Vec3): Vec3 {
  useMove.setState({ distance: distance(from, to) });
  return subtract(to, from);
}
