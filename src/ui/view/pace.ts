/** How many triangles this machine draws smoothly, learnt from how long frames take. */
import { create } from "zustand";

/** What is drawn in full on any machine, and on none is more. */
export const [FEWEST, MOST] = [300_000, 20_000_000];
/** What is begun with where nothing has been learnt yet. */
const FIRST = 2_000_000;
/** Frames that take longer are too slow, quicker ones leave room for more; and what is aimed at, milliseconds. */
const [SLOW, QUICK, AIM] = [220, 40, 90];
/** A number of triangles that differs by more than this share from what was measured last is measured anew. */
const NEWS = 0.1;
const KEPT = "clothesline.triangles";

/** The first frame of something new, which is measured with all that it brings, says enough when it takes so long. */
const HOPELESS = 1500;

const within = (triangles: number): number => Math.round(Math.min(MOST, Math.max(FEWEST, triangles)));

function remembered(): number {
  const kept = typeof localStorage === "undefined" ? NaN : Number(localStorage.getItem(KEPT));
  return kept > 0 ? within(kept) : FIRST;
}

/** The triangles that placements may take in full. */
export const usePace = create<{ triangles: number }>()(() => ({ triangles: remembered() }));

/** Where nothing has been learnt yet, one that draws without hardware begins with little. */
export function beginOn(software: boolean): void {
  const learnt = typeof localStorage !== "undefined" && localStorage.getItem(KEPT) !== null;
  if (!learnt && software) usePace.setState({ triangles: FEWEST });
}

let last = 0;

/** Whether a frame of so many triangles is worth measuring: there are many, and other ones than before. */
export const isNews = (drawn: number): boolean => drawn > FEWEST && Math.abs(drawn - last) > NEWS * last;

/** Whether a frame that also handed over what is new, and threw its shadows, is too slow whatever came of that. */
export const isHopeless = (ms: number): boolean => ms > HOPELESS;

/** Takes in that a frame of so many triangles took so long, and whether more are waiting to be drawn in full. */
export function learn(drawn: number, ms: number, more: boolean): void {
  last = drawn;
  const { triangles } = usePace.getState();
  const next = paceAfter(triangles, drawn, ms, more);
  if (next === triangles) return;
  usePace.setState({ triangles: next });
  if (typeof localStorage !== "undefined") localStorage.setItem(KEPT, String(next));
}

/** What may be drawn after such a frame. */
export function paceAfter(triangles: number, drawn: number, ms: number, more: boolean): number {
  if (ms > SLOW) return within(Math.min(triangles, (drawn * AIM) / ms));
  return ms < QUICK && more ? within(2 * triangles) : triangles;
}
