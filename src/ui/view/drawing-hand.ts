/** What a hand does that draws a line: knots by clicks, distances by digits. */
import type { LaidOnEdges } from "@/core/line";
import { distance, type Vec3 } from "@/core/math";
import { useSceneStore } from "@/store";
import { caughtOn, KNOT } from "./caught";
import {
  addKnot,
  drawEdges,
  drawShape,
  EDGE_FORMS,
  finishDrawing,
  stopDrawing,
  takeBackKnot,
  useDraw,
} from "./draw-state";
import { typedDistance, typeDistance, useMove } from "./move-state";
import { atDistance, snapTargets } from "./snap";
import { inField } from "./pegging";
import type { Aim } from "./aim";

const isEdges = (form: string): form is LaidOnEdges["follow"] => EDGE_FORMS.has(form);

/** What is drawn has so many knots at most. */
const MOST = 10_000;

type Held = { ctrlKey: boolean; metaKey: boolean };

export class DrawingHand {
  readonly #aim: Aim;

  constructor(aim: Aim) {
    this.#aim = aim;
  }

  click(event: Held): void {
    const { form, knots } = useDraw.getState();
    if (this.#closes(knots)) return finishDrawing(true);
    const position = this.#next(event);
    if (!position) return;
    if (isEdges(form)) return this.#takeEdges(form);
    const on = this.#aim.groundSurface();
    if (form !== "free") return drawShape(form, position, on);
    if (knots.length < MOST) addKnot(position, on);
    useMove.setState({ typed: "", caught: null });
  }

  /** The edge of the surface that the pointer is on. */
  #takeEdges(form: LaidOnEdges["follow"]): void {
    const on = this.#aim.surface();
    const point = on === null ? null : this.#aim.on(on);
    if (on === null || !point) return;
    const [u, v] = this.#aim.uvOn(on) ?? [0.5, 0.5];
    const { scene } = useSceneStore.getState().history;
    drawEdges(form, on, inField(scene, on, point), form === "u" ? u : v);
  }

  hover(event: Held): void {
    const { knots } = useDraw.getState();
    useDraw.setState({ cursor: this.#next(event), closing: this.#closes(knots) });
  }

  /** @param last where the pointer was; whether the key was one of drawing */
  key(event: KeyboardEvent, last: Held | null): boolean {
    const { typed } = useMove.getState();
    if (event.key === "Enter" && typed !== "" && last) this.click(last);
    else if (event.key === "Enter") finishDrawing(false);
    else if (event.key === "Escape") stopDrawing();
    else if (!event.ctrlKey && !event.metaKey && typeDistance(event.key)) {
      if (last) useDraw.setState({ cursor: this.#next(last) });
    } else if (event.key === "Backspace") takeBackKnot();
    else return false;
    return true;
  }

  /** Whether the pointer is on the first knot of what is drawn, where a click closes it. */
  #closes(knots: readonly Vec3[]): boolean {
    return knots.length > 2 && this.#aim.nearest([knots[0]], KNOT) === 0;
  }

  /** Where the next knot of what is drawn goes. */
  #next(event: Held): Vec3 | null {
    const ground = this.#aim.ground();
    if (!ground) return null;
    const last = useDraw.getState().knots.at(-1);
    const typed = typedDistance();
    if (last && typed !== null) return atDistance(last, [ground[0], last[1], ground[2]], typed);
    const targets = snapTargets(useSceneStore.getState().history.scene.lines);
    const position = caughtOn(this.#aim, targets, event, ground);
    useMove.setState({ distance: last ? distance(last, position) : null });
    return position;
  }
}
