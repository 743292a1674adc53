/**
 * *Slots that stand behind each other, on each other and on levels*: each slot of a row becomes a column. Which props stand there,
 * and how many, is told from the slot's own draws, so that another depth deals none anew.
 */
import { CHANNEL, drawFrom, finish, mix, quatAt, streamOf, type Vec3 } from "../../math";
import { choose } from "../spacing/spacing";
import { FIRST_CORNER, hasColumn, inColumn, lineHost, MOST_DEEP, MOST_ROWS_OF_LEVELS, rowOnLevel } from "../keys";
import { NO_PROP, Slots, type InRack } from "../slots";
import { extentAlong } from "./extents";
import type { GuideLine } from "../../line";
import type { Hold } from "../stance/stance";
import type { PropChoice } from "../what/what";
import type { Where } from "../where/schema";

type Range = readonly [low: number, high: number];

/** How many there are one way: a number, or as many as go into so many metres. */
interface Many {
  number: Range | null;
  metres: Range;
  /** What stays free between two, metres. */
  room: number;
  /** Up to so many fewer. */
  less: number;
}

export interface Rack extends Pick<Where, "columnOf" | "levels" | "levelOf"> {
  deep: Many;
  high: Many;
  seed: number;
}

/** All slots together are no more than so many. */
const MOST_SLOTS = 4_000_000;
/** What goes in to within so many metres goes in. */
const SLACK = 1e-9;

const COLUMN_STREAM = streamOf(6, CHANNEL.key);
const LEVEL_STREAM = streamOf(7, CHANNEL.key);

/** @param laid whether slots lie by the lengths of the props that they have, so that all of a column keep these */
export function inColumns(
  slots: Slots,
  rack: Rack,
  lines: readonly GuideLine[],
  choice: PropChoice,
  hold: Pick<Hold, "boxes" | "contact" | "size" | "turn">,
  laid: boolean,
): Slots {
  const levels = levelsOf(slots, rack, lines, choice, laid);
  const counts = new Counts(rack, hold, choice);
  const total = levels.reduce((sum, level) => sum + counts.of(level).total, 0);
  const out = new Slots(Math.min(MOST_SLOTS, total), slots.span !== null);
  out.missing = slots.missing * rack.levels + Math.max(0, total - MOST_SLOTS);
  out.turns = slots.turns;
  out.halted = slots.halted;
  out.tight = counts.tight;
  const inRack: InRack = {
    deep: new Uint8Array(out.count),
    high: new Uint8Array(out.count),
    level: new Uint8Array(out.count),
  };
  out.rack = inRack;
  if (slots.stretch) out.stretch = new Float32Array(out.count).fill(1);
  const mixed = rack.columnOf === "mixed" && !laid;
  let end = 0;
  // Those of one line stay together.
  for (let line = 0, first = 0; first < slots.count; line++) {
    let last = first;
    while (last < slots.count && slots.line[last] === slots.line[first]) last++;
    levels.forEach((level, number) => {
      for (let i = first; i < last && end < out.count; i++)
        end = writeColumn(out, inRack, end, level, i, number, counts.of(level), mixed ? choice : null);
    });
    first = last;
  }
  return out;
}

/** The slots of each level, the lowest being those that there are. */
function levelsOf(slots: Slots, rack: Rack, lines: readonly GuideLine[], choice: PropChoice, laid: boolean): Slots[] {
  const levels = [slots];
  for (let level = 1; level < rack.levels; level++) {
    const own = slots.derive();
    levels.push(own);
    if (rack.levelOf === "same") continue;
    Object.assign(own, { draw: slots.draw.map((draw) => finish(mix(mix(LEVEL_STREAM, draw), level))) });
    if (!laid) dealAnew(own, level, lines, choice);
  }
  return levels;
}

/** Chooses the props of a level, going on with the sequence from where the one below it ended. */
function dealAnew(slots: Slots, level: number, lines: readonly GuideLine[], choice: PropChoice): void {
  const { words, line, row } = slots;
  for (let from = 0; from < slots.count;) {
    let to = from + 1;
    while (to < slots.count && line[to] === line[from] && row[to] === row[from]) to++;
    let ordinary = to;
    while (ordinary > from && (words[2 * ordinary - 2] | 0) >= FIRST_CORNER) ordinary--;
    if (ordinary > from) {
      const number = (words[2 * from] | 0) + slots.turns[line[from]] + level * (ordinary - from);
      const gone = slots.prop.subarray(from, ordinary).map((prop, k) => (slots.at[from + k] === 0 ? prop : 0));
      choose(slots, from, ordinary, number, lines[line[from]], choice);
      choice.resolveMixes(slots.prop, slots.draw, from, ordinary);
      // What is beyond its line at the moment stays out of it.
      gone.forEach((prop, k) => {
        if (prop === NO_PROP) slots.prop[from + k] = NO_PROP;
      });
    }
    from = to;
  }
}

/** How many stand in each column. */
class Counts {
  tight = 0;
  readonly #known = new Map<Slots, { deep: Uint8Array; total: number; high: (i: number, j: number) => number }>();
  readonly #rack: Rack;
  readonly #depth: Float64Array;
  readonly #height: Float64Array;

  constructor(rack: Rack, hold: Pick<Hold, "boxes" | "contact" | "size" | "turn">, { props }: PropChoice) {
    this.#rack = rack;
    const extent = (axis: 0 | 1) =>
      Float64Array.from(props, (_, prop) => {
        const size = hold.size[prop];
        const scale: Vec3 = [size, size, size];
        const [low, high] = extentAlong(hold, prop, quatAt(hold.turn, prop), scale, axis);
        return high - low;
      });
    this.#depth = extent(0);
    this.#height = extent(1);
    // Whatever is mixed has to go in.
    if (rack.columnOf === "mixed") for (const all of [this.#depth, this.#height]) all.fill(Math.max(0, ...all));
  }

  of(slots: Slots) {
    const before = this.#known.get(slots);
    if (before) return before;
    const { deep, high, seed } = this.#rack;
    const { draw, prop, words, row, count } = slots;
    const [deeps, backs] = [streamOf(seed, CHANNEL.rackDeep), streamOf(seed, CHANNEL.rackBack)];
    const [highs, tops] = [streamOf(seed, CHANNEL.rackHigh), streamOf(seed, CHANNEL.rackTop)];
    const level = this.#known.size;
    const behind = new Uint8Array(count);
    const above = new Uint8Array(count);
    let total = 0;
    const onTop = (i: number, j: number) => fewer(above[i], high.less, tops, draw[i], j);
    for (let i = 0; i < count; i++) {
      if (level > 0 && row[i] >= MOST_ROWS_OF_LEVELS) continue;
      behind[i] = above[i] = 1;
      if (hasColumn(words[2 * i] | 0) && prop[i] !== NO_PROP) {
        behind[i] = fitting(deep, this.#depth[prop[i]], drawFrom(deeps, draw[i], 0));
        above[i] = fitting(high, this.#height[prop[i]], drawFrom(highs, draw[i], 0));
        if (behind[i] === 0 || above[i] === 0) this.tight++;
        behind[i] = above[i] === 0 ? 0 : fewer(behind[i], deep.less, backs, draw[i], 0);
      }
      for (let j = 0; j < behind[i]; j++) total += onTop(i, j);
    }
    const counted = { deep: behind, total, high: onTop };
    this.#known.set(slots, counted);
    return counted;
  }
}

/** How many of so many metres each go in. */
function fitting({ number, metres, room }: Many, each: number, share: number): number {
  if (number) {
    const [low, high] = [Math.round(number[0]), Math.round(number[1])];
    return low + Math.floor(share * (high - low + 1));
  }
  const into = metres[0] + share * (metres[1] - metres[0]);
  const most = each + room > 0 ? (into + room + SLACK) / (each + room) : MOST_DEEP;
  return Math.min(MOST_DEEP, Math.max(0, Math.floor(most)));
}

/** Some fewer, but for the last one. */
const fewer = (count: number, less: number, stream: number, draw: number, index: number): number =>
  less === 0 || count <= 1 ? count : Math.max(1, count - Math.floor(drawFrom(stream, draw, index) * (less + 1)));

/** Writes the column of slot `i` of a level from `start` on; says where it ends. */
function writeColumn(
  out: Slots,
  inRack: InRack,
  start: number,
  slots: Slots,
  i: number,
  level: number,
  { deep, high }: ReturnType<Counts["of"]>,
  mixed: PropChoice | null,
): number {
  const { words } = out;
  const slot = slots.words[2 * i] | 0;
  const host = level === 0 ? slots.words[2 * i + 1] : lineHostOn(slots.words[2 * i + 1], level);
  let o = start;
  for (let j = 0; j < deep[i]; j++) {
    const stack = high(i, j);
    for (let k = 0; k < stack && o < out.count; k++, o++) {
      out.line[o] = slots.line[i];
      out.row[o] = slots.row[i];
      words[2 * o] = inColumn(slot, j, k);
      words[2 * o + 1] = host;
      const within = j * MOST_DEEP + k;
      out.draw[o] = within === 0 ? slots.draw[i] : finish(mix(mix(COLUMN_STREAM, slots.draw[i]), within));
      out.at[o] = slots.at[i];
      out.prop[o] = slots.prop[i];
      out.flags[o] = slots.flags[i];
      inRack.deep[o] = j;
      inRack.high[o] = k;
      inRack.level[o] = level;
      if (out.span) out.span.set(slots.span!.subarray(2 * i, 2 * i + 2), 2 * o);
      if (out.stretch) out.stretch[o] = slots.stretch![i];
      if (mixed && within > 0 && slots.prop[i] !== NO_PROP) {
        mixed.fill(out.prop, out.draw, o, o + 1, slot + slots.turns[slots.line[i]] + j + k);
        mixed.resolveMixes(out.prop, out.draw, o, o + 1);
      }
    }
  }
  return o;
}

/** The upper word of a key on another level. */
const lineHostOn = (host: number, level: number): number => {
  const number = host & 0xfffff;
  return lineHost(number, rowOnLevel(host >>> 20, level));
};
