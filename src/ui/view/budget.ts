/** How many placements the view draws in full, and how many as boxes, so that it stays quick; and what it says of that. */
import type { Prop } from "@/core/scene";
import type { ShownResult } from "@/engine/engine";
import { wholeOf } from "../state";
import { chunksOf, sizeOfChunks } from "./placed";

/** So many boxes are drawn at most for what goes beyond what is drawn in full, and one for so many triangles that may be. */
const MOST_BOXES = 1_000_000;
const PER_BOX = 40;

/** How many boxes a machine draws smoothly that draws so many triangles. */
export const boxesFor = (triangles: number): number => Math.min(MOST_BOXES, Math.floor(triangles / PER_BOX));

/** How many of the placements of one prop in one dressing are drawn in full, lightly, and as boxes; the rest as points. */
export interface Share {
  full: number;
  /** By the prop's light version. */
  light: number;
  boxes: number;
}

export interface Budget {
  /** By dressing, and there by the index of the prop. */
  shares: ReadonlyMap<string, readonly Share[]>;
  count: number;
  triangles: number;
  full: number;
  light: number;
  boxes: number;
}

/** Shares out what can be drawn, dressing by dressing in the artist's order. */
export function shareOut(
  results: Iterable<ShownResult>,
  props: readonly Prop[],
  limits: { triangles: number; boxes: number },
): Budget {
  const each = new Map(props.map((prop) => [prop.id, prop]));
  const shares = new Map<string, Share[]>();
  const budget = { count: 0, triangles: 0, full: 0, light: 0, boxes: 0 };
  let [room, boxRoom] = [limits.triangles, limits.boxes];
  for (const result of results) {
    const { id, drawn } = result;
    shares.set(
      id,
      wholeOf(result).props.map((prop, index) => {
        const count = sizeOfChunks(drawn, chunksOf(drawn, index));
        const { triangles = 0, light: lighter = null } = each.get(prop) ?? {};
        // Where there is not room for all in full, half of it goes to those in full and the rest to the light ones.
        const short = lighter !== null && count * triangles > room;
        const full = Math.min(count, Math.floor((short ? room / 2 : room) / Math.max(1, triangles)));
        room -= full * triangles;
        const light = lighter ? Math.min(count - full, Math.floor(room / Math.max(1, lighter.triangles))) : 0;
        room -= light * (lighter?.triangles ?? 0);
        const boxes = Math.min(count - full - light, boxRoom);
        boxRoom -= boxes;
        budget.count += count;
        budget.triangles += count * triangles;
        budget.full += full;
        budget.light += light;
        budget.boxes += boxes;
        return { full, light, boxes };
      }),
    );
  }
  return { shares, ...budget };
}
