/**
 * *Placements written under something*: moved, turned, sized and mirrored with it, under keys that are mixed of both, into one set
 * with props, tints and shapes of its own.
 */
import { CHANNEL, finish, mix, streamOf, type Quat, type Vec3 } from "../math";
import { entryOf } from "../mesh";
import { wordsOf } from "./keys";
import { FLAG, NO_PROP } from "./slots";
import { shapesUnder, type ShapedUnder } from "./shapes-under";
import { StillsUnder } from "./stills-under";
import type { BentUses } from "./bent-uses";
import type { Placements } from "./placements";

/** What stands under something: moved, turned, sized and mirrored with it. */
export interface Under {
  position: Vec3;
  rotation: Quat;
  scale: Vec3;
  mirrored: boolean;
}

export const stands = ({ flags, prop }: Placements, i: number): boolean =>
  !(flags[i] & FLAG.blank) && prop[i] !== NO_PROP;

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

export class Writer {
  readonly #out: Placements;
  readonly #outer: Placements | null;
  /** The uses that are bent; null where none is. */
  readonly #bent: BentUses | null;
  readonly #props = new Map<string, number>();
  readonly #tints = new Map<string, number>();
  readonly #remaps = new Map<Placements, Uint16Array>();
  readonly #reposes = new Map<Placements, Uint16Array>();
  readonly #retints = new Map<Placements, Map<string, Uint8Array>>();
  readonly #shaped: ShapedUnder[] = [];
  readonly #stills = new StillsUnder();
  /** Which still each stands in; null as long as all stand as at rest. */
  #pose: Uint16Array | null = null;

  constructor(out: Placements, outer: Placements | null, bent: BentUses | null = null) {
    this.#out = out;
    this.#outer = outer;
    this.#bent = bent;
    // Props of what is taken apart keep their numbers.
    for (const prop of outer?.props ?? []) this.#propAt(prop);
    this.#tintAt(WHITE);
  }

  #propAt(id: string): number {
    const known = this.#props.get(id);
    if (known === undefined) this.#props.set(id, this.#props.size);
    return known ?? this.#props.size - 1;
  }

  #posesOf = ({ count }: Placements): Uint16Array => (this.#pose ??= new Uint16Array(count));

  #posesUnder(p: Placements, { poses }: NonNullable<Placements["posed"]>): Uint16Array {
    let table = this.#reposes.get(p);
    if (!table) this.#reposes.set(p, (table = this.#stills.added(poses, (k) => this.#propAt(p.props[k]))));
    return table;
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
    if (p.posed && stands(p, i))
      this.#posesOf(out)[o] = this.#posesUnder(p, p.posed)[p.posed.poses.from[p.prop[i]] + p.posed.pose[i]];
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
    const { shapes, posed } = p;
    const poses = posed && this.#posesOf(out);
    const stills = posed && this.#posesUnder(p, posed);
    const count = members?.length ?? p.count;
    const start = o;
    const bent = i !== null && this.#bent?.bends(i) ? this.#bent : null;
    const written: number[] | null = bent && [];
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
      if (posed) poses![o] = stills![posed.poses.from[prop[j]] + posed.pose[j]];
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
      if (written) {
        written.push(j);
        o++;
        continue;
      }
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
      if (bent && written) this.#shaped.push(...bent.carried(out, start, i, p, written));
    }
    return o;
  }

  done(): Placements {
    const out = this.#out;
    return {
      ...out,
      props: [...this.#props.keys()],
      tints: [...this.#tints.keys()],
      posed: this.#pose && { pose: this.#pose, poses: this.#stills.poses(this.#props.size) },
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

/** One prop of one size to all sides that stands somewhere, as placements. */
export function onePlacement(
  prop: string,
  { position, rotation, scale }: { position: Vec3; rotation: Quat; scale: number },
): Placements {
  const one = emptyPlacements(1, position, null);
  one.rotation.set(rotation);
  one.scale.fill(scale);
  return { ...one, props: [prop], tints: [WHITE] };
}

/** Room for `n` placements, which lie on what those lie on that they are in. */
export function emptyPlacements(n: number, origin: Vec3, outer: Placements | null): Placements {
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
    torn: null,
    tint: new Uint8Array(n),
    tints: [],
    posed: null,
    stacked: null,
    tight: 0,
    shapes: null,
    orphans: [],
    brought: null,
    missing: 0,
  };
}
