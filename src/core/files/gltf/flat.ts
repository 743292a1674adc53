/** Meshes of a document laid flat: what nodes do to them worked into their vertices, in double precision until the end. */
import {
  Primitive,
  type Accessor,
  type Document,
  type mat4,
  type Mesh,
  type Node,
  type Scene,
} from "@gltf-transform/core";
import { convertPrimitiveToTriangles } from "@gltf-transform/functions";

const isTriangles = (mode: number): boolean => mode >= Primitive.Mode.TRIANGLES;

/** The number of triangles that a primitive draws. */
export function trianglesIn(primitive: Primitive): number {
  const corners = primitive.getIndices()?.getCount() ?? primitive.getAttribute("POSITION")?.getCount() ?? 0;
  return primitive.getMode() === Primitive.Mode.TRIANGLES ? Math.floor(corners / 3) : Math.max(0, corners - 2);
}

/** A node with a mesh, and its place in the scene: 16 numbers, columns first. */
export interface Shown {
  node: Node;
  matrix: mat4;
}

/** The nodes with a mesh in the scene that a file opens with, however deep they hang. */
export const meshNodesOf = (document: Document): Shown[] => nodesOf(document).filter(({ node }) => node.getMesh());

/** All nodes of the scene that a file opens with. */
function nodesOf(document: Document): Shown[] {
  const root = document.getRoot();
  const scene: Scene | null = root.getDefaultScene() ?? root.listScenes()[0] ?? null;
  const roots = scene ? scene.listChildren() : root.listNodes().filter((node) => node.getParentNode() === null);
  const found: Shown[] = [];
  const stack = roots.map((node): Shown => ({ node, matrix: node.getMatrix() })).reverse();
  for (let next = stack.pop(); next; next = stack.pop()) {
    const { node, matrix } = next;
    found.push(next);
    const children = node.listChildren();
    for (let i = children.length - 1; i >= 0; i--) {
      stack.push({ node: children[i], matrix: product(matrix, children[i].getMatrix()) });
    }
  }
  return found;
}

/**
 * Named nodes of the scene that a file opens with that neither have a mesh nor carry any, nor are bones or cameras: where they
 * are, and their own up.
 */
export function emptiesOf(
  document: Document,
): { name: string; position: [number, number, number]; up: [number, number, number] }[] {
  const root = document.getRoot();
  const carrying = new Set(root.listSkins().flatMap((skin) => skin.listJoints()));
  const carries = root.listNodes().filter((node) => node.getMesh() !== null || node.getCamera() !== null);
  for (const one of carries)
    for (let node: Node | null = one; node && !carrying.has(node); node = node.getParentNode()) carrying.add(node);
  return nodesOf(document).flatMap(({ node, matrix: m }) => {
    if (node.getName().trim() === "" || carrying.has(node)) return [];
    const long = Math.hypot(m[4], m[5], m[6]);
    return {
      name: node.getName(),
      position: [m[12], m[13], m[14]],
      up: long > 0 ? [m[4] / long, m[5] / long, m[6] / long] : [0, 1, 0],
    };
  });
}

/** The box around all vertices that triangles may use, metres; a box without extent or end where there are none. */
export function boxOf(shown: readonly Shown[]): { min: [number, number, number]; max: [number, number, number] } {
  const min: [number, number, number] = [Infinity, Infinity, Infinity];
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  const v: number[] = [0, 0, 0];
  for (const { node, matrix: m } of shown) {
    for (const primitive of solidPrimitives(node)) {
      const positions = primitive.getAttribute("POSITION")!;
      for (let i = 0; i < positions.getCount(); i++) {
        positions.getElement(i, v);
        for (let axis = 0; axis < 3; axis++) {
          const x = m[axis] * v[0] + m[axis + 4] * v[1] + m[axis + 8] * v[2] + m[axis + 12];
          if (x < min[axis]) min[axis] = x;
          if (x > max[axis]) max[axis] = x;
        }
      }
    }
  }
  return { min, max };
}

/** Whether a box's middle lies so many times its size from the origin. */
export function liesFar({ min, max }: { min: readonly number[]; max: readonly number[] }, times: number): boolean {
  const middle = min.map((low, axis) => (low + max[axis]) / 2);
  return Math.hypot(...middle) > times * Math.hypot(...min.map((low, axis) => max[axis] - low));
}

/** The product of two matrices of 16, columns first. */
export function product(a: mat4, b: mat4): mat4 {
  const out: number[] = [];
  for (let column = 0; column < 4; column++) {
    for (let row = 0; row < 4; row++) {
      let sum = 0;
      for (let k = 0; k < 4; k++) sum += a[4 * k + row] * b[4 * column + k];
      out.push(sum);
    }
  }
  return out as mat4;
}

/** Triangle primitives of a node's mesh. */
export const solidPrimitives = (node: Node): Primitive[] =>
  node
    .getMesh()!
    .listPrimitives()
    .filter((primitive) => isTriangles(primitive.getMode()));

/** The determinant of a matrix's turn and scale: below zero where it mirrors. */
export const determinant = (m: readonly number[]): number =>
  m[0] * (m[5] * m[10] - m[6] * m[9]) - m[4] * (m[1] * m[10] - m[2] * m[9]) + m[8] * (m[1] * m[6] - m[2] * m[5]);

const isIdentity = (m: mat4): boolean => m.every((value, i) => Math.abs(value - (i % 5 === 0 ? 1 : 0)) < 1e-9);

/**
 * One mesh with everything that the given nodes show, so that it can be placed by a single translation, rotation and scale.
 *
 * @param prepare a matrix that comes after the nodes' own; what is far away is brought near before it is rounded
 */
export function flatMesh(document: Document, shown: readonly Shown[], name: string, prepare?: mat4): Mesh {
  const mesh = document.createMesh(name);
  for (const { node, matrix } of shown) {
    const whole = prepare ? product(prepare, matrix) : matrix;
    for (const primitive of solidPrimitives(node)) mesh.addPrimitive(transformedPrimitive(document, primitive, whole));
  }
  return mesh;
}

/** The mesh with a matrix worked into its vertices; the same one where that changes nothing. */
export function transformedMesh(document: Document, mesh: Mesh, matrix: mat4, name: string): Mesh {
  if (isIdentity(matrix)) return mesh;
  const made = document.createMesh(name);
  for (const primitive of mesh.listPrimitives()) made.addPrimitive(transformedPrimitive(document, primitive, matrix));
  return made;
}

/** A primitive of its own, with what changes under the matrix; whatever does not is shared. */
function transformedPrimitive(document: Document, primitive: Primitive, matrix: mat4): Primitive {
  if (isIdentity(matrix)) return primitive;
  const copy = primitive.clone();
  if (copy.getMode() !== Primitive.Mode.TRIANGLES) convertPrimitiveToTriangles(copy);
  const mirrors = determinant(matrix) < 0;
  const write = (semantic: string, width: number, change: (v: number[]) => void): void => {
    const accessor = copy.getAttribute(semantic);
    if (accessor) copy.setAttribute(semantic, changed(document, accessor, width, change));
  };
  const linear = matrix;
  const m = matrix;
  write("POSITION", 3, (v) => {
    const [x, y, z] = v;
    for (let row = 0; row < 3; row++) v[row] = m[row] * x + m[4 + row] * y + m[8 + row] * z + m[12 + row];
  });
  const cofactors = cofactorsOf(linear);
  write("NORMAL", 3, (v) => turn(v, cofactors, mirrors ? -1 : 1));
  write("TANGENT", 4, (v) => {
    turn(v, [m[0], m[1], m[2], m[4], m[5], m[6], m[8], m[9], m[10]], 1);
    // The third direction of a normal map is the product of normal and tangent, which a mirror turns over.
    if (mirrors) v[3] = -v[3];
  });
  if (mirrors) turnInsideOut(document, copy);
  return copy;
}

/** The same values, changed one by one, in single precision. */
function changed(document: Document, from: Accessor, width: number, change: (v: number[]) => void): Accessor {
  const n = from.getCount();
  const out = new Float32Array(width * n);
  const v: number[] = new Array<number>(width).fill(0);
  for (let i = 0; i < n; i++) {
    from.getElement(i, v);
    change(v);
    out.set(v, width * i);
  }
  return document.createAccessor(from.getName()).setType(from.getType()).setArray(out).setBuffer(from.getBuffer());
}

/** The matrix of cofactors of a matrix's turn and scale, columns first: normals turn by it, but for its sign. */
function cofactorsOf(m: mat4): number[] {
  const cross = (a: number, b: number): number[] => [
    m[a + 1] * m[b + 2] - m[a + 2] * m[b + 1],
    m[a + 2] * m[b] - m[a] * m[b + 2],
    m[a] * m[b + 1] - m[a + 1] * m[b],
  ];
  return [...cross(4, 8), ...cross(8, 0), ...cross(0, 4)];
}

/** Turns a direction by a matrix of 9 and makes it one long again; one without length stays. */
function turn(v: number[], m: readonly number[], sign: 1 | -1): void {
  const [x, y, z] = v;
  const a = m[0] * x + m[3] * y + m[6] * z;
  const b = m[1] * x + m[4] * y + m[7] * z;
  const c = m[2] * x + m[5] * y + m[8] * z;
  const length = Math.hypot(a, b, c);
  if (!(length > 0)) return;
  v[0] = (sign * a) / length;
  v[1] = (sign * b) / length;
  v[2] = (sign * c) / length;
}

/** A mirror shows triangles from behind: each is turned the other way round, in indices of its own. */
function turnInsideOut(document: Document, primitive: Primitive): void {
  const positions = primitive.getAttribute("POSITION")!;
  const indices: Accessor | null = primitive.getIndices();
  const turned = indices
    ? Uint32Array.from(indices.getArray()!)
    : Uint32Array.from({ length: positions.getCount() }, (_, i) => i);
  for (let i = 0; i + 2 < turned.length; i += 3) [turned[i + 1], turned[i + 2]] = [turned[i + 2], turned[i + 1]];
  primitive.setIndices(document.createAccessor().setType("SCALAR").setArray(turned).setBuffer(positions.getBuffer()));
}
