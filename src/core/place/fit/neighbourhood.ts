/**
 * *A surface's neighbourhood about a place, laid flat*: what is so far to the left and ahead there is so far away on a straight
 * way over the surface, in the direction that it has at the place (the exponential map, see `mesh/walk.ts`).
 */
import { conjugate, rotate, type Vec3 } from "../../math";
import { PIECE, Walk, type WorldMesh } from "../../mesh";
import { cross, squareTo } from "../spacing/carrier";
import type { Foot } from "./forms";

/** It is sampled at so many places a side, at first and at most, until the surface is met half way between to so many metres. */
const [FEWEST, MOST] = [9, 65];
const OFF = 0.0004;

/** How far something reaches from its foot, least and most to the left and ahead, metres. */
export type Reach = readonly [left0: number, ahead0: number, left1: number, ahead1: number];

/** A piece of a surface laid flat, and how sharply it breaks there at most. */
export interface Neighbourhood {
  /** Its triangles, see `PIECE`; beyond the surface's rim it goes on flat. */
  piece: Float64Array;
  /** Radians. */
  crease: number;
}

export function pieceAround(ground: WorldMesh, foot: Foot, on: number, reach: Reach): Neighbourhood {
  const triangle = ground.withWidth(on, ...foot.position);
  const normal = new Float64Array(3);
  ground.flatNormal(triangle, normal);
  const forward = rotate(foot.rotation, [0, 0, 1]);
  const ahead = squareTo(normal, forward) ?? forward;
  const walker: Walker = { ground, walk: new Walk(ground, ground.facets, ground.rest.beyond), foot, triangle, ahead, left: cross(normal, ahead) }; // prettier-ignore
  for (let side = FEWEST; ; side = 2 * side - 1) {
    walker.walk.sharpest = 1;
    const nodes = sampled(walker, reach, side);
    if (side >= MOST || isFine(nodes, side))
      return { piece: trianglesOf(nodes, side), crease: Math.acos(Math.max(-1, walker.walk.sharpest)) };
  }
}

interface Walker {
  ground: WorldMesh;
  walk: Walk;
  foot: Foot;
  triangle: number;
  ahead: Vec3;
  left: Vec3;
}

/** Numbers of a node: left, ahead, position and normal in the frame at the foot, as a corner of a piece has them. */
const NODE = 8;

function sampled(
  { ground, walk, foot, triangle, ahead, left }: Walker,
  [l0, a0, l1, a1]: Reach,
  side: number,
): Float64Array {
  const nodes = new Float64Array(NODE * side * side);
  const back = conjugate(foot.rotation);
  const normal = new Float64Array(3);
  const [x, y, z] = foot.position;
  for (let j = 0, o = 0; j < side; j++)
    for (let i = 0; i < side; i++, o += NODE) {
      const [l, a] = [l0 + ((l1 - l0) * i) / (side - 1), a0 + ((a1 - a0) * j) / (side - 1)];
      const far = Math.hypot(l, a);
      const way = (k: number): number => (l * left[k] + a * ahead[k]) / (far || 1);
      const before = walk.sharpest;
      const whole = walk.straight(triangle, x, y, z, way(0), way(1), way(2), far);
      // What breaks along the rim of something is no crease under it.
      if (i === 0 || j === 0 || i === side - 1 || j === side - 1) walk.sharpest = before;
      const at = walk.triangle < 0 ? triangle : walk.triangle;
      const [px, py, pz] = walk.place;
      ground.smoothNormal(at, px, py, pz, normal);
      const on = whole ? 0 : walk.left;
      const place = (k: number): number => walk.place[k] + on * walk.direction[k] - foot.position[k];
      nodes[o] = l;
      nodes[o + 1] = a;
      nodes.set(rotate(back, [place(0), place(1), place(2)]), o + 2);
      nodes.set(rotate(back, [normal[0], normal[1], normal[2]]), o + 5);
    }
  return nodes;
}

/** Whether what lies between two nodes of every second one is where these have it, nearly. */
function isFine(nodes: Float64Array, side: number): boolean {
  const off = (a: number, middle: number, b: number): number => {
    let squared = 0;
    for (let k = 2; k < 5; k++)
      squared += (nodes[NODE * middle + k] - (nodes[NODE * a + k] + nodes[NODE * b + k]) / 2) ** 2;
    return Math.sqrt(squared);
  };
  for (let j = 0; j < side; j++)
    for (let i = 1; i + 1 < side; i += 2) {
      // Half way between nodes that are twice as far apart four times as much is off.
      if (off(j * side + i - 1, j * side + i, j * side + i + 1) > 4 * OFF) return false;
      if (off((i - 1) * side + j, i * side + j, (i + 1) * side + j) > 4 * OFF) return false;
    }
  return true;
}

function trianglesOf(nodes: Float64Array, side: number): Float64Array {
  const piece = new Float64Array(PIECE * 2 * (side - 1) * (side - 1));
  let o = 0;
  for (let j = 0; j + 1 < side; j++)
    for (let i = 0; i + 1 < side; i++) {
      const a = j * side + i;
      for (const node of [a, a + 1, a + side + 1, a, a + side + 1, a + side]) {
        piece.set(nodes.subarray(NODE * node, NODE * (node + 1)), o);
        o += NODE;
      }
    }
  return piece;
}
