/** Lines on surfaces: laid onto them, or taken from the edges of their meshes. */
import { edgeTrack } from "./edges";
import { trackOnto } from "./onto";
import type { GuideLine, LaidTrack, Line } from "../line";
import { groundsUnder, type Grounds, type WorldMesh } from "../mesh";

export { ALONG_EDGES, edgesFollowed } from "./edges";
export { offSheet } from "./on-sheet";
export { boundTrack, carriedTrack, type BoundTrack } from "./carry";

/** The surfaces that a line lies on. */
export function surfacesUnder({ laid }: Line, from: Grounds): WorldMesh[] {
  if (!laid) return [];
  return groundsUnder(laid.kind === "edges" ? [laid.on] : laid.on, from);
}

/**
 * Where a line lies once it has been laid; null where it is not, or where there is nothing to lie on.
 *
 * @param guide the line as it is drawn
 * @param grounds what it lies on, see {@link surfacesUnder}
 * @param bends whether they may bend, so that it needs a point wherever it goes over an edge of theirs
 */
export function laidTrack(
  line: Line,
  guide: GuideLine,
  grounds: readonly WorldMesh[],
  bends = false,
): LaidTrack | null {
  const { laid } = line;
  if (!laid || grounds.length === 0) return null;
  return laid.kind === "edges" ? edgeTrack(laid, grounds[0]) : trackOnto(line, laid, guide, grounds, bends);
}
