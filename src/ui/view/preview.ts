/** The shape that a line will have when the drawing ends. */
import { curveOf, lineSchema, polygonOf } from "@/core/line";
import type { Vec3 } from "@/core/math";

export function smoothPreview(knots: readonly Vec3[], cursor: Vec3 | null, closing: boolean): readonly Vec3[] {
  const all = cursor && !closing ? [...knots, cursor] : knots;
  if (all.length < 2) return [];
  const kind = all.length > 2 ? "smooth" : "polyline";
  const line = lineSchema.parse({
    id: "drawing",
    number: 1,
    name: "Drawing",
    kind,
    closed: closing,
    knots: all.map((position) => ({ position })),
  });
  return polygonOf(line, curveOf(line), null).points;
}
