/**
 * *What hands do in the view*: hover, select by a click or a box, move knots, handles and whole lines, insert knots, draw.
 * While something moves, E, U and N keep it on an axis, M and a number set the distance, and Escape puts back what was.
 */
import { useSceneStore } from "@/store";
import { dressingOf, drawnLine, runningLinesNow, selectDressing, useSession } from "../state";
import { finishDrawing, useDraw } from "./draw-state";
import { DrawingHand } from "./drawing-hand";
import {
  gripUnder,
  patchGrip,
  placementGrip,
  Pull,
  pullGrip,
  ringUnder,
  sideGrip,
  surfaceGrip,
  type Grip,
} from "./grips";
import { isStep, stepOfKey } from "./key-steps";
import { isTyping, ownsKey, stepSelected } from "./keys";
import { axisOfKey, LET_GO, restMoving, typeKey, useMove } from "./move-state";
import { addUnder, whyUnder } from "./pegging";
import { PaintingHand } from "./painting-hand";
import { SowingPointer } from "./sowing-hand";
import { endSowing, giveUpSowing, isSowing, useSower, widen } from "./sowing";
import { isPin, pinUnder, placeUnder } from "./pinning";
import { holdUnder } from "./pulling";
import { endStroke, giveUpStroke, isPainting, useBrush } from "./brush";
import { focusedLine, LINE, placementUnder, selectClick } from "./selecting";
import type { Aim } from "./aim";
import type { Controls } from "./CameraRig";

/** A press that moves no farther than this (pixels) is a click. */
const CLICK = 4;
export class ViewHands {
  readonly #element: HTMLCanvasElement;
  readonly #aim: Aim;
  readonly #controls: Controls | null;
  readonly #release = new AbortController();
  readonly #drawing: DrawingHand;
  readonly #painting: PaintingHand;
  readonly #sowing: SowingPointer;
  #pressed: { x: number; y: number; moved: boolean } | null = null;
  #held: Grip | null = null;
  #pull: Pull | null = null;
  /** Whether the drag has changed the scene. */
  #begun = false;
  #last: PointerEvent | null = null;
  #frame = 0;

  constructor(element: HTMLCanvasElement, aim: Aim, controls: Controls | null) {
    this.#element = element;
    this.#aim = aim;
    this.#controls = controls;
    this.#drawing = new DrawingHand(aim);
    this.#painting = new PaintingHand(aim);
    this.#sowing = new SowingPointer(aim);
    const { signal } = this.#release;
    element.addEventListener("pointerdown", this.#down, { signal, capture: true });
    element.addEventListener("pointermove", this.#move, { signal });
    element.addEventListener("pointerup", this.#up, { signal });
    element.addEventListener("pointercancel", this.#giveUp, { signal });
    element.addEventListener("pointerleave", this.#leave, { signal });
    element.addEventListener("dblclick", this.#double, { signal });
    element.addEventListener("wheel", this.#wheel, { signal, capture: true, passive: false });
    window.addEventListener("keydown", this.#key, { signal, capture: true });
  }

  release(): void {
    cancelAnimationFrame(this.#frame);
    this.#release.abort();
  }

  get #store() {
    return useSceneStore.getState();
  }

  #down = (event: PointerEvent) => {
    if (event.button !== 0) return;
    this.#pressed = { x: event.clientX, y: event.clientY, moved: false };
    const { tool } = useSession.getState();
    if (tool === "paint" || tool === "sow") return this.#beginStroke(event, tool);
    if (tool !== "select" && tool !== "pin") return;
    this.#aim.at(event);
    this.#held = gripUnder(this.#aim, event);
    if (!this.#held) return;
    this.#begun = false;
    if (this.#controls) this.#controls.enabled = false;
    this.#element.setPointerCapture(event.pointerId);
  };

  #beginStroke(event: PointerEvent, tool: "paint" | "sow"): void {
    this.#aim.at(event);
    if (!(tool === "paint" ? this.#painting.begin() : this.#sowing.begin(event.altKey))) return;
    if (this.#controls) this.#controls.enabled = false;
    this.#element.setPointerCapture(event.pointerId);
  }

  #move = (event: PointerEvent) => {
    const pressed = this.#pressed;
    if (pressed && Math.hypot(event.clientX - pressed.x, event.clientY - pressed.y) > CLICK) pressed.moved = true;
    this.#last = event;
    if (isPainting()) {
      this.#aim.at(event);
      this.#painting.lead();
    } else if (isSowing()) {
      this.#aim.at(event);
      this.#sowing.lead();
    } else if (this.#held && pressed?.moved) this.#drag(event);
    else if (event.buttons === 0) {
      cancelAnimationFrame(this.#frame);
      this.#frame = requestAnimationFrame(() => this.#hover(event));
    }
  };

  #drag(event: PointerEvent): void {
    const held = this.#held!;
    if (!this.#pull) {
      this.#pull = new Pull(this.#aim, this.#pressed!, event);
      // What the pointer was on goes along, and the bubble would stay behind.
      useSession.setState({ hover: null });
      if (held.label !== null) {
        this.#begun = true;
        this.#store.beginDrag(held.label);
      }
      held.begin?.();
    }
    this.#pull.event = event;
    this.#aim.at(event);
    held.drag(this.#pull);
  }

  #up = (event: PointerEvent) => {
    if (event.button !== 0) return;
    if (isPainting() || isSowing()) {
      endStroke();
      endSowing();
      return this.#letGo();
    }
    // Of a quick gesture the browser may tell only where it ended.
    if (this.#held) this.#move(event);
    const click = this.#pressed !== null && !this.#pressed.moved;
    const held = this.#held;
    const pull = this.#pull;
    this.#letGo();
    if (held && this.#begun) {
      this.#begun = false;
      restMoving();
      return this.#store.endDrag();
    }
    if (pull) held?.end?.(pull);
    restMoving();
    if (!click) return;
    this.#aim.at(event);
    if (held?.click) held.click(event.shiftKey);
    else if (useSession.getState().tool === "pin") pinUnder(this.#aim, event);
    else if (useSession.getState().tool === "draw") this.#drawing.click(event);
    else if (!holdUnder(this.#aim) && !(event.altKey && addUnder(this.#aim))) selectClick(this.#aim, event.shiftKey);
  };

  /** The camera has the pointer again. */
  #letGo(): void {
    this.#pressed = this.#held = this.#pull = null;
    if (this.#controls) this.#controls.enabled = true;
  }

  #hover(event: PointerEvent): void {
    this.#aim.at(event);
    const element = this.#element;
    if (useSession.getState().tool === "paint") {
      element.style.cursor = this.#painting.hover() ? "none" : "";
      return;
    }
    if (useSession.getState().tool === "sow") {
      element.style.cursor = this.#sowing.hover() ? "none" : "";
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
    const grip = sideGrip(this.#aim) !== null || (line !== undefined && ringUnder(this.#aim, line));
    const onLine = line !== undefined && !grip && this.#aim.placeOn(drawnLine(line), LINE) !== null;
    const hit = grip || onLine ? null : placementUnder(this.#aim);
    const before = useSession.getState().hover;
    if (hit) useSession.setState({ hover: { ...hit, x: event.clientX, y: event.clientY } });
    else if (before) useSession.setState({ hover: null });
    const why = hit || grip || onLine ? null : whyUnder(this.#aim);
    if (why || useSession.getState().why) {
      useSession.setState({ why: why && { ...why, x: event.clientX, y: event.clientY } });
    }
    const held = !hit && surfaceGrip(this.#aim) !== null;
    const guide = !hit && this.#aim.line(runningLinesNow(), LINE) !== null;
    const pulls = !grip && (pullGrip(this.#aim) ?? patchGrip(this.#aim)) !== null;
    const moves = pulls || onLine || held || placementGrip(hit) !== null;
    element.style.cursor = grip ? "grab" : moves ? "move" : hit || guide ? "pointer" : "";
  }

  /** Makes a hand that sows wider, or goes through what could be caught under the pointer; else the camera has the wheel. */
  #wheel = (event: WheelEvent) => {
    const widens = useSession.getState().tool === "sow" && useSower.getState().at !== null;
    if (widens && event.deltaY !== 0) {
      widen(-Math.sign(event.deltaY));
      event.preventDefault();
      return event.stopPropagation();
    }
    const { others, turn } = useMove.getState();
    if (others < 2 || !this.#last || event.deltaY === 0) return;
    useMove.setState({ turn: turn + Math.sign(event.deltaY) });
    this.#again(this.#last);
    event.preventDefault();
    event.stopPropagation();
  };

  /** What follows the pointer does so once more, where that is. */
  #again(last: PointerEvent): void {
    if (this.#held && this.#pull) this.#drag(last);
    else if (last.buttons === 0) this.#hover(last);
  }

  #leave = () => {
    cancelAnimationFrame(this.#frame);
    if (useSession.getState().hover || useSession.getState().why) useSession.setState({ hover: null, why: null });
    if (useSession.getState().tool === "draw") useDraw.setState({ cursor: null });
    if (useMove.getState().onto !== null) useMove.setState({ onto: null, caught: null });
    if (useSession.getState().tool === "paint") useBrush.setState({ at: null });
    if (useSession.getState().tool === "sow") useSower.setState({ at: null });
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
    giveUpSowing();
    this.#begun = false;
    this.#letGo();
    restMoving();
  };

  /** Lets go of what is caught, or catches again; whether the key was that and there is something in hand. */
  #lets(event: KeyboardEvent): boolean {
    const { tool } = useSession.getState();
    if (event.key.toLowerCase() !== LET_GO || !this.#last || (!this.#pull && tool !== "draw" && tool !== "pin"))
      return false;
    useMove.setState(({ letGo }) => ({ letGo: !letGo }));
    this.#again(this.#last);
    return true;
  }

  #key = (event: KeyboardEvent) => {
    if (isTyping(event.target)) return;
    const plain = !event.ctrlKey && !event.metaKey;
    if (plain && this.#lets(event)) {
      // Said already.
    } else if ((isPainting() || isSowing()) && event.key === "Escape") this.#giveUp();
    else if (this.#held && this.#pull) {
      const axis = plain && this.#begun ? axisOfKey(event.key) : null;
      const typed = plain && this.#begun && typeKey(event.key);
      if (!typed && event.key === "Escape") this.#giveUp();
      else if (!typed && axis) useMove.setState({ axis: useMove.getState().axis === axis ? null : axis });
      else if (!typed) return;
      if (this.#held && this.#last) this.#drag(this.#last);
    } else if (ownsKey(event)) return;
    else if (useSession.getState().tool === "draw") {
      if (!this.#drawing.key(event, this.#last)) return;
    } else if (useSession.getState().tool === "sow" && plain && this.#isFocused(event)) {
      if (isStep(event)) this.#sowing.step(stepOfKey(event, this.#aim.facing())!);
      else if (!this.#sowing.key(event)) return;
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
