/**
 * *A smoothed copy of a surface*: its triangles are parted into four, again and again, and the vertices go to the middle of
 * what is about them (C. Loop, *Smooth Subdivision Surfaces Based on Triangles*, 1987). Rims, and edges that are kept sharp,
 * become curves of their own (H. Hoppe and others, *Piecewise Smooth Surface Reconstruction*, SIGGRAPH 1994).
 */
import {
  facetsOf,
  nextOf,
  oppositeTwins,
  weldedVertices,
  type Attribute,
  type Shape,
  type TriangleMesh,
} from "../mesh";
import type { Smoothed } from "./schema";

/** It is parted no further than to so many triangles. */
const MOST_SMOOTHED = 1_000_000;

/** How many triangles a copy of so many has. */
export function smoothedTriangles(triangles: number, rounds: number): number {
  let count = triangles;
  for (let round = 0; round < rounds && 4 * count <= MOST_SMOOTHED; round++) count *= 4;
  return count;
}

/** The mesh's own triangles, parted so and so often: vertices at one place as one, and with a texture of their own each. */
interface Parted {
  /** Where the vertices at one place are, metres; and those at the corners: 3m. */
  position: Float64Array;
  vertex: Uint32Array;
  /** The same with those apart whose texture differs; of which of those at one place each is one. */
  corner: Uint32Array;
  of: number[];
  /** For each that came in, the two that it lies between, which came before it. */
  between: number[];
  /** 1 for half-edges that stay sharp: 3m. */
  sharp: Uint8Array;
}

/** A surface's copy at rest; its normals are its own. */
export function smoothed(source: Shape, { rounds, keep }: Pick<Smoothed, "rounds" | "keep">): TriangleMesh {
  const attributes = source.attributes.filter(({ name }) => name !== "NORMAL" && name !== "TANGENT");
  const most = 3 * smoothedTriangles(source.index.length / 3, rounds);
  if (source.index.length >= most)
    return { position: Float32Array.from(source.position), index: source.index, attributes };
  const welded = weldedVertices(source.position);
  const vertex = Uint32Array.from(source.index, (v) => welded[v]);
  let parted: Parted = {
    position: Float64Array.from(source.position),
    vertex,
    corner: Uint32Array.from(source.index),
    of: Array.from(welded),
    between: [],
    sharp: sharpEdges(source.position, vertex, keep),
  };
  while (parted.corner.length < most) parted = partedOnce(parted);
  const position = new Float32Array(3 * parted.of.length);
  parted.of.forEach((v, i) => position.set(parted.position.subarray(3 * v, 3 * v + 3), 3 * i));
  return {
    position,
    index: parted.corner,
    attributes: attributes.map((one) => ({ ...one, array: spread(one, welded.length, parted.between) })),
  };
}

/** Numbers of the source's vertices, evenly from one to the next. */
function spread({ array, width }: Attribute, count: number, between: readonly number[]): Float32Array {
  const out = new Float32Array(width * (count + between.length / 2));
  out.set(array);
  for (let k = 0; k < between.length / 2; k++) {
    const [a, b] = [width * between[2 * k], width * between[2 * k + 1]];
    for (let c = 0; c < width; c++) out[width * (count + k) + c] = (out[a + c] + out[b + c]) / 2;
  }
  return out;
}

/** Each triangle in four. */
function partedOnce({ position, vertex, corner, of, between, sharp }: Parted): Parted {
  const count = position.length / 3;
  const twin = oppositeTwins(vertex, count);
  // The vertex that parts each half-edge: whatever lies at one place is one, its texture may not be.
  const edge = new Uint32Array(vertex.length);
  const middle = new Uint32Array(vertex.length);
  // The ends of each edge, and the corners across it, which are the ends again where it is sharp.
  const ends: number[] = [];
  for (let h = 0; h < vertex.length; h++) {
    const [t, next] = [twin[h], nextOf(h)];
    const isSecond = t >= 0 && t < h;
    if (isSecond) edge[h] = edge[t];
    else {
      edge[h] = count + ends.length / 4;
      const [a, b] = [vertex[h], vertex[next]];
      const smooth = t >= 0 && sharp[h] === 0;
      ends.push(a, b, smooth ? vertex[nextOf(next)] : a, smooth ? vertex[nextOf(nextOf(t))] : b);
    }
    if (isSecond && corner[t] === corner[next] && corner[nextOf(t)] === corner[h]) middle[h] = middle[t];
    else {
      middle[h] = of.length;
      between.push(corner[h], corner[next]);
      of.push(edge[h]);
    }
  }
  const now = new Float64Array(position.length + 0.75 * ends.length);
  now.set(drawnTogether(position, vertex, twin, sharp));
  for (let k = 0, o = position.length; k < ends.length; k += 4, o += 3) {
    const [a, b, c, d] = [3 * ends[k], 3 * ends[k + 1], 3 * ends[k + 2], 3 * ends[k + 3]];
    for (let axis = 0; axis < 3; axis++)
      now[o + axis] = (3 * (position[a + axis] + position[b + axis]) + position[c + axis] + position[d + axis]) / 8;
  }
  return {
    position: now,
    vertex: inFour(vertex, edge),
    corner: inFour(corner, middle),
    of,
    between,
    sharp: sharpAfter(sharp),
  };
}

/** Half-edges at which facets meet by more than an angle, radians: 1. */
function sharpEdges(position: ArrayLike<number>, vertex: Uint32Array, keep: number): Uint8Array {
  const sharp = new Uint8Array(vertex.length);
  if (keep >= Math.PI) return sharp;
  const { normal } = facetsOf({ position: Float64Array.from(position), index: vertex });
  const least = Math.cos(keep);
  oppositeTwins(vertex, position.length / 3).forEach((t, h) => {
    if (t < 0) return;
    const [a, b] = [h - (h % 3), t - (t % 3)];
    const cosine = normal[a] * normal[b] + normal[a + 1] * normal[b + 1] + normal[a + 2] * normal[b + 2];
    if (cosine < least) sharp[h] = 1;
  });
  return sharp;
}

/** Old vertices drawn by all about them, by the two beside them on a rim or a crease, or, where more meet, by none: 3v. */
function drawnTogether(position: Float64Array, vertex: Uint32Array, twin: Int32Array, sharp: Uint8Array): Float64Array {
  const count = position.length / 3;
  const [around, edged] = [new Uint32Array(count), new Uint32Array(count)];
  // Both ways of an edge that two triangles share are half-edges; that of a rim is one alone.
  const each = (visit: (v: number, other: number, onEdge: boolean) => void) => {
    for (let h = 0; h < vertex.length; h++) {
      const [a, b] = [vertex[h], vertex[nextOf(h)]];
      visit(a, b, twin[h] < 0 || sharp[h] === 1);
      if (twin[h] < 0) visit(b, a, true);
    }
  };
  each((v, _, onEdge) => {
    around[v]++;
    if (onEdge) edged[v]++;
  });
  const share = Float64Array.from(around, (n, v) => (edged[v] > 2 ? 0 : edged[v] === 2 ? 1 / 8 : loopShare(n)));
  const out = Float64Array.from(position);
  each((v, other, onEdge) => {
    if (edged[v] === 2 && !onEdge) return;
    for (let axis = 0; axis < 3; axis++)
      out[3 * v + axis] += share[v] * (position[3 * other + axis] - position[3 * v + axis]);
  });
  return out;
}

/** Loop's own: by so much each of `n` neighbours counts. */
const loopShare = (n: number): number => (n === 0 ? 0 : (5 / 8 - (3 / 8 + Math.cos((2 * Math.PI) / n) / 4) ** 2) / n);

/** Each triangle in four: its corners each with the middles beside it, and the middles. */
function inFour(corner: Uint32Array, middle: Uint32Array): Uint32Array<ArrayBuffer> {
  const out = new Uint32Array(4 * corner.length);
  for (let o = 0; o < corner.length; o += 3) {
    const [a, b, c] = [middle[o], middle[o + 1], middle[o + 2]];
    out.set([corner[o], a, c, corner[o + 1], b, a, corner[o + 2], c, b, a, b, c], 4 * o);
  }
  return out;
}

/** Which half-edges are sharp once each triangle is four, in the order of {@link inFour}. */
function sharpAfter(sharp: Uint8Array): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(4 * sharp.length);
  for (let o = 0; o < sharp.length; o += 3) {
    const [a, b, c] = [sharp[o], sharp[o + 1], sharp[o + 2]];
    out.set([a, 0, c, b, 0, a, c, 0, b, 0, 0, 0], 4 * o);
  }
  return out;
}
