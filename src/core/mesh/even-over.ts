/**
 * *Places spread evenly over a mesh*, by how near they may come, or by how many.
 *
 * First come those that arrive while there is much room, and keep their distance (see `spaced.ts`). By number that is all: one
 * more is one more. By distance what room they leave is filled until there is none left: on the circle about each place,
 * walked out to over the triangles, neighbours leave arcs free, and another is put there (D. Dunbar, G. Humphreys, *A Spatial
 * Data Structure for Fast Poisson-Disk Sample Generation*, SIGGRAPH 2006), or rather in the middle of the cell of its triangle
 * that it falls into, so that a little more or less distance leaves it where it is.
 */
import { finish, mix } from "../math";
import { trianglesBeyond } from "./adjacency";
import { arrivalsOver, BEYOND, MOST_ARRIVALS, mostArrived, taken, type Arriving, type Spread } from "./arrivals";
import { facetsOf, type Facets, type Points } from "./facets";
import { isWithin } from "./cut-faces";
import { FreeArcs, SHORT } from "./free-arcs";
import { PointGrid } from "./point-grid";
import { arrivedAt, spaced, stepEnd } from "./spaced";
import { TriangleCells } from "./triangle-cells";
import { Walk } from "./walk";

/** The circle is drawn so much larger than the distance, for what rounding and a gentle bend take. */
const OUTSIDE = 1.003;
/** Where the mesh ends or bends so much that a place on the circle is not free after all, so much of the circle is given up. */
const GIVEN_UP = 0.12;
/** A walk over a bend is lengthened so often. */
const STRETCHES = 4;
/** What is arrived by keeping distance alone before the rest is filled: in times of when the distance is due. */
const BEFORE_FILLING = 1.2;
/** A cell in whose middle a place is put is at most this share of the distance broad. */
const CELL = 1 / 5;
/** Cells so far to all sides of one are looked at. */
const AROUND = 1;

/** Of an area, this many squares of the distance there are to each position, filled by distance, and by number. */
const FILLED = 0.692;
const SPACED = 0.398;

/** How far apart so many positions come to lie, nearly, metres, where the mesh is filled. */
export const distanceFor = (count: number, area: number): number => Math.sqrt((FILLED * area) / Math.max(1, count));
/** Up to what density places must arrive, nearly, for so many to keep their distance. */
export const arrivedFor = (count: number, area: number): number =>
  arrivedAt(Math.sqrt((SPACED * area) / Math.max(1, count)));

/** What is worked out of a mesh once, for spreading over it again and again. */
export interface Spreadable {
  facets: Facets;
  /** The triangle beyond each edge: 3m. */
  beyond: Int32Array;
}

export const spreadable = (ground: { position: Float64Array; index: Uint32Array }): Spreadable => ({
  facets: facetsOf(ground),
  beyond: trianglesBeyond(ground.position, ground.index),
});

/** As many as keep their distance of those that arrive up to a density. */
export function evenUpTo(ground: Points, mesh: Pick<Spreadable, "facets">, upTo: number, arriving: Arriving): Spread {
  const end = Math.min(stepEnd(upTo), mostArrived(mesh.facets, arriving));
  const all = arrivalsOver(ground, mesh.facets, end, arriving);
  const { chosen } = spaced(all, end);
  return taken(
    all,
    chosen.slice().sort((a, b) => all.density[a] - all.density[b]),
  );
}

/** None nearer to another than `distance`, metres as the crow flies, and no room left for one more. */
export function evenOver(ground: Points, mesh: Spreadable, distance: number, arriving: Arriving): Spread {
  // Where that were too many, less room is left to begin with, and more of it is filled.
  const upTo = Math.min(BEFORE_FILLING * arrivedAt(distance), mostArrived(mesh.facets, arriving));
  // What lies beyond the rim keeps others off as well, so that they need not give way when the rim moves.
  const all = arrivalsOver(ground, mesh.facets, upTo, arriving, true);
  const chosen = spaced(all, upTo, distance).chosen.filter((i) => all.triangle[i] !== BEYOND);
  // Neighbours in memory are neighbours on the mesh.
  chosen.sort();
  const filling = new Filling(ground, mesh, distance, taken(all, chosen), arriving);
  filling.fill();
  return filling.finish();
}

/** Fills what room is left between places. */
class Filling {
  readonly #ground: Points;
  readonly #mesh: Spreadable;
  readonly #distance: number;
  readonly #arriving: Arriving;
  readonly #grid: PointGrid;
  readonly #most: number;
  #triangle: Uint32Array;
  #key: Uint32Array;
  readonly #walk: Walk;
  readonly #arcs = new FreeArcs();
  readonly #cells: TriangleCells;
  /** A place on a triangle. */
  readonly #place = new Float64Array(3);

  constructor(ground: Points, mesh: Spreadable, distance: number, begun: Spread, arriving: Arriving) {
    this.#ground = ground;
    this.#mesh = mesh;
    this.#distance = distance;
    this.#arriving = arriving;
    this.#cells = new TriangleCells(ground, mesh.facets.area.length, CELL * distance, arriving);
    this.#walk = new Walk(ground, mesh.facets, mesh.beyond);
    this.#most = arriving.most ?? MOST_ARRIVALS;
    const room = 2 * begun.count + 4096;
    this.#triangle = new Uint32Array(room);
    this.#triangle.set(begun.triangle);
    this.#key = new Uint32Array(2 * room);
    this.#key.set(begun.key);
    this.#grid = new PointGrid(room);
    this.#grid.resize(4 * distance, room / 4);
    const P = begun.position;
    for (let i = 0; i < begun.count; i++) this.#grid.add(P[3 * i], P[3 * i + 1], P[3 * i + 2]);
  }

  fill(): void {
    this.#begin();
    for (let i = 0; i < this.#grid.count; i++) this.#surround(i);
  }

  finish(): Spread {
    const n = this.#grid.count;
    return {
      count: n,
      position: this.#grid.position.slice(0, 3 * n),
      triangle: this.#triangle.slice(0, n),
      key: this.#key.slice(0, 2 * n),
      joinOrder: null,
    };
  }

  /** Parts of the mesh that nothing has arrived on, and that hang together with nothing that has, get a first place each. */
  #begin(): void {
    const { beyond, facets } = this.#mesh;
    const reached = new Uint8Array(facets.area.length);
    for (let i = 0; i < this.#grid.count; i++) markPart(beyond, this.#triangle[i], reached);
    for (let t = 0; t < reached.length; t++) {
      if (reached[t] === 1 || !(facets.area[t] > 0)) continue;
      markPart(beyond, t, reached);
      this.#cells.take(t);
      this.#cells.middle(1, 0, 0, 0, this.#place);
      this.#cells.name(0, 0, 0, 3);
      if (this.#hasRoom()) this.#put(t);
    }
  }

  /** Puts places on the circle about one until no more has room there. */
  #surround(i: number): void {
    const grid = this.#grid;
    const x = grid.position[3 * i];
    const y = grid.position[3 * i + 1];
    const z = grid.position[3 * i + 2];
    const triangle = this.#triangle[i];
    const N = this.#mesh.facets.normal;
    const nx = N[3 * triangle];
    const ny = N[3 * triangle + 1];
    const nz = N[3 * triangle + 2];
    // Two directions in the triangle's plane, square to each other.
    const level = Math.abs(ny) < 0.9;
    const length = level ? Math.sqrt(nz * nz + nx * nx) : Math.sqrt(nz * nz + ny * ny);
    if (!(length > 0)) return;
    const ax = level ? nz / length : 0;
    const ay = level ? 0 : -nz / length;
    const az = level ? -nx / length : ny / length;
    const bx = ny * az - nz * ay;
    const by = nz * ax - nx * az;
    const bz = nx * ay - ny * ax;

    const arcs = this.#arcs;
    const radius = this.#distance * OUTSIDE;
    const near = grid.gather(x, y, z, 2 * radius);
    arcs.reset();
    for (let k = 0; k < near && arcs.count > 0; k++) {
      const j = grid.near[k];
      if (j === i) continue;
      const dx = grid.position[3 * j] - x;
      const dy = grid.position[3 * j + 1] - y;
      const dz = grid.position[3 * j + 2] - z;
      const squared = dx * dx + dy * dy + dz * dz;
      arcs.cover(dx * ax + dy * ay + dz * az, dx * bx + dy * by + dz * bz, squared, radius, this.#distance);
    }
    for (let k = 0; arcs.count > 0 && grid.count < this.#most; k++) {
      const angle = arcs.middle();
      const c = Math.cos(angle);
      const s = Math.sin(angle);
      if (!this.#reach(triangle, x, y, z, c * ax + s * bx, c * ay + s * by, c * az + s * bz) || !this.#settle()) {
        arcs.subtract(angle - GIVEN_UP, angle + GIVEN_UP);
        continue;
      }
      const dx = this.#place[0] - x;
      const dy = this.#place[1] - y;
      const dz = this.#place[2] - z;
      const [u, v] = [dx * ax + dy * ay + dz * az, dx * bx + dy * by + dz * bz];
      arcs.cover(u, v, dx * dx + dy * dy + dz * dz, radius, this.#distance);
      // However the mesh bends, the same place is not looked at again.
      arcs.subtract(angle - SHORT, angle + SHORT);
    }
  }

  /**
   * Puts a place near where the walk has come to: of the cells about it that have room in their middles, in that which comes
   * first by lot; or right there.
   */
  #settle(): boolean {
    const { place, triangle: t } = this.#walk;
    const cells = this.#cells;
    const far = this.#distance + 3 * cells.size * (AROUND + 1);
    const near = this.#grid.gather(place[0], place[1], place[2], far);
    const isCut = cells.takeAt(t, place);
    const n = cells.locate(place);
    const [i, j] = cells.at;
    const lots = cells.lots(n);
    let lot = Infinity;
    let best = -1;
    for (let ci = Math.max(0, i - AROUND); ci <= i + AROUND; ci++) {
      const row = mix(lots, ci);
      for (let cj = Math.max(0, j - AROUND); cj <= j + AROUND && ci + cj < n; cj++) {
        for (let upper = 0; upper < 2 && ci + cj + upper < n; upper++) {
          const own = finish(mix(row, 4 * cj + upper));
          if (own >= lot) continue;
          cells.middle(n, ci, cj, upper, this.#place);
          if (!this.#isFree(near) || !this.#isWanted() || (isCut && !this.#isOn(t))) continue;
          lot = own;
          best = (ci - i + AROUND) * 16 + (cj - j + AROUND) * 2 + upper;
        }
      }
    }
    if (best >= 0) {
      const [ci, cj, upper] = [i + (best >> 4) - AROUND, j + ((best >> 1) & 7) - AROUND, best & 1];
      cells.middle(n, ci, cj, upper, this.#place);
      cells.name(n, ci, cj, upper);
      return this.#put(t);
    }
    this.#place.set(place);
    const fine = cells.locate(place, 4);
    cells.name(fine, cells.at[0], cells.at[1], 2);
    return this.#hasRoom() && this.#put(t);
  }

  #isFree(near: number): boolean {
    const { near: list, position: at } = this.#grid;
    const x = this.#place[0];
    const y = this.#place[1];
    const z = this.#place[2];
    const least = this.#distance * this.#distance;
    for (let k = 0; k < near; k++) {
      const o = 3 * list[k];
      const dx = at[o] - x;
      const dy = at[o + 1] - y;
      const dz = at[o + 2] - z;
      if (dx * dx + dy * dy + dz * dz < least) return false;
    }
    return true;
  }

  #isOn(t: number): boolean {
    return isWithin(this.#ground, t, this.#place[0], this.#place[1], this.#place[2]);
  }

  #hasRoom(): boolean {
    const place = this.#place;
    return this.#isWanted() && this.#grid.isFree(place[0], place[1], place[2], this.#distance);
  }

  #isWanted(): boolean {
    return this.#arriving.wanted?.(this.#place, this.#place) ?? true;
  }

  #put(triangle: number): boolean {
    const grid = this.#grid;
    if (grid.count === this.#most) return false;
    if (grid.count === this.#triangle.length) this.#grow();
    this.#triangle[grid.count] = triangle;
    this.#key.set(this.#cells.words, 2 * grid.count);
    grid.add(this.#place[0], this.#place[1], this.#place[2]);
    return true;
  }

  #grow(): void {
    const [triangle, key] = [new Uint32Array(2 * this.#triangle.length), new Uint32Array(2 * this.#key.length)];
    triangle.set(this.#triangle);
    key.set(this.#key);
    this.#triangle = triangle;
    this.#key = key;
  }

  /** Walks to where it is a distance away as the crow flies: over a bend that is farther than on the level. */
  #reach(triangle: number, x: number, y: number, z: number, dx: number, dy: number, dz: number): boolean {
    const { place } = this.#walk;
    let way = this.#distance * OUTSIDE;
    for (let k = 0; k < STRETCHES; k++) {
      if (!this.#walk.straight(triangle, x, y, z, dx, dy, dz, way)) return false;
      const px = place[0] - x;
      const py = place[1] - y;
      const pz = place[2] - z;
      const away = Math.sqrt(px * px + py * py + pz * pz);
      if (away >= this.#distance) return true;
      way *= Math.min(2, (this.#distance * OUTSIDE) / away);
    }
    return true;
  }
}

function markPart(beyond: Int32Array, triangle: number, reached: Uint8Array): void {
  if (reached[triangle] === 1) return;
  const stack = [triangle];
  reached[triangle] = 1;
  while (stack.length > 0) {
    const t = stack.pop()!;
    for (let e = 3 * t; e < 3 * t + 3; e++) {
      const other = beyond[e];
      if (other < 0 || reached[other] === 1) continue;
      reached[other] = 1;
      stack.push(other);
    }
  }
}
