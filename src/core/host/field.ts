/** What things are spread over, or what they fill. */
import type { Vec3 } from "../math";
import {
  areasOf,
  cutFacesAmong,
  fromStand,
  spreadable,
  WorldMesh,
  type CutFaces,
  type Spreadable,
  type Stand,
} from "../mesh";
import { outlineOf, Plan } from "./plan";
import type { GuideLine } from "../line";
import type { Volume } from "./volume";

/** *One surface, or one area that has none, that props are spread over; or one volume that they fill.* */
export interface Field {
  /** The surface's id, or the area's line's. */
  id: string;
  /** What tells its keys from those of the dressing's other fields, see `place/keys.ts`. */
  tag: number;
  ground: WorldMesh;
  /** Within which outlines, seen from above; null for everywhere. */
  plan: Plan | null;
  /** Whether its mesh is a plane that was laid under an area. */
  plane: boolean;
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
  /** What each triangle is known by: null for its number in the whole mesh. */
  names: Uint32Array | null;
  /** Those that the mesh's rim cut off. */
  cut: CutFaces | null;
  /** The box that outlines leave of it, least and most in the mesh's own coordinates; null for all. */
  box: Box | null;
  /** Square metres within the box, nearly. */
  area: number;
  /** For spreading over it evenly; worked out at the first use. */
  mesh: () => Spreadable;
}

type Box = readonly [least: Vec3, most: Vec3];

/** Of a mesh, a region smaller than this share of its triangles is taken out. */
const WORTH = 0.7;

/** How much there is to be filled: square metres of a region, cubic metres of a volume. */
export const extentOf = ({ volume, region }: { volume: Volume | null; region: { area: number } }): number =>
  volume ? volume.cubic : region.area;

/** Where a field's mesh is put: points of its region in the world. */
export const standOf = ({ ground }: Pick<Field, "ground">): Stand =>
  ground.stand ?? { position: [0, 0, 0], rotation: [0, 0, 0, 1], scale: 1 };

/** A point of a field that pegs keep in its surface's own coordinates, so that it goes along when that is moved. */
export const fromOwn = (field: Field, point: Vec3): Vec3 => fromStand(standOf(field), point);

/**
 * The triangles that lie over a plan's box. The box is taken in large steps in the mesh's own coordinates, so that an outline
 * may be edited a little, or be moved together with its surface, without its region becoming another.
 */
export function regionOf(ground: WorldMesh, plan: Plan | null): Region {
  const { own: position, index } = ground;
  const { faces = null, cut = null } = ground.rest.mesh;
  if (!plan?.bounded) return region({ position, index, numbers: null, names: faces, cut, box: null });
  const box = ownBox(ground, plan);
  const inside: number[] = [];
  for (let t = 0; 3 * t < index.length; t++) if (!isApart(position, index, t, box)) inside.push(t);
  const numbers = inside.length < WORTH * ground.triangles ? Uint32Array.from(inside) : null;
  if (!numbers) return region({ position, index, numbers, names: faces, cut, box });
  const part = new Uint32Array(3 * inside.length);
  inside.forEach((t, i) => part.set(index.subarray(3 * t, 3 * t + 3), 3 * i));
  const names = faces ? numbers.map((t) => faces[t]) : numbers;
  return region({ position, index: part, numbers, names, cut: cut && cutFacesAmong(cut, numbers), box });
}

function region(bare: Omit<Region, "area" | "mesh">): Region {
  const { position, index, box } = bare;
  const areas = areasOf({ position, index });
  let area = 0;
  for (let t = 0; t < areas.length; t++) area += areas[t] * (box ? shareWithin(position, index, t, box) : 1);
  let mesh: Spreadable | undefined;
  return { ...bare, area, mesh: () => (mesh ??= spreadable({ position, index })) };
}

/** Least and most of a triangle along an axis. */
function spanOf(P: Float64Array, index: Uint32Array, t: number, axis: number): [number, number] {
  const [a, b, c] = [P[3 * index[3 * t] + axis], P[3 * index[3 * t + 1] + axis], P[3 * index[3 * t + 2] + axis]];
  return [Math.min(a, b, c), Math.max(a, b, c)];
}

function isApart(P: Float64Array, index: Uint32Array, t: number, [least, most]: Box): boolean {
  for (let axis = 0; axis < 3; axis++) {
    const [low, high] = spanOf(P, index, t, axis);
    if (high < least[axis] || low > most[axis]) return true;
  }
  return false;
}

/** How much of a triangle lies within a box: of the box about it, at least. */
function shareWithin(P: Float64Array, index: Uint32Array, t: number, [least, most]: Box): number {
  let share = 1;
  for (let axis = 0; axis < 3; axis++) {
    const [low, high] = spanOf(P, index, t, axis);
    const within = Math.min(high, most[axis]) - Math.max(low, least[axis]);
    if (high - low > most[axis] - least[axis]) share *= Math.max(0, within / (high - low));
  }
  return share;
}

/** The box of what of a mesh lies over a plan's box, in the mesh's own coordinates, out to whole steps. */
function ownBox(ground: WorldMesh, { least, most }: Pick<Plan, "least" | "most">): Box {
  const P = ground.position;
  let [low, high] = [Infinity, -Infinity];
  for (let p = 1; p < P.length; p += 3) {
    if (P[p] < low) low = P[p];
    if (P[p] > high) high = P[p];
  }
  const corners = [least[0], most[0]].flatMap((x) =>
    [low, high].flatMap((y) => [least[1], most[1]].map((z) => ground.toOwn([x, y, z]))),
  );
  const ends = [0, 1, 2].map((axis) => {
    const values = corners.map((corner) => corner[axis]);
    return [Math.min(...values), Math.max(...values)] as const;
  });
  const step = stepFor(Math.max(...ends.map(([from, to]) => to - from)));
  return [
    ends.map(([from]) => down(from, step)) as unknown as Vec3,
    ends.map(([, to]) => up(to, step)) as unknown as Vec3,
  ];
}

/** Boxes are taken out to whole steps: quarters of the power of two above their longest side. */
const stepFor = (long: number): number => 2 ** Math.ceil(Math.log2(Math.max(long, 1e-6)) - ROUNDING) / 4;
const down = (x: number, step: number): number => Math.floor(x / step + ROUNDING) * step;
const up = (x: number, step: number): number => Math.ceil(x / step - ROUNDING) * step;
/** What lies at a step but for rounding lies at it. */
const ROUNDING = 1e-6;

function snapped({ least, most }: Pick<Plan, "least" | "most">): [[number, number], [number, number]] {
  const step = stepFor(Math.max(most[0] - least[0], most[1] - least[1]));
  return [
    [down(least[0], step), down(least[1], step)],
    [up(most[0], step), up(most[1], step)],
  ];
}

/** A plane's region is cut from two triangles that reach at least so far from the world's middle, metres. */
const PLANE = 2 ** 24;

/**
 * The region of an area that lies on a plane of its own. Its triangles are those of the whole plane, so that it is cut alike
 * whatever the outline is.
 */
export function regionOfPlane(ground: WorldMesh): Region {
  const P = ground.position;
  const [slopeX, slopeZ] = [(P[10] - P[1]) / (P[9] - P[0]), (P[4] - P[1]) / (P[5] - P[2])];
  const far = P.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
  const r = Math.max(PLANE, 2 ** (1 + Math.ceil(Math.log2(far))));
  const corner = (x: number, z: number) => [x, P[1] + slopeX * (x - P[0]) + slopeZ * (z - P[2]), z];
  const position = Float64Array.from([corner(-r, -r), corner(-r, r), corner(r, r), corner(r, -r)].flat());
  const { index } = ground;
  const heights = [P[1], P[4], P[7], P[10]];
  const box: Box = [
    [P[0], Math.min(...heights), P[2]],
    [P[6], Math.max(...heights), P[8]],
  ];
  const area = areasOf(ground).reduce((sum, one) => sum + one, 0);
  let mesh: Spreadable | undefined;
  return {
    position,
    index,
    numbers: null,
    names: null,
    cut: null,
    box,
    area,
    mesh: () => (mesh ??= spreadable({ position, index })),
  };
}

/** Whether any of a box lies in a region's box; null for everywhere. */
export function wantedIn({
  box,
}: Region): ((least: ArrayLike<number>, most: ArrayLike<number>) => boolean) | undefined {
  if (!box) return undefined;
  const [[ax, ay, az], [bx, by, bz]] = box;
  // Boxes lie at whole steps, as triangles like to; and a plane's box is flat.
  const x = RIM * (1 + Math.abs(ax) + Math.abs(bx));
  const y = RIM * (1 + Math.abs(ay) + Math.abs(by));
  const z = RIM * (1 + Math.abs(az) + Math.abs(bz));
  return (least, most) =>
    most[0] >= ax - x &&
    least[0] <= bx + x &&
    most[1] >= ay - y &&
    least[1] <= by + y &&
    most[2] >= az - z &&
    least[2] <= bz + z;
}
/** Corners are in single precision, and so may be what is worked out of them. */
const RIM = 1e-6;

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

/** A level plane over the box of outlines, at height 0. */
export function levelUnder(plan: Plan, id: string): WorldMesh {
  const [[x0, z0], [x1, z1]] = snapped(plan);
  const position = Float64Array.from([x0, 0, z0, x0, 0, z1, x1, 0, z1, x1, 0, z0]);
  return new WorldMesh(id, position, Uint32Array.from([0, 1, 2, 0, 2, 3]));
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
