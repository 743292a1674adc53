/**
 * *Placements as a graphics card takes them*: matrices and tints, in chunks of what is of one prop and stands together. It is
 * written where placements are made and handed over with them, so that whoever draws only says which chunks, and how.
 */
import { entryOf, type PropBounds } from "../mesh";
import { FLAG, NO_PROP } from "./slots";
import type { Placements } from "./placements";

/** How the placements of a chunk are: as they are, turned into their mirror image, or bent and clipped. */
export const CHUNK = { plain: 0, mirrored: 1, shaped: 2 } as const;
const KINDS = 3;

/** Structure of arrays: m placements that are shown, c chunks. */
export interface Drawn {
  /** The placements, chunk after chunk: m. */
  order: Uint32Array;
  /** Column by column, from the placements' origin; mirroring is left to whoever draws: 16m. */
  matrices: Float32Array;
  /** Tints in linear light: 3m; null where none is tinted. */
  colours: Float32Array | null;
  /** Index of the prop, which of {@link CHUNK}, and which of its stills: c. */
  prop: Uint16Array;
  kind: Uint8Array;
  pose: Uint16Array;
  /** Where each chunk begins in the order, and the last one ends: c + 1. */
  from: Uint32Array;
  /** Boxes about all of what is in them, from the placements' origin, least and most: 6c. */
  box: Float32Array;
  /** The largest factor of any placement's size: c. */
  size: Float32Array;
}

/** Fewer than so many are one chunk; more are parted into squares of about so many, seen from above. */
const PER_CHUNK = 1024;

/** @param boundsOf the box of a prop; one that is not known has none */
export function drawnOf(p: Placements, boundsOf: (prop: string) => PropBounds | undefined): Drawn {
  const groups = KINDS * (p.posed?.poses.from[p.props.length] ?? p.props.length);
  const group = groupsOf(p);
  const squares = squaresOf(p, group, groups);
  const order = inOrder(p, group, squares);
  const out: Drawn = {
    order,
    matrices: new Float32Array(16 * order.length),
    colours: p.tints.length > 1 ? new Float32Array(3 * order.length) : null,
    prop: new Uint16Array(0),
    kind: new Uint8Array(0),
    pose: new Uint16Array(0),
    from: new Uint32Array(0),
    box: new Float32Array(0),
    size: new Float32Array(0),
  };
  const tints = p.tints.map(linear);
  for (let k = 0; k < order.length; k++) {
    writeMatrix(p, order[k], out.matrices, 16 * k);
    if (out.colours) for (let c = 0; c < 3; c++) out.colours[3 * k + c] = tints[p.tint[order[k]]][c];
  }
  return { ...out, ...tableOf(p, out, squares.chunks, boundsOf) };
}

const NOT_SHOWN = -1;

function kindOf(p: Placements, i: number): number {
  if (entryOf(p.shapes, i) >= 0) return CHUNK.shaped;
  return p.flags[i] & FLAG.mirrored ? CHUNK.mirrored : CHUNK.plain;
}

/** What is bent or clipped is so as it is at rest. */
const poseOf = ({ posed, shapes }: Placements, i: number): number =>
  posed && entryOf(shapes, i) < 0 ? posed.pose[i] : 0;

/** Of each placement its prop, still and kind as one number: n. */
function groupsOf(p: Placements): Int32Array {
  const group = new Int32Array(p.count);
  const from = p.posed?.poses.from;
  for (let i = 0; i < p.count; i++) {
    const shown = !(p.flags[i] & FLAG.blank) && p.prop[i] !== NO_PROP;
    const still = from ? from[p.prop[i]] + poseOf(p, i) : p.prop[i];
    group[i] = shown ? KINDS * still + kindOf(p, i) : NOT_SHOWN;
  }
  return group;
}

/** How each group is parted: its box seen from above (4 numbers), how many squares a side, and where its chunks begin. */
function squaresOf(p: Placements, group: Int32Array, groups: number) {
  const cells = new Float64Array(4 * groups);
  const count = new Uint32Array(groups);
  for (let g = 0; g < groups; g++) cells.set([Infinity, Infinity, -Infinity, -Infinity], 4 * g);
  for (let i = 0; i < group.length; i++) {
    const g = group[i];
    if (g < 0) continue;
    count[g]++;
    const x = p.position[3 * i];
    const z = p.position[3 * i + 2];
    const c = 4 * g;
    if (x < cells[c]) cells[c] = x;
    if (z < cells[c + 1]) cells[c + 1] = z;
    if (x > cells[c + 2]) cells[c + 2] = x;
    if (z > cells[c + 3]) cells[c + 3] = z;
  }
  const starts = new Uint32Array(groups + 1);
  const columns = new Uint32Array(groups);
  for (let g = 0; g < groups; g++) {
    const chunks = Math.ceil(count[g] / PER_CHUNK);
    const [wide, deep] = [0, 1].map((k) => Math.max(1e-9, cells[4 * g + 2 + k] - cells[4 * g + k]));
    columns[g] = Math.max(1, Math.min(chunks, Math.round(Math.sqrt((chunks * wide) / deep))));
    const rows = Math.ceil(chunks / columns[g]);
    starts[g + 1] = starts[g] + rows * columns[g];
    // From here on the box's corner and how many squares there are to the metre.
    cells[4 * g + 2] = columns[g] / wide;
    cells[4 * g + 3] = rows / deep;
  }
  return { starts, columns, cells, chunks: new Uint32Array(starts[groups] + 1) };
}

/** The placements sorted by their chunks, whose ends are counted on the way. */
function inOrder(
  p: Placements,
  group: Int32Array,
  { starts, columns, cells, chunks: ends }: ReturnType<typeof squaresOf>,
): Uint32Array {
  const chunk = new Int32Array(p.count);
  for (let i = 0; i < p.count; i++) {
    const g = group[i];
    chunk[i] = g;
    if (g < 0) continue;
    const most = columns[g] - 1;
    const last = (starts[g + 1] - starts[g]) / columns[g] - 1;
    const column = Math.min(most, Math.floor((p.position[3 * i] - cells[4 * g]) * cells[4 * g + 2]));
    const row = Math.min(last, Math.floor((p.position[3 * i + 2] - cells[4 * g + 1]) * cells[4 * g + 3]));
    chunk[i] = starts[g] + row * columns[g] + column;
    ends[chunk[i] + 1]++;
  }
  for (let c = 1; c < ends.length; c++) ends[c] += ends[c - 1];
  const next = ends.slice();
  const order = new Uint32Array(ends[ends.length - 1]);
  for (let i = 0; i < p.count; i++) if (chunk[i] >= 0) order[next[chunk[i]]++] = i;
  return order;
}

/** What is told of the chunks that hold something. */
function tableOf(
  p: Placements,
  { order, matrices }: Pick<Drawn, "order" | "matrices">,
  ends: Uint32Array,
  boundsOf: (prop: string) => PropBounds | undefined,
): Pick<Drawn, "prop" | "kind" | "pose" | "from" | "box" | "size"> {
  const full: number[] = [];
  for (let c = 0; c + 1 < ends.length; c++) if (ends[c + 1] > ends[c]) full.push(c);
  const out = {
    prop: new Uint16Array(full.length),
    kind: new Uint8Array(full.length),
    pose: new Uint16Array(full.length),
    from: new Uint32Array(full.length + 1),
    box: new Float32Array(6 * full.length),
    size: new Float32Array(full.length),
  };
  full.forEach((c, n) => {
    const first = order[ends[c]];
    out.pose[n] = poseOf(p, first);
    out.kind[n] = kindOf(p, first);
    out.prop[n] = p.prop[first];
    out.from[n] = ends[c];
    const extent = extentOf(boundsOf(p.props[out.prop[n]]), out.kind[n] === CHUNK.mirrored, p.posed ? POSED : 1);
    const box = out.box
      .subarray(6 * n, 6 * n + 6)
      .fill(Infinity, 0, 3)
      .fill(-Infinity, 3, 6);
    let size = 0;
    for (let k = ends[c]; k < ends[c + 1]; k++) {
      widen(box, matrices, 16 * k, extent);
      const s = 3 * order[k];
      size = Math.max(size, p.scale[s], p.scale[s + 1], p.scale[s + 2]);
    }
    out.size[n] = size;
  });
  out.from[full.length] = order.length;
  return out;
}

/** Widens a box to hold another that a matrix moves: its middle, and how far it reaches to all sides (J. Arvo, Graphics Gems, 1990). */
function widen(out: Float32Array, m: Float32Array, o: number, extent: Extent): void {
  for (let axis = 0; axis < 3; axis++) {
    const x = m[o + axis];
    const y = m[o + 4 + axis];
    const z = m[o + 8 + axis];
    const middle = m[o + 12 + axis] + x * extent[0] + y * extent[1] + z * extent[2];
    const reach = Math.abs(x) * extent[3] + Math.abs(y) * extent[4] + Math.abs(z) * extent[5];
    if (middle - reach < out[axis]) out[axis] = middle - reach;
    if (middle + reach > out[3 + axis]) out[3 + axis] = middle + reach;
  }
}

/** The box about all placements that are shown, from their origin; null where none is. */
export function boxOfAll(p: Placements, boundsOf: (prop: string) => PropBounds | undefined): PropBounds | null {
  const box = Float32Array.of(Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity);
  const extents = p.props.flatMap((prop) => [false, true].map((mirrored) => extentOf(boundsOf(prop), mirrored, 1)));
  const matrix = new Float32Array(16);
  for (let i = 0; i < p.count; i++) {
    if (p.flags[i] & FLAG.blank || p.prop[i] === NO_PROP) continue;
    writeMatrix(p, i, matrix, 0);
    widen(box, matrix, 0, extents[2 * p.prop[i] + (p.flags[i] & FLAG.mirrored ? 1 : 0)]);
  }
  const [x, y, z, a, b, c] = box;
  return x <= a ? { min: [x, y, z], max: [a, b, c] } : null;
}

/** The middle of a box and half of what it measures. */
type Extent = readonly [mx: number, my: number, mz: number, hx: number, hy: number, hz: number];

/** A still may reach beyond the box of the file at rest: twice as far is taken for granted. */
const POSED = 2;

function extentOf(bounds: PropBounds | undefined, mirrored: boolean, times: number): Extent {
  if (!bounds) return [0, 0, 0, 0, 0, 0];
  const middle = (k: 0 | 1 | 2) => 0.5 * (bounds.min[k] + bounds.max[k]);
  const half = (k: 0 | 1 | 2) => 0.5 * times * (bounds.max[k] - bounds.min[k]);
  return [mirrored ? -middle(0) : middle(0), middle(1), middle(2), half(0), half(1), half(2)];
}

/** Writes the matrix of placement `i`, from the placements' origin, into 16 numbers at `o`. Of a mirrored one mirroring is left out. */
export function writeMatrix(
  p: Pick<Placements, "position" | "rotation" | "scale">,
  i: number,
  out: Float32Array,
  o: number,
): void {
  const { rotation, scale, position } = p;
  const x = rotation[4 * i];
  const y = rotation[4 * i + 1];
  const z = rotation[4 * i + 2];
  const w = rotation[4 * i + 3];
  const sx = scale[3 * i];
  const sy = scale[3 * i + 1];
  const sz = scale[3 * i + 2];
  out[o] = (1 - 2 * (y * y + z * z)) * sx;
  out[o + 1] = 2 * (x * y + z * w) * sx;
  out[o + 2] = 2 * (x * z - y * w) * sx;
  out[o + 3] = 0;
  out[o + 4] = 2 * (x * y - z * w) * sy;
  out[o + 5] = (1 - 2 * (x * x + z * z)) * sy;
  out[o + 6] = 2 * (y * z + x * w) * sy;
  out[o + 7] = 0;
  out[o + 8] = 2 * (x * z + y * w) * sz;
  out[o + 9] = 2 * (y * z - x * w) * sz;
  out[o + 10] = (1 - 2 * (x * x + y * y)) * sz;
  out[o + 11] = 0;
  out[o + 12] = position[3 * i];
  out[o + 13] = position[3 * i + 1];
  out[o + 14] = position[3 * i + 2];
  out[o + 15] = 1;
}

/** A colour `#rrggbb` in linear light (IEC 61966-2-1). */
export function linear(written: string): [number, number, number] {
  const bits = Number.parseInt(written.slice(1), 16);
  const one = (shift: number) => {
    const c = ((bits >> shift) & 255) / 255;
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  };
  return [one(16), one(8), one(0)];
}

/** The buffers, for handing them to another thread without copying. */
export const buffersOfDrawn = (d: Drawn): ArrayBuffer[] =>
  [d.order, d.matrices, d.prop, d.kind, d.pose, d.from, d.box, d.size, ...(d.colours ? [d.colours] : [])].map(
    ({ buffer }) => buffer as ArrayBuffer,
  );
