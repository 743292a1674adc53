/**
 * Pegs of version 5: a list, in which each named its line and the number of its slot. From version 6 on they are written by
 * their keys. Along lines both say the same. Over surfaces and in volumes slots were numbered by what was found there, so those
 * pegs are kept as they are until it is known where their slots were; see `place/version-5/`.
 */
import { addedKey, hexOf, lineKey, slotOfOld } from "../place";

type Json = Record<string, unknown>;

const isObject = (value: unknown): value is Json =>
  typeof value === "object" && value !== null && !Array.isArray(value);
const listOf = (value: unknown): Json[] => (Array.isArray(value) ? value.filter(isObject) : []);

/** A line that has gone has no number: its pegs get this one, which no line has. */
const GONE = 0;

export function pegsByKey(scene: Json): Json {
  const lines = new Map(listOf(scene.lines).map((line) => [line.id, line]));
  const dressings = Array.isArray(scene.dressings)
    ? scene.dressings.map((one) => (isObject(one) && Array.isArray(one.pegs) ? keyed(one, lines) : one))
    : scene.dressings;
  return { ...scene, version: 6, dressings };
}

function keyed(dressing: Json, lines: ReadonlyMap<unknown, Json>): Json {
  const along = !isObject(dressing.where) || (dressing.where.kind ?? "along") === "along";
  const pegs: Json = {};
  const oldPegs: Json[] = [];
  for (const peg of listOf(dressing.pegs)) {
    const { line: on, slot, ...says } = peg;
    const at = typeof slot === "number" && Number.isInteger(slot) ? slot : NaN;
    if (along) {
      const line = lines.get(on);
      const old = slotOfOld(at, listOf(line?.knots).length);
      if (!old) continue;
      let place = old.slot;
      const number = typeof line?.number === "number" ? line.number : GONE;
      while (number === GONE && hexOf(lineKey(GONE, place, old.row)) in pegs) place++;
      pegs[hexOf(lineKey(number, place, old.row))] = { on, ...says };
    } else if (says.added === true && at >= 0) pegs[hexOf(addedKey(at))] = { on, ...says };
    else oldPegs.push(peg);
  }
  return { ...dressing, pegs, oldPegs };
}
