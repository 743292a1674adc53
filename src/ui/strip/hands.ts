/**
 * *What hands do on the strip*: select, drag to peg, with Alt to copy, pull insets and the slide, hold gaps open, zoom, move,
 * drop a prop to swap, walk with the keys. What is dragged catches on marks and neighbours, unless Ctrl is held.
 */
import { PROP_DRAG } from "../basket";
import { FLAG, type Key, type Placements, indicesOf } from "@/core/place";
import { placeOn, type Line } from "@/core/line";
import type { Scene } from "@/core/scene";
import { useSceneStore } from "@/store";
import {
  dressingOf,
  drawnLine,
  editDressing,
  millimetre,
  writeStart,
  swapPlacements,
  writeAdded,
  writePegs,
  NO_KEYS,
  selectPlacements,
  useSession,
  lineRunning,
} from "../state";
import { listen } from "../kit";
import { caughtAt } from "./catch";
import { gripAt, type Grip } from "./grips";
import { layoutOf, rackLayout, tallOf, type RackLayout, type StripScene } from "./layout";
import { besideInRack, pullRack, slotInRack } from "./rack";
import { RULER, slotAt, type StripRow, type StripView } from "./model";
import type { Draft } from "immer";

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
  setGap: (index: number | null) => void;
  setCaught: (caught: StripScene["caught"]) => void;
}

/** What moves along the line. */
type LineGrip = Exclude<Grip, { kind: "rack" }>;

type Held =
  | { kind: "pan"; x: number; from: number }
  | {
      kind: "peg";
      x: number;
      row: number;
      slot: number;
      places: ReadonlyMap<Key, number>;
      more: boolean;
      begun: boolean;
    }
  /** The height of a rack, or its depth. */
  | { kind: "rack"; y: number; row: number; rack: RackLayout; begun: boolean }
  | {
      kind: "grip";
      x: number;
      row: number;
      grip: LineGrip;
      begun: boolean;
      was: { from: number; to: number; slide: number };
      drawn: ReturnType<typeof drawnLine> | null;
    }
  /** Along an empty piece of the strip: with Shift to select what is there, without to hold a gap open. */
  | { kind: "stretch"; x: number; row: number; from: number; to: number; selects: boolean };

const CLICK = 3;
/** Small props can be taken hold of as if they were so high, pixels. */
const HOLD = 20;
/** Things are caught on within so many pixels. */
const CATCH = 6;
/** A nudge by the arrow keys, metres. */
const NUDGE = 0.01;

const within = (at: number, length: number): number => Math.min(length, Math.max(0, at));

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

  /** Where an event is: pixels, row, arc length, slot. */
  #where(event: MouseEvent) {
    const { scene, view } = this.sight!;
    const box = this.#element.getBoundingClientRect();
    const [x, y] = [event.clientX - box.left, event.clientY - box.top];
    const at = x / view.scale + view.from;
    const row = y < RULER ? -1 : scene.boxes.findIndex(({ top, height }) => y >= top && y < top + height);
    const stacked = row >= 0 && scene.placements.stacked !== null;
    const inRack = stacked ? slotInRack(scene, view, row, at, y) : -1;
    const near = row < 0 ? -1 : stacked ? inRack : slotAt(scene.placements, scene.rows[row], at, 2 / view.scale);
    const slot = near >= 0 && (stacked || this.#reaches(near, row, y)) ? near : -1;
    const grip = row < 0 ? null : gripAt(scene, view, row, x, y);
    return { x, y, at, row, slot, near, grip };
  }

  /** Whether a slot is drawn as high as `y`, or near enough: beyond it, gaps and insets can be taken hold of. */
  #reaches(slot: number, row: number, y: number): boolean {
    const { scene, view } = this.sight!;
    const { hangs, room, cord } = layoutOf(scene, row);
    const tall = Math.max(HOLD, Math.min(room, tallOf(scene, slot, room, view.scale)));
    return hangs ? y >= cord - 10 && y <= cord + tall + 4 : y >= cord - tall - 4 && y <= cord + 10;
  }

  #down = (event: PointerEvent) => {
    if (!this.sight || event.button !== 0) return;
    const { view } = this.sight;
    const { x, y, at, row, slot, grip } = this.#where(event);
    this.#element.setPointerCapture(event.pointerId);
    // The bar of a gap and the slide lie beside the cord, where no prop is; an inset's line gives way to the props on it.
    const bar = grip !== null && grip.kind !== "inset";
    if (row < 0) this.#held = { kind: "pan", x, from: view.from };
    else if (grip?.kind === "rack") this.#takeRack(row, y);
    else if (slot >= 0 && !bar) this.#takeSlot(slot, row, x, event.shiftKey);
    else if (grip) this.#takeGrip(grip, row, x);
    else this.#held = { kind: "stretch", x, row, from: at, to: at, selects: event.shiftKey };
    if (!grip || grip.kind !== "gap") this.#owner.setGap(null);
  };

  #takeSlot(slot: number, row: number, x: number, more: boolean): void {
    const { placements: p, dressing, rows } = this.sight!.scene;
    const key = p.key[slot];
    const was = useSession.getState().keys.has(key);
    if (!was) selectPlacements(dressing.id, [key], more);
    const moving = useSession.getState().keys;
    const places = new Map<Key, number>();
    for (const i of chosenIn(p, moving)(rows[row])) places.set(p.key[i], p.at[i]);
    this.#held = { kind: "peg", x, row, slot, places, more: more && was, begun: false };
  }

  #takeRack(row: number, y: number): void {
    const { scene, view } = this.sight!;
    const rack = rackLayout(scene, row, view.scale);
    if (rack) this.#held = { kind: "rack", y, row, rack, begun: false };
  }

  #takeGrip(grip: LineGrip, row: number, x: number): void {
    const { dressing } = this.sight!.scene;
    const stretch = grip.kind === "gap" ? dressing.gaps.stretches[grip.index] : { from: 0, to: 0 };
    if (grip.kind === "gap") this.#owner.setGap(grip.index);
    const was = { from: stretch.from, to: stretch.to, slide: dressing.spacing.slide };
    // The line starts elsewhere as soon as it is moved: where it is taken is seen on the line as it is now.
    const line = this.#lineOf(row);
    const drawn = grip.kind === "start" && line ? drawnLine(line) : null;
    this.#held = { kind: "grip", x, row, grip, begun: false, was, drawn };
  }

  #move = (event: PointerEvent) => {
    if (!this.sight) return;
    const { scene, view } = this.sight;
    const { x, y, at, row, slot, grip } = this.#where(event);
    const held = this.#held;
    if (!held) {
      const key = slot >= 0 && (!grip || grip.kind === "inset") ? scene.placements.key[slot] : null;
      const before = useSession.getState().hover;
      if (key !== null) {
        useSession.setState({ hover: { dressing: scene.dressing.id, key, x: event.clientX, y: event.clientY } });
      } else if (before) useSession.setState({ hover: null });
      const onGrip =
        grip?.kind === "rack"
          ? "ns-resize"
          : grip
            ? grip.kind === "gap" && grip.part === "whole"
              ? "grab"
              : "col-resize"
            : "crosshair";
      this.#element.style.cursor = row < 0 ? "ew-resize" : key !== null ? "grab" : onGrip;
      return;
    }
    switch (held.kind) {
      case "pan":
        return this.#owner.setView({ ...view, from: held.from - (x - held.x) / view.scale });
      case "stretch":
        held.to = at;
        return this.#owner.setStretch({ row: held.row, from: held.from, to: at, holds: !held.selects });
      case "rack": {
        if (!held.begun && Math.abs(y - held.y) < CLICK) return;
        const { least, most, scale } = held.rack;
        const { aspect } = scene;
        const metres = most - least + (most > 1e-9 ? held.y - y : y - held.y) / scale;
        return this.#drag(held, aspect === "front" ? "Height of rack" : "Depth of rack", (dressing) =>
          pullRack(dressing, aspect === "front" ? "high" : "deep", metres, most - least),
        );
      }
      case "grip":
        return this.#moveGrip(held, (x - held.x) / view.scale, at);
      case "peg": {
        if (!held.begun && Math.abs(x - held.x) < CLICK) return;
        return this.#movePegs(held, (x - held.x) / view.scale, event);
      }
    }
  };

  #lineOf(row: number): Line | undefined {
    const { line: id } = this.sight!.scene.rows[row];
    return lineRunning(useSceneStore.getState().shown.lines, id);
  }

  #drag(held: { begun: boolean }, label: string, recipe: (dressing: Draft<Scene["dressings"][number]>) => void): void {
    const { id } = this.sight!.scene.dressing;
    this.#change(held, label, (draft) => {
      const dressing = dressingOf(draft, id);
      if (dressing) recipe(dressing);
    });
  }

  #change(held: { begun: boolean }, label: string, recipe: (scene: Draft<Scene>) => void): void {
    const store = useSceneStore.getState();
    if (!held.begun) {
      held.begun = true;
      store.beginDrag(label);
      useSession.setState({ hover: null });
    }
    store.drag(recipe);
  }

  #moveGrip(held: Extract<Held, { kind: "grip" }>, by: number, at: number): void {
    const { grip, was, drawn } = held;
    const { length, closed } = this.sight!.scene.rows[held.row];
    if (grip.kind === "start") {
      if (!drawn) return;
      const line = this.sight!.scene.rows[held.row].line;
      const point = placeOn(drawn.curve, by - Math.floor(by / length) * length);
      this.#change(held, "Start of line", (scene) => writeStart(scene, line, point));
    } else if (grip.kind === "inset") {
      const metres = millimetre(within(grip.end === "fromStart" ? at : length - at, length));
      this.#drag(held, grip.end === "fromStart" ? "From start" : "From end", ({ spacing }) => {
        spacing[grip.end] = metres;
      });
    } else if (grip.kind === "slide") {
      this.#drag(held, "Slide", ({ spacing }) => void (spacing.slide = millimetre(was.slide + by)));
    } else {
      const place = (value: number) => millimetre(closed ? value : within(value, length));
      this.#drag(held, "Held stretch", ({ gaps }) => {
        const stretch = gaps.stretches[grip.index];
        if (!stretch) return;
        if (grip.part !== "to") stretch.from = place(was.from + by);
        if (grip.part !== "from") stretch.to = place(was.to + by);
        if (!closed && stretch.from > stretch.to) [stretch.from, stretch.to] = [stretch.to, stretch.from];
      });
    }
  }

  /** Pegs the held placements at their old places plus `by` metres, within the line; with Alt, copies of them. */
  #movePegs(held: Extract<Held, { kind: "peg" }>, by: number, { altKey, ctrlKey, metaKey }: PointerEvent): void {
    const { scene, view } = this.sight!;
    const { placements: p } = scene;
    const row = scene.rows[held.row];
    const start = held.places.get(p.key[held.slot]) ?? p.at[held.slot];
    const taken = chosenIn(p, new Set(held.places.keys()))(row);
    const moving = new Set(altKey ? [] : taken);
    const caught =
      ctrlKey || metaKey
        ? null
        : caughtAt(p, row, held.slot, start + by, CATCH / view.scale, moving, scene.marks[held.row]);
    this.#owner.setCaught(caught === null ? null : { row: held.row, at: caught });
    const moved = caught === null ? by : caught - start;
    const place = (at: number) => millimetre(within(at + moved, row.length));
    this.#drag(held, altKey ? "Copy" : "Peg", (dressing) => {
      if (!altKey) {
        writePegs(dressing, held.places.keys(), (peg, key) => void (peg.at = place(held.places.get(key)!)));
        return;
      }
      const copies = taken.filter((i) => !(p.flags[i] & FLAG.blank));
      writeAdded(
        dressing,
        Array.from(copies, (i) => ({ line: row.line, at: place(p.at[i]), prop: p.props[p.prop[i]] })),
      );
    });
  }

  #up = (event: PointerEvent) => {
    // Of a quick gesture the browser may tell only where it ended.
    if (this.#held) this.#move(event);
    const held = this.#held;
    this.#held = null;
    this.#owner.setCaught(null);
    if (!held || !this.sight) return;
    const { scene } = this.sight;
    if (held.kind === "stretch") this.#endStretch(held);
    else if ((held.kind === "peg" || held.kind === "grip" || held.kind === "rack") && held.begun)
      useSceneStore.getState().endDrag();
    else if (held.kind === "peg") {
      // A click on one of several selected ones picks it out; with Shift it leaves the selection.
      const key = scene.placements.key[held.slot];
      selectPlacements(scene.dressing.id, [key], held.more);
      if (!held.more && useSession.getState().keys.size === 0) selectPlacements(scene.dressing.id, [key]);
    }
  };

  #endStretch(held: Extract<Held, { kind: "stretch" }>): void {
    const { scene, view } = this.sight!;
    const { placements: p, rows, dressing } = scene;
    this.#owner.setStretch(null);
    const { line, length, order } = rows[held.row];
    const [from, to] = [Math.min(held.from, held.to), Math.max(held.from, held.to)];
    if ((to - from) * view.scale < CLICK) useSession.setState({ keys: NO_KEYS });
    else if (held.selects) {
      selectPlacements(
        dressing.id,
        Array.from(
          order.filter((i) => p.at[i] >= from && p.at[i] <= to),
          (i) => p.key[i],
        ),
      );
    } else this.#hold(line, within(from, length), within(to, length));
  }

  /** Holds a gap open on a line. */
  #hold(line: string, from: number, to: number): void {
    const { dressing } = this.sight!.scene;
    const stretch = { line, from: millimetre(from), to: millimetre(to) };
    if (stretch.to <= stretch.from) return;
    editDressing(dressing.id, "Hold a stretch open", ({ gaps }) => void gaps.stretches.push(stretch));
    this.#owner.setGap(dressing.gaps.stretches.length);
  }

  #leave = () => {
    if (!this.#held && useSession.getState().hover) useSession.setState({ hover: null });
  };

  #giveUp = () => {
    if (!this.#held) return;
    useSceneStore.getState().cancelDrag();
    this.#owner.setStretch(null);
    this.#owner.setCaught(null);
    this.#held = null;
  };

  #escape = (event: KeyboardEvent) => {
    if (event.key !== "Escape" || !this.#held) return;
    this.#giveUp();
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
    const stack = event.key === "ArrowUp" ? 1 : event.key === "ArrowDown" ? -1 : 0;
    if (stack !== 0 && this.sight.scene.placements.stacked) {
      event.preventDefault();
      this.#climb(stack, event.shiftKey);
    } else if (direction !== 0) {
      event.preventDefault();
      if (event.altKey) this.#nudge(direction * NUDGE * (event.shiftKey ? 10 : 1));
      else this.#walk(direction, event.shiftKey);
    } else if (event.key === "g" && !event.ctrlKey && !event.metaKey) this.#holdSelection();
    else if (event.key === "Delete" || event.key === "Backspace") {
      const { gap, dressing } = this.sight.scene;
      if (gap === null || !dressing.gaps.stretches[gap]) return;
      editDressing(dressing.id, "Close a stretch", ({ gaps }) => void gaps.stretches.splice(gap, 1));
      this.#owner.setGap(null);
    } else return;
    event.stopPropagation();
  };

  /** Moves the selected placements of the first row that has some. */
  #nudge(by: number): void {
    const { placements: p, rows, dressing } = this.sight!.scene;
    const { keys } = useSession.getState();
    const chosen = chosenIn(p, keys);
    const row = rows.find((one) => chosen(one).length > 0);
    if (!row) return;
    const places = new Map(chosen(row).map((i) => [p.key[i], p.at[i]]));
    const peg = (draft: Draft<Scene["dressings"][number]>) =>
      writePegs(draft, places.keys(), (held, key) => {
        held.at = millimetre(within(places.get(key)! + by, row.length));
      });
    editDressing(dressing.id, "Peg", peg, "nudge");
  }

  /** Selects the next or previous slot, or that one as well. */
  #walk(direction: number, more: boolean): void {
    const { placements: p, rows, dressing } = this.sight!.scene;
    const { keys } = useSession.getState();
    const all = rows.flatMap(({ order }) => [...order]);
    if (all.length === 0) return;
    const held = new Set(indicesOf(p.key, keys));
    const chosen = all.map((i, k) => (held.has(i) ? k : -1)).filter((k) => k >= 0);
    const from =
      chosen.length === 0 ? (direction > 0 ? -1 : all.length) : direction > 0 ? chosen[chosen.length - 1] : chosen[0];
    const key = p.key[all[Math.max(0, Math.min(all.length - 1, from + direction))]];
    selectPlacements(dressing.id, more ? [...new Set([...keys, key])] : [key]);
  }

  /** Selects what stands on, or below, what is selected in a rack; from above, what stands behind it or before it. */
  #climb(direction: number, more: boolean): void {
    const { placements: p, dressing, aspect } = this.sight!.scene;
    const { keys } = useSession.getState();
    const [held] = indicesOf(p.key, keys);
    if (held === undefined) return;
    const next = besideInRack(p, held, aspect, direction);
    if (next >= 0) selectPlacements(dressing.id, more ? [...new Set([...keys, p.key[next]])] : [p.key[next]]);
  }

  /** Holds a gap open from the first to the last of what is selected on a row. */
  #holdSelection(): void {
    const { placements: p, rows } = this.sight!.scene;
    const { keys } = useSession.getState();
    const chosenOf = chosenIn(p, keys);
    const row = rows.find((one) => chosenOf(one).length > 0);
    const chosen = row ? chosenOf(row) : [];
    if (!row || chosen.length === 0) return;
    const ends = chosen.map((i) => [p.at[i] - p.reach[2 * i], p.at[i] + p.reach[2 * i + 1]]).flat();
    this.#hold(row.line, within(Math.min(...ends), row.length), within(Math.max(...ends), row.length));
  }

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

/** For rows, the indices of their placements that are among some, in the row's order. */
function chosenIn(p: Placements, keys: ReadonlySet<Key>): (row: StripRow) => number[] {
  const held = new Set(indicesOf(p.key, keys));
  return ({ order }) => (held.size === 0 ? [] : Array.from(order.filter((i) => held.has(i))));
}
