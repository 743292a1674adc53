/** What is being moved in the view at the moment: how far, along what, what it caught on; and a box being drawn to select. */
import { create } from "zustand";
import type { Vec3 } from "@/core/math";

export type Axis = "x" | "y" | "z";

interface MoveState {
  /** Metres from where it was taken up, or from the last knot while drawing; null when nothing is moved. */
  distance: number | null;
  axis: Axis | null;
  /** What is typed to set the distance. */
  typed: string;
  caught: { position: Vec3; what: string } | null;
  /** A box on screen, in pixels of the window. */
  box: { x: number; y: number; toX: number; toY: number } | null;
}

const REST: MoveState = { distance: null, axis: null, typed: "", caught: null, box: null };

export const useMove = create<MoveState>()(() => REST);

export const restMoving = (): void => useMove.setState(REST);

/** Takes a key into the typed distance; false for keys that have nothing to do with it. */
export function typeDistance(key: string): boolean {
  const { typed } = useMove.getState();
  if (/^[0-9.,]$/.test(key)) useMove.setState({ typed: typed + key });
  else if (key === "Backspace" && typed !== "") useMove.setState({ typed: typed.slice(0, -1) });
  else return false;
  return true;
}

/** The typed distance in metres, or null. */
export function typedDistance(): number | null {
  const { typed } = useMove.getState();
  const value = Number(typed.replace(",", "."));
  return typed !== "" && Number.isFinite(value) && value > 0 ? value : null;
}
