/** What a hand does in the view that paints on surfaces. */
import type { Vec3 } from "@/core/math";
import { beginStroke, leadStroke, paintedFields, useBrush } from "./brush";
import type { Aim } from "./aim";

export class PaintingHand {
  readonly #aim: Aim;

  constructor(aim: Aim) {
    this.#aim = aim;
  }

  /** Begins a stroke where the pointer meets what may be painted; false beside it, where the camera turns as ever. */
  begin(): boolean {
    const under = this.#under();
    return under !== null && beginStroke(under.id, under.point);
  }

  lead(): void {
    const under = this.#under();
    useBrush.setState({ at: under?.point ?? null });
    if (under) leadStroke(under.point);
  }

  /** Shows the brush; whether it is on something to paint. */
  hover(): boolean {
    const at = this.#under()?.point ?? null;
    useBrush.setState({ at });
    return at !== null;
  }

  #under(): { id: string; point: Vec3 } | null {
    const id = this.#aim.surface();
    const point = id !== null && paintedFields().includes(id) ? this.#aim.on(id) : null;
    return id !== null && point ? { id, point } : null;
  }
}
