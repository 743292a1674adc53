/**
 * Version 5's: kept as it was, see `index.ts`.
 *
 * *Positions spread evenly over a mesh*: none nearer to another than a distance, and no room left for one more. Each position
 * in turn looks for room on the circle about it, as far away as need be and no farther: what its neighbours leave free of
 * that circle are arcs, and a new one is put on them until none is left (D. Dunbar, G. Humphreys, *A Spatial Data Structure
 * for Fast Poisson-Disk Sample Generation*, SIGGRAPH 2006). On a curved mesh the circle is walked out to over the triangles.
 */
import { CHANNEL, drawFrom, streamOf } from "../../math";
import { facetsOf, twinsOf, Walk, weldedVertices, type Spreadable, type WorldMesh } from "../../mesh";
import type { Spread } from "./random-over";

/** The circle is drawn so much larger than the distance, for what rounding and a gentle bend take. */
const OUTSIDE = 1.003;
/** Where the mesh ends or bends so much that a place on the circle is not free after all, so much of the circle is given up. */
const GIVEN_UP = 0.12;
/** A walk over a bend is lengthened so often. */
const STRETCHES = 4;
/** Free arcs shorter than this (radians) are none. */
const SHORT = 1e-4;
/** Squares of the distance that one position takes up at the densest: six neighbours about each. */
const DENSEST = Math.sqrt(3) / 2;
const TURN = 2 * Math.PI;

/** How far apart so many positions come to lie, nearly, metres. */
export function distanceFor(count: number, area: number): number {
  return Math.sqrt((FILLED * area) / Math.max(1, count));
}
/** Of an area, this much of squares of the distance is what positions spread like this come to have each. */
const FILLED = 0.882;

/** The triangle beyond each half-edge as it was told then: triangles without width crowd the edges beside them. */
function trianglesBeyond(position: Float64Array, index: Uint32Array): Int32Array {
  const vertex = weldedVertices(position);
  const corners = index.map((v) => vertex[v]);
  return twinsOf(corners, vertex.length).map((twin) => (twin < 0 ? -1 : Math.floor(twin / 3)));
}

const spreadable = (ground: Pick<WorldMesh, "position" | "index">): Spreadable => ({
  facets: facetsOf(ground),
  beyond: trianglesBeyond(ground.position, ground.index),
});

/**
 * @param mesh what {@link spreadable} gives, where it is known already
 * @param distance metres between neighbours at the least, as the crow flies
 * @param most no more positions than this
 */
export function evenOver(
  ground: Pick<WorldMesh, "position" | "index">,
  distance: number,
  seed: number,
  most = 4_000_000,
  mesh: Spreadable = spreadable(ground),
): Spread {
  const areas = mesh.facets.area;
  let area = 0;
  for (let t = 0; t < areas.length; t++) area += areas[t];
  const room = Math.min(most, Math.ceil((1.3 * area) / (DENSEST * distance * distance)) + 4096);
  const spreading = new Spreading(ground, mesh, distance, room, seed);
  // Every part of the mesh that hangs together begins with one; the same triangle each time.
  for (let t = 0; t < areas.length; t++) if (!spreading.reached(t) && areas[t] > 0) spreading.begin(t);
  return spreading.finish();
}

class Spreading {
  readonly #position: Float64Array;
  readonly #index: Uint32Array;
  readonly #beyond: Int32Array;
  /** Unit normals of the triangles: 3m. */
  readonly #normal: Float64Array;
  readonly #distance: number;
  readonly #stream: number;
  /** Triangles of parts that positions have been spread over. */
  readonly #reached: Uint8Array;
  readonly #at: Float64Array;
  readonly #triangle: Uint32Array;
  #count = 0;
  /** A hash grid over space, its cells two distances broad: chains of positions. */
  readonly #head: Int32Array;
  readonly #next: Int32Array;
  readonly #mask: number;
  /** The search that found each position last. */
  readonly #seen: Int32Array;
  #stamp = 0;
  readonly #perCell: number;
  /** Positions about the one at hand: indices. */
  #near = new Int32Array(256);
  /** Free arcs of its circle: starts and ends. */
  readonly #from = new Float64Array(128);
  readonly #to = new Float64Array(128);
  #arcs = 0;
  /** Where a walk has come to, and in which triangle. */
  readonly #walk: Walk;

  constructor(
    ground: Pick<WorldMesh, "position" | "index">,
    { facets, beyond }: Spreadable,
    distance: number,
    room: number,
    seed: number,
  ) {
    this.#position = ground.position;
    this.#index = ground.index;
    this.#beyond = beyond;
    this.#normal = facets.normal;
    this.#walk = new Walk(ground, { normal: facets.normal }, beyond);
    this.#distance = distance;
    this.#stream = streamOf(seed, CHANNEL.overEven);
    this.#reached = new Uint8Array(ground.index.length / 3);
    this.#at = new Float64Array(3 * room);
    this.#triangle = new Uint32Array(room);
    const cells = 2 ** Math.ceil(Math.log2(Math.max(64, room / 2)));
    this.#head = new Int32Array(cells).fill(-1);
    this.#next = new Int32Array(room);
    this.#seen = new Int32Array(room);
    this.#mask = cells - 1;
    this.#perCell = 1 / (2 * distance * OUTSIDE);
  }

  reached(triangle: number): boolean {
    return this.#reached[triangle] === 1;
  }

  /** Spreads positions over the part of the mesh that a triangle belongs to. */
  begin(triangle: number): void {
    this.#markPart(triangle);
    const P = this.#position;
    for (let axis = 0; axis < 3; axis++) {
      let sum = 0;
      for (let k = 0; k < 3; k++) sum += P[3 * this.#index[3 * triangle + k] + axis];
      this.#walk.place[axis] = sum / 3;
    }
    this.#walk.triangle = triangle;
    // Parts may lie closer to each other than positions may.
    if (!this.#isFree(this.#gather(this.#walk.place[0], this.#walk.place[1], this.#walk.place[2]))) return;
    let next = this.#count;
    if (!this.#put()) return;
    while (next < this.#count) this.#surround(next++);
  }

  finish(): Spread {
    const n = this.#count;
    const normal = new Float32Array(3 * n);
    for (let i = 0; i < n; i++) {
      const t = 3 * this.#triangle[i];
      for (let axis = 0; axis < 3; axis++) normal[3 * i + axis] = this.#normal[t + axis];
    }
    return { count: n, position: this.#at.slice(0, 3 * n), normal, triangle: this.#triangle.slice(0, n) };
  }

  #markPart(triangle: number): void {
    const stack = [triangle];
    this.#reached[triangle] = 1;
    while (stack.length > 0) {
      const t = stack.pop()!;
      for (let e = 3 * t; e < 3 * t + 3; e++) {
        const other = this.#beyond[e];
        if (other < 0 || this.#reached[other] === 1) continue;
        this.#reached[other] = 1;
        stack.push(other);
      }
    }
  }

  #bucket(x: number, y: number, z: number): number {
    return (Math.imul(x, 0x9e3779b1) + Math.imul(y, 0x85ebca6b) + Math.imul(z, 0xc2b2ae35)) & this.#mask;
  }

  /** Takes in the place that was walked to; false where there is no more room. */
  #put(): boolean {
    const i = this.#count;
    if (i === this.#triangle.length) return false;
    this.#at.set(this.#walk.place, 3 * i);
    this.#triangle[i] = this.#walk.triangle;
    const k = this.#perCell;
    const x = this.#walk.place[0];
    const y = this.#walk.place[1];
    const z = this.#walk.place[2];
    const bucket = this.#bucket(Math.floor(x * k), Math.floor(y * k), Math.floor(z * k));
    this.#next[i] = this.#head[bucket];
    this.#head[bucket] = i;
    this.#count++;
    return true;
  }

  /** Writes the positions within two distances of a place into {@link #near}; says how many. */
  #gather(x: number, y: number, z: number): number {
    const k = this.#perCell;
    // The cells that a ball of one cell's radius about the place can reach into.
    const lx = Math.floor(x * k - 1);
    const ly = Math.floor(y * k - 1);
    const lz = Math.floor(z * k - 1);
    const hx = Math.floor(x * k + 1);
    const hy = Math.floor(y * k + 1);
    const hz = Math.floor(z * k + 1);
    const far = 4 * this.#distance * this.#distance * OUTSIDE * OUTSIDE;
    const at = this.#at;
    const next = this.#next;
    const seen = this.#seen;
    const stamp = ++this.#stamp;
    let count = 0;
    for (let cx = lx; cx <= hx; cx++) {
      for (let cy = ly; cy <= hy; cy++) {
        for (let cz = lz; cz <= hz; cz++) {
          for (let j = this.#head[this.#bucket(cx, cy, cz)]; j >= 0; j = next[j]) {
            const o = 3 * j;
            const dx = at[o] - x;
            const dy = at[o + 1] - y;
            const dz = at[o + 2] - z;
            // Cells may share a bucket, so that a position comes by more than once.
            if (dx * dx + dy * dy + dz * dz >= far || seen[j] === stamp) continue;
            seen[j] = stamp;
            if (count === this.#near.length) {
              const more = new Int32Array(2 * count);
              more.set(this.#near);
              this.#near = more;
            }
            this.#near[count++] = j;
          }
        }
      }
    }
    return count;
  }

  /** Whether the place that was walked to lies far enough from the first `near` of those gathered. */
  #isFree(near: number): boolean {
    const at = this.#at;
    const x = this.#walk.place[0];
    const y = this.#walk.place[1];
    const z = this.#walk.place[2];
    const least = this.#distance * this.#distance;
    for (let k = 0; k < near; k++) {
      const o = 3 * this.#near[k];
      const dx = at[o] - x;
      const dy = at[o + 1] - y;
      const dz = at[o + 2] - z;
      if (dx * dx + dy * dy + dz * dz < least) return false;
    }
    return true;
  }

  /** Puts positions on the circle about one until no more has room there. */
  #surround(i: number): void {
    const o = 3 * i;
    const x = this.#at[o];
    const y = this.#at[o + 1];
    const z = this.#at[o + 2];
    const triangle = this.#triangle[i];
    const nx = this.#normal[3 * triangle];
    const ny = this.#normal[3 * triangle + 1];
    const nz = this.#normal[3 * triangle + 2];
    // Two directions in the triangle's plane, square to each other.
    let [ax, ay, az] = Math.abs(ny) < 0.9 ? [nz, 0, -nx] : [0, -nz, ny];
    const length = Math.sqrt(ax * ax + ay * ay + az * az);
    if (!(length > 0)) return;
    ax /= length;
    ay /= length;
    az /= length;
    const bx = ny * az - nz * ay;
    const by = nz * ax - nx * az;
    const bz = nx * ay - ny * ax;

    const radius = this.#distance * OUTSIDE;
    let near = this.#gather(x, y, z);
    this.#from[0] = 0;
    this.#to[0] = TURN;
    this.#arcs = 1;
    for (let k = 0; k < near && this.#arcs > 0; k++) {
      const j = this.#near[k];
      if (j === i) continue;
      const dx = this.#at[3 * j] - x;
      const dy = this.#at[3 * j + 1] - y;
      const dz = this.#at[3 * j + 2] - z;
      this.#block(dx * ax + dy * ay + dz * az, dx * bx + dy * by + dz * bz, dx * dx + dy * dy + dz * dz, radius);
    }
    for (let k = 0; this.#arcs > 0; k++) {
      const angle = this.#freeAngle(drawFrom(this.#stream, i, k));
      const c = Math.cos(angle);
      const s = Math.sin(angle);
      const walked = this.#reach(triangle, x, y, z, c * ax + s * bx, c * ay + s * by, c * az + s * bz);
      if (!walked || !this.#isFree(near)) {
        this.#subtract(angle - GIVEN_UP, angle + GIVEN_UP);
        continue;
      }
      if (near === this.#near.length) return;
      this.#near[near++] = this.#count;
      if (!this.#put()) return;
      const dx = this.#walk.place[0] - x;
      const dy = this.#walk.place[1] - y;
      const dz = this.#walk.place[2] - z;
      const [u, v] = [dx * ax + dy * ay + dz * az, dx * bx + dy * by + dz * bz];
      this.#block(u, v, dx * dx + dy * dy + dz * dz, radius);
      // However the mesh bends, the same place is not looked at again.
      this.#subtract(angle - SHORT, angle + SHORT);
    }
  }

  /** Walks to where it is a distance away as the crow flies: over a bend that is farther than on the level. */
  #reach(triangle: number, x: number, y: number, z: number, dx: number, dy: number, dz: number): boolean {
    let way = this.#distance * OUTSIDE;
    for (let k = 0; k < STRETCHES; k++) {
      if (!this.#walk.straight(triangle, x, y, z, dx, dy, dz, way)) return false;
      const px = this.#walk.place[0] - x;
      const py = this.#walk.place[1] - y;
      const pz = this.#walk.place[2] - z;
      const away = Math.sqrt(px * px + py * py + pz * pz);
      if (away >= this.#distance) return true;
      way *= Math.min(2, (this.#distance * OUTSIDE) / away);
    }
    return true;
  }

  /** Takes from the circle what a neighbour in direction (u, v), the root of `squared` away, does not leave free. */
  #block(u: number, v: number, squared: number, radius: number): void {
    const least = this.#distance * this.#distance;
    const cosine = (squared + radius * radius - least) / (2 * radius * Math.sqrt(squared));
    if (!(cosine < 1)) return;
    const half = Math.acos(Math.max(-1, cosine));
    const signed = Math.atan2(v, u);
    const angle = signed < 0 ? signed + TURN : signed;
    this.#subtract(angle - half, angle + half);
  }

  /** Takes an arc (radians, no longer than a whole turn) from the free ones. */
  #subtract(from: number, to: number): void {
    if (from < 0) {
      this.#cut(from + TURN, TURN);
      this.#cut(0, to);
    } else if (to > TURN) {
      this.#cut(from, TURN);
      this.#cut(0, to - TURN);
    } else this.#cut(from, to);
  }

  #cut(from: number, to: number): void {
    const starts = this.#from;
    const ends = this.#to;
    for (let k = 0; k < this.#arcs; k++) {
      const [start, end] = [starts[k], ends[k]];
      if (end <= from || start >= to) continue;
      const before = from - start > SHORT;
      const after = end - to > SHORT;
      if (before) ends[k] = from;
      if (after && !before) starts[k] = to;
      else if (after && this.#arcs < starts.length) {
        starts[this.#arcs] = to;
        ends[this.#arcs++] = end;
      } else if (!before) {
        this.#arcs--;
        starts[k] = starts[this.#arcs];
        ends[k] = ends[this.#arcs];
        k--;
      }
    }
  }

  /** The angle at a share of all that is free. */
  #freeAngle(share: number): number {
    let free = 0;
    for (let k = 0; k < this.#arcs; k++) free += this.#to[k] - this.#from[k];
    let left = share * free;
    for (let k = 0; k < this.#arcs; k++) {
      const arc = this.#to[k] - this.#from[k];
      if (left <= arc || k === this.#arcs - 1) return Math.min(this.#to[k], this.#from[k] + left);
      left -= arc;
    }
    return 0;
  }
}
