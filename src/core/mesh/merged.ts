/** Many bent and clipped placements of one prop as a single mesh, for drawing them at once. */
import type { Shapes } from "./shapes";
import { shapedMesh } from "./shape";
import type { Attribute, TriangleMesh } from "./mesh";

/** One placement that is to be part of the mesh. */
export interface Member {
  /** Its entry in the shapes. */
  entry: number;
  /** What its colours are multiplied by, in linear light. */
  tint: readonly [red: number, green: number, blue: number];
}

export interface Merged {
  /** Positions count from the placements' origin. */
  mesh: TriangleMesh;
  /** How many of the members are in it. */
  members: number;
}

/** The shaped members, in their order, as one mesh with vertex colours; as many of them as so many triangles allow. */
export function mergedShapes(
  source: TriangleMesh,
  shapes: Shapes,
  members: readonly Member[],
  maxTriangles = Infinity,
): Merged {
  const forms = new Map<number, TriangleMesh>();
  const chosen: { member: Member; mesh: TriangleMesh }[] = [];
  let vertices = 0;
  let corners = 0;
  for (const member of members) {
    const form = shapes.form[member.entry];
    let mesh = forms.get(form);
    if (!mesh) forms.set(form, (mesh = shapedMesh(source, shapes, form)));
    if (corners + mesh.index.length > 3 * maxTriangles) break;
    vertices += mesh.position.length / 3;
    corners += mesh.index.length;
    chosen.push({ member, mesh });
  }
  const merged: TriangleMesh = {
    position: new Float32Array(3 * vertices),
    index: new Uint32Array(corners),
    attributes: source.attributes
      .filter(({ name }) => !name.startsWith("COLOR_"))
      .map(({ name, width }) => ({ name, width, array: new Float32Array(width * vertices) })),
  };
  const colour: Attribute = { name: "COLOR_0", width: 3, array: new Float32Array(3 * vertices) };
  let v = 0;
  let c = 0;
  for (const { member, mesh } of chosen) {
    const n = mesh.position.length / 3;
    const frame = shapes.frame.subarray(7 * member.entry, 7 * member.entry + 7);
    turnInto(merged.position, 3 * v, mesh.position, 3, frame, true);
    for (const { name, width, array } of merged.attributes) {
      const own = mesh.attributes.find((one) => one.name === name)!.array;
      if (name === "NORMAL" || name === "TANGENT") turnInto(array, width * v, own, width, frame, false);
      else array.set(own, width * v);
    }
    const given = mesh.attributes.find(({ name }) => name === "COLOR_0");
    for (let i = 0; i < n; i++) {
      for (let k = 0; k < 3; k++) {
        colour.array[3 * (v + i) + k] = member.tint[k] * (given ? given.array[given.width * i + k] : 1);
      }
    }
    for (let k = 0; k < mesh.index.length; k++) merged.index[c + k] = mesh.index[k] + v;
    v += n;
    c += mesh.index.length;
  }
  merged.attributes.push(colour);
  return { mesh: merged, members: chosen.length };
}

/** Vectors turned by a frame's rotation and, where they are places, moved to its position. */
function turnInto(
  out: Float32Array,
  o: number,
  vectors: Float32Array,
  width: number,
  frame: Float32Array,
  places: boolean,
): void {
  const [px, py, pz, qx, qy, qz, qw] = frame;
  const move = places ? 1 : 0;
  for (let i = 0; i < vectors.length; i += width) {
    const [x, y, z] = [vectors[i], vectors[i + 1], vectors[i + 2]];
    const tx = 2 * (qy * z - qz * y);
    const ty = 2 * (qz * x - qx * z);
    const tz = 2 * (qx * y - qy * x);
    out[o + i] = x + qw * tx + qy * tz - qz * ty + move * px;
    out[o + i + 1] = y + qw * ty + qz * tx - qx * tz + move * py;
    out[o + i + 2] = z + qw * tz + qx * ty - qy * tx + move * pz;
    for (let k = 3; k < width; k++) out[o + i + k] = vectors[i + k];
  }
}
