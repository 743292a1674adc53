/** *Where u and v begin on a surface, and how they run over it* from there. */
import type { Vec3 } from "../math";
import { waysOf } from "./laying";
import type { Chart } from "./chart";

/** They are so long, as a share of the chart's shorter side, drawn by so many points and so far off the surface. */
const [LONG, POINTS, OFF] = [0.3, 25, 0.004];
/** The place to begin at is looked for from the corner inwards in so many steps. */
const STEPS = 48;

/** Two ways over the surface, world coordinates; null where the chart has no place from its corner to its middle. */
export function axesOn(chart: Chart): { u: Vec3[]; v: Vec3[] } | null {
  const { least, most } = chart;
  const [right, up] = waysOf(chart.ground.laying);
  const sides = [most[0] - least[0], most[1] - least[1]];
  const corner = [right > 0 ? least[0] : most[0], up > 0 ? most[1] : least[1]];
  const inwards = [right, -up] as const;
  for (let k = 1; k <= STEPS; k++) {
    const from = corner.map((at, axis) => at + (inwards[axis] * sides[axis] * k) / (2 * STEPS));
    if (!chart.toWorld(from[0], from[1])) continue;
    const long = LONG * Math.min(...sides);
    const way = (axis: 0 | 1): Vec3[] => {
      const points: Vec3[] = [];
      for (let i = 0; i < POINTS; i++) {
        const at = [...from];
        at[axis] += (inwards[axis] * long * i) / (POINTS - 1);
        const place = chart.toWorld(at[0], at[1]);
        if (!place) break;
        const normal = new Float64Array(3);
        chart.ground.smoothNormal(place.triangle, ...place.point, normal);
        points.push([0, 1, 2].map((c) => place.point[c] + OFF * Math.max(...sides) * normal[c]) as unknown as Vec3);
      }
      return points;
    };
    return { u: way(0), v: way(1) };
  }
  return null;
}
