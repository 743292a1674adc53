/** How the footprints of what was dropped lie over the ground: what floats and what digs in. */
import { hitsFor, type PropBounds, type WorldMesh } from "../mesh";
import { kindOf, PROBES_PER_FOOTPRINT, writeFootprints, type Dressing, type Placements } from "../place";
import { isStanding } from "./rows";

/** Placements looked at together. */
const CHUNK = 512;

export interface Footing {
  /** Those that float by more than they may, and by how much the worst does, metres. */
  floating: number[];
  floatsBy: number;
  /** Those that dig in deeper than they were sunk. */
  sunk: number[];
  digsBy: number;
}

/** What a footing is worked out of. */
export interface Footed {
  dressing: Dressing;
  placements: Placements;
  box: (prop: string) => PropBounds | undefined;
  grounds: readonly WorldMesh[];
}

/** What stands of a dressing that is dropped straight down, probed at the corners and the middle of each footprint. */
export function footingOf({ dressing, placements: p, box, grounds }: Footed): Footing {
  const { drop, dropAs, dropSeen, sink, lift, play } = dressing.fit;
  const footing: Footing = { floating: [], floatsBy: 0, sunk: [], digsBy: 0 };
  // What lies on others of its kind rests on more than is ground.
  const onEachOther = !kindOf(dressing.where).ruled && dropAs === "turn";
  if (drop !== "down" || onEachOther || grounds.length === 0) return footing;
  const boxes = Float64Array.from(p.props.flatMap((prop) => middleAndHalf(box(prop))));
  const way = new Float64Array(3 * CHUNK);
  for (let k = 0; k < CHUNK; k++) way[3 * k + 1] = -1;
  const points = new Float64Array(3 * PROBES_PER_FOOTPRINT * CHUNK);
  const hits = hitsFor(PROBES_PER_FOOTPRINT * CHUNK);
  for (let from = 0; from < p.count; from += CHUNK) {
    const n = Math.min(CHUNK, p.count - from);
    writeFootprints(p, boxes, from, n, way, points);
    hits.triangle.fill(-1);
    grounds.forEach((ground, index) => ground.heights.cast(points, PROBES_PER_FOOTPRINT * n, dropSeen, hits, index));
    for (let k = 0; k < n; k++) {
      // What stands on another of its rack rests on that.
      if (!isStanding(p, from + k) || (p.stacked && (p.stacked.high[from + k] > 0 || p.stacked.level[from + k] > 0))) continue; // prettier-ignore
      let [high, deep] = [0, 0];
      for (let c = PROBES_PER_FOOTPRINT * k; c < PROBES_PER_FOOTPRINT * (k + 1); c++) {
        if (hits.triangle[c] < 0) continue;
        const over = points[3 * c + 1] - hits.height[c];
        high = Math.max(high, over - Math.max(0, -sink) - lift);
        deep = Math.max(deep, -over - Math.max(0, sink));
      }
      if (high > play) footing.floating.push(from + k);
      if (deep > play) footing.sunk.push(from + k);
      footing.floatsBy = Math.max(footing.floatsBy, high);
      footing.digsBy = Math.max(footing.digsBy, deep);
    }
  }
  return footing;
}

/** The middle of a box and half its extents: six numbers; nothing for a prop that is gone. */
export const middleAndHalf = (box: PropBounds | undefined): number[] =>
  box
    ? [...[0, 1, 2].map((k) => (box.min[k] + box.max[k]) / 2), ...[0, 1, 2].map((k) => (box.max[k] - box.min[k]) / 2)]
    : [0, 0, 0, 0, 0, 0];
