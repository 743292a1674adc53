/** *Meshes against meshes*: whether two bodies run into each other, and over how much one passes through another. */
import { Box3, Line3, Matrix4, Vector3, type BufferGeometry } from "three";
import { ExtendedTriangle, MeshBVH } from "three-mesh-bvh";
import { centred } from "./centred";
import { hullOf } from "./hull";
import { Winding } from "./winding";
import type { Points } from "./facets";

/** What only touches does not meet: bodies are compared smaller by this share about their middles. */
const TOUCH = 2e-4;
/** So many pairs of triangles that cross are looked at before it is known well enough over how much they do. */
const MOST_CROSSINGS = 2048;

/** A matrix that brings a body into the world, column after column: 16 numbers. */
export type BodyMatrix = Float64Array;

/** A mesh, in its own metres, that can be asked what it meets. */
export class Body {
  readonly #tree: MeshBVH;
  readonly #geometry: BufferGeometry;
  readonly #box: Box3;
  /** Whether its tree consists of one leaf. */
  #isLeaf = false;
  readonly #position: Float32Array;
  #hull: Float32Array | undefined;
  /** What the tree counts from. */
  readonly #middle: Vector3;
  #winding: Winding | undefined;

  constructor({ position, index }: Points) {
    const { geometry, local, middle } = centred(position, index, 1 - TOUCH);
    this.#geometry = geometry;
    this.#position = local;
    this.#middle = middle;
    this.#tree = new MeshBVH(this.#geometry);
    this.#box = this.#tree.getBoundingBox(new Box3());
    this.#tree.traverse((depth, isLeaf) => {
      if (depth === 0) this.#isLeaf = isLeaf;
      return true;
    });
    this.#geometry.boundsTree = this.#tree;
  }

  /**
   * Whether this body, brought into the world, crosses another or lies inside it.
   *
   * @param room metres that are to stay free between them; of a body whose size differs by axis at least so much
   */
  meets(other: Body, matrix: BodyMatrix, otherMatrix: BodyMatrix, room = 0): boolean {
    const into = this.#from(other, matrix, otherMatrix);
    if (room > 0) {
      if (this.#isNearer(other, into, room / leastScale(matrix), room / leastScale(otherMatrix))) return true;
    } else if (this.#tree.intersectsGeometry(other.#geometry, into)) return true;
    return this.#holds(other, into) || other.#holds(this, into.invert());
  }

  /**
   * Whether another body comes nearer than so much, in this one's own metres or in the other's.
   *
   * A tree of one leaf alone is never the one that is walked: `closestPointToGeometry` of three-mesh-bvh 0.9 then goes by the
   * bounds of whatever it was asked about before.
   */
  #isNearer(other: Body, into: Matrix4, near: number, otherNear: number): boolean {
    if (!this.#isLeaf) {
      const found = this.#tree.closestPointToGeometry(other.#geometry, into, here, there, 0, near);
      return found !== null && found.distance < near;
    }
    if (!other.#isLeaf) {
      const back = new Matrix4().copy(into).invert();
      const found = other.#tree.closestPointToGeometry(this.#geometry, back, here, there, 0, otherNear);
      return found !== null && found.distance < otherNear;
    }
    const cut = trianglesOf(other.#geometry, into);
    return trianglesOf(this.#geometry, IDENTITY_MATRIX).some((one) =>
      cut.some((two) => one.distanceToTriangle(two) < near),
    );
  }

  /**
   * Over how much this body, brought into the world, passes through one that stands there already: the diagonal of the box
   * about all their crossings, metres; 0 where they do not cross.
   */
  crossing(matrix: BodyMatrix, standing: Body): number {
    const into = standing.#from(this, IDENTITY, matrix);
    const hull = transformed((this.#hull ??= hullOf(this.#position)), into);
    around.setFromArray(hull);
    if (this.#position.length === 0 || !around.intersectsBox(standing.#box)) return 0;
    // Triangles whose planes go through the body's hull; of most that stands somewhere there are none.
    const cut: ExtendedTriangle[] = [];
    standing.#tree.shapecast({
      intersectsBounds: (bounds) => bounds.intersectsBox(around),
      intersectsTriangle: (triangle) => {
        if (liesAside(triangle) || !goesThrough(triangle, hull)) return false;
        cut.push(new ExtendedTriangle(triangle.a.clone(), triangle.b.clone(), triangle.c.clone()));
        return false;
      },
    });
    return cut.length === 0 ? 0 : this.#extent(transformed(this.#position, into), cut);
  }

  /** The diagonal of the box about all places where the body crosses some triangles. */
  #extent(position: Float64Array, cut: readonly ExtendedTriangle[]): number {
    const index = this.#geometry.index!.array;
    const side = new Float64Array(position.length / 3);
    crossings.makeEmpty();
    let left = MOST_CROSSINGS;
    for (const triangle of cut) {
      writeSides(triangle, position, side);
      for (let t = 0; t < index.length && left > 0; t += 3) {
        const [a, b, c] = [index[t], index[t + 1], index[t + 2]];
        if (side[a] > 0 ? side[b] > 0 && side[c] > 0 : side[a] < 0 && side[b] < 0 && side[c] < 0) continue;
        own.a.fromArray(position, 3 * a);
        own.b.fromArray(position, 3 * b);
        own.c.fromArray(position, 3 * c);
        own.needsUpdate = true;
        if (!(triangle as Quiet).intersectsTriangle(own, segment, true)) continue;
        crossings.expandByPoint(segment.start).expandByPoint(segment.end);
        left--;
      }
    }
    return crossings.isEmpty() ? 0 : crossings.getSize(size).length();
  }

  /** From another body's own coordinates, counted from its middle, into this one's. */
  #from(other: Body, matrix: BodyMatrix, otherMatrix: BodyMatrix): Matrix4 {
    const [a, b] = [this.#middle, other.#middle];
    return new Matrix4()
      .makeTranslation(-a.x, -a.y, -a.z)
      .multiply(inverse.fromArray(matrix).invert())
      .multiply(placing.fromArray(otherMatrix))
      .multiply(aside.makeTranslation(b.x, b.y, b.z));
  }

  /** Whether a corner of another body, which is known not to cross this one, lies inside it. */
  #holds(other: Body, into: Matrix4): boolean {
    if (other.#position.length === 0) return false;
    corner.fromArray(other.#position).applyMatrix4(into);
    this.#winding ??= new Winding(this.#position, Uint32Array.from(this.#geometry.index!.array));
    return this.#winding.contains(corner.x, corner.y, corner.z);
  }
}

/** Triangles in one plane have no one segment in common, which is not worth a word. */
interface Quiet {
  intersectsTriangle(other: ExtendedTriangle, segment: Line3, quiet: boolean): boolean;
}

/** The few triangles of a body, brought elsewhere. */
function trianglesOf(geometry: BufferGeometry, matrix: Matrix4): ExtendedTriangle[] {
  const index = geometry.index!.array;
  const at = (k: number) =>
    new Vector3().fromBufferAttribute(geometry.attributes.position, index[k]).applyMatrix4(matrix);
  return Array.from(
    { length: index.length / 3 },
    (_, t) => new ExtendedTriangle(at(3 * t), at(3 * t + 1), at(3 * t + 2)),
  );
}

const IDENTITY_MATRIX = new Matrix4();
const here = { point: new Vector3(), distance: 0, faceIndex: 0 };
const there = { point: new Vector3(), distance: 0, faceIndex: 0 };
const around = new Box3();
const own = new ExtendedTriangle();
const IDENTITY = Float64Array.from(new Matrix4().elements);
const placing = new Matrix4();
const inverse = new Matrix4();
const aside = new Matrix4();
const corner = new Vector3();
const size = new Vector3();
const segment = new Line3();
const crossings = new Box3();

/** The least factor by which a matrix makes anything larger along its axes. */
const leastScale = (m: BodyMatrix): number =>
  Math.min(...[0, 4, 8].map((c) => Math.hypot(m[c], m[c + 1], m[c + 2]))) || 1;

/** Points brought elsewhere by a matrix: 3n. */
function transformed(points: Float32Array, { elements: e }: Matrix4): Float64Array {
  const out = new Float64Array(points.length);
  for (let p = 0; p < points.length; p += 3) {
    const [x, y, z] = [points[p], points[p + 1], points[p + 2]];
    out[p] = e[0] * x + e[4] * y + e[8] * z + e[12];
    out[p + 1] = e[1] * x + e[5] * y + e[9] * z + e[13];
    out[p + 2] = e[2] * x + e[6] * y + e[10] * z + e[14];
  }
  return out;
}

/** Whether a triangle lies beside the box about what is looked for. */
function liesAside({ a, b, c }: ExtendedTriangle): boolean {
  const { min, max } = around;
  return (
    Math.min(a.x, b.x, c.x) > max.x ||
    Math.max(a.x, b.x, c.x) < min.x ||
    Math.min(a.y, b.y, c.y) > max.y ||
    Math.max(a.y, b.y, c.y) < min.y ||
    Math.min(a.z, b.z, c.z) > max.z ||
    Math.max(a.z, b.z, c.z) < min.z
  );
}

/** Whether points lie on both sides of a triangle's plane. */
function goesThrough({ a, b, c }: ExtendedTriangle, points: Float64Array): boolean {
  takePlane(a, b, c);
  let [above, below] = [false, false];
  for (let p = 0; p < points.length; p += 3) {
    const side = nx * points[p] + ny * points[p + 1] + nz * points[p + 2] - far;
    if (side >= 0) above = true;
    if (side <= 0) below = true;
    if (above && below) return true;
  }
  return false;
}

/** Writes on which side of a triangle's plane each point lies, and how far in no particular unit. */
function writeSides({ a, b, c }: ExtendedTriangle, points: Float64Array, out: Float64Array): void {
  takePlane(a, b, c);
  for (let v = 0; v < out.length; v++) {
    out[v] = nx * points[3 * v] + ny * points[3 * v + 1] + nz * points[3 * v + 2] - far;
  }
}

let [nx, ny, nz, far] = [0, 0, 0, 0];

/** Takes a triangle's plane, not normalized, for what is asked of it next. */
function takePlane(a: Vector3, b: Vector3, c: Vector3): void {
  const [ux, uy, uz] = [b.x - a.x, b.y - a.y, b.z - a.z];
  const [vx, vy, vz] = [c.x - a.x, c.y - a.y, c.z - a.z];
  nx = uy * vz - uz * vy;
  ny = uz * vx - ux * vz;
  nz = ux * vy - uy * vx;
  far = nx * a.x + ny * a.y + nz * a.z;
}
