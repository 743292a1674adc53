/**
 * *A mesh bent over a piece of a surface*: what lies left and ahead of its foot goes where the surface does, what lies above
 * goes along the normal. Where an edge would be off the surface by more than a millimetre it is cut in two first; both
 * triangles of an edge see the same, so that nothing gapes.
 */
import { Heights, hitsFor } from "./heights";
import { MeshGrowth, type TriangleMesh } from "./mesh";
import { PIECE } from "./shapes";

/** Edges are off by no more than this, metres. */
const OFF = 0.001;
/** So often edges are cut in two, while there are no more triangles than this. */
const [ROUNDS, MOST] = [8, 200_000];
/** Halvings of the way to a place beside the piece. */
const HALVINGS = 24;

/** @param piece triangles of it, {@link PIECE} numbers each */
export function onPiece(mesh: TriangleMesh, piece: Float32Array): TriangleMesh {
  const bent = new Piece(piece);
  const fine = refined(mesh, bent);
  const position = new Float32Array(fine.position.length);
  const directions = fine.attributes.map(({ name, width, array }) => ({
    name,
    width,
    array: name === "NORMAL" || name === "TANGENT" ? array.slice() : array,
  }));
  for (let p = 0, i = 0; p < position.length; p += 3, i++) {
    bent.goTo(fine.position[p], fine.position[p + 1], fine.position[p + 2]);
    position.set(bent.position, p);
    for (const { name, width, array } of directions) {
      const o = width * i;
      if (name === "NORMAL") bent.turnNormal(array, o);
      else if (name === "TANGENT") bent.turnTangent(array, o);
    }
  }
  return { position, index: fine.index, attributes: directions };
}

function refined(mesh: TriangleMesh, bent: Piece): TriangleMesh {
  let now = mesh;
  for (let round = 0; round < ROUNDS && now.index.length < 3 * MOST; round++) {
    const next = halved(now, bent);
    if (!next) break;
    now = next;
  }
  return now;
}

/** The mesh with each edge that is off cut in two; null where none is. */
function halved(mesh: TriangleMesh, bent: Piece): TriangleMesh | null {
  const { position: P, index } = mesh;
  const n = P.length / 3;
  const carried = new Float64Array(P.length);
  for (let p = 0; p < P.length; p += 3) {
    bent.goTo(P[p], P[p + 1], P[p + 2]);
    carried.set(bent.position, p);
  }
  const growth = new MeshGrowth(mesh);
  for (let v = 0; v < n; v++) growth.copy(v);
  const middles = new Map<number, number>();
  let cut = false;
  const middle = (a: number, b: number): number => {
    const name = Math.min(a, b) * n + Math.max(a, b);
    let made = middles.get(name);
    if (made === undefined) {
      const [low, high] = a < b ? [a, b] : [b, a];
      made = isOff(P, carried, low, high, bent) ? growth.between(low, high, 0.5) : -1;
      middles.set(name, made);
    }
    if (made >= 0) cut = true;
    return made;
  };
  for (let t = 0; t < index.length; t += 3) {
    const corners = [index[t], index[t + 1], index[t + 2]];
    const cuts = corners.map((a, k) => middle(a, corners[(k + 1) % 3]));
    parted(growth, corners, cuts);
  }
  return cut ? growth.finish() : null;
}

function isOff(P: ArrayLike<number>, carried: Float64Array, a: number, b: number, bent: Piece): boolean {
  const at = (k: number) => (P[3 * a + k] + P[3 * b + k]) / 2;
  bent.goTo(at(0), at(1), at(2));
  let squared = 0;
  for (let k = 0; k < 3; k++) squared += (bent.position[k] - (carried[3 * a + k] + carried[3 * b + k]) / 2) ** 2;
  return squared > OFF * OFF;
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

/** *A piece of a surface, laid flat*: for each place of it where that lies, and how directions are turned there. */
class Piece {
  readonly position = new Float64Array(3);
  readonly #piece: Float32Array;
  readonly #heights: Heights;
  readonly #hits = hitsFor(1);
  readonly #point = new Float64Array(3);
  readonly #normal = new Float64Array(3);
  /** Where a metre to the left and one ahead lead. */
  readonly #left = new Float64Array(3);
  readonly #ahead = new Float64Array(3);

  constructor(piece: Float32Array) {
    this.#piece = piece;
    const triangles = piece.length / PIECE;
    const flat = new Float64Array(9 * triangles);
    for (let c = 0; c < 3 * triangles; c++) {
      flat[3 * c] = piece[CORNER * c];
      flat[3 * c + 2] = piece[CORNER * c + 1];
    }
    this.#heights = Heights.over(
      flat,
      Uint32Array.from({ length: 3 * triangles }, (_, c) => c),
    );
  }

  #triangleAt(x: number, z: number): number {
    this.#point[0] = x;
    this.#point[2] = z;
    this.#hits.triangle[0] = -1;
    this.#heights.cast(this.#point, 1, "above", this.#hits, 0);
    return this.#hits.triangle[0];
  }

  /** The triangle at a place, or beside the piece the last one on the way there from the foot. */
  #triangleFor(x: number, z: number): number {
    let found = this.#triangleAt(x, z);
    if (found >= 0) return found;
    let [low, high] = [0, 1];
    for (let k = 0; k < HALVINGS; k++) {
      const share = (low + high) / 2;
      const there = this.#triangleAt(share * x, share * z);
      if (there >= 0) [low, found] = [share, there];
      else high = share;
    }
    return Math.max(0, found);
  }

  /** Goes to a place left, above and ahead of the foot. */
  goTo(x: number, y: number, z: number): void {
    const S = this.#piece;
    const o = PIECE * this.#triangleFor(x, z);
    const [ax, az] = [S[o], S[o + 1]];
    const [bx, bz] = [S[o + CORNER] - ax, S[o + CORNER + 1] - az];
    const [cx, cz] = [S[o + 2 * CORNER] - ax, S[o + 2 * CORNER + 1] - az];
    const area = bx * cz - bz * cx;
    const [dx, dz] = [x - ax, z - az];
    const [p, q] = [(cz * dx - cx * dz) / area, (bx * dz - bz * dx) / area];
    const at = (from: number, k: number, u: number, v: number) => {
      const a = S[o + from + k];
      return [u * (S[o + CORNER + from + k] - a) + v * (S[o + 2 * CORNER + from + k] - a), a] as const;
    };
    const N = this.#normal;
    let length = 0;
    for (let k = 0; k < 3; k++) {
      const [by, from] = at(NORMAL, k, p, q);
      N[k] = from + by;
      length += N[k] * N[k];
    }
    length = Math.sqrt(length) || 1;
    for (let k = 0; k < 3; k++) N[k] /= length;
    let [alongLeft, alongAhead] = [0, 0];
    for (let k = 0; k < 3; k++) {
      const [by, from] = at(POSITION, k, p, q);
      this.position[k] = from + by + y * N[k];
      // How the normal turns on the way, without what only makes it longer.
      const turnLeft = at(NORMAL, k, cz / area, -bz / area)[0] / length;
      const turnAhead = at(NORMAL, k, -cx / area, bx / area)[0] / length;
      this.#left[k] = turnLeft;
      this.#ahead[k] = turnAhead;
      alongLeft += turnLeft * N[k];
      alongAhead += turnAhead * N[k];
    }
    for (let k = 0; k < 3; k++) {
      this.#left[k] = at(POSITION, k, cz / area, -bz / area)[0] + y * (this.#left[k] - alongLeft * N[k]);
      this.#ahead[k] = at(POSITION, k, -cx / area, bx / area)[0] + y * (this.#ahead[k] - alongAhead * N[k]);
    }
  }

  /** Turns a normal as it is bent where it was last gone to, by the cofactors of what is done there. */
  turnNormal(out: Float32Array, o: number): void {
    const [L, N, A] = [this.#left, this.#normal, this.#ahead];
    const [x, y, z] = [out[o], out[o + 1], out[o + 2]];
    const part = (a: Float64Array, b: Float64Array, k: number) =>
      a[(k + 1) % 3] * b[(k + 2) % 3] - a[(k + 2) % 3] * b[(k + 1) % 3];
    writeUnit(out, o, (k) => x * part(N, A, k) + y * part(A, L, k) + z * part(L, N, k));
  }

  turnTangent(out: Float32Array, o: number): void {
    const [x, y, z] = [out[o], out[o + 1], out[o + 2]];
    writeUnit(out, o, (k) => x * this.#left[k] + y * this.#normal[k] + z * this.#ahead[k]);
  }
}

function writeUnit(out: Float32Array, o: number, at: (k: number) => number): void {
  const [x, y, z] = [at(0), at(1), at(2)];
  const length = Math.sqrt(x * x + y * y + z * z) || 1;
  out[o] = x / length;
  out[o + 1] = y / length;
  out[o + 2] = z / length;
}
