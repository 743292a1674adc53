/** *Meshes against meshes*: whether two bodies run into each other, and over how much one passes through another. */
import { Box3, BufferAttribute, BufferGeometry, Line3, Matrix4, Vector3 } from "three";
import { MeshBVH, type ExtendedTriangle } from "three-mesh-bvh";
import { Winding } from "./winding";
import type { TriangleMesh } from "./mesh";

/** What only touches does not meet: bodies are compared smaller by this share about their middles. */
const TOUCH = 2e-4;
/** So many pairs of triangles that cross are looked at before it is known well enough over how much they do. */
const MOST_CROSSINGS = 2048;

/** Four columns of a matrix that brings a body into the world, as three keeps them: 16 numbers. */
export type BodyMatrix = Matrix4;

/** A mesh, in its own metres, that can be asked what it meets. */
export class Body {
  readonly #tree: MeshBVH;
  readonly #geometry = new BufferGeometry();
  /** The tree reckons in single precision, so it counts from the middle of the mesh. */
  readonly #middle: Vector3;
  #winding: Winding | undefined;

  static readonly #known = new WeakMap<ArrayLike<number>, Body>();

  /** The body of a mesh, made once for all that ask for it. */
  static of({ position, index }: Pick<TriangleMesh, "index"> & { position: ArrayLike<number> }): Body {
    let body = Body.#known.get(position);
    if (!body) Body.#known.set(position, (body = new Body(position, index)));
    return body;
  }

  private constructor(position: ArrayLike<number>, index: Uint32Array) {
    const box = new Box3();
    const point = new Vector3();
    for (let p = 0; p < position.length; p += 3)
      box.expandByPoint(point.set(position[p], position[p + 1], position[p + 2]));
    this.#middle = box.isEmpty() ? new Vector3() : box.getCenter(new Vector3());
    const middle = this.#middle.toArray();
    const local = Float32Array.from(position, (value, p) => (1 - TOUCH) * (value - middle[p % 3]));
    this.#geometry.setAttribute("position", new BufferAttribute(local, 3));
    this.#geometry.setIndex(new BufferAttribute(index.slice(), 1));
    this.#tree = new MeshBVH(this.#geometry);
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
      const near = room / leastScale(matrix);
      const found = this.#tree.closestPointToGeometry(other.#geometry, into, here, there, 0, near);
      if (found && found.distance < near) return true;
    } else if (this.#tree.intersectsGeometry(other.#geometry, into)) return true;
    return this.#holds(other, into) || other.#holds(this, into.invert());
  }

  /**
   * Over how much this body, brought into the world, passes through one that stands there already: the diagonal of the box
   * about all their crossings, metres; 0 where they do not cross.
   */
  crossing(matrix: BodyMatrix, standing: Body): number {
    const into = standing.#from(this, IDENTITY, matrix);
    crossings.makeEmpty();
    let left = MOST_CROSSINGS;
    const intersectsTriangles = (a: ExtendedTriangle, b: ExtendedTriangle): boolean => {
      if (!(a as Quiet).intersectsTriangle(b, segment, true)) return false;
      crossings.expandByPoint(segment.start).expandByPoint(segment.end);
      return --left === 0;
    };
    standing.#tree.bvhcast(this.#tree, into, { intersectsTriangles });
    return crossings.isEmpty() ? 0 : crossings.getSize(size).length();
  }

  /** From another body's own coordinates, counted from its middle, into this one's. */
  #from(other: Body, matrix: BodyMatrix, otherMatrix: BodyMatrix): Matrix4 {
    const [a, b] = [this.#middle, other.#middle];
    return new Matrix4()
      .makeTranslation(-a.x, -a.y, -a.z)
      .multiply(inverse.copy(matrix).invert())
      .multiply(otherMatrix)
      .multiply(aside.makeTranslation(b.x, b.y, b.z));
  }

  /** Whether a corner of another body, which is known not to cross this one, lies inside it. */
  #holds(other: Body, into: Matrix4): boolean {
    const { position } = other.#geometry.attributes;
    if (position.count === 0) return false;
    corner.fromBufferAttribute(position, 0).applyMatrix4(into);
    const { array } = this.#geometry.attributes.position;
    this.#winding ??= new Winding(array, Uint32Array.from(this.#geometry.index!.array));
    return this.#winding.contains(corner.x, corner.y, corner.z);
  }
}

/** Triangles in one plane have no one segment in common, which is not worth a word. */
interface Quiet {
  intersectsTriangle(other: ExtendedTriangle, segment: Line3, quiet: boolean): boolean;
}

const here = { point: new Vector3(), distance: 0, faceIndex: 0 };
const there = { point: new Vector3(), distance: 0, faceIndex: 0 };
const IDENTITY = new Matrix4();
const inverse = new Matrix4();
const aside = new Matrix4();
const corner = new Vector3();
const size = new Vector3();
const segment = new Line3();
const crossings = new Box3();

const leastScale = (matrix: Matrix4): number => Math.min(...sizesOf(matrix)) || 1;

function sizesOf({ elements: e }: Matrix4): number[] {
  return [0, 4, 8].map((c) => Math.hypot(e[c], e[c + 1], e[c + 2]));
}
