/** What is being moved in the view at the moment: how far, along what, what it caught on; and a box being drawn to select. */
import { create } from "zustand";
import type { SnapTarget } from "./snap";

export type Axis = "x" | "y" | "z";

/** The key that keeps what moves on an axis, and what that is called. */
export const AXES: Readonly<Record<Axis, { key: string; words: string }>> = {
  x: { key: "e", words: "east and west" },
  y: { key: "u", words: "up and down" },
  z: { key: "n", words: "north and south" },
};

/** The axis that a key stands for. */
export const axisOfKey = (key: string): Axis | null =>
  (Object.keys(AXES) as Axis[]).find((axis) => AXES[axis].key === key.toLowerCase()) ?? null;

/** The key that lets go of what is caught, until what is held is put down; or catches again. */
export const LET_GO = "q";

/** The key after which a number says how far. */
export const MEASURE = "m";

interface MoveState {
  /** Metres from where it was taken up, or from the last knot while drawing; null when nothing is moved. */
  distance: number | null;
  axis: Axis | null;
  /** What is being typed: how far, or a place by its coordinates. */
  typing: "distance" | "place" | null;
  typed: string;
  caught: SnapTarget | null;
  /** How many could be caught there, and which of them is: the wheel counts on. */
  others: number;
  turn: number;
  /** The snap points near the pointer, which are shown. */
  near: readonly SnapTarget[];
  /** Whether nothing is caught on until what is held is put down. */
  letGo: boolean;
  /** The surface that a pin would go onto. */
  onto: string | null;
  /** A box on screen, in pixels of the window. */
  box: { x: number; y: number; toX: number; toY: number } | null;
}

const REST: MoveState = {
  distance: null,
  axis: null,
  typing: null,
  typed: "",
  caught: null,
  others: 0,
  turn: 0,
  near: [],
  letGo: false,
  onto: null,
  box: null,
};

export const useMove = create<MoveState>()(() => REST);

export const restMoving = (): void => useMove.setState(REST);

export const stopTyping = (): void => useMove.setState({ typing: null, typed: "" });

const TAKEN = { distance: /^[0-9.,]$/, place: /^[0-9.,; -]$/ };

/**
 * Takes a key into what is typed; false for keys that have nothing to do with it.
 *
 * @param places whether coordinates may be typed too; they begin with a figure, distances with {@link MEASURE}
 */
export function typeKey(key: string, places = false): boolean {
  const { typing, typed } = useMove.getState();
  if (typing === null) {
    if (key.toLowerCase() === MEASURE) useMove.setState({ typing: "distance", typed: "" });
    else if (places && /^[0-9.-]$/.test(key)) useMove.setState({ typing: "place", typed: key });
    else return false;
    return true;
  }
  if (TAKEN[typing].test(key)) useMove.setState({ typed: typed + key });
  else if (key === "Escape" || (key === "Backspace" && typed.length < 2)) stopTyping();
  else if (key === "Backspace") useMove.setState({ typed: typed.slice(0, -1) });
  else return false;
  return true;
}

const numberIn = (text: string): number => (text.trim() === "" ? NaN : Number(text.trim().replace(",", ".")));

/** The typed distance in metres, or null. */
export function typedDistance(): number | null {
  const { typing, typed } = useMove.getState();
  const value = typing === "distance" ? numberIn(typed) : NaN;
  return Number.isFinite(value) && value > 0 ? value : null;
}

/** The typed place: x and z in metres on the ground, or x, y and z; null where it is neither. */
export function typedPlace(): [x: number, z: number] | [x: number, y: number, z: number] | null {
  const { typing, typed } = useMove.getState();
  if (typing !== "place") return null;
  const parts = typed.split(typed.includes(";") ? ";" : /\s+/).map(numberIn);
  if (parts.length < 2 || parts.length > 3 || !parts.every(Number.isFinite)) return null;
  return parts as [number, number] | [number, number, number];
}
