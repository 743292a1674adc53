/** What a hand does in the view that sows. */
import type { Vec3 } from "@/core/math";
import { add, scale } from "@/core/math";
import { beginSowing, endSowing, leadSowing, sownDressing, sownOn, useSower, widen } from "./sowing";
import type { Aim, Under } from "./aim";

export class SowingPointer {
  readonly #aim: Aim;

  constructor(aim: Aim) {
    this.#aim = aim;
  }

  /** Begins a stroke where the pointer meets something to sow on; false beside it, where the camera turns as ever. */
  begin(gathers: boolean): boolean {
    const under = this.#under();
    return under !== null && beginSowing(this.#aim, under, gathers || useSower.getState().gathers);
  }

  lead(): void {
    const under = this.#under();
    if (under) leadSowing(under);
  }

  /** Shows the hand; whether it is on something to sow on. */
  hover(): boolean {
    const at = this.#under();
    useSower.setState({ at });
    return at !== null;
  }

  /** Moves the hand by keys over what lies below; from the middle of what is seen, where it is nowhere yet. */
  step(by: Vec3): void {
    const { at, radius } = useSower.getState();
    const from = at?.point ?? this.#aim.middle() ?? [0, 0, 0];
    const to = at ? add(from, scale(by, radius * PER_STEP)) : from;
    const far = 100_000;
    const met = this.#aim.cast(sownOn(sownDressing()), [to[0], to[1] + radius + 1, to[2]], [0, -1, 0], far);
    useSower.setState({ at: met ?? { point: to, normal: [0, 1, 0] } });
  }

  /** Sows or gathers once where the hand is held; whether the key was for that. */
  key({ key }: Pick<KeyboardEvent, "key">): boolean {
    if (key === "+" || key === "-") {
      widen(key === "+" ? 1 : -1);
      return true;
    }
    const { at, gathers } = useSower.getState();
    const takes = key === "Backspace" || key === "Delete";
    if (!at || (key !== "Enter" && !takes)) return false;
    beginSowing(this.#aim, at, takes || gathers);
    endSowing();
    return true;
  }

  #under(): Under | null {
    return this.#aim.under(sownOn(sownDressing()));
  }
}

/** An arrow key's step of a tenth of a metre stands for so many times the hand's radius a metre. */
const PER_STEP = 5;
