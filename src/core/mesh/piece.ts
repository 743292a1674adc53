/**
 * *A mesh bent over a piece of a surface*: what lies left and ahead of its foot goes where the surface does, what lies above
 * goes along the normal. Where an edge would be off the surface by more than is let be it is cut in two first; both
 * triangles of an edge see the same, so that nothing gapes.
 */
import { Heights, hitsFor } from "./heights";
import { MeshGrowth, type Attribute, type TriangleMesh } from "./mesh";
import { PIECE } from "./shapes";

/** So often edges are cut in two, while there are no more triangles than this. */
const [ROUNDS, MOST] = [8, 200_000];
/** Halvings of the way to a place beside the piece. */
const HALVINGS = 24;

/**
 * @param piece triangles of it, {@link PIECE} numbers each
 * @param off by how much edges may be off at most, metres
 */
export function onPiece(mesh: TriangleMesh, piece: Float32Array, off: number): TriangleMesh {
  const bent = new Piece(piece);
  const fine = refined(mesh, bent, off);
  const carried = bent.carry(fine.position);
  const directions = fine.attributes.map((attribute): Attribute => {
    if (attribute.name === "NORMAL")
      return { ...attribute, array: bent.turnedNormals(attribute.array, attribute.width) };
    if (attribute.name === "TANGENT")
      return { ...attribute, array: bent.turnedTangents(attribute.array, attribute.width) };
    return attribute;
  });
  return { position: Float32Array.from(carried), index: fine.index, attributes: directions };
}

function refined(mesh: TriangleMesh, bent: Piece, off: number): TriangleMesh {
  let now = mesh;
  for (let round = 0; round < ROUNDS && now.index.length < 3 * MOST; round++) {
    const next = halved(now, bent, off);
    if (!next) break;
    now = next;
  }
  return now;
}

/** The mesh with each edge that is off cut in two; null where none is. */
function halved(mesh: TriangleMesh, bent: Piece, off: number): TriangleMesh | null {
  const { position: P, index } = mesh;
  const n = P.length / 3;
  const ends = edgesOf(mesh, (a, b) => bent.mayBeOff(P, a, b, off));
  if (ends.size === 0) return null;
  const middles = new Float32Array(3 * ends.size);
  let o = 0;
  for (const [, [a, b]] of ends) for (let k = 0; k < 3; k++) middles[o++] = (P[3 * a + k] + P[3 * b + k]) / 2;
  const own = bent.carry(P).slice();
  const there = bent.carry(middles);
  const growth = new MeshGrowth(mesh);
  for (let v = 0; v < n; v++) growth.copy(v);
  const made = new Map<number, number>();
  let m = 0;
  for (const [name, [a, b]] of ends) {
    let squared = 0;
    for (let k = 0; k < 3; k++) squared += (there[3 * m + k] - (own[3 * a + k] + own[3 * b + k]) / 2) ** 2;
    if (squared > off * off) made.set(name, growth.between(a, b, 0.5));
    m++;
  }
  if (made.size === 0) return null;
  for (let t = 0; t < index.length; t += 3) {
    const corners = [index[t], index[t + 1], index[t + 2]];
    const cuts = corners.map((a, k) => made.get(edgeName(a, corners[(k + 1) % 3], n)) ?? -1);
    parted(growth, corners, cuts);
  }
  return growth.finish();
}

const edgeName = (a: number, b: number, n: number): number => Math.min(a, b) * n + Math.max(a, b);

/** Those of the edges that are asked for, each once, by their names. */
function edgesOf({ position, index }: TriangleMesh, asked: (a: number, b: number) => boolean) {
  const n = position.length / 3;
  const ends = new Map<number, readonly [number, number]>();
  for (let h = 0; h < index.length; h++) {
    const [a, b] = [index[h], index[h % 3 === 2 ? h - 2 : h + 1]];
    if (!asked(a, b)) continue;
    const name = edgeName(a, b, n);
    if (!ends.has(name)) ends.set(name, a < b ? [a, b] : [b, a]);
  }
  return ends;
}

/** A triangle in two, three or four, by the middles of those of its edges that have one. */
function parted(growth: MeshGrowth, [a, b, c]: readonly number[], [ab, bc, ca]: readonly number[]): void {
  const count = [ab, bc, ca].filter((middle) => middle >= 0).length;
  if (count === 0) return growth.triangle(a, b, c);
  if (count === 3) {
    growth.triangle(a, ab, ca);
    growth.triangle(ab, b, bc);
    growth.triangle(ca, bc, c);
    return growth.triangle(ab, bc, ca);
  }
  // Turned so that what is cut comes first, and of two what is whole last.
  if (count === 1) {
    if (ab < 0) return parted(growth, [b, c, a], [bc, ca, ab]);
    growth.triangle(a, ab, c);
    return growth.triangle(ab, b, c);
  }
  if (ca >= 0) return parted(growth, [b, c, a], [bc, ca, ab]);
  growth.triangle(ab, b, bc);
  growth.triangle(a, ab, bc);
  growth.triangle(a, bc, c);
}

/** Where a corner's numbers begin within a triangle's, and its position and normal within them. */
const CORNER = 8;
const [POSITION, NORMAL] = [2, 5];

/**
 * What is worked out of each triangle: the weights of its second and third corner, each as constant, left and ahead; then for the
 * position and for the normal what they are at the first corner and how they change to the second and the third: 24 numbers.
 */
const PLANE = 24;
const [ORIGIN, TO_B, TO_C] = [6, 9, 12];
const [N_ORIGIN, N_TO_B, N_TO_C] = [15, 18, 21];

/** *A piece of a surface, laid flat*: where places of it lie, and how directions are turned there. */
export class Piece {
  readonly #planes: Float64Array;
  readonly #heights: Heights;
  /** Of the points that were carried last: their triangles, and how high each was. */
  #triangle: Int32Array = new Int32Array(0);
  #points: ArrayLike<number> = [];
  readonly #piece: Float32Array;
  /** By how much its normals turn a metre at most, and how long its longest edge is; once it is asked. */
  #bend: readonly [bend: number, grain: number] | null = null;

  constructor(piece: Float32Array) {
    this.#piece = piece;
    const triangles = piece.length / PIECE;
    const flat = new Float64Array(9 * triangles);
    this.#planes = new Float64Array(PLANE * triangles);
    for (let t = 0; t < triangles; t++) writePlanes(this.#planes, PLANE * t, piece, PIECE * t);
    for (let c = 0; c < 3 * triangles; c++) {
      flat[3 * c] = piece[CORNER * c];
      flat[3 * c + 2] = piece[CORNER * c + 1];
    }
    this.#heights = Heights.over(
      flat,
      Uint32Array.from({ length: 3 * triangles }, (_, c) => c),
    );
  }

  /**
   * Whether the middle of an edge may come to lie off it by more than is let be: across what bends evenly by the edge's length
   * squared, where facets meet by its length and theirs.
   */
  mayBeOff(P: ArrayLike<number>, a: number, b: number, off: number): boolean {
    const [bend, grain] = (this.#bend ??= bendOf(this.#piece));
    const [x, z] = [P[3 * b] - P[3 * a], P[3 * b + 2] - P[3 * a + 2]];
    const long = Math.sqrt(x * x + z * z);
    const high = Math.max(Math.abs(P[3 * a + 1]), Math.abs(P[3 * b + 1]));
    return (long * Math.max(long, 2 * grain) * bend * (1 + high * bend)) / 8 > off;
  }

  /** Which of some points (3n) have the piece under or above them, to within rounding: 1 or 0 each. */
  covers(points: ArrayLike<number>): Uint8Array {
    const hits = hitsFor(points.length / 3);
    hits.triangle.fill(-1);
    this.#heights.cast(points, points.length / 3, "above", hits, 0);
    return Uint8Array.from(hits.triangle, (triangle) => Number(triangle >= 0));
  }

  /** Where points left, above and ahead of the foot come to lie: 3n. */
  carry(points: ArrayLike<number>): Float64Array {
    const n = points.length / 3;
    const S = this.#planes;
    this.#points = points;
    this.#triangle = this.#trianglesAt(points);
    const out = new Float64Array(3 * n);
    for (let i = 0, p = 0; i < n; i++, p += 3) {
      const o = PLANE * this.#triangle[i];
      const [x, y, z] = [points[p], points[p + 1], points[p + 2]];
      const u = S[o] + S[o + 1] * x + S[o + 2] * z;
      const v = S[o + 3] + S[o + 4] * x + S[o + 5] * z;
      const a = S[o + N_ORIGIN] + u * S[o + N_TO_B] + v * S[o + N_TO_C];
      const b = S[o + N_ORIGIN + 1] + u * S[o + N_TO_B + 1] + v * S[o + N_TO_C + 1];
      const c = S[o + N_ORIGIN + 2] + u * S[o + N_TO_B + 2] + v * S[o + N_TO_C + 2];
      const up = y / (Math.sqrt(a * a + b * b + c * c) || 1);
      out[p] = S[o + ORIGIN] + u * S[o + TO_B] + v * S[o + TO_C] + up * a;
      out[p + 1] = S[o + ORIGIN + 1] + u * S[o + TO_B + 1] + v * S[o + TO_C + 1] + up * b;
      out[p + 2] = S[o + ORIGIN + 2] + u * S[o + TO_B + 2] + v * S[o + TO_C + 2] + up * c;
    }
    return out;
  }

  /** Normals of the points that were carried last as they are turned there, by the cofactors of what is done. */
  turnedNormals(normals: Float32Array, width: number): Float32Array {
    return this.#turned(normals, width, true);
  }

  turnedTangents(tangents: Float32Array, width: number): Float32Array {
    return this.#turned(tangents, width, false);
  }

  #turned(given: Float32Array, width: number, byCofactors: boolean): Float32Array {
    const out = given.slice();
    const S = this.#planes;
    const points = this.#points;
    for (let i = 0, g = 0, p = 0; i < this.#triangle.length; i++, g += width, p += 3) {
      const o = PLANE * this.#triangle[i];
      const [px, py, pz] = [points[p], points[p + 1], points[p + 2]];
      const u = S[o] + S[o + 1] * px + S[o + 2] * pz;
      const v = S[o + 3] + S[o + 4] * px + S[o + 5] * pz;
      let nx = S[o + N_ORIGIN] + u * S[o + N_TO_B] + v * S[o + N_TO_C];
      let ny = S[o + N_ORIGIN + 1] + u * S[o + N_TO_B + 1] + v * S[o + N_TO_C + 1];
      let nz = S[o + N_ORIGIN + 2] + u * S[o + N_TO_B + 2] + v * S[o + N_TO_C + 2];
      const short = 1 / (Math.sqrt(nx * nx + ny * ny + nz * nz) || 1);
      nx *= short;
      ny *= short;
      nz *= short;
      // Where a metre to the left and one ahead lead: along the triangle, and as the normal turns on the way.
      const up = py * short;
      let lx = S[o + 1] * S[o + N_TO_B] + S[o + 4] * S[o + N_TO_C];
      let ly = S[o + 1] * S[o + N_TO_B + 1] + S[o + 4] * S[o + N_TO_C + 1];
      let lz = S[o + 1] * S[o + N_TO_B + 2] + S[o + 4] * S[o + N_TO_C + 2];
      let ax = S[o + 2] * S[o + N_TO_B] + S[o + 5] * S[o + N_TO_C];
      let ay = S[o + 2] * S[o + N_TO_B + 1] + S[o + 5] * S[o + N_TO_C + 1];
      let az = S[o + 2] * S[o + N_TO_B + 2] + S[o + 5] * S[o + N_TO_C + 2];
      const [l, a] = [lx * nx + ly * ny + lz * nz, ax * nx + ay * ny + az * nz];
      lx = S[o + 1] * S[o + TO_B] + S[o + 4] * S[o + TO_C] + up * (lx - l * nx);
      ly = S[o + 1] * S[o + TO_B + 1] + S[o + 4] * S[o + TO_C + 1] + up * (ly - l * ny);
      lz = S[o + 1] * S[o + TO_B + 2] + S[o + 4] * S[o + TO_C + 2] + up * (lz - l * nz);
      ax = S[o + 2] * S[o + TO_B] + S[o + 5] * S[o + TO_C] + up * (ax - a * nx);
      ay = S[o + 2] * S[o + TO_B + 1] + S[o + 5] * S[o + TO_C + 1] + up * (ay - a * ny);
      az = S[o + 2] * S[o + TO_B + 2] + S[o + 5] * S[o + TO_C + 2] + up * (az - a * nz);
      const [x, y, z] = [given[g], given[g + 1], given[g + 2]];
      let [dx, dy, dz] = [x * lx + y * nx + z * ax, x * ly + y * ny + z * ay, x * lz + y * nz + z * az];
      if (byCofactors) {
        dx = x * (ny * az - nz * ay) + y * (ay * lz - az * ly) + z * (ly * nz - lz * ny);
        dy = x * (nz * ax - nx * az) + y * (az * lx - ax * lz) + z * (lz * nx - lx * nz);
        dz = x * (nx * ay - ny * ax) + y * (ax * ly - ay * lx) + z * (lx * ny - ly * nx);
      }
      const length = Math.sqrt(dx * dx + dy * dy + dz * dz) || 1;
      out[g] = dx / length;
      out[g + 1] = dy / length;
      out[g + 2] = dz / length;
    }
    return out;
  }

  /** The triangle under each point; beside the piece the last one on the way there from the foot. */
  #trianglesAt(points: ArrayLike<number>): Int32Array {
    const n = points.length / 3;
    const hits = hitsFor(n);
    hits.triangle.fill(-1);
    this.#heights.cast(points, n, "above", hits, 0);
    const { triangle } = hits;
    const one = { ...hitsFor(1) };
    const place = new Float64Array(3);
    for (let i = 0; i < n; i++) {
      if (triangle[i] >= 0) continue;
      let [low, high, found] = [0, 1, 0];
      for (let k = 0; k < HALVINGS; k++) {
        const share = (low + high) / 2;
        place[0] = share * points[3 * i];
        place[2] = share * points[3 * i + 2];
        one.triangle[0] = -1;
        this.#heights.cast(place, 1, "above", one, 0);
        if (one.triangle[0] >= 0) [low, found] = [share, one.triangle[0]];
        else high = share;
      }
      triangle[i] = found;
    }
    return triangle;
  }
}

function bendOf(S: Float32Array): [bend: number, grain: number] {
  let [bend, grain] = [0, 0];
  for (let o = 0; o < S.length; o += PIECE)
    for (let k = 0; k < 3; k++) {
      const [a, b] = [o + CORNER * k, o + CORNER * ((k + 1) % 3)];
      const long = Math.sqrt((S[b] - S[a]) ** 2 + (S[b + 1] - S[a + 1]) ** 2);
      const turn = Math.sqrt((S[b + 5] - S[a + 5]) ** 2 + (S[b + 6] - S[a + 6]) ** 2 + (S[b + 7] - S[a + 7]) ** 2);
      grain = Math.max(grain, long);
      if (long > 0) bend = Math.max(bend, turn / long);
    }
  return [bend, grain];
}

function writePlanes(out: Float64Array, o: number, S: Float32Array, s: number): void {
  const [ax, az] = [S[s], S[s + 1]];
  const [bx, bz] = [S[s + CORNER] - ax, S[s + CORNER + 1] - az];
  const [cx, cz] = [S[s + 2 * CORNER] - ax, S[s + 2 * CORNER + 1] - az];
  const area = bx * cz - bz * cx || 1e-30;
  out[o + 1] = cz / area;
  out[o + 2] = -cx / area;
  out[o] = -(ax * out[o + 1] + az * out[o + 2]);
  out[o + 4] = -bz / area;
  out[o + 5] = bx / area;
  out[o + 3] = -(ax * out[o + 4] + az * out[o + 5]);
  for (const [from, to] of [
    [POSITION, ORIGIN],
    [NORMAL, N_ORIGIN],
  ]) {
    for (let k = 0; k < 3; k++) {
      out[o + to + k] = S[s + from + k];
      out[o + to + 3 + k] = S[s + CORNER + from + k] - S[s + from + k];
      out[o + to + 6 + k] = S[s + 2 * CORNER + from + k] - S[s + from + k];
    }
  }
}
