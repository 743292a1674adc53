/**
 * *Assemblies taken apart into what is in them.* What stands in an assembly's dressings is gathered once, in the assembly's own
 * coordinates; wherever the assembly stands, all of that stands under it. Whatever is drawn, counted or written to files is so.
 *
 *     const inside = gathered([{ salt: 1, inside: jars }], matrix, 1_000_000);
 *     expanded(shelves, (i) => inside, 4_000_000).placements.count // as many jars as there are on all shelves
 */
import {
  add,
  CHANNEL,
  finish,
  mix,
  multiply,
  quatAt,
  rotate,
  scale,
  streamOf,
  writeFromBasis,
  type Quat,
  type Vec3,
} from "../math";
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

function countStanding(p: Placements, members?: Uint32Array): number {
  const count = members?.length ?? p.count;
  let n = 0;
  for (let k = 0; k < count; k++) if (stands(p, members ? members[k] : k)) n++;
  return n;
}

/** What is gathered of one dressing. */
export interface Gathered {
  /** A number of its own, which tells its keys from those of others. */
  salt: number;
  /** Its placements, already {@link expanded}. */
  inside: Inside;
  /** Only these of them, by their indices; all where it is left out. */
  members?: Uint32Array;
}

/**
 * Everything that stands in some dressings, as one.
 *
 * @param matrix from their coordinates to those of the prop that they make: 12 numbers, rows first, of one size to all sides; null
 *   for those that they have
 * @param most dressings that go beyond so many in all are left out
 */
export function gathered(from: readonly Gathered[], matrix: readonly number[] | null, most: number): Inside {
  const counts = from.map(({ inside, members }) => countStanding(inside.placements, members));
  const origin: Vec3 = matrix ? [0, 0, 0] : (from[0]?.inside.placements.origin ?? [0, 0, 0]);
  const { out, written, leftOut } = gather(counts, most, origin);
  const under = matrix ? underMatrix(matrix) : { ...UPRIGHT, position: scale(origin, -1) };
  let n = 0;
  from.forEach(({ salt, inside: { placements }, members }, d) => {
    if (n + counts[d] <= out.count) n = written.write(n, placements, under, salt, 0, null, members);
  });
  return { placements: written.done(), leftOut: leftOut + from.reduce((sum, { inside }) => sum + inside.leftOut, 0) };
}

/** What an assembly holds where it is not worth gathering, since it stands but once. */
export interface Contents {
  from: readonly Gathered[];
  /** As for {@link gathered}. */
  matrix: readonly number[];
  /** How many stand in it. */
  count: number;
}

export const contentsOf = (from: readonly Gathered[], matrix: readonly number[]): Contents => ({
  from,
  matrix,
  count: from.reduce((sum, { inside, members }) => sum + countStanding(inside.placements, members), 0),
});

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
export function expanded(
  p: Placements,
  insideOf: (i: number) => Inside | Contents | null,
  most: number,
): Expanded | null {
  const held: (Inside | Contents | null)[] = new Array<Inside | Contents | null>(p.count).fill(null);
  const counts: number[] = new Array<number>(p.count).fill(0);
  let any = false;
  for (let i = 0; i < p.count; i++) {
    if (!stands(p, i)) continue;
    const inside = (held[i] = insideOf(i));
    any ||= inside !== null;
    counts[i] = inside === null ? 1 : "from" in inside ? inside.count : inside.placements.count;
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
      const under = underOf(p, i);
      const [low, high] = [words[2 * i], words[2 * i + 1]];
      const whole = "from" in inside && isUneven(under) ? gathered(inside.from, inside.matrix, Infinity) : inside;
      if ("from" in whole) {
        const both = underBoth(under, underMatrix(whole.matrix));
        for (const { salt, inside: one, members } of whole.from) {
          n = written.write(n, one.placements, both, low, high, i, members, salt);
          less += one.leftOut;
        }
      } else {
        n = written.write(n, whole.placements, under, low, high, i);
        less += whole.leftOut;
      }
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

const isUneven = ({ scale: [x, y, z] }: Under): boolean => x !== y || y !== z;

/** What stands under something that stands under something of one size to all sides. */
function underBoth(outer: Under, inner: Under): Under {
  const [size] = outer.scale;
  const side = outer.mirrored ? -1 : 1;
  const [x, y, z] = inner.position;
  const there = rotate(outer.rotation, [side * size * x, size * y, size * z]);
  const [qx, qy, qz, qw] = inner.rotation;
  return {
    position: add(outer.position, there),
    rotation: multiply(outer.rotation, [qx, side * qy, side * qz, qw]),
    scale: [size * inner.scale[0], size * inner.scale[1], size * inner.scale[2]],
    mirrored: outer.mirrored,
  };
}

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

/** What the key of something in a dressing of an assembly becomes under the assembly's own. */
export function keyUnder(under: bigint, salt: number, key: bigint): bigint {
  const words = (of: bigint) => [Number(of & 0xffffffffn), Number(of >> 32n)] as const;
  const mixed = ([a, b]: readonly [number, number], [c, d]: readonly number[]) =>
    KEY_STREAMS.map((stream) => mix(mix(mix(mix(stream, a), b), c), d));
  const [first, second] = mixed(words(under), mixed([salt, 0], words(key))).map(finish);
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
    out.line[o] = p.line[i];
    out.row[o] = p.row[i];
    out.at[o] = p.at[i];
    out.flags[o] = p.flags[i];
    out.reach.set(p.reach.subarray(2 * i, 2 * i + 2), 2 * o);
    if (p.posed) out.posed!.pose[o] = p.posed.pose[i];
    const entry = entryOf(p.shapes, i);
    if (p.shapes && entry >= 0)
      this.#shaped.push({ at: o, shapes: p.shapes, entry, prop: out.prop[o], under: null, origin: NO_SHIFT });
  }

  /**
   * Everything that stands in `p`, from `o` on.
   *
   * @param underLow,underHigh the words of the key that theirs are mixed with
   * @param i which of those that are taken apart they are in; null for none
   * @param members only these of them; all where left out
   * @param salt where they are gathered at the same time, what tells them from those of other dressings
   * @returns behind the last one
   */
  write(
    o: number,
    p: Placements,
    under: Under,
    underLow: number,
    underHigh: number,
    i: number | null,
    members?: Uint32Array,
    salt: number | null = null,
  ): number {
    const out = this.#out;
    let remap = this.#remaps.get(p);
    if (!remap) this.#remaps.set(p, (remap = Uint16Array.from(p.props, (id) => this.#propAt(id))));
    const outer = this.#outer;
    const tints = this.#tintsUnder(p, i === null || !outer ? WHITE : (outer.tints[outer.tint[i]] ?? WHITE));
    const [words, keys] = [wordsOf(p.key), wordsOf(out.key)];
    const first = mix(mix(KEY_STREAMS[0], underLow), underHigh);
    const second = mix(mix(KEY_STREAMS[1], underLow), underHigh);
    const saltFirst = mix(mix(KEY_STREAMS[0], salt ?? 0), 0);
    const saltSecond = mix(mix(KEY_STREAMS[1], salt ?? 0), 0);
    const { mirrored } = under;
    const [sx, sy, sz] = under.scale;
    const even = sx === sy && sy === sz;
    const [qx, qy, qz, qw] = under.rotation;
    const [px, py, pz] = under.position;
    const [ox, oy, oz] = p.origin;
    const side = mirrored ? -1 : 1;
    const mirrors = mirrored ? FLAG.mirrored : 0;
    const flagged = i === null || !outer ? 0 : outer.flags[i] & ~FLAG.mirrored;
    const { position: P, rotation: R, scale: S, prop, tint, flags } = p;
    const { position, rotation, scale, prop: PROP, tint: TINT, flags: FLAGS } = out;
    const { shapes } = p;
    const count = members?.length ?? p.count;
    const start = o;
    for (let k = 0; k < count; k++) {
      const j = members ? members[k] : k;
      if (flags[j] & FLAG.blank || prop[j] === NO_PROP) continue;
      const x = side * sx * (ox + P[3 * j]);
      const y = sy * (oy + P[3 * j + 1]);
      const z = sz * (oz + P[3 * j + 2]);
      // As {@link rotate} does it, without an array for each.
      const tx = 2 * (qy * z - qz * y);
      const ty = 2 * (qz * x - qx * z);
      const tz = 2 * (qx * y - qy * x);
      position[3 * o] = px + x + qw * tx + qy * tz - qz * ty;
      position[3 * o + 1] = py + y + qw * ty + qz * tx - qx * tz;
      position[3 * o + 2] = pz + z + qw * tz + qx * ty - qy * tx;
      // Seen in a mirror a turn goes about the mirrored axis the other way.
      const bx = R[4 * j];
      const by = side * R[4 * j + 1];
      const bz = side * R[4 * j + 2];
      const bw = R[4 * j + 3];
      rotation[4 * o] = qw * bx + qx * bw + qy * bz - qz * by;
      rotation[4 * o + 1] = qw * by - qx * bz + qy * bw + qz * bx;
      rotation[4 * o + 2] = qw * bz + qx * by - qy * bx + qz * bw;
      rotation[4 * o + 3] = qw * bw - qx * bx - qy * by - qz * bz;
      if (even) {
        scale[3 * o] = S[3 * j] * sx;
        scale[3 * o + 1] = S[3 * j + 1] * sx;
        scale[3 * o + 2] = S[3 * j + 2] * sx;
      } else {
        for (let c = 0; c < 3; c++) scale[3 * o + c] = S[3 * j + c] * stretched(c, bx, by, bz, bw, sx, sy, sz);
      }
      PROP[o] = remap[prop[j]];
      TINT[o] = tints[tint[j]];
      let place = words[2 * j];
      let host = words[2 * j + 1];
      if (salt !== null) {
        const own = mix(mix(saltFirst, place), host);
        host = mix(mix(saltSecond, place), host);
        place = own;
      }
      const low = mix(mix(first, place), host);
      const high = mix(mix(second, place), host);
      // What is only gathered is mixed once more where it stands.
      keys[2 * o] = i === null ? low : finish(low);
      keys[2 * o + 1] = i === null ? high : finish(high);
      FLAGS[o] = (i === null ? flags[j] & ~FLAG.mirrored : flagged) | ((flags[j] & FLAG.mirrored) ^ mirrors);
      const entry = shapes === null ? -1 : shapes.entry[j];
      // What is bent is drawn stiff where it is stretched or mirrored.
      if (p.shapes && entry >= 0 && even && !mirrored)
        this.#shaped.push({ at: o, shapes: p.shapes, entry, prop: out.prop[o], under, origin: p.origin });
      o++;
    }
    if (i !== null && outer) {
      out.line.fill(outer.line[i], start, o);
      out.row.fill(outer.row[i], start, o);
      out.at.fill(outer.at[i], start, o);
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
