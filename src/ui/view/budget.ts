/** How many placements the view draws in full, and how many as boxes, so that it stays quick; and what it says of that. */
import type { Prop } from "@/core/scene";
import type { DressingResult } from "@/engine/engine";
import { membersOf, type Members } from "./placed";

/** So many boxes are drawn for what goes beyond what is drawn in full. */
export const MOST_BOXES = 1_000_000;

/** How many of the placements of one prop in one dressing are drawn in full, and as boxes; the rest is not drawn. */
export interface Share {
  full: number;
  boxes: number;
}

export interface Budget {
  /** By dressing, and there by the index of the prop. */
  shares: ReadonlyMap<string, readonly Share[]>;
  count: number;
  triangles: number;
  full: number;
  boxes: number;
}

export const sizeOfMembers = ({ plain, mirrored, shaped }: Members): number =>
  plain.length + mirrored.length + shaped.length;

/** Shares out what can be drawn, dressing by dressing in the artist's order. */
export function shareOut(
  results: Iterable<DressingResult>,
  props: readonly Prop[],
  limits: { triangles: number; boxes: number },
): Budget {
  const each = new Map(props.map((prop) => [prop.id, prop.triangles]));
  const shares = new Map<string, Share[]>();
  const budget = { count: 0, triangles: 0, full: 0, boxes: 0 };
  let [room, boxRoom] = [limits.triangles, limits.boxes];
  for (const { id, placements } of results) {
    const members = membersOf(placements);
    shares.set(
      id,
      placements.props.map((prop, index) => {
        const count = sizeOfMembers(members[index]);
        const triangles = each.get(prop) ?? 0;
        const full = Math.min(count, Math.floor(room / Math.max(1, triangles)));
        const boxes = Math.min(count - full, boxRoom);
        room -= full * triangles;
        boxRoom -= boxes;
        budget.count += count;
        budget.triangles += count * triangles;
        budget.full += full;
        budget.boxes += boxes;
        return { full, boxes };
      }),
    );
  }
  return { shares, ...budget };
}
