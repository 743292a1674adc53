/**
 * *Assemblies taken apart into what is in them.* What stands in an assembly's dressings is gathered once, in the assembly's own
 * coordinates; wherever the assembly stands, all of that stands under it. Whatever is drawn, counted or written to files is so.
 *
 *     const inside = gathered([{ salt: 1, inside: jars }], matrix, 1_000_000);
 *     expanded(shelves, (i) => inside, 4_000_000).placements.count // as many jars as there are on all shelves
 */
import { CHANNEL, finish, mix, quatAt, scale, streamOf, writeFromBasis, type Quat, type Vec3 } from "../math";
import { entryOf } from "../mesh";
import { wordsOf } from "./keys";
import { FLAG, NO_PROP } from "./slots";
import { shapesUnder, type ShapedUnder } from "./shapes-under";
import type { Placements } from "./placements";

/** Placements among which there is no assembly any more. */
export interface Expanded {
  placements: Placements;
  /** For each, which of those that were taken apart it is, or is in: n. */
  of: Uint32Array;
  /** How many would have been too many, and are not there. */
  leftOut: number;
}

/** What an assembly holds, from its pivot, as the assembly is prepared. */
export type Inside = Omit<Expanded, "of">;

/** What stands under something: moved, turned, sized and mirrored with it. */
interface Under {
  position: Vec3;
  rotation: Quat;
  scale: Vec3;
  mirrored: boolean;
}

const UPRIGHT: Under = { position: [0, 0, 0], rotation: [0, 0, 0, 1], scale: [1, 1, 1], mirrored: false };

const stands = ({ flags, prop }: Placements, i: number): boolean => !(flags[i] & FLAG.blank) && prop[i] !== NO_PROP;

function countStanding(p: Placements): number {
  let n = 0;
  for (let i = 0; i < p.count; i++) if (stands(p, i)) n++;
  return n;
}

/**
 * Everything that stands in some dressings, as one.
 *
 * @param from each dressing's placements, already {@link expanded}, with a number of its own, which tells its keys from those of others
 * @param matrix from their coordinates to those of the prop that they make: 12 numbers, rows first, of one size to all sides; null
 *   for those that they have
 * @param most dressings that go beyond so many in all are left out
 */
export function gathered(
  from: readonly { salt: number; inside: Inside }[],
  matrix: readonly number[] | null,
  most: number,
): Inside {
  const counts = from.map(({ inside }) => countStanding(inside.placements));
  const origin: Vec3 = matrix ? [0, 0, 0] : (from[0]?.inside.placements.origin ?? [0, 0, 0]);
  const { out, written, leftOut } = gather(counts, most, origin);
  const under = matrix ? underMatrix(matrix) : { ...UPRIGHT, position: scale(origin, -1) };
  let n = 0;
  from.forEach(({ salt, inside: { placements } }, d) => {
    if (n + counts[d] <= out.count) n = written.write(n, placements, under, salt, 0, null);
  });
  return { placements: written.done(), leftOut: leftOut + from.reduce((sum, { inside }) => sum + inside.leftOut, 0) };
}

function underMatrix(matrix: readonly number[]): Under {
  const size = Math.hypot(matrix[0], matrix[4], matrix[8]);
  const axis = (k: number) => [matrix[k] / size, matrix[4 + k] / size, matrix[8 + k] / size] as const;
  const rotation = new Float64Array(4);
  writeFromBasis(rotation, 0, ...axis(0), ...axis(1), ...axis(2));
  return {
    position: [matrix[3], matrix[7], matrix[11]],
    rotation: quatAt(rotation, 0),
    scale: [size, size, size],
    mirrored: false,
  };
}

/**
 * Placements with the assemblies among them taken apart; the very same where none is.
 *
 * @param insideOf what the assembly that placement `i` is holds; null for any other prop
 * @param most whole assemblies beyond so many in all are left out
 */
export function expanded(p: Placements, insideOf: (i: number) => Inside | null, most: number): Expanded | null {
  const held: (Inside | null)[] = new Array<Inside | null>(p.count).fill(null);
  const counts: number[] = new Array<number>(p.count).fill(0);
  let any = false;
  for (let i = 0; i < p.count; i++) {
    if (!stands(p, i)) continue;
    held[i] = insideOf(i);
    any ||= held[i] !== null;
    counts[i] = held[i]?.placements.count ?? 1;
  }
  if (!any) return null;
  const { out, written, leftOut } = gather(counts, most, p.origin, p);
  const of = new Uint32Array(out.count);
  let [n, less] = [0, leftOut];
  const words = wordsOf(p.key);
  for (let i = 0; i < p.count; i++) {
    if (counts[i] === 0 || n + counts[i] > out.count) continue;
    const inside = held[i];
    const from = n;
    if (inside) {
      n = written.write(n, inside.placements, underOf(p, i), words[2 * i], words[2 * i + 1], i);
      less += inside.leftOut;
    } else written.copy(n++, i);
    of.fill(i, from, n);
  }
  return { placements: written.done(), of, leftOut: less };
}

const underOf = ({ position, rotation, scale, flags }: Placements, i: number): Under => ({
  position: [position[3 * i], position[3 * i + 1], position[3 * i + 2]],
  rotation: [rotation[4 * i], rotation[4 * i + 1], rotation[4 * i + 2], rotation[4 * i + 3]],
  scale: [scale[3 * i], scale[3 * i + 1], scale[3 * i + 2]],
  mirrored: (flags[i] & FLAG.mirrored) !== 0,
});

/** Room for as many as there may be, whole assemblies in their order. */
function gather(counts: readonly number[], most: number, origin: Vec3, outer: Placements | null = null) {
  let [n, leftOut] = [0, 0];
  for (const count of counts) {
    if (n + count > most) leftOut += count;
    else n += count;
  }
  const out = emptyPlacements(n, origin, outer);
  return { out, written: new Writer(out, outer), leftOut };
}

const TINTS = 256;
const WHITE = "#ffffff";
const KEY_STREAMS = [streamOf(7, CHANNEL.key), streamOf(8, CHANNEL.key)] as const;

/** What the key of something becomes under another, by the words of that one's. */
export function keyUnder(low: number, high: number, key: bigint): bigint {
  const [place, host] = [Number(key & 0xffffffffn), Number(key >> 32n)];
  const [first, second] = KEY_STREAMS.map((stream) => finish(mix(mix(mix(mix(stream, low), high), place), host)));
  return (BigInt(second) << 32n) | BigInt(first);
}

class Writer {
  readonly #out: Placements;
  readonly #outer: Placements | null;
  readonly #props = new Map<string, number>();
  readonly #tints = new Map<string, number>();
  readonly #remaps = new Map<Placements, Uint16Array>();
  readonly #retints = new Map<Placements, Map<string, Uint8Array>>();
  readonly #shaped: ShapedUnder[] = [];

  constructor(out: Placements, outer: Placements | null) {
    this.#out = out;
    this.#outer = outer;
    // Stills are counted by the props that they were worked out for.
    for (const prop of outer?.props ?? []) this.#propAt(prop);
    this.#tintAt(WHITE);
  }

  #propAt(id: string): number {
    const known = this.#props.get(id);
    if (known === undefined) this.#props.set(id, this.#props.size);
    return known ?? this.#props.size - 1;
  }

  #tintAt(tint: string): number {
    const known = this.#tints.get(tint);
    if (known !== undefined) return known;
    if (this.#tints.size < TINTS) this.#tints.set(tint, this.#tints.size);
    return this.#tints.size - 1;
  }

  #tintsUnder(p: Placements, tint: string): Uint8Array {
    let known = this.#retints.get(p);
    if (!known) this.#retints.set(p, (known = new Map()));
    let table = known.get(tint);
    if (!table) {
      table = Uint8Array.from(p.tints, (own) => this.#tintAt(tinted(own, tint)));
      known.set(tint, table);
    }
    return table;
  }

  /** One of those that are taken apart, as it is. */
  copy(o: number, i: number): void {
    const [out, p] = [this.#out, this.#outer!];
    out.position.set(p.position.subarray(3 * i, 3 * i + 3), 3 * o);
    out.rotation.set(p.rotation.subarray(4 * i, 4 * i + 4), 4 * o);
    out.scale.set(p.scale.subarray(3 * i, 3 * i + 3), 3 * o);
    out.key[o] = p.key[i];
    out.prop[o] = p.prop[i];
    out.tint[o] = this.#tintsUnder(p, WHITE)[p.tint[i]];
    this.#about(o, i);
    out.reach.set(p.reach.subarray(2 * i, 2 * i + 2), 2 * o);
    if (p.posed) out.posed!.pose[o] = p.posed.pose[i];
    const entry = entryOf(p.shapes, i);
    if (p.shapes && entry >= 0)
      this.#shaped.push({ at: o, shapes: p.shapes, entry, prop: out.prop[o], under: null, origin: NO_SHIFT });
  }

  /** What is known of placement `o` by the one that it is in. */
  #about(o: number, i: number): void {
    const [out, p] = [this.#out, this.#outer!];
    out.line[o] = p.line[i];
    out.row[o] = p.row[i];
    out.at[o] = p.at[i];
    out.flags[o] = p.flags[i];
  }

  /**
   * Everything that stands in `p`, from `o` on.
   *
   * @param low,high the words of the key that theirs are mixed with
   * @param i which of those that are taken apart they are in; null for none
   * @returns behind the last one
   */
  write(o: number, p: Placements, under: Under, low: number, high: number, i: number | null): number {
    const out = this.#out;
    let remap = this.#remaps.get(p);
    if (!remap) this.#remaps.set(p, (remap = Uint16Array.from(p.props, (id) => this.#propAt(id))));
    const outer = this.#outer;
    const tints = this.#tintsUnder(p, i === null || !outer ? WHITE : (outer.tints[outer.tint[i]] ?? WHITE));
    const [words, keys] = [wordsOf(p.key), wordsOf(out.key)];
    const [first, second] = KEY_STREAMS.map((stream) => mix(mix(stream, low), high));
    const { mirrored } = under;
    const [sx, sy, sz] = under.scale;
    const even = sx === sy && sy === sz;
    const [qx, qy, qz, qw] = under.rotation;
    const [px, py, pz] = under.position;
    const [ox, oy, oz] = p.origin;
    const side = mirrored ? -1 : 1;
    for (let j = 0; j < p.count; j++) {
      if (!stands(p, j)) continue;
      const x = side * sx * (ox + p.position[3 * j]);
      const y = sy * (oy + p.position[3 * j + 1]);
      const z = sz * (oz + p.position[3 * j + 2]);
      // As {@link rotate} does it, without an array for each.
      const tx = 2 * (qy * z - qz * y);
      const ty = 2 * (qz * x - qx * z);
      const tz = 2 * (qx * y - qy * x);
      out.position[3 * o] = px + x + qw * tx + qy * tz - qz * ty;
      out.position[3 * o + 1] = py + y + qw * ty + qz * tx - qx * tz;
      out.position[3 * o + 2] = pz + z + qw * tz + qx * ty - qy * tx;
      // Seen in a mirror a turn goes about the mirrored axis the other way.
      const bx = p.rotation[4 * j];
      const by = side * p.rotation[4 * j + 1];
      const bz = side * p.rotation[4 * j + 2];
      const bw = p.rotation[4 * j + 3];
      out.rotation[4 * o] = qw * bx + qx * bw + qy * bz - qz * by;
      out.rotation[4 * o + 1] = qw * by - qx * bz + qy * bw + qz * bx;
      out.rotation[4 * o + 2] = qw * bz + qx * by - qy * bx + qz * bw;
      out.rotation[4 * o + 3] = qw * bw - qx * bx - qy * by - qz * bz;
      for (let k = 0; k < 3; k++)
        out.scale[3 * o + k] = p.scale[3 * j + k] * (even ? sx : stretched(k, bx, by, bz, bw, sx, sy, sz));
      out.prop[o] = remap[p.prop[j]];
      out.tint[o] = tints[p.tint[j]];
      keys[2 * o] = finish(mix(mix(first, words[2 * j]), words[2 * j + 1]));
      keys[2 * o + 1] = finish(mix(mix(second, words[2 * j]), words[2 * j + 1]));
      if (i === null) out.flags[o] = p.flags[j];
      else this.#about(o, i);
      out.flags[o] = (out.flags[o] & ~FLAG.mirrored) | ((p.flags[j] & FLAG.mirrored) ^ (mirrored ? FLAG.mirrored : 0));
      const entry = entryOf(p.shapes, j);
      // What is bent is drawn stiff where it is stretched or mirrored.
      if (p.shapes && entry >= 0 && even && !mirrored)
        this.#shaped.push({ at: o, shapes: p.shapes, entry, prop: out.prop[o], under, origin: p.origin });
      o++;
    }
    return o;
  }

  done(): Placements {
    const out = this.#out;
    return {
      ...out,
      props: [...this.#props.keys()],
      tints: [...this.#tints.keys()],
      shapes: this.#shaped.length > 0 ? shapesUnder(out.count, this.#shaped) : null,
    };
  }
}

const NO_SHIFT: Vec3 = [0, 0, 0];

/** How many times as long an axis of a prop in a turn becomes where all that is turned is stretched. */
function stretched(
  axis: number,
  x: number,
  y: number,
  z: number,
  w: number,
  sx: number,
  sy: number,
  sz: number,
): number {
  if (axis === 0) return Math.hypot(sx * (1 - 2 * (y * y + z * z)), sy * 2 * (x * y + z * w), sz * 2 * (x * z - y * w));
  if (axis === 1) return Math.hypot(sx * 2 * (x * y - z * w), sy * (1 - 2 * (x * x + z * z)), sz * 2 * (y * z + x * w));
  return Math.hypot(sx * 2 * (x * z + y * w), sy * 2 * (y * z - x * w), sz * (1 - 2 * (x * x + y * y)));
}

/** A colour seen through another. */
function tinted(own: string, through: string): string {
  if (through === WHITE) return own;
  if (own === WHITE) return through;
  const part = (k: number) =>
    Math.round((Number.parseInt(own.slice(k, k + 2), 16) * Number.parseInt(through.slice(k, k + 2), 16)) / 255);
  return `#${[1, 3, 5].map((k) => part(k).toString(16).padStart(2, "0")).join("")}`;
}

/** Room for `n` placements, which lie on what those lie on that they are in. */
function emptyPlacements(n: number, origin: Vec3, outer: Placements | null): Placements {
  const posed = outer?.posed ? { pose: new Uint8Array(n), poses: outer.posed.poses } : null;
  return {
    count: n,
    blanks: 0,
    origin: [...origin],
    position: new Float32Array(3 * n),
    rotation: new Float32Array(4 * n),
    scale: new Float32Array(3 * n),
    prop: new Uint16Array(n),
    key: new BigUint64Array(n),
    line: new Uint16Array(n),
    row: new Uint16Array(n),
    at: new Float32Array(n).fill(outer ? 0 : NaN),
    flags: new Uint16Array(n),
    reach: new Float32Array(2 * n),
    props: [],
    lines: outer?.lines ?? [],
    fields: outer?.fields ?? [],
    lineLengths: outer?.lineLengths.slice() ?? new Float64Array(0),
    lineClosed: outer?.lineClosed ?? [],
    density: null,
    charted: null,
    laid: null,
    torn: null,
    tint: new Uint8Array(n),
    tints: [],
    posed,
    stacked: null,
    tight: 0,
    shapes: null,
    orphans: [],
    brought: null,
    missing: 0,
    free: 0,
  };
}
