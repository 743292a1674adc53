/**
 * *What hands do in the view*: hover, select by a click or a box, move knots, handles and whole lines, insert knots, draw.
 * While something moves, E, U and N keep it on an axis, M and a number set the distance, and Escape puts back what was.
 */
import { placeOn, type DrawnLine, type Line } from "@/core/line";
import { add, distance, subtract, type Vec3 } from "@/core/math";
import type { Surface } from "@/core/scene";
import { useSceneStore } from "@/store";
import {
  allKnots,
  dressingOf,
  millimetre,
  moveKnots,
  placesOf,
  surfaceOf,
  writeHandle,
  type Side,
  selectDressing,
  selectLine,
  selectPlacements,
  useSession,
  drawnLine,
  spanMiddles,
  startsAnywhere,
  writeStart,
} from "../state";
import { finishDrawing, useDraw } from "./draw-state";
import { caughtOn, KNOT } from "./caught";
import { DrawingHand } from "./drawing-hand";
import { beyondSide, boxSides, pullSide, type BoxSide } from "./box-sides";
import { handleEnds } from "./handles";
import { isStep, stepOfKey } from "./key-steps";
import { isTyping, ownsKey, stepSelected } from "./keys";
import { axisOfKey, restMoving, typedDistance, typeKey, useMove } from "./move-state";
import { addUnder, movePlacements, takenPlacements, wantedPlace, whyUnder, type HeldPlacements } from "./pegging";
import { PaintingHand } from "./painting-hand";
import { isPin, pinUnder, placeUnder, slidePins, takenPin, takenSelectedPin, type HeldPins } from "./pinning";
import { slidePatch, takenPatch, type HeldPatch } from "./patching";
import { dragPull, holdUnder, takenPull, type HeldPull } from "./pulling";
import { atDistance, snapTargets, type SnapTarget } from "./snap";
import { endStroke, giveUpStroke, isPainting, useBrush } from "./brush";
import { focusedLine, LINE, MIDDLE, placementUnder, selectBox, selectClick } from "./selecting";
import type { Aim } from "./aim";
import type { Controls } from "./CameraRig";

/** A press that moves no farther than this (pixels) is a click. */
const CLICK = 4;
/** The start of a line follows the pointer as far off it as this, pixels. */
const FAR_FROM_LINE = 400;
/** What a drag is called in the history. */
const MOVES = {
  start: "Start of line",
  line: "Move line",
  handle: "Move handle",
  knots: "Move knot",
  surface: "Move surface",
  side: "Size of box",
  placements: "Move placement",
  pull: "Pull",
  pins: "Move pin",
  patch: "Slide patch",
} as const;

/** What was under the pointer when it was pressed. */
type Held =
  | { kind: "knots"; line: string; knot: number; from: ReadonlyMap<number, Vec3>; start: Vec3 }
  | { kind: "handle"; line: string; knot: number; side: Side; start: Vec3 }
  /** Where a line starts that may start anywhere, and the line as it was when that was taken. */
  | { kind: "start"; line: string; drawn: DrawnLine; start: Vec3 }
  | { kind: "line"; line: string; from: ReadonlyMap<number, Vec3>; start: Vec3; at: number }
  | { kind: "surface"; surface: string; start: Vec3 }
  | { kind: "side"; from: Surface; side: BoxSide; start: Vec3 }
  | HeldPlacements
  | HeldPull
  | HeldPins
  | HeldPatch
  | { kind: "box" };

export class ViewHands {
  readonly #element: HTMLCanvasElement;
  readonly #aim: Aim;
  readonly #controls: Controls | null;
  readonly #release = new AbortController();
  readonly #drawing: DrawingHand;
  readonly #painting: PaintingHand;
  #pressed: { x: number; y: number; moved: boolean } | null = null;
  #held: Held | null = null;
  #begun = false;
  #targets: SnapTarget[] | null = null;
  #last: PointerEvent | null = null;
  #frame = 0;

  constructor(element: HTMLCanvasElement, aim: Aim, controls: Controls | null) {
    this.#element = element;
    this.#aim = aim;
    this.#controls = controls;
    this.#drawing = new DrawingHand(aim);
    this.#painting = new PaintingHand(aim);
    const { signal } = this.#release;
    element.addEventListener("pointerdown", this.#down, { signal, capture: true });
    element.addEventListener("pointermove", this.#move, { signal });
    element.addEventListener("pointerup", this.#up, { signal });
    element.addEventListener("pointercancel", this.#giveUp, { signal });
    element.addEventListener("pointerleave", this.#leave, { signal });
    element.addEventListener("dblclick", this.#double, { signal });
    window.addEventListener("keydown", this.#key, { signal, capture: true });
  }

  release(): void {
    cancelAnimationFrame(this.#frame);
    this.#release.abort();
  }

  get #store() {
    return useSceneStore.getState();
  }

  #knotUnder(line: Line): number | null {
    if (line.laid?.kind === "edges") return null;
    return this.#aim.nearest(
      line.knots.map((knot) => knot.position),
      KNOT,
    );
  }

  /** Whether the ring is under the pointer by which the start of a line along edges is moved. */
  #startUnder(line: Line): boolean {
    return startsAnywhere(line) && this.#aim.nearest([drawnLine(line).points[0]], KNOT) === 0;
  }

  #handleUnder(line: Line) {
    const ends = handleEnds(line, useSession.getState().knots);
    const found = this.#aim.nearest(
      ends.map(({ position }) => position),
      KNOT,
    );
    return found === null ? null : ends[found];
  }

  #down = (event: PointerEvent) => {
    if (event.button !== 0) return;
    this.#pressed = { x: event.clientX, y: event.clientY, moved: false };
    const { tool } = useSession.getState();
    if (tool === "paint") return this.#beginPainting(event);
    if (tool !== "select" && tool !== "pin") return;
    this.#aim.at(event);
    this.#held = tool === "pin" ? takenPin(placementUnder(this.#aim), event.altKey) : this.#taken(event);
    if (!this.#held) return;
    this.#begun = false;
    if (this.#controls) this.#controls.enabled = false;
    this.#element.setPointerCapture(event.pointerId);
  };

  #beginPainting(event: PointerEvent): void {
    this.#aim.at(event);
    if (!this.#painting.begin()) return;
    if (this.#controls) this.#controls.enabled = false;
    this.#element.setPointerCapture(event.pointerId);
  }

  /** What a press takes hold of; null for what is left to the camera. */
  #taken(event: PointerEvent): Held | null {
    const line = focusedLine();
    if (line && this.#startUnder(line)) {
      const drawn = drawnLine(line);
      return { kind: "start", line: line.id, drawn, start: drawn.points[0] };
    }
    if (line && line.laid?.kind !== "edges") {
      const knot = this.#knotUnder(line);
      if (knot !== null) {
        const { knots } = useSession.getState();
        const moving = knots.includes(knot) ? knots : event.shiftKey ? [...knots, knot] : [knot];
        return { kind: "knots", line: line.id, knot, from: placesOf(line, moving), start: line.knots[knot].position };
      }
      const handle = this.#handleUnder(line);
      if (handle)
        return { kind: "handle", line: line.id, knot: handle.knot, side: handle.side, start: handle.position };
      const at = this.#aim.placeOn(drawnLine(line), LINE);
      const over = this.#aim.nearest(spanMiddles(line), MIDDLE) === null;
      if (at !== null && over && !event.shiftKey) {
        const start = line.knots[0].position;
        return { kind: "line", line: line.id, from: placesOf(line, allKnots(line)), start, at };
      }
    }
    const surface =
      takenPull(this.#aim) ??
      takenPatch(this.#aim) ??
      (event.shiftKey ? null : takenSelectedPin(placementUnder(this.#aim), event.altKey)) ??
      this.#heldSide() ??
      this.#heldSurface() ??
      (event.shiftKey ? null : takenPlacements(placementUnder(this.#aim)));
    if (surface) return surface;
    return event.shiftKey ? { kind: "box" } : null;
  }

  #focusedSurface(): Surface | undefined {
    const { focus } = useSession.getState();
    return focus.kind === "surface" ? surfaceOf(this.#store.shown, focus.id) : undefined;
  }

  /** The side of the box in focus that the pointer is on. */
  #heldSide(): Held | null {
    const from = this.#focusedSurface();
    const sides = from ? boxSides(from) : [];
    const found = this.#aim.nearest(
      sides.map(({ middle }) => middle),
      KNOT,
    );
    return from && found !== null ? { kind: "side", from, side: sides[found], start: sides[found].middle } : null;
  }

  /** The surface in focus, if the pointer is on its handle, or anywhere on it while it is being moved. */
  #heldSurface(): Held | null {
    const surface = this.#focusedSurface();
    if (!surface || surface.locked) return null;
    const moving = useSession.getState().moving === surface.id;
    const on = () => (surface.outline ? this.#aim.on(surface.id) !== null : this.#aim.surface() === surface.id);
    if (this.#aim.nearest([surface.position], KNOT) === null && !(moving && on())) return null;
    return { kind: "surface", surface: surface.id, start: surface.position };
  }

  #move = (event: PointerEvent) => {
    const pressed = this.#pressed;
    if (pressed && Math.hypot(event.clientX - pressed.x, event.clientY - pressed.y) > CLICK) pressed.moved = true;
    this.#last = event;
    if (isPainting()) {
      this.#aim.at(event);
      this.#painting.lead();
    } else if (this.#held && pressed?.moved) this.#drag(event);
    else if (event.buttons === 0) {
      cancelAnimationFrame(this.#frame);
      this.#frame = requestAnimationFrame(() => this.#hover(event));
    }
  };

  #drag(event: PointerEvent): void {
    const held = this.#held!;
    const pressed = this.#pressed!;
    if (held.kind === "box") {
      useMove.setState({ box: { x: pressed.x, y: pressed.y, toX: event.clientX, toY: event.clientY } });
      return;
    }
    if (!this.#begun) this.#begin(held);
    this.#aim.at(event);
    if (held.kind === "start") {
      const at = this.#aim.placeOn(held.drawn, FAR_FROM_LINE);
      if (at !== null) this.#store.drag((draft) => writeStart(draft, held.line, placeOn(held.drawn.curve, at)));
      return;
    }
    if (held.kind === "pins") {
      const place = placeUnder(this.#aim, event);
      if (!place) return;
      useMove.setState({ distance: distance(held.start, place.point) });
      this.#store.drag((draft) => slidePins(draft, held, place));
      return;
    }
    if (held.kind === "patch") return this.#store.drag((draft) => slidePatch(draft, held, this.#aim));
    const start = held.start;
    // A line or a surface is taken anywhere on it: what moves under the pointer is where it was taken.
    const anywhere = held.kind === "line" || held.kind === "surface";
    const from = anywhere ? this.#grip(event, start) : start;
    if (!from) return;
    const to =
      held.kind === "placements" && !held.free
        ? wantedPlace(this.#aim, held)
        : held.kind === "side"
          ? this.#aim.along(from, held.side.way)
          : held.kind === "pull"
            ? this.#pulledTo(event, from)
            : this.#destination(event, from, held);
    if (!to) return;
    const by = subtract(to, from);
    useMove.setState({ distance: distance(from, to) });
    this.#store.drag((draft) => {
      if (held.kind === "surface") {
        const surface = surfaceOf(draft, held.surface);
        if (surface) surface.position = add(held.start, by).map(millimetre) as [number, number, number];
        return;
      }
      if (held.kind === "side") {
        const surface = surfaceOf(draft, held.from.id);
        if (surface) pullSide(surface, held.from, held.side, beyondSide(held.side, to));
        return;
      }
      if (held.kind === "placements") return movePlacements(draft, held, () => by);
      if (held.kind === "pull") return dragPull(draft, held, by);
      const line = draft.lines.find((l) => l.id === held.line);
      if (!line) return;
      if (held.kind === "handle") writeHandle(line, held.knot, held.side, add(held.start, by));
      else moveKnots(line, held.from, by);
    });
  }

  /** Where the pointer pulls what it took: across what is seen, upright with Shift, or along an axis. */
  #pulledTo({ shiftKey }: PointerEvent, from: Vec3): Vec3 | null {
    const { axis } = useMove.getState();
    if (axis) return this.#aim.axis(from, axis);
    return shiftKey ? this.#aim.upright(from) : this.#aim.across(from);
  }

  #gripped: Vec3 | null = null;

  /** Where a dragged line was taken: on its own level, where the press was. */
  #grip(event: PointerEvent, start: Vec3): Vec3 | null {
    if (this.#gripped) return this.#gripped;
    this.#aim.at({ clientX: this.#pressed!.x, clientY: this.#pressed!.y });
    this.#gripped = this.#aim.level(start) ?? start;
    this.#aim.at(event);
    return this.#gripped;
  }

  #begin(held: Exclude<Held, { kind: "box" }>): void {
    this.#begun = true;
    this.#gripped = null;
    this.#store.beginDrag(MOVES[held.kind]);
    if (!("line" in held) || held.kind === "start") {
      this.#targets = [];
      return;
    }
    const { knots } = useSession.getState();
    if (held.kind === "knots" && !knots.includes(held.knot)) {
      useSession.setState({ knots: held.from.size > 1 ? [...held.from.keys()] : [held.knot] });
    }
    const moving = held.kind === "handle" ? new Set<number>() : new Set(held.from.keys());
    this.#targets = snapTargets(this.#store.shown.lines, { line: held.line, knots: moving });
  }

  /** Where the pointer wants it: on its level, upright, on the ground, along an axis; caught on things; or as far as typed. */
  #destination(event: PointerEvent, from: Vec3, held: Held): Vec3 | null {
    const { axis } = useMove.getState();
    const aimed = axis
      ? this.#aim.axis(from, axis)
      : event.shiftKey
        ? this.#aim.upright(from)
        : event.altKey
          ? this.#aim.ground()
          : this.#aim.level(from);
    if (!aimed) return null;
    const typed = typedDistance();
    if (typed !== null) {
      useMove.setState({ caught: null });
      return atDistance(from, aimed, typed);
    }
    const catches = axis === null && !event.shiftKey && held.kind !== "line" && held.kind !== "surface";
    return caughtOn(this.#aim, catches ? (this.#targets ?? []) : [], event, aimed);
  }

  #up = (event: PointerEvent) => {
    if (event.button !== 0) return;
    if (isPainting()) {
      endStroke();
      this.#pressed = null;
      if (this.#controls) this.#controls.enabled = true;
      return;
    }
    // Of a quick gesture the browser may tell only where it ended.
    if (this.#held) this.#move(event);
    const click = this.#pressed !== null && !this.#pressed.moved;
    const held = this.#held;
    const { box } = useMove.getState();
    this.#pressed = this.#held = this.#targets = this.#gripped = null;
    if (this.#controls) this.#controls.enabled = true;
    restMoving();
    if (held && this.#begun) {
      this.#begun = false;
      this.#store.endDrag();
      return;
    }
    if (held?.kind === "box" && box) return selectBox(this.#aim, box);
    if (!click) return;
    this.#aim.at(event);
    if (held?.kind === "knots") selectLine(held.line, held.knot, event.shiftKey);
    else if (held?.kind === "pins") selectPlacements(held.dressing, [held.taken], event.shiftKey);
    else if (useSession.getState().tool === "pin") pinUnder(this.#aim, event);
    else if (useSession.getState().tool === "draw") this.#drawing.click(event);
    else if (!holdUnder(this.#aim) && !(event.altKey && addUnder(this.#aim))) selectClick(this.#aim, event.shiftKey);
  };

  #hover(event: PointerEvent): void {
    this.#aim.at(event);
    const element = this.#element;
    if (useSession.getState().tool === "paint") {
      element.style.cursor = this.#painting.hover() ? "none" : "";
      return;
    }
    if (useSession.getState().tool === "pin") {
      const on = isPin(placementUnder(this.#aim));
      const place = on ? null : placeUnder(this.#aim, event);
      if (useMove.getState().onto !== (place?.surface ?? null)) useMove.setState({ onto: place?.surface ?? null });
      element.style.cursor = on ? "move" : place ? "crosshair" : "";
      return;
    }
    if (useSession.getState().tool === "draw") {
      this.#drawing.hover(event);
      element.style.cursor = "crosshair";
      return;
    }
    const line = focusedLine();
    const side = this.#heldSide() !== null;
    const grip =
      side ||
      (line !== undefined &&
        (this.#startUnder(line) ||
          this.#knotUnder(line) !== null ||
          this.#handleUnder(line) !== null ||
          this.#aim.nearest(spanMiddles(line), MIDDLE) !== null));
    const onLine = line !== undefined && !grip && this.#aim.placeOn(drawnLine(line), LINE) !== null;
    const hit = grip || onLine ? null : placementUnder(this.#aim);
    const before = useSession.getState().hover;
    if (hit) useSession.setState({ hover: { ...hit, x: event.clientX, y: event.clientY } });
    else if (before) useSession.setState({ hover: null });
    const why = hit || grip || onLine ? null : whyUnder(this.#aim);
    if (why || useSession.getState().why) {
      useSession.setState({ why: why && { ...why, x: event.clientX, y: event.clientY } });
    }
    const held = !hit && this.#heldSurface() !== null;
    const guide = !hit && this.#aim.line(this.#store.shown.lines, LINE) !== null;
    const pulls = !grip && (takenPull(this.#aim) ?? takenPatch(this.#aim)) !== null;
    const moves = pulls || onLine || held || takenPlacements(hit) !== null;
    element.style.cursor = grip ? "grab" : moves ? "move" : hit || guide ? "pointer" : "";
  }

  #leave = () => {
    cancelAnimationFrame(this.#frame);
    if (useSession.getState().hover || useSession.getState().why) useSession.setState({ hover: null, why: null });
    if (useSession.getState().tool === "draw") useDraw.setState({ cursor: null });
    if (useMove.getState().onto !== null) useMove.setState({ onto: null, caught: null });
    if (useSession.getState().tool === "paint") useBrush.setState({ at: null });
  };

  #double = () => {
    if (useSession.getState().tool === "draw") return finishDrawing(false);
    const hit = placementUnder(this.#aim);
    const dressing = hit && dressingOf(this.#store.shown, hit.dressing);
    if (dressing) selectDressing(dressing.id);
  };

  #giveUp = () => {
    if (this.#begun) this.#store.cancelDrag();
    giveUpStroke();
    this.#begun = false;
    this.#held = this.#pressed = this.#targets = this.#gripped = null;
    if (this.#controls) this.#controls.enabled = true;
    restMoving();
  };

  #key = (event: KeyboardEvent) => {
    if (isTyping(event.target)) return;
    const plain = !event.ctrlKey && !event.metaKey;
    if (isPainting() && event.key === "Escape") this.#giveUp();
    else if (this.#held && (this.#begun || this.#held.kind === "box")) {
      const axis = plain && this.#begun ? axisOfKey(event.key) : null;
      const typed = plain && this.#begun && typeKey(event.key);
      if (!typed && event.key === "Escape") this.#giveUp();
      else if (!typed && axis) useMove.setState({ axis: useMove.getState().axis === axis ? null : axis });
      else if (!typed) return;
      if (this.#held && this.#last) this.#drag(this.#last);
    } else if (ownsKey(event)) return;
    else if (useSession.getState().tool === "draw") {
      if (!this.#drawing.key(event, this.#last)) return;
    } else if (!plain || !this.#isFocused(event) || !isStep(event)) return;
    else if (!stepSelected(stepOfKey(event, this.#aim.facing())!))
      useSession.setState({ cameraWish: { kind: "turn", key: event.key, far: event.shiftKey } });
    event.preventDefault();
    event.stopPropagation();
  };

  /** Whether the view has the keys. */
  #isFocused({ target }: KeyboardEvent): boolean {
    return target instanceof Node && target.contains(this.#element);
  }
}
