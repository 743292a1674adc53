/** Closed meshes cut by planes, both halves closed again by walls that lie in the plane. */
import type { ClosedMesh } from "./closed";

/** Fills closed outlines, outer ones counter-clockwise; gives corners of faces by the numbers of all points in their order. */
export type Triangulate = (outlines: [number, number][][]) => ArrayLike<ArrayLike<number>>;

class Half {
  readonly position: number[] = [];
  readonly index: number[] = [];
  readonly #names = new Map<number, number>();

  constructor(readonly source: ClosedMesh) {}

  /** A vertex of the source. */
  own(v: number): number {
    let name = this.#names.get(v);
    if (name === undefined) {
      this.#names.set(v, (name = this.position.length / 3));
      const P = this.source.position;
      this.position.push(P[3 * v], P[3 * v + 1], P[3 * v + 2]);
    }
    return name;
  }

  finish(): ClosedMesh {
    return { position: Float32Array.from(this.position), index: Uint32Array.from(this.index) };
  }
}

/**
 * A closed mesh in two: what lies before `at` along an axis, and what lies at it or beyond; null for what is empty. Where an
 * edge is cut hangs on its two ends alone, so that whatever else shares the edge is cut at the very same place.
 *
 * @param axis 0, 1 or 2
 * @param at metres, in single precision
 */
export function cutAt(
  mesh: ClosedMesh,
  axis: number,
  at: number,
  triangulate: Triangulate,
): [before: ClosedMesh | null, beyond: ClosedMesh | null] {
  const { position: P, index } = mesh;
  let [some, all] = [false, true];
  for (let p = axis; p < P.length; p += 3) {
    if (P[p] < at) some = true;
    else all = false;
  }
  if (!some) return [null, mesh];
  if (all) return [mesh, null];
  const halves = [new Half(mesh), new Half(mesh)] as const;
  const n = P.length / 3;
  /** Cut edges by their ends: the number of the vertex there, which is its place in `rim`. */
  const crossings = new Map<number, number>();
  const rim: number[] = [];
  const names = [new Map<number, number>(), new Map<number, number>()] as const;
  const crossing = (a: number, b: number): number => {
    const [low, high] = a < b ? [a, b] : [b, a];
    const key = low * n + high;
    let found = crossings.get(key);
    if (found === undefined) {
      crossings.set(key, (found = rim.length / 3));
      const [from, to] = isBefore(P, a, b) ? [3 * a, 3 * b] : [3 * b, 3 * a];
      const share = (at - P[from + axis]) / (P[to + axis] - P[from + axis]);
      for (let k = 0; k < 3; k++) rim.push(k === axis ? at : P[from + k] + share * (P[to + k] - P[from + k]));
    }
    return found;
  };
  const onRim = (side: 0 | 1, crossed: number): number => {
    let name = names[side].get(crossed);
    if (name === undefined) {
      const half = halves[side];
      names[side].set(crossed, (name = half.position.length / 3));
      half.position.push(rim[3 * crossed], rim[3 * crossed + 1], rim[3 * crossed + 2]);
    }
    return name;
  };
  /** Along the wall of the half before, from crossing to crossing. */
  const after = new Map<number, number>();
  for (let t = 0; t < index.length; t += 3) {
    const sides = [0, 1, 2].map((k): 0 | 1 => (P[3 * index[t + k] + axis] < at ? 0 : 1));
    const sum = sides[0] + sides[1] + sides[2];
    if (sum === 0 || sum === 3) {
      const half = halves[sides[0]];
      half.index.push(half.own(index[t]), half.own(index[t + 1]), half.own(index[t + 2]));
      continue;
    }
    // One corner lies alone on its side.
    const k = sides.findIndex((side) => side === (sum === 1 ? 1 : 0));
    const [a, b, c] = [index[t + k], index[t + ((k + 1) % 3)], index[t + ((k + 2) % 3)]];
    const [p, q] = [crossing(a, b), crossing(a, c)];
    const [alone, others] = [sides[k], (1 - sides[k]) as 0 | 1];
    halves[alone].index.push(halves[alone].own(a), onRim(alone, p), onRim(alone, q));
    const other = halves[others];
    const [ob, oc, op, oq] = [other.own(b), other.own(c), onRim(others, p), onRim(others, q)];
    other.index.push(op, ob, oc, op, oc, oq);
    // The face before the plane runs along it from p to q or back; its wall runs the other way.
    if (alone === 0) after.set(q, p);
    else after.set(p, q);
  }
  const loops = loopsIn(after);
  const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
  const flat = loops.map((loop) => loop.map((i): [number, number] => [rim[3 * i + u], rim[3 * i + v]]));
  const all2 = loops.flat();
  if (flat.length === 0) return [halves[0].finish(), halves[1].finish()];
  const faces =
    flat.length === 1
      ? isConvex(flat[0])
        ? fan(flat[0].length)
        : (ears(flat[0]) ?? triangulate(flat))
      : triangulate(flat);
  for (let f = 0; f < faces.length; f++) {
    const [i, j, k] = [all2[faces[f][0]], all2[faces[f][1]], all2[faces[f][2]]];
    halves[0].index.push(onRim(0, i), onRim(0, j), onRim(0, k));
    halves[1].index.push(onRim(1, i), onRim(1, k), onRim(1, j));
  }
  return [halves[0].finish(), halves[1].finish()];
}

/** Whether a vertex comes before another by its place. */
function isBefore(P: Float32Array, a: number, b: number): boolean {
  for (let k = 0; k < 3; k++) if (P[3 * a + k] !== P[3 * b + k]) return P[3 * a + k] < P[3 * b + k];
  return a < b;
}

function loopsIn(after: Map<number, number>): number[][] {
  const loops: number[][] = [];
  for (const start of after.keys()) {
    const loop: number[] = [];
    for (let at = start, next = after.get(at); next !== undefined; next = after.get((at = next))) {
      after.delete(at);
      loop.push(at);
    }
    if (loop.length > 2) loops.push(loop);
  }
  return loops;
}

/** Corners that turn right by no more than this, radians, are straight but for rounding. */
const STRAIGHT = 1e-4;

function isConvex(outline: readonly [number, number][]): boolean {
  const n = outline.length;
  return (
    outline.every(([x, y], i) => {
      const [[ax, ay], [bx, by]] = [outline[(i + 1) % n], outline[(i + 2) % n]];
      const [ux, uy, vx, vy] = [ax - x, ay - y, bx - ax, by - ay];
      return ux * vy - uy * vx >= -STRAIGHT * Math.hypot(ux, uy) * Math.hypot(vx, vy);
    }) && turnsOnce(outline)
  );
}

/** Whether an outline whose corners all turn left goes round only once. */
function turnsOnce(outline: readonly [number, number][]): boolean {
  const n = outline.length;
  let changes = 0;
  for (let i = 0; i < n; i++) {
    const way = (k: number) => outline[(k + 1) % n][0] - outline[k % n][0];
    if (way(i) > 0 !== way(i + 1) > 0) changes++;
  }
  return changes <= 2;
}

const fan = (n: number): [number, number, number][] =>
  Array.from({ length: n - 2 }, (_, k): [number, number, number] => [0, k + 1, k + 2]);

/** Outlines of more corners are left to those who do it in less than quadratic time. */
const MOST_EARS = 96;

/** One outline filled by cutting off ears (G. Meisters, 1975); null where that comes to no end. */
function ears(outline: readonly [number, number][]): [number, number, number][] | null {
  if (outline.length > MOST_EARS) return null;
  const left = outline.map((_, i) => i);
  const faces: [number, number, number][] = [];
  while (left.length > 3) {
    const n = left.length;
    const k = left.findIndex((_, i) => isEar(outline, left, (i + n - 1) % n, i, (i + 1) % n));
    if (k < 0) return null;
    faces.push([left[(k + n - 1) % n], left[k], left[(k + 1) % n]]);
    left.splice(k, 1);
  }
  return [...faces, [left[0], left[1], left[2]]];
}

function isEar(
  outline: readonly [number, number][],
  left: readonly number[],
  h: number,
  i: number,
  j: number,
): boolean {
  const [a, b, c] = [outline[left[h]], outline[left[i]], outline[left[j]]];
  if (!(sideOf(a, b, c) > 0)) return false;
  return left.every((v, k) => {
    if (k === h || k === i || k === j) return true;
    const p = outline[v];
    return sideOf(a, b, p) < 0 || sideOf(b, c, p) < 0 || sideOf(c, a, p) < 0;
  });
}

/** Twice the area of a triangle, positive where it turns left. */
const sideOf = ([ax, ay]: [number, number], [bx, by]: [number, number], [cx, cy]: [number, number]): number =>
  (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
