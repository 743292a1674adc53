/** Keeps props clear of each other: what would overlap one that is already there is left out, or pushed on along its line. */
import { byMesh } from "../bodies";
import { Boxes } from "../boxes";
import { FLAG, NO_PROP, type Slots } from "../slots";
import { takeOver, type Crowd } from "./others";
import type { Placed } from "../compose";
import type { Body } from "../../mesh";
import type { Clearing } from "./schema";

/** A push goes on by this share of the prop's own length at a time, and tries so often. */
const STEP = 0.125;
const MAX_TRIES = 200;
/** It then goes back by halves so often: to a thirty-thousandth of the prop's length. */
const HALVINGS = 12;
/** Puts the placement of slot `i` so many metres farther along; false where its line ends. */
export type Push = (i: number, by: number) => boolean;

/**
 * Who is kept clear of whom: all of all, where pegged ones come first and stay, or each of those before it, where all are put by
 * hand; or of other dressings alone.
 */
export type Among = "all" | "all in turn" | "others";

/**
 * Marks in `flags` the placements that give way. Of two the earlier stays; see {@link Among}.
 *
 * @param near the slots that need a look, see `near.ts`; null for all
 * @param boxes of the dressing's props: 6 numbers a prop
 * @param bodies of the dressing's props, and behind them those of the other dressings', where meshes are compared
 * @param crowd the same placements together with those of other dressings, which all stay
 */
export function keepClear(
  { clear, clearBy, clearance }: Clearing,
  slots: Slots,
  placed: Placed,
  flags: Uint16Array,
  near: Uint32Array | null,
  boxes: Float64Array,
  bodies: readonly (Body | undefined)[] | null,
  push: Push,
  crowd: Crowd | null = null,
  among: Among = "all",
): void {
  if (clear === "off") return;
  const { prop } = slots;
  const pushes = clearBy === "push";
  // What is pushed may come to where nobody was near.
  const members = looked(slots, flags, pushes || crowd ? null : near);
  const standing = crowd ?? { ...placed, prop, flags };
  const exactly = bodies && byMesh(standing, bodies, clearance);
  const all = crowd
    ? new Boxes(crowd, joined(members, crowd.others), crowd.boxes, clear, clearance, exactly)
    : new Boxes(standing, members, boxes, clear, clearance, exactly);
  for (let k = 0; crowd && k < crowd.others.length; k++) all.put(members.length + k);
  const last = new Map<number, number>();
  const rowOf = (i: number): number => 64 * slots.line[i] + slots.row[i];
  const stays = (i: number) => among === "all" && (flags[i] & FLAG.pegged) !== 0;
  for (let k = 0; k < members.length; k++) if (stays(members[k])) all.put(k);
  for (let k = 0; k < members.length; k++) {
    const i = members[k];
    if (stays(i)) continue;
    if (all.hit(k) < 0) {
      if (among !== "others") all.put(k);
      last.set(rowOf(i), i);
      continue;
    }
    flags[i] |= FLAG.crowded;
    const moved = (by: number): boolean => {
      if (!push(i, by)) return false;
      if (crowd) takeOver(crowd, placed, i);
      all.set(k);
      return true;
    };
    const length = placed.reach[2 * i] + placed.reach[2 * i + 1];
    // Whoever stands before it in its row has been pushed on to there.
    const least = Math.max(0, placed.at[last.get(rowOf(i)) ?? i] - placed.at[i]);
    if (pushes && pushedClear(moved, () => all.hit(k) < 0, least, length)) {
      all.put(k);
      last.set(rowOf(i), i);
      continue;
    }
    flags[i] |= FLAG.blank;
    if (pushes) push(i, 0);
  }
}

function joined(a: Uint32Array, b: Uint32Array): Uint32Array {
  const out = new Uint32Array(a.length + b.length);
  out.set(a);
  out.set(b, a.length);
  return out;
}

/** The slots whose props are looked at: those of the candidates that stand, or of all. */
function looked({ count, prop }: Slots, flags: Uint16Array, candidates: Uint32Array | null): Uint32Array {
  const most = candidates ? candidates.length : count;
  const members = new Uint32Array(most);
  let n = 0;
  for (let k = 0; k < most; k++) {
    const i = candidates ? candidates[k] : k;
    if (prop[i] !== NO_PROP && !(flags[i] & FLAG.blank)) members[n++] = i;
  }
  return members.subarray(0, n);
}

/** Moves a placement on by at least so much until it is clear, and then back as near as it can stand; false where it cannot. */
function pushedClear(moved: (by: number) => boolean, isClear: () => boolean, least: number, length: number): boolean {
  const step = STEP * Math.max(1e-3, length);
  let tries = 1;
  while (tries <= MAX_TRIES) {
    if (!moved(least + tries * step)) return false;
    if (isClear()) break;
    tries++;
  }
  if (tries > MAX_TRIES) return false;
  let [low, high] = [least + (tries - 1) * step, least + tries * step];
  for (let k = 0; k < HALVINGS; k++) {
    const middle = (low + high) / 2;
    moved(middle);
    if (isClear()) high = middle;
    else low = middle;
  }
  return moved(high);
}
