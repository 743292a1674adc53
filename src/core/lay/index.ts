/** Lines on surfaces: laid onto them, or taken from the edges of their meshes. */
import { edgeTrack } from "./edges";
import { trackOnto } from "./onto";
import type { GuideLine, LaidTrack, Line } from "../line";
import { type Ground, groundsFor, type GroundSurface } from "../mesh";

/** The surfaces that a line lies on. */
export function groundsUnder({ laid }: Line, surfaces: ReadonlyMap<string, GroundSurface>): Ground[] {
  if (!laid) return [];
  if (laid.kind === "edges") return [surfaces.get(laid.on)?.mesh ?? []].flat();
  return groundsFor({ onto: laid.on }, surfaces, []);
}

/**
 * Where a line lies once it has been laid; null where it is not, or where there is nothing to lie on.
 *
 * @param guide the line as it is drawn
 * @param grounds what it lies on, see {@link groundsUnder}
 */
export function laidTrack(line: Line, guide: GuideLine, grounds: readonly Ground[]): LaidTrack | null {
  const { laid } = line;
  if (!laid || grounds.length === 0) return null;
  return laid.kind === "edges" ? edgeTrack(laid, grounds[0]) : trackOnto(line, laid, guide, grounds);
}
