/** Placements as matrices and boxes for drawing and picking. */
import { entryOf, type PropBounds } from "@/core/mesh";
import { Box3, Color, Matrix4, Quaternion, Ray, Vector3 } from "three";
import { FLAG, NO_PROP, type Placements } from "@/core/place";

export const isShown = (p: Placements, i: number): boolean => !(p.flags[i] & FLAG.blank) && p.prop[i] !== NO_PROP;

export const isMirrored = (p: Placements, i: number): boolean => (p.flags[i] & FLAG.mirrored) !== 0;

/**
 * Writes the matrix of placement `i`, relative to the placements' origin, into 16 numbers at `o`. Of a mirrored one it
 * mirrors, unless that is left to the mesh.
 */
export function writeMatrix(p: Placements, i: number, out: Float32Array, o: number, mirrors = true): void {
  const q = 4 * i;
  const [x, y, z, w] = [p.rotation[q], p.rotation[q + 1], p.rotation[q + 2], p.rotation[q + 3]];
  const s = 3 * i;
  const sx = mirrors && isMirrored(p, i) ? -p.scale[s] : p.scale[s];
  const [sy, sz] = [p.scale[s + 1], p.scale[s + 2]];
  out[o] = (1 - 2 * (y * y + z * z)) * sx;
  out[o + 1] = 2 * (x * y + z * w) * sx;
  out[o + 2] = 2 * (x * z - y * w) * sx;
  out[o + 3] = 0;
  out[o + 4] = 2 * (x * y - z * w) * sy;
  out[o + 5] = (1 - 2 * (x * x + z * z)) * sy;
  out[o + 6] = 2 * (y * z + x * w) * sy;
  out[o + 7] = 0;
  out[o + 8] = 2 * (x * z + y * w) * sz;
  out[o + 9] = 2 * (y * z - x * w) * sz;
  out[o + 10] = (1 - 2 * (x * x + y * y)) * sz;
  out[o + 11] = 0;
  out[o + 12] = p.position[s];
  out[o + 13] = p.position[s + 1];
  out[o + 14] = p.position[s + 2];
  out[o + 15] = 1;
}

/** Placements that are drawn by one mesh. */
export interface Instances {
  /** 16n numbers. */
  matrices: Float32Array;
  /** Tints in linear light, 3n numbers; null where none is tinted. */
  colours: Float32Array | null;
}

/** The matrices and tints of some placements. Mirroring is left to the mesh. */
export function instancesOf(p: Placements, members: readonly number[]): Instances {
  const matrices = new Float32Array(16 * members.length);
  members.forEach((i, k) => writeMatrix(p, i, matrices, 16 * k, false));
  if (p.tints.length < 2) return { matrices, colours: null };
  const tints = p.tints.map(linearTint);
  const colours = new Float32Array(3 * members.length);
  members.forEach((i, k) => colours.set(tints[p.tint[i]], 3 * k));
  return { matrices, colours };
}

const tint = new Color();
/** A tint `#rrggbb` in linear light. */
export const linearTint = (written: string): [number, number, number] =>
  tint.set(written).toArray() as [number, number, number];

/** Shown placements by their prop: in full as they are, mirrored or shaped. */
export interface Members {
  plain: number[];
  mirrored: number[];
  shaped: number[];
}

const sorted = new WeakMap<Placements, Members[]>();

/** The shown placements of each prop; worked out once for each result. */
export function membersOf(p: Placements): Members[] {
  let members = sorted.get(p);
  if (!members) {
    members = p.props.map(() => ({ plain: [], mirrored: [], shaped: [] }));
    for (let i = 0; i < p.count; i++) {
      if (!isShown(p, i)) continue;
      const own = members[p.prop[i]];
      (entryOf(p.shapes, i) >= 0 ? own.shaped : isMirrored(p, i) ? own.mirrored : own.plain).push(i);
    }
    sorted.set(p, members);
  }
  return members;
}

/** Of some placements those that are nearest to a point, and the others; each in the order that they had. */
export function nearestOf(
  { origin, position }: Placements,
  members: readonly number[],
  [x, y, z]: readonly [number, number, number],
  most: number,
): [near: number[], far: number[]] {
  if (members.length <= most) return [[...members], []];
  const squares = Float64Array.from(members, (i) => {
    const dx = origin[0] + position[3 * i] - x;
    const dy = origin[1] + position[3 * i + 1] - y;
    const dz = origin[2] + position[3 * i + 2] - z;
    return dx * dx + dy * dy + dz * dz;
  });
  const ranked = squares.slice().sort();
  const last = most > 0 ? ranked[most - 1] : -1;
  // Of those that are equally far only as many as there is room for.
  let ties = most - ranked.findIndex((square) => square === last);
  const [near, far]: [number[], number[]] = [[], []];
  members.forEach((i, k) => {
    const counts = squares[k] < last || (squares[k] === last && ties-- > 0);
    (counts ? near : far).push(i);
  });
  return [near, far];
}

const scratch = {
  matrix: new Matrix4(),
  ray: new Ray(),
  hit: new Vector3(),
  box: new Box3(),
  numbers: new Float32Array(16),
};

/** The distance along a world ray to the placement's box, or Infinity. */
function distanceTo(p: Placements, i: number, bounds: PropBounds, ray: Ray): number {
  writeMatrix(p, i, scratch.numbers, 0);
  scratch.matrix
    .fromArray(scratch.numbers)
    .setPosition(
      p.origin[0] + p.position[3 * i],
      p.origin[1] + p.position[3 * i + 1],
      p.origin[2] + p.position[3 * i + 2],
    );
  scratch.box.min.set(...bounds.min);
  scratch.box.max.set(...bounds.max);
  const { hit } = scratch;
  const local = scratch.ray.copy(ray).applyMatrix4(scratch.matrix.clone().invert());
  if (!local.intersectBox(scratch.box, hit)) return Infinity;
  return hit.applyMatrix4(scratch.matrix).distanceTo(ray.origin);
}

const largestScale = ({ scale }: Placements, i: number): number =>
  Math.max(scale[3 * i], scale[3 * i + 1], scale[3 * i + 2]);

/** The nearest placement that a ray meets, by the boxes of the props. */
export function pick(
  p: Placements,
  bounds: ReadonlyMap<string, PropBounds>,
  ray: Ray,
): { index: number; distance: number } | null {
  let best: { index: number; distance: number } | null = null;
  const radius = p.props.map((id) => {
    const box = bounds.get(id);
    return box ? Math.hypot(...box.min.map((low, k) => Math.max(Math.abs(low), Math.abs(box.max[k])))) : 0;
  });
  const { origin, direction } = ray;
  for (let i = 0; i < p.count; i++) {
    if (!isShown(p, i)) continue;
    // A sphere about the prop's origin rules most of them out.
    const r = radius[p.prop[i]] * largestScale(p, i);
    const x = p.origin[0] + p.position[3 * i] - origin.x;
    const y = p.origin[1] + p.position[3 * i + 1] - origin.y;
    const z = p.origin[2] + p.position[3 * i + 2] - origin.z;
    const along = x * direction.x + y * direction.y + z * direction.z;
    if (along < -r || x * x + y * y + z * z - along * along > r * r) continue;
    const box = bounds.get(p.props[p.prop[i]]);
    const distance = box ? distanceTo(p, i, box, ray) : Infinity;
    if (distance < Infinity && (!best || distance < best.distance)) best = { index: i, distance };
  }
  return best;
}

/** The world box around some placements, by their props' boxes. */
export function boxAround(
  p: Placements,
  bounds: ReadonlyMap<string, PropBounds>,
  wanted: (i: number) => boolean,
): Box3 {
  const box = new Box3();
  const corner = new Vector3();
  const size = new Vector3();
  const turn = new Quaternion();
  for (let i = 0; i < p.count; i++) {
    if (!isShown(p, i) || !wanted(i)) continue;
    const own = bounds.get(p.props[p.prop[i]]);
    if (!own) continue;
    size.set(isMirrored(p, i) ? -p.scale[3 * i] : p.scale[3 * i], p.scale[3 * i + 1], p.scale[3 * i + 2]);
    turn.set(p.rotation[4 * i], p.rotation[4 * i + 1], p.rotation[4 * i + 2], p.rotation[4 * i + 3]);
    for (let k = 0; k < 8; k++) {
      corner.set(k & 1 ? own.max[0] : own.min[0], k & 2 ? own.max[1] : own.min[1], k & 4 ? own.max[2] : own.min[2]);
      corner.multiply(size).applyQuaternion(turn);
      corner.x += p.origin[0] + p.position[3 * i];
      corner.y += p.origin[1] + p.position[3 * i + 1];
      corner.z += p.origin[2] + p.position[3 * i + 2];
      box.expandByPoint(corner);
    }
  }
  return box;
}
