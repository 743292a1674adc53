/**
 * Sowing: a hand is led over surfaces and puts props there, or gathers them again. What it sows goes into the selected dressing
 * where that takes it, else into a new one of pins.
 */
import { toast } from "sonner";
import { create } from "zustand";
import {
  FLAG,
  fieldIdsOf,
  hexOf,
  kindOf,
  LOOSE,
  MOST_SOWN,
  MOST_STROKES,
  SowingHand,
  sownBy,
  type Dressing,
} from "@/core/place";
import type { Vec3 } from "@/core/math";
import { useSceneStore } from "@/store";
import {
  dressingOf,
  nextStroke,
  NO_KEYS,
  pinsOf,
  placementsNow,
  SownStroke,
  useSession,
  writeGathered,
  writeSown,
} from "../state";
import { spreadDressing } from "./pegging";
import { stopDrawing } from "./draw-state";
import type { Aim, Under } from "./aim";
import type { Draft } from "immer";

export interface Sower {
  /** Whether it takes away instead. */
  gathers: boolean;
  /** Metres. */
  radius: number;
  /** One for each square of so many metres; null for as far apart as the dressing's own spacing has them. */
  distance: number | null;
  /** From 0, wherever they fall, to 1. */
  even: number;
  /** Where the hand is, and the normal there. */
  at: { point: Vec3; normal: Vec3 } | null;
}

export const useSower = create<Sower>()(() => ({ gathers: false, radius: 1, distance: null, even: 0.7, at: null }));

/** By so much the wheel makes the hand wider, and so narrow and wide it comes to be. */
const WIDER = 1.15;
export const [NARROWEST, WIDEST] = [0.01, 1000];

export function widen(steps: number): void {
  useSower.setState(({ radius }) => ({
    radius: Math.max(NARROWEST, Math.min(WIDEST, Number((radius * WIDER ** steps).toPrecision(3)))),
  }));
}

/** The selected dressing, where one can sow into it; null where that is to be a new one. */
export function sownDressing(): Dressing | null {
  const found = spreadDressing();
  return found && takesSowing(found) ? found : null;
}

/** Whether one can sow into a dressing as it is. */
export const takesSowing = ({ where }: Pick<Dressing, "where">): boolean =>
  kindOf(where).sows && (!kindOf(where).ruled || where.surfaces.length > 0);

export function startSowing(): void {
  const { props, surfaces } = useSceneStore.getState().shown;
  const { drawProp } = useSession.getState();
  if (props.length === 0 || surfaces.length === 0) return;
  stopDrawing();
  const known = props.some(({ id }) => id === drawProp);
  useSession.setState({
    tool: "sow",
    focus: { kind: "dressing" },
    hover: null,
    why: null,
    moving: null,
    grip: null,
    keys: NO_KEYS,
    ...(!known && { drawProp: props.at(-1)!.id }),
  });
}

export function stopSowing(): void {
  useSower.setState({ at: null, gathers: false });
  if (useSession.getState().tool === "sow") useSession.setState({ tool: "select" });
}

/** What of the surfaces a hand goes over: those that a dressing is spread over, all ground for what is loose, else any. */
export function sownOn(dressing: Dressing | null): (surface: string, isGround: boolean) => boolean {
  if (!dressing) return () => true;
  const { ruled, pins } = kindOf(dressing.where);
  const fields = fieldIdsOf(dressing.where);
  return ruled ? (id) => fields.includes(id) : pins ? () => true : (_, isGround) => isGround;
}

/** A stroke being led. */
interface Stroke {
  label: string;
  /** The dressing that was selected before it. */
  before: string | null;
  lead(under: Under): void;
  write(): void;
}

let stroke: Stroke | null = null;

export const isSowing = (): boolean => stroke !== null;

/** Begins a stroke where the hand is; false where there is nothing to gather from. */
export function beginSowing(aim: Aim, under: Under, gathers: boolean): boolean {
  const dressing = sownDressing();
  if (gathers && !dressing) return false;
  stroke = gathers ? gathering(dressing!.id) : sowing(aim, dressing);
  useSceneStore.getState().beginDrag(stroke.label);
  leadSowing(under);
  return true;
}

export function leadSowing(under: Under): void {
  useSower.setState({ at: under });
  stroke?.lead(under);
  stroke?.write();
}

export function endSowing(): void {
  if (stroke) useSceneStore.getState().endDrag();
  stroke = null;
}

export function giveUpSowing(): void {
  if (stroke) {
    useSceneStore.getState().cancelDrag();
    useSession.setState({ dressing: stroke.before });
  }
  stroke = null;
}

function sowing(aim: Aim, into: Dressing | null): Stroke {
  const { drawProp, dressing: before } = useSession.getState();
  // A new one comes into the scene with the first that is sown.
  const fresh = into ? null : pinsOf(drawProp!);
  const target = into ?? fresh!;
  const places = new SownStroke(into);
  if (places.isFull) toast.error(FULL);
  const wanted = sownOn(into);
  const loose = kindOf(target.where).hosts(target.where)[0] === LOOSE && !kindOf(target.where).pins;
  const hand = new SowingHand(target.variation.seed + nextStroke(target), standing(into), (from, direction, far) => {
    const met = aim.cast(wanted, from, direction, far);
    return met && { on: loose ? LOOSE : met.surface, point: met.point, normal: met.normal };
  });
  return {
    label: "Sow",
    before,
    lead({ point, normal }) {
      const { radius, even, distance } = useSower.getState();
      if (places.isFull) return;
      const sown = hand.lead(point, normal, { radius, even, distance: distance ?? target.spacing.distance });
      places.add(useSceneStore.getState().shown, sown);
    },
    write() {
      if (places.blocks.length === 0) return;
      if (fresh) useSession.setState({ dressing: fresh.id });
      useSceneStore.getState().drag((draft) => {
        if (fresh) draft.dressings.push(structuredClone(fresh) as Draft<Dressing>);
        const dressing = dressingOf(draft, target.id);
        if (dressing) writeSown(dressing, places);
      });
    },
  };
}

const FULL = `This dressing has as much sown as it can hold: ${MOST_SOWN.toLocaleString("en")} props in ${MOST_STROKES.toLocaleString("en")} strokes. Gather some, or sow into another one.`;

/** Where something of a dressing stands, in the world: 3n. */
function standing(dressing: Dressing | null): Float64Array {
  const placed = dressing && placementsNow(dressing.id);
  if (!placed) return new Float64Array(0);
  const out = new Float64Array(3 * (placed.count - placed.blanks));
  for (let i = 0, o = 0; i < placed.count; i++) {
    if (placed.flags[i] & FLAG.blank) continue;
    for (let k = 0; k < 3; k++) out[o++] = placed.origin[k] + placed.position[3 * i + k];
  }
  return out;
}

function gathering(id: string): Stroke {
  const taken = new Map<number, Set<number>>();
  const added = new Set<string>();
  return {
    label: "Gather",
    before: id,
    lead({ point }) {
      const { radius } = useSower.getState();
      const placed = placementsNow(id);
      const pegs = dressingOf(useSceneStore.getState().shown, id)?.pegs ?? {};
      if (!placed) return;
      const { position: P, origin, key, count } = placed;
      for (let i = 0; i < count; i++) {
        let squared = 0;
        for (let k = 0; k < 3; k++) squared += (origin[k] + P[3 * i + k] - point[k]) ** 2;
        if (squared > radius * radius) continue;
        const by = sownBy(key[i]);
        if (by) (taken.get(by.number) ?? taken.set(by.number, new Set()).get(by.number)!).add(by.index);
        else if (pegs[hexOf(key[i])]?.added) added.add(hexOf(key[i]));
      }
    },
    write() {
      useSceneStore.getState().drag((draft) => {
        const dressing = dressingOf(draft, id);
        if (!dressing) return;
        writeGathered(dressing, taken);
        for (const hex of added) delete dressing.pegs[hex];
      });
    },
  };
}
