/** *Which way sequences run over a surface*: in rows or rings along u or v of the surface as it is laid flat. */
import { Chart, waysOf, type WorldMesh } from "../../mesh";
import type { Spread } from "../slots";
import type { Spacing } from "./schema";

/** What lies across by no more than this share of the mean distance belongs to the same row. */
const ROW = 0.6;

/**
 * Numbers what lies on a surface on from 0, row after row, each from where u and v begin; null where that is not asked for, or the
 * surface cannot be laid flat.
 *
 * @param places where they lie: 3n, and on which triangles: n
 */
export function runsOver(
  runs: Spacing["runs"],
  ground: WorldMesh,
  { position, triangle }: Pick<Spread, "position" | "triangle">,
): Int32Array | null {
  const chart = runs === "found" ? null : Chart.of(ground);
  const n = triangle.length;
  if (!chart) return null;
  const [right, up] = waysOf(ground.laying);
  const along = new Float64Array(n);
  const across = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    const [x, y] = chart.placeIn(triangle[i], position[3 * i], position[3 * i + 1], position[3 * i + 2]);
    const [u, v] = [right * x, -up * y];
    along[i] = runs === "u" ? u : v;
    across[i] = runs === "u" ? v : u;
  }
  const { least, most } = chart;
  const far = ROW * Math.sqrt(((most[0] - least[0]) * (most[1] - least[1])) / Math.max(1, n));
  const order = Uint32Array.from({ length: n }, (_, i) => i).sort((a, b) => across[a] - across[b] || a - b);
  const ordinal = new Int32Array(n);
  for (let from = 0; from < n;) {
    let to = from + 1;
    while (to < n && across[order[to]] - across[order[from]] <= far) to++;
    order.subarray(from, to).sort((a, b) => along[a] - along[b] || a - b);
    for (let k = from; k < to; k++) ordinal[order[k]] = k;
    from = to;
  }
  return ordinal;
}
