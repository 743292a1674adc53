/** *The way over a mesh from one point to another, as a plane through both cuts it.* */
import { anyPerpendicular, cross, dot, normalize, subtract, type Vec3 } from "../math";
import type { WorldMesh } from "../mesh";

/** A place on a mesh. */
export interface OnMesh {
  point: Vec3;
  triangle: number;
}

/** A way over more edges than this, or so many times as long as the straight one, is none. */
const MOST_EDGES = 20_000;
const LONGEST = 12;

/**
 * Where the way from `a` to `b` goes over edges of the mesh; each with the triangle that it enters. Null where the mesh
 * ends before, or the cut leads elsewhere.
 *
 * @param normal a direction that the plane contains, unless it is that from one to the other
 */
export function sectionBetween(ground: WorldMesh, a: OnMesh, b: OnMesh, normal: Vec3): OnMesh[] | null {
  const chord = subtract(b.point, a.point);
  const far = Math.hypot(...chord);
  const side = cross(chord, normal);
  const across = normalize(Math.hypot(...side) > 1e-9 * far ? side : anyPerpendicular(normalize(chord)), [1, 0, 0]);
  // The mesh may lead on either way from the start; the shorter is taken.
  const ways = [1, -1].flatMap((sense) => walk(ground, a, b, across, sense, LONGEST * far) ?? []);
  return ways.sort((p, q) => p.length - q.length)[0]?.passed ?? null;
}

interface Way {
  passed: OnMesh[];
  length: number;
}

function walk(ground: WorldMesh, a: OnMesh, b: OnMesh, across: Vec3, sense: number, most: number): Way[] | null {
  const { position: P, index } = ground;
  const { beyond } = ground.rest;
  const corner = (t: number, k: number): Vec3 => {
    const v = 3 * index[3 * t + (k % 3)];
    return [P[v], P[v + 1], P[v + 2]];
  };
  const passed: OnMesh[] = [];
  let [triangle, entered, length, last] = [a.triangle, -1, 0, a.point];
  const normal = new Float64Array(3);
  for (let edges = 0; edges < MOST_EDGES && length < most; edges++) {
    if (triangle === b.triangle && edges > 0) {
      return [{ passed, length: length + Math.hypot(...subtract(b.point, last)) }];
    }
    ground.flatNormal(triangle, normal);
    // Along the cut, the way that is gone: square to the plane's normal and the triangle's.
    const along = cross(across, [normal[0], normal[1], normal[2]]);
    let [leaves, best]: [number, number] = [-1, -Infinity];
    let out: Vec3 = last;
    for (let k = 0; k < 3; k++) {
      if (k === entered) continue;
      const [p, q] = [corner(triangle, k), corner(triangle, k + 1)];
      const [dp, dq] = [dot(subtract(p, a.point), across), dot(subtract(q, a.point), across)];
      // What lies on the plane counts as before it, so that a corner belongs to one of its edges.
      if (dp > 0 === dq > 0) continue;
      const share = dp / (dp - dq);
      const at = p.map((x, axis) => x + share * (q[axis] - x)) as unknown as Vec3;
      const on = sense * dot(subtract(at, last), along);
      if (on > best) [leaves, best, out] = [k, on, at];
    }
    if (leaves < 0) return null;
    const other = beyond[3 * triangle + leaves];
    if (other < 0) return null;
    length += Math.hypot(...subtract(out, last));
    entered = 0;
    while (entered < 2 && beyond[3 * other + entered] !== triangle) entered++;
    // A triangle that shows its back turns the way along round.
    [triangle, last] = [other, out];
    passed.push({ point: out, triangle });
  }
  return null;
}
