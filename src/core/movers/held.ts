/** Where a surface is held fast, how far from there each vertex is, and how a bulge lies between what is held. */
import { Heap, type Vec3 } from "../math";
import type { RestMesh } from "../mesh";
import type { Holding, Side } from "./schema";

/** What lies at a side to within this share of the surface's extent is held there. */
const AT_SIDE = 1e-4;

/** Whether anything is held. */
export const isHeld = ({ held, places }: Holding): boolean => held.length > 0 || places.length > 0;

/** The vertices that are held fast: v flags. */
function heldVertices({ held, places }: Holding, rest: RestMesh): Uint8Array {
  const n = rest.mesh.position.length / 3;
  const out = new Uint8Array(n);
  for (const side of held) {
    if (side === "rim") holdRim(rest, out);
    else holdSide(side, rest, out);
  }
  for (const { at } of places) out[nearestVertex(rest.mesh.position, at)] = 1;
  // What lies at one place is held together.
  const { welded } = rest.corners;
  for (let v = 0; v < n; v++) if (out[v]) out[welded[v]] = 1;
  for (let v = 0; v < n; v++) out[v] = out[welded[v]];
  return out;
}

function holdRim({ edges: { ends, sides, count } }: RestMesh, out: Uint8Array): void {
  for (let edge = 0; edge < count; edge++)
    if (sides[2 * edge + 1] < 0) out[ends[2 * edge]] = out[ends[2 * edge + 1]] = 1;
}

function holdSide(side: Exclude<Side, "rim">, rest: RestMesh, out: Uint8Array): void {
  const across = side === "left" || side === "right";
  const along = placesAlong(rest, across);
  let [low, high] = [Infinity, -Infinity];
  for (const x of along) {
    if (x < low) low = x;
    if (x > high) high = x;
  }
  const end = side === "left" || side === "bottom" ? low : high;
  for (let v = 0; v < out.length; v++) if (Math.abs(along[v] - end) <= AT_SIDE * (high - low)) out[v] = 1;
}

/** How far right, or else how far up, each vertex lies: by texture coordinates, or by the box that is upright or lies flat. */
function placesAlong({ uvChart: chart, mesh: { position: P } }: RestMesh, across: boolean): Float64Array {
  const n = P.length / 3;
  if (chart) return Float64Array.from({ length: n }, (_, v) => chart.flat[3 * v + (across ? 0 : 2)]);
  if (across) return Float64Array.from({ length: n }, (_, v) => P[3 * v]);
  let [low, high, near, far] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let p = 0; p < P.length; p += 3) {
    [low, high] = [Math.min(low, P[p + 1]), Math.max(high, P[p + 1])];
    [near, far] = [Math.min(near, P[p + 2]), Math.max(far, P[p + 2])];
  }
  const upright = high - low >= far - near;
  return Float64Array.from({ length: n }, (_, v) => (upright ? P[3 * v + 1] : -P[3 * v + 2]));
}

function nearestVertex(P: ArrayLike<number>, [x, y, z]: Vec3): number {
  let [best, least] = [0, Infinity];
  for (let p = 0; p < P.length; p += 3) {
    const far = (P[p] - x) ** 2 + (P[p + 1] - y) ** 2 + (P[p + 2] - z) ** 2;
    if (far < least) [best, least] = [p / 3, far];
  }
  return best;
}

/** How freely each vertex moves: 0 where it is held fast, 1 from `soft` metres on along the mesh; null where nothing is held. */
export function freedom(holding: Holding, soft: number, rest: RestMesh, size: number): Float32Array | null {
  if (!isHeld(holding)) return null;
  const far = distancesFrom(heldVertices(holding, rest), rest);
  return Float32Array.from(far, (metres) => {
    if (metres === 0) return 0;
    const share = soft > 0 ? Math.min(1, (size * metres) / soft) : 1;
    return share * share * (3 - 2 * share);
  });
}

/** How far each vertex is from those that are marked, along the edges of the mesh (E. W. Dijkstra, 1959): v metres. */
function distancesFrom(marked: Uint8Array, { edges, mesh: { position: P }, corners }: RestMesh): Float64Array {
  const far = new Float64Array(marked.length).fill(Infinity);
  const heap = new Heap(far);
  for (let v = 0; v < marked.length; v++) {
    if (!marked[v] || corners.welded[v] !== v) continue;
    far[v] = 0;
    heap.push(v);
  }
  for (let v = heap.pop(); v >= 0; v = heap.pop()) {
    for (let k = edges.starts[v]; k < edges.starts[v + 1]; k++) {
      const edge = edges.items[k];
      const other = edges.ends[2 * edge] === v ? edges.ends[2 * edge + 1] : edges.ends[2 * edge];
      const [p, q] = [3 * v, 3 * other];
      const there = far[v] + Math.hypot(P[p] - P[q], P[p + 1] - P[q + 1], P[p + 2] - P[q + 2]);
      if (there >= far[other]) continue;
      far[other] = there;
      heap.push(other);
    }
  }
  return far.map((_, v) => far[corners.welded[v]]);
}

/** Steps of solving for a bulge at most, and by how much less is left over then. */
const MOST_STEPS = 600;
const LEFT = 1e-4;

/**
 * How far a membrane under even pressure bulges between what is held, 1 at its fullest: v. It is Poisson's equation over the
 * mesh, with cotangent weights (U. Pinkall, K. Polthier, 1993), by conjugate gradients. Where nothing is held, 1 everywhere.
 */
export function membrane(holding: Holding, rest: RestMesh): Float32Array {
  const { position: P, index } = rest.mesh;
  const n = P.length / 3;
  if (!isHeld(holding)) return new Float32Array(n).fill(1);
  const held = heldVertices(holding, rest);
  const { welded } = rest.corners;
  const { ends, count, ofTriangle } = rest.edges;
  const weight = new Float64Array(count);
  const load = new Float64Array(n);
  for (let c = 0; c < index.length; c++) {
    const t = c - (c % 3);
    const [p, q, r] = [3 * index[c], 3 * index[t + ((c + 1) % 3)], 3 * index[t + ((c + 2) % 3)]];
    const [ux, uy, uz] = [P[q] - P[p], P[q + 1] - P[p + 1], P[q + 2] - P[p + 2]];
    const [vx, vy, vz] = [P[r] - P[p], P[r + 1] - P[p + 1], P[r + 2] - P[p + 2]];
    const area = Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx);
    load[welded[index[c]]] += area / 6;
    // Obtuse corners would count against their opposite edges; slivers as much as all the rest.
    if (area > 0)
      weight[ofTriangle[t + ((c + 1) % 3)]] +=
        0.5 * Math.max(1e-3, Math.min(1e3, (ux * vx + uy * vy + uz * vz) / area));
  }
  const diagonal = new Float64Array(n);
  for (let e = 0; e < count; e++) {
    diagonal[ends[2 * e]] += weight[e];
    diagonal[ends[2 * e + 1]] += weight[e];
  }
  const free = (v: number) => welded[v] === v && !held[v] && diagonal[v] > 0;
  const times = (x: Float64Array, out: Float64Array): void => {
    for (let v = 0; v < n; v++) out[v] = diagonal[v] * x[v];
    for (let e = 0; e < count; e++) {
      const [a, b] = [ends[2 * e], ends[2 * e + 1]];
      out[a] -= weight[e] * x[b];
      out[b] -= weight[e] * x[a];
    }
    for (let v = 0; v < n; v++) if (!free(v)) out[v] = 0;
  };
  const out = conjugateGradients(
    times,
    load.map((area, v) => (free(v) ? area : 0)),
    diagonal,
  );
  const top = out.reduce((most, x) => Math.max(most, x), 0);
  return Float32Array.from(out, (_, v) => (top > 0 ? out[welded[v]] / top : 0));
}

function conjugateGradients(
  times: (x: Float64Array, out: Float64Array) => void,
  right: Float64Array,
  diagonal: Float64Array,
): Float64Array {
  const n = right.length;
  const x = new Float64Array(n);
  const residual = right.slice();
  const eased = residual.map((r, v) => (diagonal[v] > 0 ? r / diagonal[v] : 0));
  const way = eased.slice();
  const image = new Float64Array(n);
  const product = (a: Float64Array, b: Float64Array) => a.reduce((sum, value, v) => sum + value * b[v], 0);
  let size = product(residual, eased);
  const enough = LEFT * LEFT * size;
  for (let step = 0; step < MOST_STEPS && size > enough; step++) {
    times(way, image);
    const bent = product(way, image);
    if (!(bent > 0)) break;
    const far = size / bent;
    for (let v = 0; v < n; v++) {
      x[v] += far * way[v];
      residual[v] -= far * image[v];
      eased[v] = diagonal[v] > 0 ? residual[v] / diagonal[v] : 0;
    }
    const next = product(residual, eased);
    for (let v = 0; v < n; v++) way[v] = eased[v] + (next / size) * way[v];
    size = next;
  }
  return x;
}
