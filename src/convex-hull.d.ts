declare module "convex-hull" {
  /** The triangles of the hull of points in space, as indices into them; none where the points lie in a plane. */
  export default function convexHull(points: readonly [number, number, number][]): [number, number, number][];
}
