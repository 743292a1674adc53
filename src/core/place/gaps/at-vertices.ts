/** How much of something there is at each vertex of a surface, by the limits that gaps have. */
import { regionOf } from "../../host";
import { densityMaskOf, sharesOf, type MaskSources } from "./density-mask";
import type { WorldMesh } from "../../mesh";
import type { Limits } from "./schema";

/** @returns from 0 to 1: v numbers */
export function sharesAtVertices(limits: Limits, ground: WorldMesh, around: MaskSources): Float32Array {
  const { id, index, position, vertexNormals: normal } = ground;
  const bare = { ground, plan: null, plane: false, volume: null, free: false };
  // What was painted for a mover is painted on whatever surface that is copied to.
  const paint = { ...limits.paint, strokes: limits.paint.strokes.map((stroke) => ({ ...stroke, on: id })) };
  const mask = densityMaskOf(
    { ...limits, paint, walls: 0, edge: 0, edgeSize: 0 },
    { ...bare, id, tag: 0, region: regionOf(ground, null) },
    around,
  );
  const count = position.length / 3;
  const triangle = new Uint32Array(count);
  for (let c = 0; c < index.length; c++) triangle[index[c]] = Math.floor(c / 3);
  return sharesOf(mask, { count, position, normal, triangle });
}
