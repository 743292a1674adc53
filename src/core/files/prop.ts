/** Reading a GLB as a prop: is it sound, how large is it, what does it bring. */
import type { PropBounds } from "../mesh";
import { type Brought } from "../scene";
import { determinant, meshNodesOf, readGlb, solidPrimitives, trianglesIn } from "./gltf";
import type { Material } from "@gltf-transform/core";
import { InputError } from "../schema";

/** What a prop's file brings. */
export interface PropFile {
  /** The box around all its vertices, in metres, as its scene stands. */
  bounds: PropBounds;
  triangles: number;
  brought: Brought;
}

/** A file whose box lies so many times its own size away from the origin has left its pivot behind. */
const FAR = 10;

/**
 * Reads a prop's file and looks it over.
 *
 * @param name the file's name, for messages
 * @throws InputError when it is no GLB, is damaged, has no triangles, lacks positions or has ones that are no numbers
 */
export async function readPropFile(bytes: Uint8Array, name: string): Promise<PropFile> {
  const document = await readGlb(bytes, name);
  const min: [number, number, number] = [Infinity, Infinity, Infinity];
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  let triangles = 0;
  const nodes = meshNodesOf(document);
  const materials = new Set<Material | null>();
  const mended: Brought["mended"] = [];
  for (const node of nodes) {
    const m = node.getWorldMatrix();
    const part = node.getMesh()!.getName() || node.getName() || "its mesh";
    for (const what of leftoverScale(m)) mended.push({ what, part });
    if (node.getSkin()) mended.push({ what: "moving", part });
    for (const primitive of solidPrimitives(node)) {
      materials.add(primitive.getMaterial());
      if (!primitive.getAttribute("NORMAL")) mended.push({ what: "normals", part });
      const positions = primitive.getAttribute("POSITION");
      if (!positions || positions.getCount() === 0) {
        throw new InputError(`“${name}” cannot be used: “${part}” has no vertex positions.`);
      }
      const v: number[] = [0, 0, 0];
      for (let i = 0; i < positions.getCount(); i++) {
        positions.getElement(i, v);
        for (let axis = 0; axis < 3; axis++) {
          const x = m[axis] * v[0] + m[axis + 4] * v[1] + m[axis + 8] * v[2] + m[axis + 12];
          if (!Number.isFinite(x)) {
            throw new InputError(
              `“${name}” cannot be used: a vertex of “${part}” (number ${i + 1}) has a position that is no number.`,
            );
          }
          if (x < min[axis]) min[axis] = x;
          if (x > max[axis]) max[axis] = x;
        }
      }
      const indices = primitive.getIndices()?.getArray();
      const beyond = indices?.find((index: number) => index >= positions.getCount());
      if (beyond !== undefined) {
        throw new InputError(
          `“${name}” cannot be used: a triangle of “${part}” asks for vertex ${beyond}, and there are ${positions.getCount()}.`,
        );
      }
      triangles += trianglesIn(primitive);
    }
  }
  if (triangles === 0) throw new InputError(`“${name}” cannot be used: there are no triangles in it.`);
  const bounds = { min, max };
  if (liesFar(bounds)) mended.push({ what: "far", part: "" });
  if (document.getRoot().listAnimations().length > 0) mended.push({ what: "moving", part: "" });
  const textures = document.getRoot().listTextures().length;
  const parts = nodes.length;
  return { bounds, triangles, brought: { parts, materials: materials.size, textures, mended: once(mended) } };
}

/** What the scale in a node's matrix asks for: it is worked into the vertices. */
function leftoverScale(m: readonly number[]): ("scale" | "uneven" | "mirrored")[] {
  const [x, y, z] = [0, 4, 8].map((o) => Math.hypot(m[o], m[o + 1], m[o + 2]));
  const [least, most] = [Math.min(x, y, z), Math.max(x, y, z)];
  const found: ("scale" | "uneven" | "mirrored")[] = [];
  if (most - least > 1e-3 * most) found.push("uneven");
  else if (Math.abs(most - 1) > 1e-3) found.push("scale");
  if (determinant(m) < 0) found.push("mirrored");
  return found;
}

function liesFar({ min, max }: PropBounds): boolean {
  const middle = min.map((low, axis) => (low + max[axis]) / 2);
  return Math.hypot(...middle) > FAR * Math.hypot(...min.map((low, axis) => max[axis] - low));
}

/** Each remark once, and no more of them than can be read. */
function once(mended: Brought["mended"]): Brought["mended"] {
  const named = new Map(mended.map((one) => [`${one.what} ${one.part}`, { ...one, part: one.part.slice(0, 120) }]));
  return [...named.values()].slice(0, 40);
}
