/** *The positions that the rules produced*, before anything stands there: structure of arrays, one entry a slot. */
import { wordsOf } from "./keys";
import type { Bound, WorldMesh } from "../mesh";

/** Bits of {@link Slots.flags} and of a placement's flags. */
export const FLAG = {
  /** Moved, swapped or removed by hand. */
  pegged: 1,
  /** Left empty. */
  blank: 2,
  /** Its place along the line was chosen by hand. */
  moved: 4,
  /** Some finding names it. */
  finding: 8,
  /** Its prop is turned into its mirror image, left for right. */
  mirrored: 16,
  /** Left out, or pushed on, because it would not have been clear of its neighbours. */
  crowded: 32,
  /** There is no ground under it where there should be. */
  groundless: 64,
  /** Its surface is gone, or is no more where it was pinned. */
  strayed: 128,
} as const;

/** The index of a slot that has no prop to take. */
export const NO_PROP = 0xffff;

/** *Places that are spread over fields*; `line` of their slots counts the dressing's fields. */
export interface Spread {
  /** World coordinates, metres: 3n. */
  position: Float64Array;
  /** Unit normals of the triangles: 3n. */
  normal: Float32Array;
  /** Triangles of the fields: n. */
  triangle: Uint32Array;
  /** What turns are counted by, as for every second one: n. */
  ordinal: Int32Array;
  /** Factors for the sizes of props, as where they are smaller towards an edge: n; null where all are one. */
  size: Float32Array | null;
  /** Where each is in the flat layout that lies there, to the right and ahead, metres: 2n. */
  flat?: Float64Array;
  /** How far off their fields by hand, metres: n; none where left out. */
  lift?: Float32Array;
  /** What those are bound to whose fields have moved, and these as they are at the moment. */
  carried?: { bound: Bound; meshes: readonly (WorldMesh | null)[] };
  /** What ahead is where their fields have moved: 3n; their fields' own front where left out. */
  ahead?: Float32Array;
}

/**
 * *Places in the columns of a rack*: behind how many others and on how many others each stands, and on which level: n each. Those of
 * one column follow each other, stack by stack from the front, from below.
 */
export interface InRack {
  deep: Uint8Array;
  high: Uint8Array;
  level: Uint8Array;
}

/** Where each is in its rack, besides its place along the line: n each. */
export interface Stacked extends InRack {
  /** From the line up to its lower and its upper end, metres. */
  bottom: Float32Array;
  top: Float32Array;
  /** From the line back to its front and its rear, metres. */
  front: Float32Array;
  rear: Float32Array;
}

/** Each the only one of its column. */
export const inNoColumn = (n: number): InRack => ({
  deep: new Uint8Array(n),
  high: new Uint8Array(n),
  level: new Uint8Array(n),
});

export class Slots {
  readonly count: number;
  /** Index of the slot's line among those of the dressing. */
  readonly line: Uint16Array;
  /** The parallel row that it belongs to. */
  readonly row: Uint16Array;
  /** What each is known by, see `keys.ts`. */
  readonly key: BigUint64Array;
  /** What each draws by. */
  readonly draw: Uint32Array;
  /** Arc length from the line's start, metres. */
  readonly at: Float64Array;
  /** Where its prop begins and ends on the line, 2n arc lengths; null where props need only one point to stand on. */
  readonly span: Float64Array | null;
  /** Index of the slot's prop among those of the dressing, or {@link NO_PROP}. */
  readonly prop: Uint16Array;
  readonly flags: Uint16Array;
  /** Where slots lie that are spread over something instead of along lines. */
  spread: Spread | null = null;
  /** Where each stands in its column of a rack; null where nothing is stacked. */
  rack: InRack | null = null;
  /** Of a rack's columns, into how many nothing goes. */
  tight = 0;
  /** By how much each prop is stretched along the line; null where none is. */
  stretch: Float32Array | null = null;
  /** By how much each prop has been turned about its up by hand, radians; null where none has. */
  turned: Float32Array | null = null;
  /** How many times as wide, high and deep each prop is by hand: 3n; null where none is stretched so. */
  stretched: Float32Array | null = null;
  /** For each line the number that its slot 0 has in the sequence. */
  turns = new Float64Array(0);
  /** For each line whether what travels on it has come to its end and stays there; null where none has. */
  halted: Uint8Array | null = null;
  /** 1 for slots that are beyond their line at the moment, and have no prop until they come in again; null where none is. */
  beyond: Uint8Array | null = null;
  /** Whether the artist has pegged any of them. */
  pegged = false;
  /** How many more slots the rules ask for than may be made. */
  missing = 0;

  constructor(count: number, spans = false) {
    this.count = count;
    this.line = new Uint16Array(count);
    this.row = new Uint16Array(count);
    this.key = new BigUint64Array(count);
    this.draw = new Uint32Array(count);
    this.at = new Float64Array(count);
    this.span = spans ? new Float64Array(2 * count) : null;
    this.prop = new Uint16Array(count);
    this.flags = new Uint16Array(count);
  }

  /** A copy whose places, props and flags may be changed; what identifies the slots is shared. */
  derive(): Slots {
    const copy = Object.create(Slots.prototype) as Slots;
    return Object.assign(copy, {
      ...this,
      at: this.at.slice(),
      span: this.span?.slice() ?? null,
      prop: this.prop.slice(),
      flags: this.flags.slice(),
    });
  }

  /** Both words of each slot's key. */
  get words(): Uint32Array {
    return wordsOf(this.key);
  }

  turnByHand(i: number, by: number | undefined): void {
    if (!by) return;
    this.turned ??= new Float32Array(this.count);
    this.turned[i] = by;
  }

  stretchByHand(i: number, by: readonly [number, number, number] | undefined): void {
    if (!by) return;
    this.stretched ??= new Float32Array(3 * this.count).fill(1);
    this.stretched.set(by, 3 * i);
  }

  /** Takes over the slots from `from` to before `to` of another, at `start`. */
  take(other: Slots, from: number, to: number, start: number): void {
    this.line.set(other.line.subarray(from, to), start);
    this.row.set(other.row.subarray(from, to), start);
    this.key.set(other.key.subarray(from, to), start);
    this.draw.set(other.draw.subarray(from, to), start);
    this.at.set(other.at.subarray(from, to), start);
    this.prop.set(other.prop.subarray(from, to), start);
    this.flags.set(other.flags.subarray(from, to), start);
    if (other.span) this.span?.set(other.span.subarray(2 * from, 2 * to), 2 * start);
    if (other.stretch) {
      this.stretch ??= new Float32Array(this.count).fill(1);
      this.stretch.set(other.stretch.subarray(from, to), start);
    }
    if (other.beyond) (this.beyond ??= new Uint8Array(this.count)).set(other.beyond.subarray(from, to), start);
    if (other.rack) {
      const own = (this.rack ??= inNoColumn(this.count));
      for (const part of ["deep", "high", "level"] as const) own[part].set(other.rack[part].subarray(from, to), start);
    }
    this.turns = other.turns;
    this.halted = other.halted;
    this.tight = other.tight;
  }

  /** Takes over slot `i` of another as its only one, `by` metres farther along. */
  takeOne(other: Slots, i: number, by: number): this {
    this.line[0] = other.line[i];
    this.row[0] = other.row[i];
    this.key[0] = other.key[i];
    this.draw[0] = other.draw[i];
    this.at[0] = other.at[i] + by;
    this.prop[0] = other.prop[i];
    if (this.span && other.span) {
      this.span[0] = other.span[2 * i] + by;
      this.span[1] = other.span[2 * i + 1] + by;
    }
    return this;
  }
}

/** A copy of slots that are spread over fields, with room for some more behind them. */
export function withRoomFor(slots: Slots, more: number): Slots {
  const out = new Slots(slots.count + more);
  out.take(slots, 0, slots.count, 0);
  out.missing = slots.missing;
  out.pegged = slots.pegged;
  const from = slots.spread!;
  const spread: Spread = {
    position: new Float64Array(3 * out.count),
    normal: new Float32Array(3 * out.count),
    triangle: new Uint32Array(out.count),
    ordinal: new Int32Array(out.count),
    ...(from.ahead && { ahead: new Float32Array(3 * out.count) }),
    ...(from.flat && { flat: new Float64Array(2 * out.count).fill(NaN) }),
    size: from.size && new Float32Array(out.count).fill(1),
  };
  spread.position.set(from.position);
  spread.normal.set(from.normal);
  spread.triangle.set(from.triangle);
  spread.ordinal.set(from.ordinal);
  if (from.ahead) spread.ahead!.set(from.ahead);
  if (from.flat) spread.flat!.set(from.flat);
  if (from.size) spread.size?.set(from.size);
  out.spread = spread;
  return out;
}
