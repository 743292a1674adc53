/** What a hand does that draws a line: knots by clicks, by a cursor that keys move, by distances and coordinates. */
import type { LaidOnEdges, Shape } from "@/core/line";
import { distance, type Vec3 } from "@/core/math";
import type { Tie } from "@/core/tie";
import { useSceneStore } from "@/store";
import { inField, millimetre, runningLinesNow } from "../state";
import { caughtOn, KNOT, tieCaught } from "./caught";
import {
  addKnot,
  BY_KNOTS,
  drawEdges,
  drawShape,
  EDGE_FORMS,
  finishDrawing,
  stopDrawing,
  takeBackKnot,
  useDraw,
} from "./draw-state";
import { stopTyping, typedDistance, typedPlace, typeKey, useMove } from "./move-state";
import { atDistance, snapTargets } from "./snap";
import { stepOfKey } from "./key-steps";
import type { Aim } from "./aim";

const isEdges = (form: string): form is LaidOnEdges["follow"] => EDGE_FORMS.has(form);

/** What is drawn has so many knots at most. */
const MOST = 10_000;
/** A cursor this near to the last knot is on it, metres. */
const SAME = 1e-6;

type Held = { ctrlKey: boolean; metaKey: boolean };

export class DrawingHand {
  readonly #aim: Aim;
  /** How far above the ground the cursor is that keys move, metres. */
  #lift = 0;
  /** What a knot that is being set is tied to. */
  #tie: Tie | null = null;

  constructor(aim: Aim) {
    this.#aim = aim;
  }

  click(event: Held): void {
    if (this.#closes(useDraw.getState().knots)) return finishDrawing(true);
    const position = this.#next(event);
    if (!position) return;
    const { form } = useDraw.getState();
    if (!isEdges(form)) {
      this.#tie = tieCaught();
      this.#set(position, this.#aim.groundSurface());
      return void (this.#tie = null);
    }
    const on = this.#aim.surface();
    const point = on === null ? null : this.#aim.on(on);
    if (on !== null && point) this.#takeEdges(form, on, point, this.#aim.uvOn(on) ?? [0.5, 0.5]);
  }

  /** A knot at a place, or the shape about it. */
  #set(position: Vec3, on: string | null): void {
    const { form, knots } = useDraw.getState();
    if (!isEdges(form) && !BY_KNOTS.has(form)) return drawShape(form as Shape["kind"], position, on);
    if (knots.length < MOST) addKnot(position, on, this.#tie);
    useMove.setState({ typing: null, typed: "", caught: null, turn: 0, letGo: false });
  }

  /** The edge of the surface that is nearest to a point of it. */
  #takeEdges(form: LaidOnEdges["follow"], on: string, point: Vec3, [u, v]: readonly [number, number]): void {
    const { shown: scene } = useSceneStore.getState();
    drawEdges(form, on, inField(scene, on, point), form === "u" ? u : v);
  }

  hover(event: Held): void {
    const { knots } = useDraw.getState();
    useDraw.setState({ cursor: this.#next(event), closing: this.#closes(knots), byKeys: false });
  }

  /** @param last where the pointer was; whether the key was one of drawing */
  key(event: KeyboardEvent, last: Held | null): boolean {
    const plain = !event.ctrlKey && !event.metaKey;
    const step = plain ? stepOfKey(event, this.#aim.facing()) : null;
    if (plain && typeKey(event.key, true)) {
      if (last && !useDraw.getState().byKeys) useDraw.setState({ cursor: this.#next(last) });
    } else if (step) this.#step(step);
    else if (event.key === "Enter") this.#enter(last);
    else if (event.key === "Escape") stopDrawing();
    else if (event.key === "Backspace") takeBackKnot();
    else return false;
    return true;
  }

  /** Sets what is typed or where the cursor is; where that was done already, what is drawn is finished. */
  #enter(last: Held | null): void {
    const { knots, cursor, byKeys, form, on } = useDraw.getState();
    const place = typedPlace();
    if (place) {
      const [x, z] = [place[0], place[place.length - 1]];
      const below = this.#aim.below(x, z);
      this.#toKeys([x, place.length === 3 ? place[1] : below.point[1], z]);
      return this.#set(useDraw.getState().cursor!, below.surface);
    }
    const far = typedDistance();
    if (far !== null && byKeys && knots.length > 0 && cursor) {
      this.#toKeys(atDistance(knots[knots.length - 1], cursor, far).map(millimetre) as unknown as Vec3);
      return this.#set(useDraw.getState().cursor!, this.#aim.below(cursor[0], cursor[2]).surface);
    }
    if (far !== null && last) return this.click(last);
    if (useMove.getState().typing !== null) return stopTyping();
    if (!byKeys) return knots.length > 0 ? finishDrawing(false) : this.#toKeys(this.#start());
    if (!cursor) return;
    const below = this.#aim.below(cursor[0], cursor[2]);
    if (isEdges(form)) {
      const surface = on ?? below.surface;
      return surface === null ? undefined : this.#takeEdges(form, surface, cursor, [0.5, 0.5]);
    }
    if (knots.length > 2 && distance(cursor, knots[0]) < SAME) return finishDrawing(true);
    if (knots.length > 0 && distance(cursor, knots[knots.length - 1]) < SAME) return finishDrawing(false);
    this.#set(cursor, below.surface);
  }

  /** Where a cursor begins that keys move: at the last knot, or in the middle of what is seen. */
  #start(): Vec3 {
    const { knots, cursor } = useDraw.getState();
    return knots.at(-1) ?? cursor ?? this.#aim.middle() ?? [0, 0, 0];
  }

  #toKeys(position: Vec3): void {
    this.#lift = position[1] - this.#aim.below(position[0], position[2]).point[1];
    this.#show(position);
  }

  #show(cursor: Vec3): void {
    const last = useDraw.getState().knots.at(-1);
    useDraw.setState({ cursor, closing: false, byKeys: true });
    useMove.setState({ distance: last ? distance(last, cursor) : null, caught: null });
  }

  #step([x, y, z]: Vec3): void {
    if (!useDraw.getState().byKeys) this.#toKeys(this.#start());
    const from = useDraw.getState().cursor!;
    this.#lift += y;
    const [toX, toZ] = [millimetre(from[0] + x), millimetre(from[2] + z)];
    this.#show([toX, millimetre(this.#aim.below(toX, toZ).point[1] + this.#lift), toZ]);
  }

  /** Whether the pointer is on the first knot of what is drawn, where a click closes it. */
  #closes(knots: readonly Vec3[]): boolean {
    const { form } = useDraw.getState();
    return form !== "between" && knots.length > 2 && this.#aim.nearest([knots[0]], KNOT) === 0;
  }

  /** Where the next knot of what is drawn goes. */
  #next(event: Held): Vec3 | null {
    const ground = this.#aim.ground();
    const last = useDraw.getState().knots.at(-1);
    const typed = typedDistance();
    if (last && ground && typed !== null) return atDistance(last, [ground[0], last[1], ground[2]], typed);
    const position = caughtOn(this.#aim, snapTargets(runningLinesNow()), event, ground);
    useMove.setState({ distance: last && position ? distance(last, position) : null });
    return position;
  }
}
