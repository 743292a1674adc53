/** Checks: what can be wrong with a dressing, and where. */
import { FLAG, eachAmong, type Placements } from "../place";
import { allGiveWay } from "./all-give-way";
import { bare } from "./bare";
import { bentBadly } from "./bent-badly";
import { reliefs } from "./reliefs";
import { boxedGround } from "./boxed-ground";
import { floating } from "./floating";
import { flipped } from "./flipped";
import { folded } from "./folded";
import { footingOf } from "./footing";
import { byLine, rowsOf, standingRows } from "./rows";
import { inCircle } from "./in-circle";
import { leaps } from "./leaps";
import { lineTooShort } from "./line-too-short";
import { lostHold } from "./lost-hold";
import { lostTie } from "./lost-tie";
import { lostMask } from "./lost-mask";
import { noGround } from "./no-ground";
import { offSurface } from "./off-surface";
import { orphanPeg } from "./orphan-peg";
import { sownAstray } from "./sown-astray";
import { oddProp } from "./odd-prop";
import { outside } from "./outside";
import { overlapping } from "./overlapping";
import { pastEnd } from "./past-end";
import { POKING } from "./poking";
import { roleEmpty } from "./role-empty";
import { steep } from "./steep";
import { throughWalls } from "./through-walls";
import { sunk } from "./sunk";
import { tooClose } from "./too-close";
import { tightRack } from "./tight-rack";
import { tooMany } from "./too-many";
import { torn } from "./torn";
import { uneven } from "./uneven";
import type { Check, Checked, Finding } from "./finding";

export { spoken, type Finding, type Mend, type NameOf } from "./finding";
export { poking, type Wall } from "./poking";

/** All checks but the one for what pokes through, see `poking.ts`, in the order in which their findings are listed. */
const CHECKS: readonly Check[] = [
  oddProp,
  roleEmpty,
  lineTooShort,
  leaps,
  bare,
  allGiveWay,
  lostMask,
  tooMany,
  tightRack,
  orphanPeg,
  sownAstray,
  lostHold,
  lostTie,
  tooClose,
  overlapping,
  pastEnd,
  uneven,
  flipped,
  folded,
  bentBadly,
  reliefs,
  torn,
  outside,
  throughWalls,
  steep,
  offSurface,
  noGround,
  floating,
  sunk,
  inCircle,
  boxedGround,
];

export const CHECK_LABELS: Readonly<Record<string, string>> = Object.fromEntries(
  [...CHECKS, POKING].map((check) => [check.name, check.label]),
);

/** Everything that the checks find on one dressing. */
export function findings(checked: Omit<Checked, "footing" | "rows" | "slots">): Finding[] {
  const { placements } = checked;
  const all = rowsOf(placements);
  const [rows, slots] = [standingRows(placements, all), all].map((some) => byLine(placements, some));
  const whole = { ...checked, rows, slots, footing: footingOf(checked) };
  return CHECKS.flatMap((check) => check.find(whole));
}

/** All keys that findings name. */
export function keysNamed(found: readonly Pick<Finding, "keys">[]): BigUint64Array {
  const out = new BigUint64Array(found.reduce((sum, { keys }) => sum + keys.length, 0));
  let filled = 0;
  for (const { keys } of found) {
    out.set(keys, filled);
    filled += keys.length;
  }
  return out;
}

/** The flags of placements with those marked that findings name. */
export function flagged(
  { key, flags }: Pick<Placements, "key" | "flags">,
  found: readonly Pick<Finding, "keys">[],
): Uint16Array {
  const out = flags.slice();
  eachAmong(key, keysNamed(found), (i) => (out[i] |= FLAG.finding));
  return out;
}
