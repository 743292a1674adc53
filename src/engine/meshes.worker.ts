/** The worker that makes the meshes of bent and clipped placements for the view. */
import * as Comlink from "comlink";
import { mergedShapes, type Member, type Merged, type TriangleMesh, type Shapes } from "@/core/mesh";

/** Meshes of props' parts, by the names that the view gives them; the oldest are forgotten and asked for again. */
const known = new Map<string, TriangleMesh>();
const MAX_KNOWN = 200;

const api = {
  learn(name: string, mesh: TriangleMesh): void {
    if (known.size >= MAX_KNOWN) known.delete(known.keys().next().value!);
    known.set(name, mesh);
  },

  /** The members of a part as one mesh; null when the part is not known. */
  merge(name: string, shapes: Shapes, members: Member[], maxTriangles: number): Merged | null {
    const mesh = known.get(name);
    if (!mesh) return null;
    const merged = mergedShapes(mesh, shapes, members, maxTriangles);
    const { position, index, attributes } = merged.mesh;
    return Comlink.transfer(
      merged,
      [position, index, ...attributes.map(({ array }) => array)].map(({ buffer }) => buffer as ArrayBuffer),
    );
  },
};

export type MeshesApi = typeof api;

Comlink.expose(api);
