/**
 * *Assemblies taken apart into what is in them.* What stands in an assembly's dressings is gathered once, in the assembly's own
 * coordinates; wherever the assembly stands, all of that stands under it. Whatever is drawn, counted or written to files is so.
 *
 *     const inside = gathered([{ salt: 1, inside: jars }], matrix, 1_000_000);
 *     expanded(shelves, (i) => inside, 4_000_000).placements.count // as many jars as there are on all shelves
 */
import { add, multiply, quatAt, rotate, scale, writeFromBasis, type Vec3 } from "../math";
import { BentUses } from "./bent-uses";
import { wordsOf } from "./keys";
import { FLAG } from "./slots";
import { emptyPlacements, stands, Writer, type Under } from "./under";
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

const UPRIGHT: Under = { position: [0, 0, 0], rotation: [0, 0, 0, 1], scale: [1, 1, 1], mirrored: false };

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
 * @param whole whether things in assemblies that are bent stand whole, each by itself, rather than being bent as well
 */
export function expanded(
  p: Placements,
  insideOf: (i: number) => Inside | Contents | null,
  most: number,
  whole = false,
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
  const { out, written, leftOut } = gather(counts, most, p.origin, p, whole);
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
function gather(counts: readonly number[], most: number, origin: Vec3, outer: Placements | null = null, whole = false) {
  let [n, leftOut] = [0, 0];
  for (const count of counts) {
    if (n + count > most) leftOut += count;
    else n += count;
  }
  const out = emptyPlacements(n, origin, outer);
  return { out, written: new Writer(out, outer, outer?.shapes ? new BentUses(outer, whole) : null), leftOut };
}
