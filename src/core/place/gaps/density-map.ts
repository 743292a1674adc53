/**
 * *How full fields are, seen from above*: a grid of samples over all of them, for showing where things stand and why there
 * are none elsewhere.
 */
import { hitsFor } from "../../mesh";
import type { Field } from "../where/over";
import type { Reason, Shade, Spots } from "./shade";

export interface DensityMap {
  /** Corners of the box that the samples fill, x and z, metres. A sample lies in the middle of its cell. */
  least: [number, number];
  most: [number, number];
  columns: number;
  rows: number;
  /** How high the highest field lies at each sample, metres; NaN where there is none. Rows of x, one behind the other along z. */
  height: Float32Array;
  /** From 0, where nothing stands, to 1. */
  share: Float32Array;
  /** What takes most away there: an index into {@link REASONS}, or {@link NO_REASON}. */
  reason: Uint8Array;
}

export const REASONS: readonly Reason[] = ["outside", "paint", "mask", "slope", "height", "facing", "distance", "edge"];
export const NO_REASON = 255;

/** So many samples at most, about. */
const SAMPLES = 9216;

/** Null where there is nothing to look at. */
export function densityMap(fields: readonly Field[], shades: readonly Shade[]): DensityMap | null {
  const box = boxOf(fields);
  if (!box || fields.some(({ free }) => free)) return null;
  const [least, most] = box;
  const [wide, deep] = [most[0] - least[0], most[1] - least[1]];
  const cell = Math.sqrt((wide * deep) / SAMPLES) || Math.max(wide, deep) / SAMPLES || 1;
  const columns = Math.max(1, Math.min(SAMPLES, Math.round(wide / cell)));
  const rows = Math.max(1, Math.min(SAMPLES, Math.round(deep / cell)));
  const n = columns * rows;
  const points = new Float64Array(3 * n);
  for (let row = 0, i = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++, i++) {
      points[3 * i] = least[0] + ((column + 0.5) * wide) / columns;
      points[3 * i + 2] = least[1] + ((row + 0.5) * deep) / rows;
    }
  }
  const hits = hitsFor(n);
  hits.triangle.fill(-1);
  fields.forEach(({ ground }, index) => ground.heights.cast(points, n, "above", hits, index));
  const map: DensityMap = {
    least,
    most,
    columns,
    rows,
    height: new Float32Array(n).fill(NaN),
    share: new Float32Array(n),
    reason: new Uint8Array(n).fill(NO_REASON),
  };
  fields.forEach((_, index) => sample(map, fields, shades, index, points, hits));
  return map;
}

/** The samples that lie on one of the fields. */
function sample(
  map: DensityMap,
  fields: readonly Field[],
  shades: readonly Shade[],
  index: number,
  points: Float64Array,
  { triangle, height, ground: groundOf }: ReturnType<typeof hitsFor>,
): void {
  const { ground } = fields[index];
  const own: number[] = [];
  for (let i = 0; i < triangle.length; i++) if (triangle[i] >= 0 && groundOf[i] === index) own.push(i);
  const spots: Spots = {
    count: own.length,
    position: new Float64Array(3 * own.length),
    normal: new Float32Array(3 * own.length),
    triangle: Uint32Array.from(own, (i) => triangle[i]),
  };
  const face = new Float64Array(3);
  own.forEach((i, k) => {
    spots.position.set([points[3 * i], height[i], points[3 * i + 2]], 3 * k);
    ground.flatNormal(triangle[i], face);
    spots.normal.set(face, 3 * k);
    map.height[i] = height[i];
  });
  const share = new Float32Array(own.length).fill(1);
  const most = new Float32Array(own.length);
  const alone = new Float32Array(own.length);
  for (const { reason, apply } of shades[index].rules) {
    // What each rule takes away by itself; a rule looks at nothing that is ruled out already, so all begin at one.
    alone.fill(1);
    apply(spots, alone);
    own.forEach((i, k) => {
      share[k] *= alone[k];
      const taken = 1 - alone[k];
      if (taken <= most[k]) return;
      most[k] = taken;
      map.reason[i] = REASONS.indexOf(reason);
    });
  }
  own.forEach((i, k) => (map.share[i] = share[k]));
}

function boxOf(fields: readonly Field[]): [least: [number, number], most: [number, number]] | null {
  let [x0, z0, x1, z1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { ground } of fields) {
    const P = ground.position;
    for (let p = 0; p < P.length; p += 3) {
      x0 = Math.min(x0, P[p]);
      x1 = Math.max(x1, P[p]);
      z0 = Math.min(z0, P[p + 2]);
      z1 = Math.max(z1, P[p + 2]);
    }
  }
  const plans = fields.flatMap(({ plan }) => (plan?.bounded ? plan : []));
  if (plans.length === fields.length && plans.length > 0) {
    // A little beyond the outlines, so that one sees that nothing stands there.
    const margin = 0.06 * Math.max(...plans.map(({ least, most }) => Math.max(most[0] - least[0], most[1] - least[1])));
    x0 = Math.max(x0, Math.min(...plans.map(({ least }) => least[0])) - margin);
    z0 = Math.max(z0, Math.min(...plans.map(({ least }) => least[1])) - margin);
    x1 = Math.min(x1, Math.max(...plans.map(({ most }) => most[0])) + margin);
    z1 = Math.min(z1, Math.max(...plans.map(({ most }) => most[1])) + margin);
  }
  if (!(x1 - x0 > 0 && z1 - z0 > 0)) return null;
  return [
    [x0, z0],
    [x1, z1],
  ];
}

/** What the map says of a place: null beside it, and where there is no field. */
export function densityAt(
  map: DensityMap,
  x: number,
  z: number,
): { share: number; reason: Reason | null; height: number } | null {
  const { least, most, columns, rows } = map;
  const column = Math.floor(((x - least[0]) / (most[0] - least[0])) * columns);
  const row = Math.floor(((z - least[1]) / (most[1] - least[1])) * rows);
  if (!(column >= 0 && column < columns && row >= 0 && row < rows)) return null;
  const i = row * columns + column;
  if (Number.isNaN(map.height[i])) return null;
  const reason = map.reason[i] === NO_REASON ? null : REASONS[map.reason[i]];
  return { share: map.share[i], reason, height: map.height[i] };
}
