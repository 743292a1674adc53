/** *The space inside a mesh*, in the mesh's own coordinates at the size that it has: moving and turning it change nothing. */
import { normalize, rotate, type Vec3 } from "../math";
import { facetsOf, RayTree, Winding, type WorldMesh, type Met } from "../mesh";

/** A mesh counts as closed as long as what is open of it is less than this share of it. */
const MOST_OPEN = 0.15;

export class Volume {
  readonly ground: WorldMesh;
  readonly #space: Space;

  /** @param space what is known of the mesh at its size, which stays when it is moved */
  constructor(ground: WorldMesh, space = new Space(ground)) {
    this.ground = ground;
    this.#space = space;
  }

  /** Corners of its box. */
  get least(): Vec3 {
    return this.#space.least;
  }

  get most(): Vec3 {
    return this.#space.most;
  }

  /** How much it holds, cubic metres; of a mesh with small holes about, and of one that is not closed nothing. */
  get cubic(): number {
    return this.#space.cubic;
  }

  /** Whether a point, in its own coordinates, lies inside. */
  contains(x: number, y: number, z: number): boolean {
    return this.#space.contains(x, y, z);
  }

  /** How often its mesh winds round a point, in its own coordinates, rounded: 0 outside. */
  turnsAt(x: number, y: number, z: number): number {
    return Math.round(this.#space.winding.at(x, y, z));
  }

  /** How far a point, in its own coordinates, lies from its walls, metres; {@link Infinity} where that is more than `most`. */
  toWall(x: number, y: number, z: number, most = Infinity): number {
    return this.#space.toWall(x, y, z, most);
  }

  get triangles(): number {
    return this.ground.triangles;
  }

  /** Boxes about its holes, each as large as its rim, in its own coordinates: least and most, 6 numbers each. */
  get holes(): readonly Float64Array[] {
    return (this.#space.holes ??= holesIn(this.ground));
  }

  /** Writes the corners of triangle `t` in its own coordinates: 9 numbers. */
  writeTriangle(t: number, out: Float64Array): void {
    const { index } = this.ground;
    const P = this.#space.position;
    for (let k = 0; k < 3; k++) {
      const p = 3 * index[3 * t + k];
      out[3 * k] = P[p];
      out[3 * k + 1] = P[p + 1];
      out[3 * k + 2] = P[p + 2];
    }
  }

  /** The direction from its middle to a point of the world; up where that is the middle. */
  outward(point: Vec3): Vec3 {
    const { least, most } = this.#space;
    const own = this.inOwn(point);
    const way = own.map((value, axis) => value - (least[axis] + most[axis]) / 2) as unknown as Vec3;
    return Math.hypot(...way) > 0 ? rotate(this.ground.stand?.rotation ?? [0, 0, 0, 1], normalize(way)) : [0, 1, 0];
  }

  /** A point of the world in its own coordinates. */
  inOwn(point: Vec3): Vec3 {
    return this.ground.toOwn(point);
  }
}

/** *What is known of the inside of a mesh of one size*, wherever it stands. */
export class Space {
  readonly least: Vec3;
  readonly most: Vec3;
  readonly cubic: number;
  holes: Float64Array[] | undefined;
  /** Of its vertices: 3v. */
  readonly position: Float64Array;
  readonly #index: Uint32Array;
  /** Whether it is its box, of which all is known at once. */
  readonly #box: boolean;
  #winding: Winding | undefined;
  #tree: RayTree | undefined;
  readonly #met: Met = { triangle: -1, x: 0, y: 0, z: 0 };

  /** @param own the vertices at that size, before they are turned and put in their place */
  constructor({ own: P, index }: Pick<WorldMesh, "own" | "index">) {
    this.position = P;
    this.#index = index;
    const least = [Infinity, Infinity, Infinity];
    const most = [-Infinity, -Infinity, -Infinity];
    for (let p = 0; p < P.length; p++) {
      least[p % 3] = Math.min(least[p % 3], P[p]);
      most[p % 3] = Math.max(most[p % 3], P[p]);
    }
    this.least = least as unknown as Vec3;
    this.most = most as unknown as Vec3;
    this.cubic = openness(P, index) > MOST_OPEN ? 0 : cubicOf(P, index);
    const [wide, tall, deep] = [0, 1, 2].map((axis) => most[axis] - least[axis]);
    const cornered = P.every((value, p) => value === least[p % 3] || value === most[p % 3]);
    this.#box = cornered && Math.abs(this.cubic / (wide * tall * deep) - 1) < 1e-6;
  }

  contains(x: number, y: number, z: number): boolean {
    const { least, most } = this;
    if (x < least[0] || y < least[1] || z < least[2] || x > most[0] || y > most[1] || z > most[2]) return false;
    if (this.#box) return true;
    return this.winding.contains(x, y, z);
  }

  get winding(): Winding {
    return (this.#winding ??= new Winding(this.position, this.#index));
  }

  toWall(x: number, y: number, z: number, most: number): number {
    if (this.#box) return this.#toSide(x, y, z);
    const met = this.#met;
    this.#tree ??= new RayTree(this.position, this.#index);
    this.#tree.nearest(x, y, z, met, most);
    return met.triangle < 0 ? Infinity : Math.hypot(met.x - x, met.y - y, met.z - z);
  }

  #toSide(x: number, y: number, z: number): number {
    const { least, most } = this;
    const out = Math.hypot(
      Math.max(least[0] - x, 0, x - most[0]),
      Math.max(least[1] - y, 0, y - most[1]),
      Math.max(least[2] - z, 0, z - most[2]),
    );
    if (out > 0) return out;
    return Math.min(x - least[0], most[0] - x, y - least[1], most[1] - y, z - least[2], most[2] - z);
  }
}

/** Of a closed mesh the triangles' areas, as vectors, come to nothing: what is left is as large as the holes. */
function openness(position: Float64Array, index: Uint32Array): number {
  const { area, normal } = facetsOf({ position, index });
  const sum = [0, 0, 0];
  let whole = 0;
  for (let t = 0; t < area.length; t++) {
    whole += area[t];
    for (let axis = 0; axis < 3; axis++) sum[axis] += area[t] * normal[3 * t + axis];
  }
  return whole > 0 ? Math.hypot(...sum) / whole : 1;
}

/** The edges that only one triangle has, gathered by rims: a box about each. */
function holesIn(ground: WorldMesh): Float64Array[] {
  const { own: P } = ground;
  const { ends, sides, count } = ground.rest.edges;
  const rim = new Map<number, number>();
  const rootOf = (v: number): number => {
    let root = v;
    for (let up = rim.get(root); up !== undefined && up !== root; up = rim.get(root)) root = up;
    rim.set(v, root);
    return root;
  };
  for (let edge = 0; edge < count; edge++) {
    if (sides[2 * edge + 1] < 0) rim.set(rootOf(ends[2 * edge]), rootOf(ends[2 * edge + 1]));
  }
  const boxes = new Map<number, Float64Array>();
  for (const v of rim.keys()) {
    const root = rootOf(v);
    const box = boxes.get(root) ?? Float64Array.of(Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity);
    boxes.set(root, box);
    for (let axis = 0; axis < 3; axis++) {
      box[axis] = Math.min(box[axis], P[3 * v + axis]);
      box[3 + axis] = Math.max(box[3 + axis], P[3 * v + axis]);
    }
  }
  return [...boxes.values()];
}

/** By the divergence theorem: the tetrahedra from the origin to all triangles, with their signs. */
function cubicOf(P: Float64Array, index: Uint32Array): number {
  let six = 0;
  for (let t = 0; t < index.length; t += 3) {
    const [a, b, c] = [3 * index[t], 3 * index[t + 1], 3 * index[t + 2]];
    six +=
      P[a] * (P[b + 1] * P[c + 2] - P[b + 2] * P[c + 1]) +
      P[a + 1] * (P[b + 2] * P[c] - P[b] * P[c + 2]) +
      P[a + 2] * (P[b] * P[c + 1] - P[b + 1] * P[c]);
  }
  return Math.abs(six) / 6;
}
