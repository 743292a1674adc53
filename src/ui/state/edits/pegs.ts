/** Edits of single placements by hand: pegs on slots, and placements added besides them. */
import {
  kindOf,
  ADDED,
  ADDED_TAG,
  keyOf,
  lineNumberOfKey,
  localOfKey,
  MAX_LOCAL,
  overKey,
  slotOfKey,
  tagOfKey,
  tagsOf,
  type Dressing,
  type Peg,
} from "@/core/place";
import type { Line } from "@/core/line";
import type { Vec3 } from "@/core/math";
import { editDressing, scene } from "./common";
import type { Draft } from "immer";

type Slot = Pick<Peg, "line" | "slot" | "added">;

/** The line or field and the slot that a key of one of a dressing's placements stands for. */
function slotOf({ where, pegs }: Pick<Dressing, "where" | "pegs">, key: number): Slot | null {
  if (!kindOf(where).ordered) {
    const [tag, slot] = [tagOfKey(key), localOfKey(key)];
    if (tag === ADDED_TAG) {
      const peg = pegs.find((one) => one.added && one.slot === slot);
      return peg ? { line: peg.line, slot, added: true } : null;
    }
    const field = [...tagsOf(where)].find(([, own]) => own === tag);
    return field ? { line: field[0], slot } : null;
  }
  const line = scene().lines.find((l) => l.number === lineNumberOfKey(key));
  return line ? { line: line.id, slot: slotOfKey(key) } : null;
}

/** Writes into the draft what pegs at the given keys say; an edit that leaves a peg with nothing to say takes it off. */
export function writePegs(
  dressing: Draft<Dressing>,
  keys: Iterable<number>,
  edit: (peg: Draft<Peg>, key: number) => void,
): void {
  const over = !kindOf(dressing.where).ordered;
  // Over fields the numbers of what is added by hand are their own.
  const name = (peg: Slot) => `${peg.line} ${peg.slot} ${over && peg.added === true}`;
  const byName = new Map(dressing.pegs.map((peg) => [name(peg), peg]));
  for (const key of keys) {
    const slot = slotOf(dressing as Dressing, key);
    if (!slot) continue;
    const peg: Draft<Peg> = byName.get(name(slot)) ?? { ...slot };
    edit(peg, key);
    byName.set(name(slot), peg);
  }
  const says = ({ at, point, turn, prop, removed, added }: Draft<Peg>) => {
    const placed = at !== undefined || point !== undefined;
    // What was added by hand stands nowhere without its place, and is gone when it is taken away.
    return added ? placed && !removed : placed || turn !== undefined || prop !== undefined || removed;
  };
  const next = [...byName.values()].filter(says);
  // Pegs that were there are changed in place; a list of the same ones is no change.
  if (next.length !== dressing.pegs.length || next.some((peg, i) => peg !== dressing.pegs[i])) dressing.pegs = next;
}

export function setPegs(
  dressing: string,
  keys: Iterable<number>,
  label: string,
  edit: (peg: Draft<Peg>, key: number) => void,
): void {
  const list = [...keys];
  editDressing(dressing, label, (draft) => writePegs(draft, list, edit));
}

export const removePlacements = (dressing: string, keys: Iterable<number>): void =>
  setPegs(dressing, keys, "Leave blank", (peg) => {
    peg.removed = true;
  });

export const swapPlacements = (dressing: string, keys: Iterable<number>, prop: string): void =>
  setPegs(dressing, keys, "Swap prop", (peg) => {
    peg.prop = prop;
    delete peg.removed;
  });

/** Turns placements by so much about their own up, radians; a whole turn is none. */
export function turnPlacements(dressing: string, keys: Iterable<number>, by: number): void {
  const list = [...keys];
  const turn = (draft: Draft<Dressing>) => writePegs(draft, list, (peg) => setTurn(peg, (peg.turn ?? 0) + by));
  editDressing(dressing, "Turn placement", turn, `turn ${dressing}`);
}

/** Writes a turn into a peg, from half a turn back to half a turn on, in hundredths of a degree. */
export function setTurn(peg: Draft<Peg>, turn: number): void {
  const steps = 18_000 / Math.PI;
  const rounded = Math.round(Math.atan2(Math.sin(turn), Math.cos(turn)) * steps) / steps;
  if (rounded === 0) delete peg.turn;
  else peg.turn = rounded;
}

/** What the peg at a key of one of a dressing's placements says; undefined where there is none. */
export function pegAt(dressing: Dressing, key: number): Peg | undefined {
  const slot = slotOf(dressing, key);
  return slot === null
    ? undefined
    : dressing.pegs.find((peg) => peg.line === slot.line && peg.slot === slot.slot && !peg.added === !slot.added);
}

/** Takes pegs off; what was added by hand goes with its peg. */
export const unpeg = (dressing: string, keys: Iterable<number>): void =>
  setPegs(dressing, keys, "Take peg off", (peg) => {
    delete peg.at;
    delete peg.point;
    delete peg.turn;
    delete peg.prop;
    delete peg.removed;
  });

export const unpegAll = (dressing: string): void =>
  editDressing(dressing, "Take all pegs off", (draft) => void (draft.pegs = []));

/** The keys of all pegs of a dressing. */
export function peggedKeys(dressing: Dressing, lines: readonly Line[]): number[] {
  if (!kindOf(dressing.where).ordered) {
    const tags = tagsOf(dressing.where);
    return dressing.pegs.flatMap(({ line, slot, added }) => {
      const tag = added ? ADDED_TAG : tags.get(line);
      return tag === undefined || slot < 0 ? [] : [overKey(tag, slot)];
    });
  }
  const numberOf = new Map(lines.map((line) => [line.id, line.number]));
  return dressing.pegs.flatMap((peg) => {
    const number = numberOf.get(peg.line);
    return number === undefined ? [] : [keyOf(number, peg.slot)];
  });
}

/** A placement to be added: a prop at a place of a line. */
export interface Added {
  line: string;
  at: number;
  prop: string;
}

/** Writes placements into the draft besides those of the rules; gives their slots, null for lines that have no more room. */
export function writeAdded(dressing: Draft<Dressing>, added: readonly Added[]): (number | null)[] {
  const next = new Map<string, number>();
  for (const peg of dressing.pegs) {
    if (peg.added) next.set(peg.line, Math.max(next.get(peg.line) ?? ADDED.min, peg.slot + 1));
  }
  return added.map(({ line, at, prop }) => {
    const slot = next.get(line) ?? ADDED.min;
    if (slot > ADDED.max) return null;
    next.set(line, slot + 1);
    dressing.pegs.push({ line, slot, at: Math.max(0, at), prop, added: true });
    return slot;
  });
}

/** Writes into the draft a placement on a field besides those of the rules; gives its key, or null where there is no more room. */
export function writeAddedOn(
  dressing: Draft<Dressing>,
  { field, point, prop }: { field: string; point: Vec3; prop: string },
): number | null {
  const slot = 1 + dressing.pegs.reduce((most, peg) => (peg.added ? Math.max(most, peg.slot) : most), 0);
  if (slot > MAX_LOCAL) return null;
  dressing.pegs.push({ line: field, slot, point: [...point], prop, added: true });
  return overKey(ADDED_TAG, slot);
}

/** The id of the field that a placement stands on, by its key; null for what stands on a line. */
export const fieldOf = (dressing: Dressing, key: number): string | null =>
  kindOf(dressing.where).ordered ? null : (slotOf(dressing, key)?.line ?? null);
