/** What the sheet shows, in numbers: where it looks, the footprints of placements, how far neighbours are apart. */
import type { PropBounds } from "@/core/mesh";
import { FLAG, NO_PROP, type Placements } from "@/core/place";

/** The ground that the middle of the sheet shows, and pixels a metre. */
export interface SheetView {
  x: number;
  z: number;
  scale: number;
}

export type PlanBox = readonly [least: readonly [number, number], most: readonly [number, number]];

const MARGIN = 14;

/** All of a box. */
export function fittedTo([least, most]: PlanBox, width: number, height: number): SheetView {
  const [wide, deep] = [Math.max(1e-3, most[0] - least[0]), Math.max(1e-3, most[1] - least[1])];
  const scale = Math.min(Math.max(10, width - 2 * MARGIN) / wide, Math.max(10, height - 2 * MARGIN) / deep);
  return { x: (least[0] + most[0]) / 2, z: (least[1] + most[1]) / 2, scale };
}

export const isShown = (p: Placements, i: number): boolean => !(p.flags[i] & FLAG.blank) && p.prop[i] !== NO_PROP;

/**
 * The corners of all placements' boxes seen from above, where they stand: 8n numbers, x and z, from the front left one
 * around. Those that are blank have the point that they would stand on.
 */
export function footprintsOf(p: Placements, bounds: ReadonlyMap<string, PropBounds>): Float64Array {
  const out = new Float64Array(8 * p.count);
  const { position, rotation, scale, prop } = p;
  const [ox, , oz] = p.origin;
  const boxes = p.props.map((id) => bounds.get(id) ?? NO_BOX);
  for (let i = 0; i < p.count; i++) {
    const { min, max } = prop[i] === NO_PROP ? NO_BOX : boxes[prop[i]];
    const x = rotation[4 * i];
    const y = rotation[4 * i + 1];
    const z = rotation[4 * i + 2];
    const w = rotation[4 * i + 3];
    // The prop's own left and front, turned; its height does not count from above.
    const leftX = scale[3 * i] * (1 - 2 * (y * y + z * z));
    const leftZ = scale[3 * i] * 2 * (x * z - y * w);
    const frontX = scale[3 * i + 2] * 2 * (x * z + y * w);
    const frontZ = scale[3 * i + 2] * (1 - 2 * (x * x + y * y));
    for (let corner = 0; corner < 4; corner++) {
      const left = corner === 0 || corner === 3 ? max[0] : min[0];
      const front = corner < 2 ? max[2] : min[2];
      out[8 * i + 2 * corner] = ox + position[3 * i] + leftX * left + frontX * front;
      out[8 * i + 2 * corner + 1] = oz + position[3 * i + 2] + leftZ * left + frontZ * front;
    }
  }
  return out;
}

const NO_BOX: PropBounds = { min: [0, 0, 0], max: [0, 0, 0] };

/** The placement whose footprint holds a place, or whose middle lies within `reach` metres; the one drawn last; -1 for none. */
export function placementAt(p: Placements, corners: Float64Array, x: number, z: number, reach: number): number {
  let best = -1;
  let least = reach;
  for (let i = p.count - 1; i >= 0; i--) {
    if (!isShown(p, i)) continue;
    if (holds(corners, 8 * i, x, z)) return i;
    const [mx, mz] = middleOf(corners, i);
    const far = Math.hypot(mx - x, mz - z);
    // What is not shown lies nowhere.
    if (!(far <= least)) continue;
    least = far;
    best = i;
  }
  return best;
}

export const middleOf = (corners: Float64Array, i: number): [x: number, z: number] => [
  (corners[8 * i] + corners[8 * i + 4]) / 2,
  (corners[8 * i + 1] + corners[8 * i + 5]) / 2,
];

/** Whether four corners, in whichever sense they run, have a place on the same side of all their edges. */
function holds(corners: Float64Array, o: number, x: number, z: number): boolean {
  let [left, right] = [false, false];
  for (let k = 0; k < 4; k++) {
    const a = o + 2 * k;
    const b = o + 2 * ((k + 1) % 4);
    const side =
      (corners[b] - corners[a]) * (z - corners[a + 1]) - (corners[b + 1] - corners[a + 1]) * (x - corners[a]);
    if (side > 0) left = true;
    else if (side < 0) right = true;
  }
  return left !== right;
}

/** How far each placement that stands is from the nearest other, as a small chart; null where fewer than two stand. */
export interface Neighbours {
  least: number;
  median: number;
  most: number;
  bins: { gap: number; count: number }[];
}

const BINS = 24;

export function neighboursOf(p: Placements): Neighbours | null {
  const standing: number[] = [];
  for (let i = 0; i < p.count; i++) if (isShown(p, i)) standing.push(i);
  if (standing.length < 2) return null;
  const gaps = nearestDistances(p, standing).sort();
  const [least, most] = [gaps[0], gaps[gaps.length - 1]];
  const bins = Array.from({ length: BINS }, (_, k) => ({
    gap: least + ((k + 0.5) * (most - least)) / BINS,
    count: 0,
  }));
  for (const gap of gaps) bins[Math.min(BINS - 1, Math.floor((BINS * (gap - least)) / (most - least || 1)))].count++;
  return { least, median: gaps[gaps.length >> 1], most, bins };
}

/** By a hash grid whose cells hold about two each; rings of cells are looked through until nothing nearer can come. */
function nearestDistances({ position }: Placements, members: readonly number[]): Float64Array {
  let [x0, z0, x1, z1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const i of members) {
    x0 = Math.min(x0, position[3 * i]);
    x1 = Math.max(x1, position[3 * i]);
    z0 = Math.min(z0, position[3 * i + 2]);
    z1 = Math.max(z1, position[3 * i + 2]);
  }
  const size = Math.max(Math.sqrt((2 * (x1 - x0) * (z1 - z0)) / members.length), (x1 - x0 + z1 - z0) / 4096, 1e-6);
  const columns = Math.floor((x1 - x0) / size) + 1;
  const rows = Math.floor((z1 - z0) / size) + 1;
  const head = new Int32Array(columns * rows).fill(-1);
  const next = new Int32Array(members.length);
  const cellOf = (i: number) => [
    Math.floor((position[3 * i] - x0) / size),
    Math.floor((position[3 * i + 2] - z0) / size),
  ];
  members.forEach((i, k) => {
    const [column, row] = cellOf(i);
    next[k] = head[row * columns + column];
    head[row * columns + column] = k;
  });
  return Float64Array.from(members, (i, k) => {
    const [column, row] = cellOf(i);
    let best = Infinity;
    for (let ring = 0; ring <= Math.max(columns, rows) && (ring - 1) * size < best; ring++) {
      for (let r = row - ring; r <= row + ring; r++) {
        if (r < 0 || r >= rows) continue;
        const step = r === row - ring || r === row + ring ? 1 : Math.max(1, 2 * ring);
        for (let c = column - ring; c <= column + ring; c += step) {
          if (c < 0 || c >= columns) continue;
          for (let m = head[r * columns + c]; m >= 0; m = next[m]) {
            if (m === k) continue;
            const j = members[m];
            const dx = position[3 * j] - position[3 * i];
            const dy = position[3 * j + 1] - position[3 * i + 1];
            const dz = position[3 * j + 2] - position[3 * i + 2];
            best = Math.min(best, Math.sqrt(dx * dx + dy * dy + dz * dz));
          }
        }
      }
    }
    return best;
  });
}
