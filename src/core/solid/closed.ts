/** *Closed bodies*: what has an inside, and so can be joined, cut and printed. */
import { CROWDED, nextOf, RIM, twinsOf, weldedVertices, type Points, type Stand } from "../mesh";
import { cross, dot, writeTurned, type Vec3 } from "../math";

/** A closed triangle mesh: every edge has exactly two faces, which run along it in opposite directions; normals point outwards. */
export interface ClosedMesh {
  /** Metres: 3v, no two vertices at one place. */
  position: Float32Array;
  /** Corners of faces, counter-clockwise from outside: 3m. */
  index: Uint32Array;
}

/** What a mesh came to where it had to be mended. */
export interface Mended {
  /** Each in one piece, hollows within it among it. */
  bodies: ClosedMesh[];
  /** Edges with a face on one side only, of parts that were left out. */
  open: number;
  /** Edges where more than two faces meet, of parts that were left out; and those of a part that has no two sides. */
  crowded: number;
  /** Holes that were filled, and faces that were turned over. */
  filled: number;
  turned: number;
}

/** The least and the greatest corner of a box. */
export interface Box {
  low: [number, number, number];
  high: [number, number, number];
}

/** The box round all vertices, or some of them; the wrong way round where there is none. */
export function boxOf(position: ArrayLike<number>, vertices?: ArrayLike<number>): Box {
  const low: Box["low"] = [Infinity, Infinity, Infinity];
  const high: Box["high"] = [-Infinity, -Infinity, -Infinity];
  const count = vertices ? vertices.length : position.length / 3;
  for (let i = 0; i < count; i++) {
    const p = 3 * (vertices ? vertices[i] : i);
    for (let k = 0; k < 3; k++) {
      const x = position[p + k];
      if (x < low[k]) low[k] = x;
      if (x > high[k]) high[k] = x;
    }
  }
  return { low, high };
}

/** Holes of more edges, or wider than this share of their part, are no mistakes and are not filled. */
const MOST_HOLE_EDGES = 32;
const MOST_HOLE_SHARE = 0.05;

/**
 * The closed bodies of a mesh, mended where that is safe: vertices at one place are made one, faces without area or that come
 * twice left out, faces turned the way of their neighbours, small holes filled, and what is inside out turned round. A part
 * within another that is inside out is that one's hollow. What is open all the same is left out, and told of.
 */
export function closedBodies(mesh: Points): Mended {
  const { position, index } = weldedMesh(mesh);
  const work = new Mending(position, index);
  return work.run();
}

/** Without vertices that come twice and faces that have no area or come twice; two that lie back to back are no wall. */
function weldedMesh(mesh: Points): { position: Float32Array; index: number[] } {
  const vertex = weldedVertices(mesh.position);
  const index: number[] = [];
  // Faces in chains by the lowest of their vertices, beginning with it.
  const head = new Int32Array(vertex.length).fill(-1);
  const next: number[] = [];
  const gone = new Set<number>();
  for (let t = 0; t + 2 < mesh.index.length; t += 3) {
    const own = [vertex[mesh.index[t]], vertex[mesh.index[t + 1]], vertex[mesh.index[t + 2]]];
    const k = own.indexOf(Math.min(...own));
    const [a, b, c] = [own[k], own[(k + 1) % 3], own[(k + 2) % 3]];
    if (a === b || b === c || c === a) continue;
    let before = head[a];
    while (before >= 0 && !isSameFace(index, before, b, c)) before = next[before];
    if (before >= 0) {
      if (index[3 * before + 1] !== b) gone.add(before);
      continue;
    }
    next.push(head[a]);
    head[a] = index.length / 3;
    index.push(a, b, c);
  }
  const kept = gone.size === 0 ? index : index.filter((_, e) => !gone.has(Math.floor(e / 3)));
  return { position: Float32Array.from(mesh.position), index: kept };
}

/** Whether a face that begins with the same vertex has the two others as well, whichever way round. */
const isSameFace = (index: readonly number[], face: number, b: number, c: number): boolean => {
  const [x, y] = [index[3 * face + 1], index[3 * face + 2]];
  return (x === b && y === c) || (x === c && y === b);
};

class Mending {
  readonly #position: Float32Array;
  readonly #index: number[];
  /** The part that each face belongs to. */
  readonly #part: Int32Array;
  readonly #parts: { faces: number[]; open: number; crowded: number }[] = [];
  readonly #out: Mended = { bodies: [], open: 0, crowded: 0, filled: 0, turned: 0 };

  constructor(position: Float32Array, index: number[]) {
    this.#position = position;
    this.#index = index;
    this.#part = new Int32Array(index.length / 3).fill(-1);
  }

  run(): Mended {
    const twins = twinsOf(this.#index, this.#position.length / 3);
    for (let face = 0; face < this.#part.length; face++) if (this.#part[face] < 0) this.#orient(face, twins);
    const closed: ({ index: number[]; volume: number } & Box)[] = [];
    for (const part of this.#parts) {
      const index = part.faces.flatMap((face) => this.#index.slice(3 * face, 3 * face + 3));
      const box = boxOf(this.#position, index);
      const left = part.crowded > 0 ? part.open : this.#fill(index, box);
      if (part.crowded > 0 || left > 0) {
        this.#out.open += left;
        this.#out.crowded += part.crowded;
        continue;
      }
      closed.push({ index, volume: volumeOf({ position: this.#position, index }), ...box });
    }
    const isIn = (a: (typeof closed)[number], b: (typeof closed)[number]) =>
      a !== b && b.volume > -a.volume && [0, 1, 2].every((k) => a.low[k] >= b.low[k] && a.high[k] <= b.high[k]);
    const hollows = new Map<(typeof closed)[number], number[]>();
    for (const one of closed) {
      if (one.volume >= 0) continue;
      const around = closed.filter((other) => isIn(one, other)).sort((a, b) => a.volume - b.volume)[0];
      if (around) hollows.set(around, [...(hollows.get(around) ?? []), ...one.index]);
      else turnOver(one.index);
      one.volume = around ? NaN : -one.volume;
    }
    for (const one of closed)
      if (one.volume > 0) this.#out.bodies.push(compact(this.#position, one.index.concat(hollows.get(one) ?? [])));
    return this.#out;
  }

  /** Turns all faces that hang together with one the way most of them are. */
  #orient(start: number, twins: Int32Array): void {
    const faces = [start];
    const turned = new Map([[start, false]]);
    let [open, crowded] = [0, 0];
    this.#part[start] = this.#parts.length;
    for (const face of faces) {
      for (let e = 3 * face; e < 3 * face + 3; e++) {
        const twin = twins[e];
        if (twin === RIM) open++;
        if (twin === CROWDED) crowded++;
        if (twin < 0) continue;
        const other = Math.floor(twin / 3);
        const same = this.#index[e] === this.#index[twin];
        const wanted = turned.get(face)! !== same;
        if (this.#part[other] < 0) {
          this.#part[other] = this.#parts.length;
          turned.set(other, wanted);
          faces.push(other);
        } else if (turned.get(other) !== wanted) crowded++;
      }
    }
    const over = faces.filter((face) => turned.get(face)!);
    const few = over.length * 2 <= faces.length ? over : faces.filter((face) => !turned.get(face)!);
    for (const face of few) {
      const t = 3 * face;
      [this.#index[t + 1], this.#index[t + 2]] = [this.#index[t + 2], this.#index[t + 1]];
    }
    this.#out.turned += few.length;
    this.#parts.push({ faces, open, crowded });
  }

  /** Fills small holes; gives how many edges are open after that. */
  #fill(index: number[], { low, high }: Box): number {
    const twins = twinsOf(index, this.#position.length / 3);
    const after = new Map<number, number>();
    for (let e = 0; e < twins.length; e++) if (twins[e] < 0) after.set(index[nextOf(e)], index[e]);
    const width = MOST_HOLE_SHARE * Math.hypot(...high.map((value, k) => value - low[k]));
    let left = twins.reduce((sum, twin) => sum + (twin < 0 ? 1 : 0), 0);
    for (const start of [...after.keys()]) {
      const loop: number[] = [];
      for (let v: number | undefined = start; v !== undefined && after.has(v); v = loop.at(-1)) {
        const next: number = after.get(v)!;
        after.delete(v);
        loop.push(next);
      }
      if (loop.length < 3 || loop.at(-1) !== start || loop.length > MOST_HOLE_EDGES) continue;
      const box = boxOf(this.#position, loop);
      if (Math.hypot(...box.high.map((value, k) => value - box.low[k])) > width) continue;
      for (let k = 2; k < loop.length; k++) index.push(loop[0], loop[k - 1], loop[k]);
      this.#out.filled++;
      left -= loop.length;
    }
    return left;
  }
}

function turnOver(index: number[] | Uint32Array): void {
  for (let t = 0; t < index.length; t += 3) [index[t + 1], index[t + 2]] = [index[t + 2], index[t + 1]];
}

/** A mesh of the vertices that the faces use. */
export function compact(position: ArrayLike<number>, index: ArrayLike<number>): ClosedMesh {
  const name = new Int32Array(position.length / 3).fill(-1);
  const at = new Float32Array(position.length);
  const own = new Uint32Array(index.length);
  let count = 0;
  for (let e = 0; e < index.length; e++) {
    const v = index[e];
    if (name[v] < 0) {
      for (let k = 0; k < 3; k++) at[3 * count + k] = position[3 * v + k];
      name[v] = count++;
    }
    own[e] = name[v];
  }
  return { position: at.slice(0, 3 * count), index: own };
}

/** The volume within closed faces, cubic metres: the sum of the tetrahedra from one corner to all faces. */
export function volumeOf({ position: P, index }: { position: ArrayLike<number>; index: ArrayLike<number> }): number {
  if (index.length === 0) return 0;
  const o = 3 * index[0];
  let six = 0;
  for (let t = 0; t < index.length; t += 3) {
    const [a, b, c] = [3 * index[t], 3 * index[t + 1], 3 * index[t + 2]];
    const [ax, ay, az] = [P[a] - P[o], P[a + 1] - P[o + 1], P[a + 2] - P[o + 2]];
    const [bx, by, bz] = [P[b] - P[o], P[b + 1] - P[o + 1], P[b + 2] - P[o + 2]];
    const [cx, cy, cz] = [P[c] - P[o], P[c + 1] - P[o + 1], P[c + 2] - P[o + 2]];
    six += ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
  }
  return six / 6;
}

/** A closed mesh with a matrix (4 × 4, columns first) worked into it; one that mirrors turns the faces round. */
export function movedBody({ position: P, index }: ClosedMesh, m: ArrayLike<number>): ClosedMesh {
  const position = new Float32Array(P.length);
  for (let p = 0; p < P.length; p += 3)
    for (let k = 0; k < 3; k++) position[p + k] = m[k] * P[p] + m[4 + k] * P[p + 1] + m[8 + k] * P[p + 2] + m[12 + k];
  const column = (k: number): Vec3 => [m[4 * k], m[4 * k + 1], m[4 * k + 2]];
  if (dot(column(0), cross(column(1), column(2))) >= 0) return { position, index };
  const turned = index.slice();
  turnOver(turned);
  return { position, index: turned };
}

/** A closed mesh where it stands. */
export function standingBody({ position: P, index }: ClosedMesh, { position, rotation, scale }: Stand): ClosedMesh {
  const placed = new Float32Array(P.length);
  writeTurned(placed, P, position, rotation, scale);
  return { position: placed, index };
}
