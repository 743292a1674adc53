/**
 * *What hands do on the sheet*: select, drag to peg, hold a clearing open, select by a box with Shift, add with Alt, zoom, move,
 * drop a prop to swap, nudge with the keys.
 */
import { PROP_DRAG } from "../basket";
import { kindOf, type Dressing, type FlatPlace, type Key, indicesOf } from "@/core/place";
import { useSceneStore } from "@/store";
import { NO_KEYS, selectPlacements, swapPlacements, useSession } from "../state";
import { listen } from "../kit";
import {
  beginStroke,
  endStroke,
  giveUpStroke,
  isPainting,
  leadStroke,
  paintedFields,
  useBrush,
  sheetPen,
  takenPlacements,
  type HeldPlacements,
} from "../view";
import type { SheetScene } from "./sheet-scene";
import { RULER } from "./marks";
import { dragGrip, GRIP_CURSORS, GRIP_LABELS, gripAt, type Grip } from "./grips";
import { placementAt, type SheetView } from "./model";
import {
  addAt,
  fieldAt,
  flatOf,
  fullAt,
  holdOpen,
  keysWithin,
  moveOnSheet,
  nearestTowards,
  onGround,
  type Place,
} from "./on-sheet";

/** What the hands need to see: the sheet as it is drawn at the moment. */
export interface Sight {
  dressing: Dressing;
  scene: SheetScene;
  view: SheetView;
  width: number;
  height: number;
}

interface Owner {
  setView: (view: SheetView | null) => void;
  setDrawn: (drawn: SheetScene["drawn"]) => void;
}

type Held =
  | { kind: "pan"; x: number; y: number; from: SheetView }
  | {
      kind: "peg";
      at: Place;
      placements: HeldPlacements | null;
      /** Where they are in the flat layout, if that is what is shown. */
      flat: ReadonlyMap<Key, FlatPlace> | null;
      key: Key;
      more: boolean;
      begun: boolean;
    }
  | { kind: "grip"; grip: Grip; begun: boolean }
  | { kind: "shape"; at: Place; selects: boolean };

/** A press that moves no farther than this (pixels) is a click. */
const CLICK = 3;
/** Placements are taken hold of within so many pixels of their middle. */
const NEAR = 7;
/** A nudge by the arrow keys, metres. */
const NUDGE = 0.01;
const [LEAST_SCALE, MOST_SCALE] = [0.01, 20_000];

export class SheetHands {
  sight: Sight | null = null;
  readonly #element: HTMLCanvasElement;
  readonly #owner: Owner;
  #held: Held | null = null;
  #pressed: { x: number; y: number; moved: boolean } | null = null;
  readonly #release = new AbortController();

  constructor(element: HTMLCanvasElement, owner: Owner) {
    this.#element = element;
    this.#owner = owner;
    const { signal } = this.#release;
    listen(element, signal, {
      pointerdown: this.#down,
      pointermove: this.#move,
      pointerup: this.#up,
      pointercancel: this.#giveUp,
      pointerleave: this.#leave,
      wheel: this.#wheel,
      keydown: this.#key,
      dragover: this.#over,
      drop: this.#drop,
    });
    window.addEventListener("keydown", this.#escape, { signal, capture: true });
  }

  release(): void {
    this.#release.abort();
  }

  /** Where an event is: pixels, metres, and the placement there. */
  #where(event: MouseEvent) {
    const { scene, view, width, height } = this.sight!;
    const box = this.#element.getBoundingClientRect();
    const [x, y] = [event.clientX - box.left, event.clientY - box.top];
    const at: Place = [
      view.x + (x - RULER - (width - RULER) / 2) / view.scale,
      view.z + (y - RULER - (height - RULER) / 2) / view.scale,
    ];
    const slot = placementAt(scene.placements, scene.corners, at[0], at[1], NEAR / view.scale);
    return { x, y, at, slot, onRuler: x < RULER || y < RULER };
  }

  #down = (event: PointerEvent) => {
    if (!this.sight || event.button > 1) return;
    const { view, dressing, scene } = this.sight;
    const { x, y, at, slot, onRuler } = this.#where(event);
    this.#element.setPointerCapture(event.pointerId);
    this.#pressed = { x, y, moved: false };
    if (this.#draws && !onRuler && event.button === 0) return this.#draw(at);
    if (this.#paints && !onRuler && event.button === 0) {
      const [field] = paintedFields();
      const point = onGround(this.sight!.scene, at);
      if (field !== undefined && point) beginStroke(fieldAt(this.sight!.scene, at) ?? field, point);
      return;
    }
    const grip = onRuler ? null : this.#gripAt(at);
    if (onRuler || event.button === 1) this.#held = { kind: "pan", x, y, from: view };
    else if (grip) this.#held = { kind: "grip", grip, begun: false };
    else if (slot >= 0) {
      const key = scene.placements.key[slot];
      const was = useSession.getState().keys.has(key);
      if (!was) selectPlacements(dressing.id, [key], event.shiftKey);
      const placements = takenPlacements({ dressing: dressing.id, key });
      const flat = flatOf(this.sight, useSession.getState().keys);
      this.#held = { kind: "peg", at, placements, flat, key, more: event.shiftKey && was, begun: false };
    } else {
      const selects = event.shiftKey || scene.flat || !kindOf(dressing.where).onSurfaces;
      this.#held = { kind: "shape", at, selects };
    }
  };

  #gripAt(at: Place): Grip | null {
    const { scene, dressing, view } = this.sight!;
    return gripAt(scene, dressing, at, view.scale);
  }

  /** Whether a line is drawn, on the chart that is shown. */
  get #draws(): boolean {
    return useSession.getState().tool === "draw" && this.sight?.scene.charts !== null;
  }

  #draw(at: Place): void {
    const place = this.sight!.scene.charts?.toWorld(...at);
    if (place) sheetPen.click(place.point, place.field, this.#closes(at));
  }

  /** Whether a place is that of the first knot that was drawn. */
  #closes([x, y]: Place): boolean {
    const { scene, view } = this.sight!;
    const [first] = sheetPen.knots();
    const at = first && scene.charts?.nearest(first);
    return at !== undefined && Math.hypot(at[0] - x, at[1] - y) * view.scale < 2 * CLICK;
  }

  get #paints(): boolean {
    return useSession.getState().tool === "paint";
  }

  #move = (event: PointerEvent) => {
    if (!this.sight) return;
    const { x, y, at, slot, onRuler } = this.#where(event);
    if (isPainting()) {
      const point = onGround(this.sight!.scene, at);
      useBrush.setState({ at: point });
      return point ? leadStroke(point) : undefined;
    }
    const pressed = this.#pressed;
    if (pressed && Math.hypot(x - pressed.x, y - pressed.y) > CLICK) pressed.moved = true;
    const held = this.#held;
    if (!held) return this.#hover(event, at, slot, onRuler);
    if (!pressed?.moved) return;
    if (held.kind === "pan") {
      const { scale } = held.from;
      this.#owner.setView({
        ...held.from,
        x: held.from.x - (x - held.x) / scale,
        z: held.from.z - (y - held.y) / scale,
      });
    } else if (held.kind === "shape") this.#owner.setDrawn(shapeOf(held, at));
    else if (held.kind === "grip") {
      const { scene, dressing } = this.sight;
      if (!held.begun) useSceneStore.getState().beginDrag(GRIP_LABELS[held.grip.kind]);
      held.begun = true;
      useSceneStore.getState().drag((draft) => dragGrip(draft, scene, dressing.id, held.grip, at));
    } else this.#drag(held, at);
  };

  #drag(held: Extract<Held, { kind: "peg" }>, at: Place): void {
    const { placements, flat } = held;
    if (!placements) return;
    if (!held.begun) useSceneStore.getState().beginDrag("Move placement");
    held.begun = true;
    const by: Place = [at[0] - held.at[0], at[1] - held.at[1]];
    useSceneStore.getState().drag((draft) => moveOnSheet(draft, this.sight!, placements, flat, by));
  }

  #hover(event: PointerEvent, at: Place, slot: number, onRuler: boolean): void {
    const { dressing, scene } = this.sight!;
    if (this.#draws) {
      this.#element.style.cursor = onRuler ? "grab" : "crosshair";
      const place = onRuler ? null : scene.charts?.toWorld(...at);
      return sheetPen.hover(place?.point ?? null, this.#closes(at));
    }
    if (this.#paints) {
      this.#element.style.cursor = onRuler ? "grab" : "none";
      return useBrush.setState({ at: onRuler ? null : onGround(this.sight!.scene, at) });
    }
    const grip = onRuler ? null : this.#gripAt(at);
    this.#element.style.cursor = onRuler
      ? "grab"
      : grip
        ? GRIP_CURSORS[grip.kind]
        : slot >= 0
          ? "pointer"
          : "crosshair";
    const { clientX: x, clientY: y } = event;
    if (slot >= 0 && !onRuler) {
      const key = scene.placements.key[slot];
      return useSession.setState({ hover: { dressing: dressing.id, key, x, y }, why: null });
    }
    const found = onRuler ? null : fullAt(scene, at);
    const why = found?.reason ? { dressing: dressing.id, reason: found.reason, share: found.share, x, y } : null;
    useSession.setState({ hover: null, why });
  }

  #up = (event: PointerEvent) => {
    if (isPainting()) {
      this.#pressed = null;
      return endStroke();
    }
    if (!this.sight || !this.#held) return;
    this.#move(event);
    const held = this.#held;
    const click = this.#pressed !== null && !this.#pressed.moved;
    this.#held = this.#pressed = null;
    this.#owner.setDrawn(null);
    const { dressing } = this.sight;
    const { at } = this.#where(event);
    if (held.kind === "peg" || held.kind === "grip") {
      if (held.begun) return useSceneStore.getState().endDrag();
    }
    if (held.kind === "peg") {
      if (held.more) selectPlacements(dressing.id, [held.key], true);
      else if (!event.shiftKey) selectPlacements(dressing.id, [held.key]);
    } else if (held.kind === "shape") {
      if (!click) this.#finish(held, at);
      else if (event.altKey) addAt(this.sight, at);
      else if (!event.shiftKey) useSession.setState({ keys: NO_KEYS, focus: { kind: "dressing" } });
    }
  };

  #finish(held: Extract<Held, { kind: "shape" }>, at: Place): void {
    const { dressing, scene, view } = this.sight!;
    const shape = shapeOf(held, at);
    if (shape?.kind === "box") selectPlacements(dressing.id, keysWithin(scene, shape));
    else if (shape?.kind === "clearing" && shape.radius * view.scale >= 2 * CLICK)
      holdOpen(dressing, scene, shape.middle, shape.radius);
  }

  #wheel = (event: WheelEvent) => {
    if (!this.sight) return;
    event.preventDefault();
    const { view } = this.sight;
    if (event.shiftKey) {
      this.#owner.setView({ ...view, x: view.x + (event.deltaX || event.deltaY) / view.scale });
      return;
    }
    const { at } = this.#where(event);
    const scale = Math.min(MOST_SCALE, Math.max(LEAST_SCALE, view.scale * Math.exp(-event.deltaY * 0.0015)));
    const share = view.scale / scale;
    this.#owner.setView({ scale, x: at[0] + (view.x - at[0]) * share, z: at[1] + (view.z - at[1]) * share });
  };

  #key = (event: KeyboardEvent) => {
    if (!this.sight) return;
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (!way) return;
    event.preventDefault();
    const { dressing, scene, view } = this.sight;
    const { keys } = useSession.getState();
    if (event.altKey) {
      const held = takenPlacements({ dressing: dressing.id, key: [...keys][0] });
      const flat = flatOf(this.sight, keys);
      const step = NUDGE * (event.shiftKey ? 10 : 1);
      if (!held) return;
      useSceneStore
        .getState()
        .change(
          "Move placement",
          (draft) => moveOnSheet(draft, this.sight!, held, flat, [way[0] * step, way[1] * step]),
          `nudge ${dressing.id}`,
        );
      return;
    }
    // To the nearest in that direction, beginning in the middle of what is seen.
    const best = nearestTowards(scene, indicesOf(scene.placements.key, keys)[0] ?? -1, [view.x, view.z], way);
    if (best >= 0) selectPlacements(dressing.id, [scene.placements.key[best]], event.shiftKey);
  };

  #over = (event: DragEvent) => {
    if (!this.sight || !event.dataTransfer?.types.includes(PROP_DRAG)) return;
    event.preventDefault();
    event.stopPropagation();
  };

  #drop = (event: DragEvent) => {
    const prop = event.dataTransfer?.getData(PROP_DRAG);
    if (!this.sight || !prop) return;
    event.preventDefault();
    event.stopPropagation();
    const { dressing, scene } = this.sight;
    const { slot } = this.#where(event);
    if (slot < 0) return;
    const key = scene.placements.key[slot];
    const { keys } = useSession.getState();
    swapPlacements(dressing.id, keys.has(key) ? keys : [key], prop);
  };

  #leave = () => {
    if (this.#held) return;
    useBrush.setState({ at: null });
    const { hover, why } = useSession.getState();
    if (hover || why) useSession.setState({ hover: null, why: null });
  };

  #giveUp = () => {
    giveUpStroke();
    if ((this.#held?.kind === "peg" || this.#held?.kind === "grip") && this.#held.begun)
      useSceneStore.getState().cancelDrag();
    this.#held = this.#pressed = null;
    this.#owner.setDrawn(null);
  };

  #escape = (event: KeyboardEvent) => {
    if (event.key !== "Escape" || !(this.#held || isPainting())) return;
    this.#giveUp();
    event.preventDefault();
    event.stopPropagation();
  };
}

function shapeOf({ at, selects }: Extract<Held, { kind: "shape" }>, to: Place): SheetScene["drawn"] {
  if (selects) return { kind: "box", from: at, to };
  return { kind: "clearing", middle: at, radius: Math.hypot(to[0] - at[0], to[1] - at[1]) };
}
