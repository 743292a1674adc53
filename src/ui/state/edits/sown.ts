/** What an artist sows by hand and gathers again: a packed block of places a stroke. */
import {
  hexOf,
  keyOfHex,
  kindOf,
  LOOSE,
  MOST_SOWN,
  MOST_STROKES,
  packed,
  PLACE,
  sownBy,
  sownKey,
  unpacked,
  without,
  type Dressing,
  type Key,
  type Sowing,
} from "@/core/place";
import { MAX_LINE_NUMBER } from "@/core/line";
import { subtract, type Vec3 } from "@/core/math";
import type { Scene } from "@/core/scene";
import { editDressing, inField } from "./common";
import type { Draft } from "immer";

/** What one stroke has sown so far on one surface. */
type Block = Omit<Sowing, "number">;

/** *What a stroke sows, gathered up as the hand is led*: on each surface that it comes over a block. */
export class SownStroke {
  readonly #blocks = new Map<string, Block>();
  /** How many more places and strokes the dressing can take. */
  readonly #room: { places: number; strokes: number };
  #count = 0;

  /** @param dressing what it is sown into; null for a new one */
  constructor(dressing: Pick<Dressing, "sown"> | null) {
    this.#room = roomIn(dressing?.sown ?? []);
  }

  /** Whether there may be no more. */
  get isFull(): boolean {
    const { places, strokes } = this.#room;
    return this.#count >= places || strokes <= 0;
  }

  get blocks(): readonly Block[] {
    return [...this.#blocks.values()];
  }

  /** Takes in places as they are seen, in the world. */
  add(scene: Pick<Scene, "surfaces">, places: readonly { on: string; point: Vec3 }[]): void {
    for (const { on, point } of places) {
      let block = this.#blocks.get(on);
      if (this.#count >= this.#room.places || (!block && this.#blocks.size >= this.#room.strokes)) continue;
      const own = inField(scene, on, point);
      if (!block) this.#blocks.set(on, (block = { on, from: own, places: "" }));
      block.places += packed(subtract(own, block.from));
      this.#count++;
    }
  }
}

/** Writes what a stroke has sown so far into the draft, with the surfaces that it came over where things are pinned to any. */
export function writeSown(dressing: Draft<Dressing>, { blocks }: SownStroke): void {
  const { where, sown } = dressing;
  for (const block of blocks) {
    sown.push({ ...block, from: [...block.from], number: nextStroke(dressing as Dressing) });
    const pins = kindOf(where as Dressing["where"]).pins && block.on !== LOOSE;
    if (pins && !where.surfaces.includes(block.on)) where.surfaces.push(block.on);
  }
}

/** The number after all that there are; once those have run out, the first that is free. */
export function nextStroke({ sown }: Pick<Dressing, "sown">): number {
  const taken = new Set(sown.map(({ number }) => number));
  let number = sown.reduce((most, one) => Math.max(most, one.number), 0) + 1;
  if (number > MAX_LINE_NUMBER) for (number = 1; taken.has(number);) number++;
  return number;
}

const roomIn = (sown: Dressing["sown"]) => ({
  places: MOST_SOWN - sown.reduce((sum, { places }) => sum + places.length / PLACE, 0),
  strokes: MOST_STROKES - sown.length,
});

/** Writes copies of what was sown on a surface onto another one, as far as the dressing can take them. */
export function writeSownCopies(dressing: Draft<Dressing>, from: string, to: string): void {
  for (const one of dressing.sown.filter(({ on }) => on === from)) {
    const { places, strokes } = roomIn(dressing.sown as Dressing["sown"]);
    if (strokes <= 0 || places < one.places.length / PLACE) return;
    dressing.sown.push({ ...one, on: to, number: nextStroke(dressing as Dressing) });
  }
}

/** The places of some keys that were sown, by the numbers of their strokes. */
export function sownAmong(keys: Iterable<Key>): Map<number, number[]> {
  const found = new Map<number, number[]>();
  for (const key of keys) {
    const by = sownBy(key);
    if (!by) continue;
    const indices = found.get(by.number);
    if (indices) indices.push(by.index);
    else found.set(by.number, [by.index]);
  }
  return found;
}

/** Takes places out of the draft, with the pegs that they had. */
export function writeGathered(
  dressing: Draft<Dressing>,
  taken: ReadonlyMap<number, readonly number[] | ReadonlySet<number>>,
): void {
  dressing.sown = dressing.sown.flatMap((sowing) => {
    const gone = taken.get(sowing.number);
    if (!gone) return [sowing];
    for (const index of gone) delete dressing.pegs[hexOf(sownKey(sowing.number, index))];
    const places = without(sowing.places, gone);
    return places === "" ? [] : [{ ...sowing, places }];
  });
}

/** Takes away all that some strokes have sown; of all strokes where none are named. */
export function gatherAll(id: string, label: string, strokes?: readonly number[]): void {
  editDressing(id, label, (dressing) => {
    const isGone = (number: number): boolean => strokes?.includes(number) ?? true;
    dressing.sown = dressing.sown.filter(({ number }) => !isGone(number));
    for (const hex of Object.keys(dressing.pegs)) {
      const by = sownBy(keyOfHex(hex));
      if (by && isGone(by.number)) delete dressing.pegs[hex];
    }
  });
}

/** What was sown on a surface, put somewhere else: its places, each as `where` says. */
export function movedSowing(sowing: Sowing, on: string, where: (own: Vec3) => Vec3): Sowing {
  const { from, places } = sowing;
  const [x, y, z] = where(from);
  const offsets = unpacked(places);
  for (let p = 0; p < offsets.length; p += 3) {
    const at = where([from[0] + offsets[p], from[1] + offsets[p + 1], from[2] + offsets[p + 2]]);
    offsets.set([at[0] - x, at[1] - y, at[2] - z], p);
  }
  return { ...sowing, on, from: [x, y, z], places: packed(offsets) };
}
