/** *Outlines seen from above*: whether a place lies within them, and how far from their edge it is. */
import { squaredToSegment } from "../math";
import type { GuideLine } from "../line";

/** An outline is followed by straight pieces as long as this share of it, or of the pieces that this many make. */
const PIECES = 512;
/** Cells for the edges: about so many edges to a cell. */
const PER_CELL = 2;
const MAX_CELLS = 1 << 20;

export class Plan {
  /** Edges: x and z of both ends, 4 numbers each. */
  readonly #edges: Float64Array;
  /** The outline of each edge. */
  readonly #outline: Uint16Array;
  readonly #areas: number;
  readonly #crossed: Uint8Array;
  /** Edges by bands of z, for telling inside from outside; and by square cells, for distances. */
  readonly #bands: Buckets;
  readonly #cells: Cells;
  readonly least: readonly [x: number, z: number];
  readonly most: readonly [x: number, z: number];

  /**
   * @param outlines closed polygons, x and z of each corner; the first `areas` of them have their inside inside, the others
   * cut holes. Without areas everything lies inside that lies in no hole.
   */
  constructor(outlines: readonly Float64Array[], areas: number) {
    const edges: number[] = [];
    const outline: number[] = [];
    outlines.forEach((points, o) => {
      for (let k = 0, n = points.length / 2; k < n; k++) {
        const next = (k + 1) % n;
        edges.push(points[2 * k], points[2 * k + 1], points[2 * next], points[2 * next + 1]);
        outline.push(o);
      }
    });
    this.#edges = Float64Array.from(edges);
    this.#outline = Uint16Array.from(outline);
    this.#areas = areas;
    this.#crossed = new Uint8Array(outlines.length);
    const [x0, z0, x1, z1] = boxOf(this.#edges);
    this.least = [x0, z0];
    this.most = [x1, z1];
    this.#bands = new Buckets(this.#edges, z0, z1);
    this.#cells = new Cells(this.#edges);
  }

  /** The outlines of areas and of holes that have an inside; null where there are none. */
  static of(areas: readonly GuideLine[], holes: readonly GuideLine[]): Plan | null {
    const within = areas.filter(hasInside);
    const outlines = [...within, ...holes.filter(hasInside)].map(outlineOf);
    return outlines.length > 0 ? new Plan(outlines, within.length) : null;
  }

  /** Whether it has any outline to lie within, and not only holes. */
  get bounded(): boolean {
    return this.#areas > 0;
  }

  /** Whether a place lies within an area and in no hole. */
  contains(x: number, z: number): boolean {
    const E = this.#edges;
    const crossed = this.#crossed.fill(0);
    const { starts, items } = this.#bands;
    const band = this.#bands.of(z);
    if (band < 0) return this.#areas === 0;
    for (let k = starts[band]; k < starts[band + 1]; k++) {
      const e = 4 * items[k];
      const below = E[e + 1] <= z;
      if (below === E[e + 3] <= z) continue;
      const share = (z - E[e + 1]) / (E[e + 3] - E[e + 1]);
      if (E[e] + share * (E[e + 2] - E[e]) > x) crossed[this.#outline[items[k]]] ^= 1;
    }
    let inside = this.#areas === 0;
    for (let o = 0; o < this.#areas && !inside; o++) inside = crossed[o] === 1;
    for (let o = this.#areas; o < crossed.length; o++) if (crossed[o] === 1) return false;
    return inside;
  }

  /** How far a place lies from the nearest edge, metres; `most` where it is farther. */
  toEdge(x: number, z: number, most: number): number {
    return this.#cells.nearest(x, z, most);
  }
}

export const hasInside = ({ curve }: GuideLine): boolean => curve.closed && curve.length > 0;

/** The corners of a closed line, x and z: its curve cut into short straight pieces. */
export function outlineOf({ curve }: GuideLine): Float64Array {
  const at = Float64Array.from({ length: PIECES }, (_, i) => (curve.length * i) / PIECES);
  const points = new Float64Array(3 * PIECES);
  curve.sample(at, PIECES, points, new Float64Array(3 * PIECES));
  return Float64Array.from({ length: 2 * PIECES }, (_, i) => points[3 * (i >> 1) + (i & 1 ? 2 : 0)]);
}

function boxOf(edges: Float64Array): [x0: number, z0: number, x1: number, z1: number] {
  let [x0, z0, x1, z1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let e = 0; e < edges.length; e += 2) {
    x0 = Math.min(x0, edges[e]);
    x1 = Math.max(x1, edges[e]);
    z0 = Math.min(z0, edges[e + 1]);
    z1 = Math.max(z1, edges[e + 1]);
  }
  return [x0, z0, x1, z1];
}

/** Edges sorted into bands of z. */
class Buckets {
  readonly starts: Uint32Array;
  readonly items: Uint32Array;
  readonly #from: number;
  readonly #per: number;
  readonly #count: number;

  constructor(edges: Float64Array, from: number, to: number) {
    const n = edges.length / 4;
    this.#count = Math.max(1, n);
    this.#from = from;
    this.#per = this.#count / Math.max(1e-12, to - from);
    const band = (z: number) => Math.max(0, Math.min(this.#count - 1, Math.floor((z - from) * this.#per)));
    const spans = (e: number): [number, number] => {
      const [a, b] = [band(edges[4 * e + 1]), band(edges[4 * e + 3])];
      return a < b ? [a, b] : [b, a];
    };
    [this.starts, this.items] = sorted(n, this.#count, (e, each) => {
      const [a, b] = spans(e);
      for (let k = a; k <= b; k++) each(k);
    });
  }

  /** The band of a z, or -1 where there is none. */
  of(z: number): number {
    const band = Math.floor((z - this.#from) * this.#per);
    if (band === this.#count) return this.#count - 1;
    return band >= 0 && band < this.#count ? band : -1;
  }
}

/** *Edges sorted into square cells*, for how far the nearest one is. */
export class Cells {
  readonly #edges: Float64Array;
  readonly #starts: Uint32Array;
  readonly #items: Uint32Array;
  readonly #left: number;
  readonly #top: number;
  readonly #size: number;
  readonly #columns: number;
  readonly #rows: number;

  /** @param edges x and z of both ends, 4 numbers each */
  constructor(edges: Float64Array) {
    const [x0, z0, x1, z1] = boxOf(edges);
    this.#edges = edges;
    const n = edges.length / 4;
    const wanted = Math.min(MAX_CELLS, Math.max(1, n / PER_CELL));
    const [wide, deep] = [Math.max(x1 - x0, 1e-9), Math.max(z1 - z0, 1e-9)];
    this.#size = Math.max(Math.sqrt((wide * deep) / wanted), Math.max(wide, deep) / wanted);
    this.#columns = Math.floor(wide / this.#size) + 1;
    this.#rows = Math.floor(deep / this.#size) + 1;
    this.#left = x0;
    this.#top = z0;
    const cell = (v: number, from: number, most: number) =>
      Math.max(0, Math.min(most - 1, Math.floor((v - from) / this.#size)));
    [this.#starts, this.#items] = sorted(n, this.#columns * this.#rows, (e, each) => {
      const o = 4 * e;
      const [a, b] = [cell(edges[o], x0, this.#columns), cell(edges[o + 2], x0, this.#columns)];
      const [c, d] = [cell(edges[o + 1], z0, this.#rows), cell(edges[o + 3], z0, this.#rows)];
      for (let row = Math.min(c, d); row <= Math.max(c, d); row++)
        for (let column = Math.min(a, b); column <= Math.max(a, b); column++) each(row * this.#columns + column);
    });
  }

  /** How far a place lies from the nearest edge; `most` where it is farther. */
  nearest(x: number, z: number, most: number): number {
    const size = this.#size;
    const column = Math.floor((x - this.#left) / size);
    const row = Math.floor((z - this.#top) / size);
    let best = most;
    const [columns, rows] = [this.#columns - 1, this.#rows - 1];
    const farthest = Math.max(column, row, columns - column, rows - row);
    // Rings of cells: what lies in the next ring is at least so many cells away. The first that reaches the grid comes first.
    const first = Math.max(0, -column, -row, column - columns, row - rows);
    for (let ring = first; ring <= farthest && (ring - 1) * size < best; ring++) {
      const [left, right] = [Math.max(0, column - ring), Math.min(columns, column + ring)];
      const [top, bottom] = [row - ring, row + ring];
      for (let r = Math.max(0, top); r <= Math.min(rows, bottom); r++) {
        const o = r * this.#columns;
        if (r === top || r === bottom) {
          for (let c = left; c <= right; c++) best = this.#least(o + c, x, z, best);
          continue;
        }
        if (column - ring >= 0) best = this.#least(o + column - ring, x, z, best);
        if (column + ring <= columns) best = this.#least(o + column + ring, x, z, best);
      }
    }
    return best;
  }

  #least(cell: number, x: number, z: number, best: number): number {
    const E = this.#edges;
    for (let k = this.#starts[cell]; k < this.#starts[cell + 1]; k++) {
      const e = 4 * this.#items[k];
      const far = squaredToSegment(x - E[e], 0, z - E[e + 1], E[e + 2] - E[e], 0, E[e + 3] - E[e + 1]);
      if (far < best * best) best = Math.sqrt(far);
    }
    return best;
  }
}

/** Counting sort: where each bucket's items begin, and the items. */
function sorted(
  n: number,
  buckets: number,
  eachOf: (item: number, each: (bucket: number) => void) => void,
): [starts: Uint32Array, items: Uint32Array] {
  const starts = new Uint32Array(buckets + 1);
  for (let i = 0; i < n; i++) eachOf(i, (bucket) => void starts[bucket + 1]++);
  for (let b = 0; b < buckets; b++) starts[b + 1] += starts[b];
  const items = new Uint32Array(starts[buckets]);
  const next = starts.slice();
  for (let i = 0; i < n; i++) eachOf(i, (bucket) => void (items[next[bucket]++] = i));
  return [starts, items];
}
