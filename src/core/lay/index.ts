/** Lines on surfaces: laid onto them, or taken from the edges of their meshes. */
import { edgeTrack } from "./edges";
import { trackOnto } from "./onto";
import type { GuideLine, LaidTrack, Line } from "../line";
import type { GroundSurface } from "../place";

/** The surfaces that a line lies on. */
export function surfacesUnder({ laid }: Line, surfaces: ReadonlyMap<string, GroundSurface>): GroundSurface[] {
  if (!laid) return [];
  if (laid.kind === "edges") return [surfaces.get(laid.on) ?? []].flat();
  const named = laid.on.length > 0;
  return [...surfaces].filter(([id, { ground }]) => (named ? laid.on.includes(id) : ground)).map(([, one]) => one);
}

/**
 * Where a line lies once it has been laid; null where it is not, or where there is nothing to lie on.
 *
 * @param guide the line as it is drawn
 */
export function laidTrack(
  line: Line,
  guide: GuideLine,
  surfaces: ReadonlyMap<string, GroundSurface>,
): LaidTrack | null {
  const { laid } = line;
  const grounds = surfacesUnder(line, surfaces).map(({ mesh }) => mesh);
  if (!laid || grounds.length === 0) return null;
  return laid.kind === "edges" ? edgeTrack(laid, grounds[0]) : trackOnto(line, laid, guide, grounds);
}
