/** What things are spread over, or what they fill. */
import { rotate, type Vec3 } from "../math";
import { areasOf, spreadable, WorldMesh, type Spreadable, type Stand } from "../mesh";
import { outlineOf, Plan } from "./plan";
import type { GuideLine } from "../line";
import type { Volume } from "./volume";

/** *One surface, or one area that has none, that props are spread over; or one volume that they fill.* */
export interface Field {
  /** The surface's id, or the area's line's. */
  id: string;
  /** What tells its keys from those of the dressing's other fields: 0 to 62. */
  tag: number;
  ground: WorldMesh;
  /** Within which outlines, seen from above; null for everywhere. */
  plan: Plan | null;
  /** The space inside its mesh where that is what is filled. */
  volume: Volume | null;
  /** Whether what is pegged may be anywhere, and is not put onto its mesh. */
  free: boolean;
  region: Region;
}

/** The part of a field's mesh that its outlines can reach, at its own size and in its own place. */
export interface Region {
  position: Float64Array;
  index: Uint32Array;
  /** Which triangles of the whole mesh these are: null for all. */
  numbers: Uint32Array | null;
  /** Areas of its triangles together, square metres. */
  area: number;
  /** For spreading over it evenly; worked out at the first use. */
  mesh: () => Spreadable;
}

/** Of a mesh, a region smaller than this share of its triangles is taken out. */
const WORTH = 0.7;

/** How much there is to be filled: square metres of a region, cubic metres of a volume. */
export const extentOf = ({ volume, region }: Field): number => (volume ? volume.cubic : region.area);

/** Where a field's mesh is put: points of its region in the world. */
export const standOf = ({ ground }: Field): Stand =>
  ground.stand ?? { position: [0, 0, 0], rotation: [0, 0, 0, 1], scale: 1 };

/** A point of a field that pegs keep in its surface's own coordinates, so that it goes along when that is moved. */
export function fromOwn(field: Field, [x, y, z]: Vec3): Vec3 {
  const { position, rotation, scale } = standOf(field);
  const [u, v, w] = rotate(rotation, [scale * x, scale * y, scale * z]);
  return [position[0] + u, position[1] + v, position[2] + w];
}

/**
 * The triangles that lie over a plan's box. The box is taken in large steps, so that an outline may be edited a little
 * without its region becoming another.
 */
export function regionOf(ground: WorldMesh, plan: Plan | null): Region {
  const position = ground.own;
  const whole = (): Region => region(position, ground.index, null);
  if (!plan?.bounded) return whole();
  const [least, most] = snapped(plan);
  const P = ground.position;
  const inside: number[] = [];
  for (let t = 0; 3 * t < ground.index.length; t++) {
    const [a, b, c] = [3 * ground.index[3 * t], 3 * ground.index[3 * t + 1], 3 * ground.index[3 * t + 2]];
    const apart =
      Math.max(P[a], P[b], P[c]) < least[0] ||
      Math.min(P[a], P[b], P[c]) > most[0] ||
      Math.max(P[a + 2], P[b + 2], P[c + 2]) < least[1] ||
      Math.min(P[a + 2], P[b + 2], P[c + 2]) > most[1];
    if (!apart) inside.push(t);
  }
  if (inside.length >= WORTH * ground.triangles) return whole();
  const index = new Uint32Array(3 * inside.length);
  inside.forEach((t, i) => index.set(ground.index.subarray(3 * t, 3 * t + 3), 3 * i));
  return region(position, index, Uint32Array.from(inside));
}

function region(position: Float64Array, index: Uint32Array, numbers: Uint32Array | null): Region {
  const area = areasOf({ position, index }).reduce((total, one) => total + one, 0);
  let mesh: Spreadable | undefined;
  return { position, index, numbers, area, mesh: () => (mesh ??= spreadable({ position, index })) };
}

/** A plan's box, out to whole steps: quarters of the power of two above its longer side. */
function snapped({ least, most }: Pick<Plan, "least" | "most">): [[number, number], [number, number]] {
  const long = Math.max(most[0] - least[0], most[1] - least[1], 1e-6);
  const step = 2 ** Math.ceil(Math.log2(long)) / 4;
  const down = (x: number) => Math.floor(x / step) * step;
  const up = (x: number) => Math.ceil(x / step) * step;
  return [
    [down(least[0]), down(least[1])],
    [up(most[0]), up(most[1])],
  ];
}

/** The plane that fits an outline best, over its box: what an area lies on where there is no surface. */
export function flatUnder(line: GuideLine): WorldMesh {
  const outline = outlineOf(line);
  const n = outline.length / 2;
  const at = Float64Array.from({ length: n }, (_, i) => (line.curve.length * i) / n);
  const points = new Float64Array(3 * n);
  line.curve.sample(at, n, points, new Float64Array(3 * n));
  const [slopeX, slopeZ, middle] = planeThrough(points);
  const [[x0, z0], [x1, z1]] = snapped(new Plan([outline], 1));
  const height = (x: number, z: number) => middle[1] + slopeX * (x - middle[0]) + slopeZ * (z - middle[2]);
  const corner = (x: number, z: number) => [x, height(x, z), z];
  const position = Float64Array.from([corner(x0, z0), corner(x0, z1), corner(x1, z1), corner(x1, z0)].flat());
  return new WorldMesh(line.id, position, Uint32Array.from([0, 1, 2, 0, 2, 3]));
}

/** By least squares how a plane through points (3n) rises along x and along z, and their middle. */
function planeThrough(points: Float64Array): [slopeX: number, slopeZ: number, middle: Vec3] {
  const n = points.length / 3;
  const middle = [0, 1, 2].map((axis) => {
    let total = 0;
    for (let i = 0; i < n; i++) total += points[3 * i + axis];
    return total / n;
  });
  let [xx, xz, zz, xy, zy] = [0, 0, 0, 0, 0];
  for (let p = 0; p < points.length; p += 3) {
    const [x, y, z] = [points[p] - middle[0], points[p + 1] - middle[1], points[p + 2] - middle[2]];
    xx += x * x;
    xz += x * z;
    zz += z * z;
    xy += x * y;
    zy += z * y;
  }
  const squared = xx * zz - xz * xz;
  if (!(squared > 1e-12 * xx * zz)) return [0, 0, middle as unknown as Vec3];
  return [(xy * zz - zy * xz) / squared, (zy * xx - xy * xz) / squared, middle as unknown as Vec3];
}
