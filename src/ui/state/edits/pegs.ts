/** Edits of single placements by hand: pegs on slots, and placements added besides them. */
import { familyOf, isFamily, type Line } from "@/core/line";
import {
  ADDED,
  addedKey,
  hexOf,
  keyOfHex,
  kindOf,
  lineKey,
  lineNumberOfKey,
  nextAdded,
  onOf,
  sownBy,
} from "@/core/place";
import type { Dressing, FlatPlace, Key, Peg } from "@/core/place";
import type { Vec3 } from "@/core/math";
import { lineRunning, ownerOfLine } from "../families";
import { useResults } from "../results";
import { editDressing, scene } from "./common";
import { sownAmong, writeGathered } from "./sown";
import type { Draft } from "immer";

/** The lines that a dressing runs along, each with the number that its keys have there. */
function linesOf({ id, where }: Dressing): readonly Pick<Line, "id" | "number">[] {
  const { lines } = scene();
  const placed = useResults.getState().byDressing.get(id)?.placements;
  if (!placed || !where.lines.some((own) => isFamily(lines.find((line) => line.id === own)))) return lines;
  const numbers = new Map<string, number>();
  for (let i = 0; i < placed.count; i++) numbers.set(placed.lines[placed.line[i]], lineNumberOfKey(placed.key[i]));
  return [...numbers].map(([line, number]) => ({ id: line, number }));
}

/** Writes into the draft what pegs at the given keys say; an edit that leaves a peg with nothing to say takes it off. */
export function writePegs(
  dressing: Draft<Dressing>,
  keys: Iterable<Key>,
  edit: (peg: Draft<Peg>, key: Key) => void,
): void {
  const { pegs } = dressing;
  const lines = linesOf(dressing as Dressing);
  for (const key of keys) {
    const hex = hexOf(key);
    const on = onOf(dressing as Dressing, key, lines);
    if (on === undefined) continue;
    const peg: Draft<Peg> = pegs[hex] ?? { on };
    edit(peg, key);
    if (says(peg)) pegs[hex] ??= peg;
    else delete pegs[hex];
  }
}

function says({ at, point, uv, flat, turn, size, stretch, prop, removed, added }: Draft<Peg>): boolean {
  const placed = [at, point, uv, flat].some((place) => place !== undefined);
  // What was added by hand stands nowhere without its place, and is gone when it is taken away.
  return added
    ? placed && !removed
    : [turn, size, stretch, prop].some((value) => value !== undefined) || placed || removed === true;
}

export function setPegs(
  dressing: string,
  keys: Iterable<Key>,
  label: string,
  edit: (peg: Draft<Peg>, key: Key) => void,
): void {
  const list = [...keys];
  editDressing(dressing, label, (draft) => writePegs(draft, list, edit));
}

/** Placements are no more there: what was added or sown by hand at all, slots of the rules as pegs that say so. */
export function takeAway(dressing: Draft<Dressing>, keys: readonly Key[]): void {
  const sown = sownAmong(keys);
  if (sown.size > 0) writeGathered(dressing, sown);
  const others = keys.filter((key) => sownBy(key) === null);
  writePegs(dressing, others, (peg) => void (peg.removed = true));
}

export function removePlacements(dressing: string, keys: Iterable<Key>): void {
  const list = [...keys];
  editDressing(dressing, "Leave blank", (draft) => takeAway(draft, list));
}

export const swapPlacements = (dressing: string, keys: Iterable<Key>, prop: string): void =>
  setPegs(dressing, keys, "Swap prop", (peg) => {
    peg.prop = prop;
    delete peg.removed;
  });

/** Turns placements by so much about their own up, radians; a whole turn is none. */
export function turnPlacements(dressing: string, keys: Iterable<Key>, by: number): void {
  const list = [...keys];
  const turn = (draft: Draft<Dressing>) => writePegs(draft, list, (peg) => setTurn(peg, turnOf(peg) + by));
  editDressing(dressing, "Turn placement", turn, `turn ${dressing}`);
}

/** By how much a placement is turned by hand: about its own up, or about what it hangs on. */
export const turnOf = ({ hangs, turn = 0 }: Pick<Draft<Peg> | Peg, "hangs" | "turn">): number => hangs?.turn ?? turn;

/** Writes a turn into a peg, from half a turn back to half a turn on, in hundredths of a degree. */
export function setTurn(peg: Draft<Peg>, turn: number): void {
  const steps = 18_000 / Math.PI;
  const rounded = Math.round(Math.atan2(Math.sin(turn), Math.cos(turn)) * steps) / steps;
  if (peg.hangs) return void (peg.hangs.turn = rounded);
  if (rounded === 0) delete peg.turn;
  else peg.turn = rounded;
}

/** Lets loose placements hang by nothing any more; they stand upright where they hung. */
export const unhook = (dressing: string, keys: Iterable<Key>): void =>
  setPegs(dressing, keys, "Unhook", (peg) => void delete peg.hangs);

/** Writes into a peg how many times as large it is by hand. */
export function setSize(peg: Draft<Peg>, size: number): void {
  if (size === 1) delete peg.size;
  else peg.size = size;
}

/** Writes into a peg how many times as wide (0), high (1) or deep (2) it is by hand. */
export function setStretch(peg: Draft<Peg>, axis: number, times: number): void {
  const stretch: [number, number, number] = [...(peg.stretch ?? AS_IT_IS)];
  stretch[axis] = times;
  if (stretch.every((one) => one === 1)) delete peg.stretch;
  else peg.stretch = stretch;
}

const AS_IT_IS = [1, 1, 1] as const;

/** What the peg at a key of one of a dressing's placements says; undefined where there is none. */
export const pegAt = ({ pegs }: Dressing, key: Key): Peg | undefined => pegs[hexOf(key)];

/** Takes pegs off; what was added by hand goes with its peg. */
export const unpeg = (dressing: string, keys: Iterable<Key>): void =>
  setPegs(dressing, keys, "Take peg off", (peg) => {
    delete peg.at;
    delete peg.point;
    delete peg.flat;
    delete peg.turn;
    delete peg.size;
    delete peg.stretch;
    delete peg.prop;
    delete peg.removed;
  });

export const unpegAll = (dressing: string): void =>
  editDressing(dressing, "Take all pegs off", (draft) => void (draft.pegs = {}));

/** Takes off all pegs of what lies on a line or field; those of a flat layout are for whatever carries it next. */
export function dropPegs({ pegs }: Draft<Dressing>, on: string): void {
  for (const [hex, peg] of Object.entries(pegs))
    if ((peg.on === on || familyOf(peg.on) === on) && !peg.flat) delete pegs[hex];
}

/** The keys of all pegs of a dressing. */
export const peggedKeys = ({ pegs }: Dressing): Key[] => Object.keys(pegs).map(keyOfHex);

/** A placement to be added: a prop at a place of a line. */
export interface Added {
  line: string;
  at: number;
  prop: string;
}

/** Writes placements into the draft besides those of the rules; gives their keys, null for lines that have gone. */
export function writeAdded(dressing: Draft<Dressing>, added: readonly Added[]): (Key | null)[] {
  return added.map(({ line: on, at, prop }) => {
    const line = lineRunning(scene().lines, on);
    // Of a family they are counted together, so that no two have one key whatever numbers its members have.
    const family = line && ownerOfLine(scene().lines, on);
    const number = nextAdded(dressing.pegs, (peg) => peg.on === on || familyOf(peg.on) === family);
    if (!line || number > ADDED.max) return null;
    const key = lineKey(line.number, number);
    dressing.pegs[hexOf(key)] = { on, at: Math.max(0, at), prop, added: true };
    return key;
  });
}

/** Writes into the draft a placement on a field besides those of the rules; gives its key. */
export function writeAddedOn(
  dressing: Draft<Dressing>,
  { field, point, flat, prop }: { field: string; point: Vec3; flat?: FlatPlace | null; prop: string },
): Key {
  const key = addedKey(nextAdded(dressing.pegs, () => true));
  const where = flat ? { flat: [...flat] as [number, number] } : { point: [...point] as [number, number, number] };
  dressing.pegs[hexOf(key)] = { on: field, ...where, prop, added: true };
  return key;
}

/** The id of the field that a placement stands on, by its key; null for what stands on a line. */
export const fieldOf = (dressing: Dressing, key: Key): string | null =>
  kindOf(dressing.where).ordered ? null : (onOf(dressing, key, []) ?? null);
