/**
 * *What a dressing is spread over, laid out flat* by its UVs or unrolled: how full it is there and where the footprints of its props lie,
 * surface beside surface at real size.
 */
import { rotate, type Vec3 } from "../math";
import { hitsFor, Chart } from "../mesh";
import { shareAt } from "./gaps/density-map";
import { NO_REASON, type ChartMap } from "./gaps/maps";
import { NO_PROP, type Spread } from "./slots";
import { SheetPlaces, type Wrapping } from "./spacing/wrapped";
import type { Laid, Standing } from "./laid";
import type { DensityMask } from "./gaps/density-mask";
import type { Field } from "../host";

/** Room between two charts, as a share of the broadest. */
const ROOM = 0.08;
/** Samples along the longer side of all charts. */
const SAMPLES = 192;
/** What stands no farther above or below a surface than this, metres, stands on it. */
const ON = 1e-3;

const NO_BOX = new Float64Array(6);

/** Null unless all fields can be laid flat. */
export function chartMap(fields: readonly Field[], masks: readonly DensityMask[]): ChartMap | null {
  const charts = fields.map(({ ground, free }) => (free ? null : Chart.of(ground)));
  if (charts.length === 0 || !charts.every((chart) => chart !== null)) return null;
  const shift = beside(charts);
  const last = charts.length - 1;
  const least: [number, number] = [0, Math.min(...charts.map((chart) => chart.least[1]))];
  const most: [number, number] = [charts[last].most[0] + shift[last], Math.max(...charts.map(({ most }) => most[1]))];
  const [wide, tall] = [most[0] - least[0], most[1] - least[1]];
  const cell = Math.max(wide, tall) / SAMPLES;
  const [columns, rows] = [wide, tall].map((side) => Math.max(1, Math.round(side / cell)));
  const n = columns * rows;
  const places = new Float64Array(3 * n);
  for (let i = 0; i < n; i++) {
    places[3 * i] = least[0] + (((i % columns) + 0.5) * wide) / columns;
    places[3 * i + 2] = least[1] + ((Math.floor(i / columns) + 0.5) * tall) / rows;
  }
  const map: ChartMap = {
    least,
    most,
    columns,
    rows,
    shift,
    share: new Float32Array(n).fill(NaN),
    reason: new Uint8Array(n).fill(NO_REASON),
  };
  charts.forEach((chart, k) => {
    const own = places.map((value, c) => (c % 3 === 0 ? value - shift[k] : value));
    const { triangle } = chart.trianglesAt(own);
    const met: number[] = [];
    for (let i = 0; i < n; i++) if (triangle[i] >= 0 && Number.isNaN(map.share[i])) met.push(i);
    const position = new Float64Array(3 * met.length);
    met.forEach((i, at) => position.set(chart.pointOf(triangle[i], own[3 * i], own[3 * i + 2]), 3 * at));
    shareAt(map, fields[k], masks[k], met, position, (i) => triangle[i]);
  });
  return map;
}

/** How far charts are moved so that each begins where the one before ends. */
function beside(charts: readonly Chart[]): number[] {
  const wide = ({ least, most }: Chart) => most[0] - least[0];
  const room = ROOM * Math.max(...charts.map(wide));
  let x = 0;
  return charts.map((chart) => {
    const shift = x - chart.least[0];
    x += wide(chart) + room;
    return shift;
  });
}

/**
 * The corners of all footprints on the charts. A blank one has the point that it would stand on.
 *
 * @param line which field each is on: n
 * @param boxes of the props that `prop` numbers: middles and halves, 6 numbers each
 */
export function footprintsOn(
  { shift }: ChartMap,
  fields: readonly Field[],
  placed: Standing,
  line: Uint16Array,
  prop: Uint16Array,
  boxes: Float64Array,
): Float64Array {
  const { origin, position: P, rotation: Q, scale: S } = placed;
  const count = line.length;
  const points = Float64Array.from({ length: 3 * count }, (_, c) => origin[c % 3] + P[c]);
  const out = new Float64Array(8 * count).fill(NaN);
  fields.forEach(({ ground }, field) => {
    const chart = Chart.of(ground)!;
    const hits = hitsFor(count);
    hits.triangle.fill(-1);
    ground.heights.cast(points, count, "itself", hits, 0);
    for (let i = 0; i < count; i++) {
      if (line[i] !== field) continue;
      const [x, y, z] = [points[3 * i], points[3 * i + 1], points[3 * i + 2]];
      let triangle = hits.triangle[i];
      let at: [number, number];
      if (triangle >= 0 && Math.abs(hits.height[i] - y) < ON) at = chart.placeIn(triangle, x, y, z);
      else {
        const found = chart.toChart([x, y, z]);
        triangle = found.triangle;
        at = [found.x, found.y];
      }
      const turn = [Q[4 * i], Q[4 * i + 1], Q[4 * i + 2], Q[4 * i + 3]] as const;
      const box = prop[i] === NO_PROP ? NO_BOX : boxes.subarray(6 * prop[i], 6 * prop[i] + 6);
      const left = chart.wayOn(triangle, rotate(turn, [S[3 * i], 0, 0] as Vec3));
      const front = chart.wayOn(triangle, rotate(turn, [0, 0, S[3 * i + 2]] as Vec3));
      for (let corner = 0; corner < 4; corner++) {
        const u = corner === 0 || corner === 3 ? box[0] + box[3] : box[0] - box[3];
        const v = corner < 2 ? box[2] + box[5] : box[2] - box[5];
        for (let axis = 0; axis < 2; axis++)
          out[8 * i + 2 * corner + axis] =
            at[axis] + (axis === 0 ? shift[field] : 0) + u * left[axis] + v * front[axis];
      }
    }
  });
  return out;
}

/** The same for things that are bent over the surface that they are wrapped round: as large on its chart as in their layout. */
export function bentFootprints(
  { shift: [shift] }: ChartMap,
  [{ ground }]: readonly Field[],
  params: Wrapping,
  { position, triangle }: Spread,
  { at, footprints }: Laid,
): Float64Array {
  const chart = Chart.of(ground)!;
  const sheet = new SheetPlaces(chart, params);
  const out = new Float64Array(footprints.length);
  for (let i = 0; i < triangle.length; i++) {
    const [x, y] = chart.placeIn(triangle[i], position[3 * i], position[3 * i + 1], position[3 * i + 2]);
    const [left, ahead] = [sheet.left(chart.showsBack(triangle[i])), sheet.ahead];
    for (let o = 8 * i; o < 8 * i + 8; o += 2) {
      const [l, a] = [at[2 * i] - footprints[o], footprints[o + 1] - at[2 * i + 1]];
      out[o] = x + shift + l * left[0] + a * ahead[0];
      out[o + 1] = y + l * left[1] + a * ahead[1];
    }
  }
  return out;
}
