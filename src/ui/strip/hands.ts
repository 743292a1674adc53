/** *What hands do on the strip*: select, drag to peg, pull insets, zoom, move, drop a prop to swap, walk with the keys. */
import type { Draft } from "immer";
import type { Scene } from "@/core/scene";
import { useSceneStore } from "@/store";
import { PROP_DRAG } from "../basket/Basket";
import { dressingOf, swapPlacements, writePegs } from "../state/edits";
import { selectPlacements, useSession, NO_KEYS } from "../state/session";
import { RULER, slotAt, type StripView } from "./model";
import { layoutOf, tallOf, type StripScene } from "./draw";

/** What the hands need to see: the strip as it is drawn at the moment. */
interface Sight {
  scene: StripScene;
  view: StripView;
  width: number;
  longest: number;
}

interface Owner {
  setView: (view: StripView | null) => void;
  setStretch: (stretch: StripScene["stretch"]) => void;
}

type Held =
  | { kind: "pan"; x: number; from: number }
  | {
      kind: "peg";
      x: number;
      keys: ReadonlyMap<number, number>;
      length: number;
      begun: boolean;
      key: number;
      more: boolean;
    }
  | { kind: "inset"; end: "fromStart" | "fromEnd"; length: number; begun: boolean }
  | { kind: "stretch"; row: number; from: number; to: number };

const CLICK = 3;
/** Small props can be taken hold of as if they were so high, pixels. */
const HOLD = 20;
/** A nudge by the arrow keys, metres. */
const NUDGE = 0.01;

const millimetre = (at: number): number => Math.round(at * 1000) / 1000;

export class StripHands {
  sight: Sight | null = null;
  readonly #element: HTMLCanvasElement;
  readonly #owner: Owner;
  #held: Held | null = null;
  readonly #release = new AbortController();

  constructor(element: HTMLCanvasElement, owner: Owner) {
    this.#element = element;
    this.#owner = owner;
    const { signal } = this.#release;
    element.addEventListener("pointerdown", this.#down, { signal });
    element.addEventListener("pointermove", this.#move, { signal });
    element.addEventListener("pointerup", this.#up, { signal });
    element.addEventListener("pointercancel", this.#up, { signal });
    element.addEventListener("pointerleave", this.#leave, { signal });
    element.addEventListener("wheel", this.#wheel, { signal, passive: false });
    element.addEventListener("keydown", this.#key, { signal });
    element.addEventListener("dragover", this.#over, { signal });
    element.addEventListener("drop", this.#drop, { signal });
    window.addEventListener("keydown", this.#escape, { signal, capture: true });
  }

  release(): void {
    this.#release.abort();
  }

  /** Where an event is: pixels, row, arc length, slot. */
  #where(event: MouseEvent) {
    const { scene, view } = this.sight!;
    const box = this.#element.getBoundingClientRect();
    const [x, y] = [event.clientX - box.left, event.clientY - box.top];
    const at = x / view.scale + view.from;
    const row = y < RULER ? -1 : scene.boxes.findIndex(({ top, height }) => y >= top && y < top + height);
    const near = row < 0 ? -1 : slotAt(scene.placements, scene.rows[row], at, 2 / view.scale);
    const slot = near >= 0 && this.#reaches(near, row, y) ? near : -1;
    return { x, y, at, row, slot, near };
  }

  /** Whether a slot is drawn as high as `y`, or near enough: beyond it, stretches and insets can be taken hold of. */
  #reaches(slot: number, row: number, y: number): boolean {
    const { scene, view } = this.sight!;
    const { hangs, room, cord } = layoutOf(scene, row);
    const tall = Math.max(HOLD, Math.min(room, tallOf(scene, slot, room, view.scale)));
    return hangs ? y >= cord - 10 && y <= cord + tall + 4 : y >= cord - tall - 4 && y <= cord + 10;
  }

  /** The inset whose dotted line is under the pointer. */
  #insetAt(x: number, row: number): "fromStart" | "fromEnd" | null {
    const { scene, view } = this.sight!;
    if (row < 0) return null;
    const { fromStart, fromEnd } = scene.dressing.spacing;
    const near = (at: number) => Math.abs((at - view.from) * view.scale - x) <= 4;
    if (near(fromStart)) return "fromStart";
    return near(scene.rows[row].length - fromEnd) ? "fromEnd" : null;
  }

  #down = (event: PointerEvent) => {
    if (!this.sight || event.button !== 0) return;
    const { scene, view } = this.sight;
    const { x, at, row, slot } = this.#where(event);
    this.#element.setPointerCapture(event.pointerId);
    if (row < 0) {
      this.#held = { kind: "pan", x, from: view.from };
    } else if (slot >= 0) {
      const { placements: p, dressing } = scene;
      const key = p.key[slot];
      const selected = useSession.getState().keys;
      const was = selected.has(key);
      if (!was) selectPlacements(dressing.id, [key], event.shiftKey);
      const moving = useSession.getState().keys;
      const keys = new Map<number, number>();
      for (const i of scene.rows[row].order) if (moving.has(p.key[i])) keys.set(p.key[i], p.at[i]);
      this.#held = {
        kind: "peg",
        x,
        keys,
        length: scene.rows[row].length,
        begun: false,
        key,
        more: event.shiftKey && was,
      };
    } else {
      const end = this.#insetAt(x, row);
      this.#held = end
        ? { kind: "inset", end, length: scene.rows[row].length, begun: false }
        : { kind: "stretch", row, from: at, to: at };
    }
  };

  #move = (event: PointerEvent) => {
    if (!this.sight) return;
    const { scene, view } = this.sight;
    const { x, at, row, slot } = this.#where(event);
    const held = this.#held;
    if (!held) {
      const key = slot >= 0 ? scene.placements.key[slot] : null;
      const before = useSession.getState().hover;
      if (key !== null) {
        useSession.setState({ hover: { dressing: scene.dressing.id, key, x: event.clientX, y: event.clientY } });
      } else if (before) useSession.setState({ hover: null });
      const pointer = row < 0 ? "ew-resize" : key !== null ? "grab" : this.#insetAt(x, row) ? "col-resize" : "default";
      this.#element.style.cursor = pointer;
      return;
    }
    switch (held.kind) {
      case "pan":
        return this.#owner.setView({ ...view, from: held.from - (x - held.x) / view.scale });
      case "stretch":
        held.to = at;
        return this.#owner.setStretch({ row: held.row, from: held.from, to: at });
      case "inset":
        return this.#drag(held, held.end === "fromStart" ? "From start" : "From end", (draft) => {
          const dressing = dressingOf(draft, scene.dressing.id) as Draft<Scene["dressings"][number]> | undefined;
          const metres = held.end === "fromStart" ? at : held.length - at;
          if (dressing) dressing.spacing[held.end] = millimetre(Math.min(held.length, Math.max(0, metres)));
        });
      case "peg": {
        if (!held.begun && Math.abs(x - held.x) < CLICK) return;
        const by = (x - held.x) / view.scale;
        return this.#drag(held, "Peg", (draft) => this.#moveBy(draft, held.keys, by, held.length));
      }
    }
  };

  #drag(held: { begun: boolean }, label: string, recipe: (draft: Draft<Scene>) => void): void {
    const store = useSceneStore.getState();
    if (!held.begun) {
      held.begun = true;
      store.beginDrag(label);
      useSession.setState({ hover: null });
    }
    store.drag(recipe);
  }

  /** Pegs the placements at their old places plus `by` metres, within the line. */
  #moveBy(draft: Draft<Scene>, keys: ReadonlyMap<number, number>, by: number, length: number): void {
    const dressing = dressingOf(draft, this.sight!.scene.dressing.id) as Draft<Scene["dressings"][number]> | undefined;
    if (!dressing) return;
    for (const [key, at] of keys) {
      writePegs(dressing, [key], (peg) => void (peg.at = millimetre(Math.min(length, Math.max(0, at + by)))));
    }
  }

  #up = () => {
    const held = this.#held;
    this.#held = null;
    if (!held || !this.sight) return;
    const { scene } = this.sight;
    if (held.kind === "stretch") {
      this.#owner.setStretch(null);
      const [from, to] = [Math.min(held.from, held.to), Math.max(held.from, held.to)];
      if ((to - from) * this.sight.view.scale < CLICK) {
        useSession.setState({ keys: NO_KEYS });
        return;
      }
      const { placements: p, rows, dressing } = scene;
      const keys = [...rows[held.row].order].filter((i) => p.at[i] >= from && p.at[i] <= to).map((i) => p.key[i]);
      selectPlacements(dressing.id, keys);
    } else if ((held.kind === "peg" || held.kind === "inset") && held.begun) {
      useSceneStore.getState().endDrag();
    } else if (held.kind === "peg") {
      // A click on one of several selected ones picks it out; with Shift it leaves the selection.
      selectPlacements(scene.dressing.id, [held.key], held.more);
      if (!held.more && useSession.getState().keys.size === 0) selectPlacements(scene.dressing.id, [held.key]);
    }
  };

  #leave = () => {
    if (!this.#held && useSession.getState().hover) useSession.setState({ hover: null });
  };

  #escape = (event: KeyboardEvent) => {
    if (event.key !== "Escape" || !this.#held) return;
    useSceneStore.getState().cancelDrag();
    this.#owner.setStretch(null);
    this.#held = null;
    event.stopPropagation();
  };

  #wheel = (event: WheelEvent) => {
    if (!this.sight) return;
    event.preventDefault();
    const { view, width, longest } = this.sight;
    if (event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY)) {
      this.#owner.setView({ ...view, from: view.from + (event.deltaX || event.deltaY) / view.scale });
      return;
    }
    const { x, at } = this.#where(event);
    const smallest = (0.5 * width) / Math.max(longest, 1e-6);
    const scale = Math.min(20_000, Math.max(smallest, view.scale * Math.exp(-event.deltaY * 0.0015)));
    this.#owner.setView({ scale, from: at - x / scale });
  };

  #key = (event: KeyboardEvent) => {
    if (!this.sight) return;
    const direction = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
    if (direction === 0) return;
    event.preventDefault();
    const { scene } = this.sight;
    const { placements: p, rows, dressing } = scene;
    const { keys } = useSession.getState();
    const row = rows.find(({ order }) => order.some((i) => keys.has(p.key[i])));
    if (event.altKey && row) {
      const moving = new Map([...row.order].filter((i) => keys.has(p.key[i])).map((i) => [p.key[i], p.at[i]]));
      const by = direction * NUDGE * (event.shiftKey ? 10 : 1);
      const store = useSceneStore.getState();
      store.change("Peg", (draft) => this.#moveBy(draft, moving, by, row.length), "nudge");
      return;
    }
    const all = rows.flatMap(({ order }) => [...order]);
    const chosen = all.map((i, k) => (keys.has(p.key[i]) ? k : -1)).filter((k) => k >= 0);
    const from =
      chosen.length === 0 ? (direction > 0 ? -1 : all.length) : direction > 0 ? chosen[chosen.length - 1] : chosen[0];
    const next = Math.max(0, Math.min(all.length - 1, from + direction));
    if (all.length === 0) return;
    const key = p.key[all[next]];
    if (event.shiftKey)
      selectPlacements(
        dressing.id,
        [...keys, key].filter((k, i, list) => list.indexOf(k) === i),
      );
    else selectPlacements(dressing.id, [key]);
  };

  #over = (event: DragEvent) => {
    if (!event.dataTransfer?.types.includes(PROP_DRAG) || !this.sight) return;
    const { near: slot } = this.#where(event);
    if (slot < 0) return;
    event.preventDefault();
    event.dataTransfer.dropEffect = "copy";
    const { scene } = this.sight;
    const hover = { dressing: scene.dressing.id, key: scene.placements.key[slot], x: event.clientX, y: event.clientY };
    useSession.setState({ hover });
  };

  #drop = (event: DragEvent) => {
    const prop = event.dataTransfer?.getData(PROP_DRAG);
    if (!prop || !this.sight) return;
    event.preventDefault();
    event.stopPropagation();
    const { near: slot } = this.#where(event);
    const { scene } = this.sight;
    if (slot < 0) return;
    const key = scene.placements.key[slot];
    const { keys } = useSession.getState();
    // Dropped on one of several selected ones, it is for all of them.
    swapPlacements(scene.dressing.id, keys.has(key) ? keys : [key], prop);
    selectPlacements(scene.dressing.id, keys.has(key) ? [...keys] : [key]);
  };
}
