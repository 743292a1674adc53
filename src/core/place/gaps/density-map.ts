/**
 * *How full fields are, seen from above*: a grid of samples over all of them, for showing where things stand and why there
 * are none elsewhere.
 */
import { hitsFor } from "../../mesh";
import type { Field } from "../../host";
import { NO_REASON, REASONS, type DensityMap, type Sampled } from "./maps";
import type { DensityMask } from "./density-mask";
import type { Reason, Spots } from "./spots";

/** So many samples at most, about. */
const SAMPLES = 9216;

/** Null where there is nothing to look at. */
export function densityMap(fields: readonly Field[], masks: readonly DensityMask[]): DensityMap | null {
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
  fields.forEach((_, index) => sample(map, fields, masks, index, points, hits));
  return map;
}

/** The samples that lie on one of the fields. */
function sample(
  map: DensityMap,
  fields: readonly Field[],
  masks: readonly DensityMask[],
  index: number,
  points: Float64Array,
  { triangle, height, ground: groundOf }: ReturnType<typeof hitsFor>,
): void {
  const own: number[] = [];
  for (let i = 0; i < triangle.length; i++) if (triangle[i] >= 0 && groundOf[i] === index) own.push(i);
  const position = new Float64Array(3 * own.length);
  own.forEach((i, k) => {
    position.set([points[3 * i], height[i], points[3 * i + 2]], 3 * k);
    map.height[i] = height[i];
  });
  shareAt(map, fields[index], masks[index], own, position, (i) => triangle[i]);
}

/**
 * Writes how full a field is at samples that lie on it, and why.
 *
 * @param own the samples
 * @param position where each of them lies in the world: 3n
 */
export function shareAt(
  map: Sampled,
  { ground }: Field,
  { rules }: DensityMask,
  own: readonly number[],
  position: Float64Array,
  triangleOf: (sample: number) => number,
): void {
  const spots: Spots = {
    count: own.length,
    position,
    normal: new Float32Array(3 * own.length),
    triangle: Uint32Array.from(own, triangleOf),
  };
  const face = new Float64Array(3);
  own.forEach((_, k) => {
    ground.flatNormal(spots.triangle[k], face);
    spots.normal.set(face, 3 * k);
  });
  const share = new Float32Array(own.length).fill(1);
  const most = new Float32Array(own.length);
  const alone = new Float32Array(own.length);
  for (const { reason, apply } of rules) {
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

/** The sample nearest to a place; -1 beside the map. */
export function sampleAt({ least, most, columns, rows }: Sampled, x: number, y: number): number {
  const column = Math.floor(((x - least[0]) / (most[0] - least[0])) * columns);
  const row = Math.floor(((y - least[1]) / (most[1] - least[1])) * rows);
  return column >= 0 && column < columns && row >= 0 && row < rows ? row * columns + column : -1;
}

/** How full it is at a place, and what takes most away; null beside the map and where there is no field. */
export interface Fullness {
  share: number;
  reason: Reason | null;
}

export function fullnessAt(map: Sampled, x: number, y: number): Fullness | null {
  const i = sampleAt(map, x, y);
  if (i < 0 || Number.isNaN(map.share[i])) return null;
  return { share: map.share[i], reason: map.reason[i] === NO_REASON ? null : REASONS[map.reason[i]] };
}

/** What the map says of a place seen from above. */
export function densityAt(map: DensityMap, x: number, z: number): (Fullness & { height: number }) | null {
  const i = sampleAt(map, x, z);
  if (i < 0 || Number.isNaN(map.height[i])) return null;
  return { ...fullnessAt(map, x, z)!, height: map.height[i] };
}
