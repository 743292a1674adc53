/**
 * *Slots that stand behind each other, on each other and on levels*: each slot of a row becomes a column. Which props stand there,
 * and how many, is told from the slot's own draws, so that another depth deals none anew.
 */
import { CHANNEL, drawFrom, finish, mix, streamOf } from "../../math";
import { choose, MAX_SLOTS } from "../spacing/spacing";
import { FIRST_CORNER, hasColumn, inColumn, lineHost, MOST_DEEP, MOST_ROWS_OF_LEVELS, rowOnLevel } from "../keys";
import { inNoColumn, NO_PROP, Slots, type InRack } from "../slots";
import { extents, LEFT, LEFT_AND_UP, LOW, RIGHT, TOP, writeExtents } from "./stand";
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

export interface Rack extends Pick<Where, "columnOf" | "levelOf"> {
  /** How many levels there are. */
  levels: number;
  deep: Many;
  high: Many;
  seed: number;
}

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
  const counts = new Counts(rack, hold, choice);
  const levels = levelsOf(slots, rack, lines, choice, laid).map((level, number): Level & { total: number } => ({
    slots: level,
    words: level.words,
    number,
    ...counts.of(level, number),
  }));
  const total = levels.reduce((sum, level) => sum + level.total, 0);
  const out = new Slots(Math.min(MAX_SLOTS, total), slots.span !== null);
  out.missing = slots.missing * rack.levels + Math.max(0, total - MAX_SLOTS);
  out.turns = slots.turns;
  out.halted = slots.halted;
  out.tight = counts.tight;
  out.rack = inNoColumn(out.count);
  if (slots.stretch) out.stretch = new Float32Array(out.count);
  const columns = new Columns(out, rack.columnOf === "mixed" && !laid ? choice : null);
  // Those of one line stay together.
  for (let first = 0; first < slots.count;) {
    let last = first;
    while (last < slots.count && slots.line[last] === slots.line[first]) last++;
    for (const level of levels) for (let i = first; i < last; i++) columns.write(level, i);
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
      choose(slots, from, ordinary, number, lines[line[from]], choice);
      choice.resolveMixes(slots.prop, slots.draw, from, ordinary);
    }
    from = to;
  }
}

/** How many stand in each column. */
class Counts {
  tight = 0;
  readonly #rack: Rack;
  readonly #depth: Float64Array;
  readonly #height: Float64Array;

  constructor(rack: Rack, hold: Pick<Hold, "boxes" | "contact" | "size" | "turn">, { props }: PropChoice) {
    this.#rack = rack;
    const reach = extents();
    const reaches = props.map((_, prop) => {
      const size = hold.size[prop];
      writeExtents(reach, hold, prop, LEFT_AND_UP, hold.turn, prop, size, size, size);
      return [reach[LEFT] - reach[RIGHT], reach[TOP] - reach[LOW]];
    });
    this.#depth = Float64Array.from(reaches, ([depth]) => depth);
    this.#height = Float64Array.from(reaches, ([, height]) => height);
    // Whatever is mixed has to go in.
    if (rack.columnOf === "mixed") for (const all of [this.#depth, this.#height]) all.fill(Math.max(0, ...all));
  }

  of(slots: Slots, level: number): Pick<Level, "deep" | "high"> & { total: number } {
    const { deep, high, seed } = this.#rack;
    const { draw, prop, words, row, count } = slots;
    const [deeps, backs] = [streamOf(seed, CHANNEL.rackDeep), streamOf(seed, CHANNEL.rackBack)];
    const [highs, tops] = [streamOf(seed, CHANNEL.rackHigh), streamOf(seed, CHANNEL.rackTop)];
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
    return { deep: behind, total, high: onTop };
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

/** A level's slots, and how many stand at each. */
interface Level {
  slots: Slots;
  words: Uint32Array;
  number: number;
  deep: Uint8Array;
  high: (i: number, j: number) => number;
}

/** Writes columns one after the other. */
class Columns {
  end = 0;
  readonly #out: Slots;
  readonly #words: Uint32Array;
  readonly #rack: InRack;
  readonly #mixed: PropChoice | null;

  /** @param mixed what each draws from by itself; null where a column is of one prop */
  constructor(out: Slots, mixed: PropChoice | null) {
    this.#out = out;
    this.#words = out.words;
    this.#rack = out.rack!;
    this.#mixed = mixed;
  }

  /** The column of slot `i` of a level. */
  write({ slots, words: from, number: level, deep, high }: Level, i: number): void {
    const out = this.#out;
    const words = this.#words;
    const { deep: behind, high: above } = this.#rack;
    const { draw, count } = out;
    const slot = from[2 * i] | 0;
    const host = level === 0 ? from[2 * i + 1] : lineHostOn(from[2 * i + 1], level);
    const column = mix(COLUMN_STREAM, slots.draw[i]);
    const start = this.end;
    // Places follow each other within a column.
    const base = inColumn(slot, 0, 1) - 1;
    let o = start;
    for (let j = 0; j < deep[i]; j++) {
      const stack = Math.min(high(i, j), count - o);
      for (let k = 0; k < stack; k++, o++) {
        const within = j * MOST_DEEP + k;
        words[2 * o] = base + within;
        words[2 * o + 1] = host;
        draw[o] = finish(mix(column, within));
        behind[o] = j;
        above[o] = k;
      }
    }
    if (o === start) return;
    words[2 * start] = slot;
    draw[start] = slots.draw[i];
    out.line.fill(slots.line[i], start, o);
    out.row.fill(slots.row[i], start, o);
    out.at.fill(slots.at[i], start, o);
    out.prop.fill(slots.prop[i], start, o);
    out.flags.fill(slots.flags[i], start, o);
    this.#rack.level.fill(level, start, o);
    out.stretch?.fill(slots.stretch![i], start, o);
    for (let k = start; out.span && k < o; k++) out.span.set(slots.span!.subarray(2 * i, 2 * i + 2), 2 * k);
    if (this.#mixed && slots.prop[i] !== NO_PROP) this.#mix(slot + slots.turns[slots.line[i]], start, o);
    this.end = o;
  }

  /** Has all of a column but the first draw their props by themselves. */
  #mix(number: number, start: number, end: number): void {
    const { prop, draw } = this.#out;
    const { deep, high } = this.#rack;
    for (let o = start + 1; o < end; o++) this.#mixed!.fill(prop, draw, o, o + 1, number + deep[o] + high[o]);
    this.#mixed!.resolveMixes(prop, draw, start + 1, end);
  }
}

/** The upper word of a key on another level. */
const lineHostOn = (host: number, level: number): number => {
  const number = host & 0xfffff;
  return lineHost(number, rowOnLevel(host >>> 20, level));
};
