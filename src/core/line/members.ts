/**
 * *The members of a family*: for every pair of places a line of its own, which is known by its pair. A member is an ordinary
 * line, and is treated as one wherever lines are.
 */
import { add, distance, hashText, scale, subtract, type Vec3 } from "../math";
import type { Between } from "./between";
import { laidOf, MAX_LINE_NUMBER, type Line } from "./schema";

/** Two places to go between. */
export interface Pair {
  /** What it is known by: the same as long as it is the same pair. */
  name: string;
  from: Vec3;
  to: Vec3;
}

/** What a family comes to. */
export interface Members {
  lines: readonly Line[];
  /** How many pairs lie too near to each other for anything to go between them. */
  tooNear: number;
  /** How many more pairs there are than may be. */
  beyond: number;
  /** What it goes between hangs on it in turn, so there are none. */
  inCircle: boolean;
}

export const NO_MEMBERS: Members = { lines: [], tooNear: 0, beyond: 0, inCircle: false };

/** A family has no more members than this. */
export const MOST_MEMBERS = 20_000;

const BETWEEN = "/";
/** The id of a member. */
export const memberId = (family: string, pair: string): string => `${family}${BETWEEN}${pair}`;
/** The id of the family that a member's id names; null where it is none. */
export function familyOf(member: string): string | null {
  const cut = member.lastIndexOf(BETWEEN);
  return cut > 0 ? member.slice(0, cut) : null;
}

/** What a member is called, counted from 0. */
export const nameOfMember = (family: string, i: number): string => `${family} ${i + 1}`;

/** Numbers of members lie in the upper half; those that fall together are told apart by {@link distinctNumbers}. */
const FIRST_NUMBER = 2 ** 19;

/** A short name for what is said at length. */
export const shortName = (said: string): string =>
  [hashText(`a${said}`), hashText(`b${said}`)].map((word) => (word >>> 0).toString(16).padStart(8, "0")).join("");

/** Ends nearer than this, metres, are one place. */
const ONE_PLACE = 1e-9;

/** The members of a family for its pairs. */
export function membersOf(family: Between, pairs: readonly Pair[]): Members {
  const { clearFrom, clearTo } = family;
  const lines: Line[] = [];
  let tooNear = 0;
  for (const { name, from, to } of pairs.slice(0, MOST_MEMBERS)) {
    const far = distance(from, to);
    if (!(far - clearFrom - clearTo > ONE_PLACE) || far < ONE_PLACE) {
      tooNear++;
      continue;
    }
    const way = scale(subtract(to, from), 1 / far);
    lines.push(memberOf(family, name, add(from, scale(way, clearFrom)), subtract(to, scale(way, clearTo))));
  }
  return { lines, tooNear, beyond: Math.max(0, pairs.length - MOST_MEMBERS), inCircle: false };
}

/** The number that a member of a family wants for its keys, by the family's own. */
export const memberNumber = (family: number, pair: string): number =>
  FIRST_NUMBER + ((hashText(`${family} ${pair}`) >>> 0) % (MAX_LINE_NUMBER - FIRST_NUMBER));

function memberOf(family: Between, pair: string, from: Vec3, to: Vec3): Line {
  const shared = {
    id: memberId(family.id, pair),
    number: memberNumber(family.number, pair),
    name: "",
    knots: [
      { id: 0, position: from },
      { id: 1, position: to },
    ],
    courses: {},
    laid: null,
    drawnOn: [],
    ring: false,
    ringRadius: 0,
    marks: family.marks,
    marksFrom: family.marksFrom,
    marksPer: "line" as const,
  };
  if (family.form === "hanging") {
    const by = family.hangsBy === "sag" ? ("sag" as const) : ("length" as const);
    return { ...shared, kind: "hanging", by, sag: family.sag, length: family.longer * distance(from, to) };
  }
  if (family.form === "arched") {
    // A parabola through both ends and above the middle of their way, raised to the third degree.
    const top = add(scale(add(from, to), 0.5), [0, 2 * family.rise, 0]);
    const handle = (end: Vec3): Vec3 => scale(subtract(top, end), 2 / 3);
    const [first, last] = shared.knots;
    const knots = [
      { ...first, join: "free" as const, after: handle(from) },
      { ...last, join: "free" as const, before: handle(to) },
    ];
    return { ...shared, knots, kind: "bezier", closed: false };
  }
  return { ...shared, laid: laidOf(family), kind: "polyline", closed: false, cornerRadius: 0 };
}

/**
 * Numbers for lines of which no two are alike, each its own where no other wants that: of two that want one it goes to the one
 * whose id comes first, whichever of them was there before.
 */
export function distinctNumbers(lines: readonly { id: string; number: number }[]): number[] {
  const numbers = lines.map(({ number }) => number);
  if (new Set(numbers).size === numbers.length) return numbers;
  const taken = new Set<number>();
  const order = lines.map((_, i) => i).sort((a, b) => numbers[a] - numbers[b] || (lines[a].id < lines[b].id ? -1 : 1));
  const second: number[] = [];
  for (const i of order) {
    if (taken.has(numbers[i])) second.push(i);
    else taken.add(numbers[i]);
  }
  for (const i of second) {
    while (taken.has(numbers[i])) numbers[i] = numbers[i] >= MAX_LINE_NUMBER ? FIRST_NUMBER : numbers[i] + 1;
    taken.add(numbers[i]);
  }
  return numbers;
}
