/** A document brought to how it stands before any clip plays, without what could move it from there. */
import type { Document, mat4, Primitive } from "@gltf-transform/core";
import { poseAt, paletteOf, posedVertices, writeSkinned, type Pose, type Rig, type RigPart } from "../../rig";
import { FARTHEST } from "../../schema";
import { determinant, meshNodesOf, solidPrimitives } from "./flat";
import { floatsOf, rigOf } from "./rig";

/**
 * Works skins and shapes as they are at first into the vertices, then takes skins, shapes and clips out.
 *
 * @returns what could move it, its parts in the order of the vertices; null where there is no clip
 */
export function atRest(document: Document): Rig | null {
  const shown = meshNodesOf(document);
  const root = document.getRoot();
  const rig = rigOf(document, shown);
  const pose = poseAt(rig, null, 0);
  let part = 0;
  for (const { node, matrix } of shown) {
    const solid = new Map(solidPrimitives(node).map((one) => [one, rig.parts[part++]]));
    if (![...solid.values()].some((one) => isPosed(one, pose))) continue;
    // Others may show the same mesh in another pose.
    const mesh = document.createMesh(node.getMesh()!.getName());
    for (const primitive of node.getMesh()!.listPrimitives()) {
      const own = solid.get(primitive);
      mesh.addPrimitive(own && isPosed(own, pose) ? posedPrimitive(document, primitive, own, pose, matrix) : primitive);
    }
    node.setMesh(mesh);
  }
  for (const node of root.listNodes()) node.setSkin(null).setWeights([]);
  for (const animation of root.listAnimations()) animation.dispose();
  for (const skin of root.listSkins()) skin.dispose();
  for (const mesh of root.listMeshes()) {
    mesh.setWeights([]);
    for (const primitive of mesh.listPrimitives()) bare(primitive);
  }
  return rig.clips.some(({ channels }) => channels.length > 0) ? rig : null;
}

const isPosed = ({ node, skin }: RigPart, { weights }: Pose): boolean =>
  skin !== null || (weights[node]?.some((weight) => weight !== 0) ?? false);

function bare(primitive: Primitive): void {
  for (const target of primitive.listTargets()) primitive.removeTarget(target);
  for (const name of primitive.listSemantics()) if (/^(JOINTS|WEIGHTS)_/.test(name)) primitive.setAttribute(name, null);
}

/** The primitive as it stands, in the coordinates of the node that shows it. */
function posedPrimitive(document: Document, from: Primitive, part: RigPart, pose: Pose, matrix: mat4): Primitive {
  const primitive = from.clone();
  const back = inverseOf(matrix);
  const write = (semantic: string, values: ArrayLike<number>): void => {
    const old = primitive.getAttribute(semantic)!;
    const array = Float32Array.from(values);
    primitive.setAttribute(
      semantic,
      document.createAccessor().setType("VEC3").setArray(array).setBuffer(old.getBuffer()),
    );
  };
  const posed = back(posedVertices({ parts: [part] }, pose), 1);
  // A damaged file may send a vertex anywhere; then all of them stay.
  if (!posed.every((x) => Math.abs(x) <= FARTHEST)) return from;
  write("POSITION", posed);
  const normals = primitive.getAttribute("NORMAL");
  if (part.skin && normals) {
    const [N, palette] = [floatsOf(normals), paletteOf(part.skin, pose.matrices)];
    const [tips, feet] = [new Float64Array(N.length), new Float64Array(N.length)];
    // As far as a normal's tip goes from its foot: what only moves falls out.
    writeSkinned(tips, 0, N, part.skin, palette);
    writeSkinned(feet, 0, new Float32Array(N.length), part.skin, palette);
    write(
      "NORMAL",
      unitLengths(
        back(
          tips.map((x, p) => x - feet[p]),
          0,
        ),
      ),
    );
  }
  // Tangents would have to follow, and are worked out by whoever needs them.
  if (part.skin) primitive.setAttribute("TANGENT", null);
  return primitive;
}

function unitLengths(vectors: Float64Array): Float64Array {
  for (let p = 0; p < vectors.length; p += 3) {
    const length = Math.hypot(vectors[p], vectors[p + 1], vectors[p + 2]) || 1;
    for (let k = 0; k < 3; k++) vectors[p + k] /= length;
  }
  return vectors;
}

/** Takes points (`w` = 1) or directions (0), 3n, from the file's coordinates to a node's; as they are where it has no way back. */
function inverseOf(m: mat4): (points: Float64Array, w: 0 | 1) => Float64Array {
  const whole = determinant(m);
  if (!(Math.abs(whole) > 1e-30)) return (points) => points;
  // Rows of the inverse are products of columns.
  const cross = (a: number, b: number): number[] =>
    [0, 1, 2].map((k) => {
      const [i, j] = [(k + 1) % 3, (k + 2) % 3];
      return (m[a + i] * m[b + j] - m[a + j] * m[b + i]) / whole;
    });
  const rows = [cross(4, 8), cross(8, 0), cross(0, 4)];
  return (points, w) => {
    const out = new Float64Array(points.length);
    for (let p = 0; p < points.length; p += 3) {
      const [x, y, z] = [0, 1, 2].map((k) => points[p + k] - w * m[12 + k]);
      for (let k = 0; k < 3; k++) out[p + k] = rows[k][0] * x + rows[k][1] * y + rows[k][2] * z;
    }
    return out;
  };
}
