/**
 * *A mesh without texture coordinates unrolled*: cut open (`cut.ts`), each part laid flat with the least stretch
 * (`flatten.ts`), up at the top, all beside each other at real size. Where a part is stretched too much, or has turned over,
 * the cut is led on to where it is worst and the part laid anew.
 */
import { facetsOf } from "../facets";
import { offBeside, singularValues, timesOff, type Singular } from "../stretch";
import { cutAlong, cutOpen, isRim, partsOf, pathsFrom, roadsOf, type Cut, type Roads } from "./cut";
import { diskOf, type Disk } from "./disk";
import { flatten } from "./flatten";
import { halfEdgesOf, nextOf } from "./twins";
import type { Unrolled } from "./unrolled";

export { flatArea, unrollRound } from "./round";
export type { Unrolled } from "./unrolled";

/** Meshes of more triangles are not unrolled. */
export const MOST_UNROLLED = 60_000;
/** Nothing but this share of a part may be stretched by more than so many times. */
const REST = 0.01;
const STRETCHED = 1.3;
/** A cut is led on so often, while all seams together are no longer than so many times the mesh's extent. */
const LED_ON = 3;
const SEAMS = 1.5;
/** The first time by no more than this share of the room there is, as another place may be worse then; by less of the bound never. */
const FIRST = 0.6;
const SHORTEST = 0.02;
/** Room between parts, as a share of the broadest. */
const ROOM = 0.06;

const NO_SEAMS = new Uint32Array(0);

interface LaidDisk {
  disk: Disk;
  places: Float64Array;
  /** By how many times lengths are off in each triangle. */
  off: Float64Array;
  flipped: number;
}

/**
 * Null for a mesh that has too many triangles, or none with an area.
 *
 * @param seams edges at which it is to be cut open, as the vertices at both ends, those at one place as one: 2s. With them it is
 *   cut no further than it takes to lie flat.
 */
export function unroll(position: Float64Array, index: Uint32Array, seams: Uint32Array = NO_SEAMS): Unrolled | null {
  const m = index.length / 3;
  if (m === 0 || m > MOST_UNROLLED) return null;
  const { area, normal } = facetsOf({ position, index });
  const edges = halfEdgesOf(position, index);
  const cut = cutOpen(position, edges, normal, seams);
  const { part, count } = partsOf(cut);
  const members: number[][] = Array.from({ length: count }, () => []);
  part.forEach((p, t) => members[p].push(t));
  const bound = seams.length > 0 ? 0 : SEAMS * extentOf(position);
  const laid: LaidDisk[] = [];
  for (const triangles of members) {
    const one = laidFlat(cut, triangles, area, bound);
    if (one) laid.push(upright(one, position, area));
  }
  return laid.length > 0 ? besides(laid, m, seamLength(cut)) : null;
}

/** One part, its cut led on while that is needed and helps. */
function laidFlat(cut: Cut, triangles: readonly number[], area: Float64Array, bound: number): LaidDisk | null {
  const own = Float64Array.from(triangles, (t) => area[t]);
  // What has no area has nowhere to lie.
  if (own.every((x) => x === 0)) return null;
  let best: LaidDisk | null = null;
  let kept: Uint8Array | null = null;
  let least = Infinity;
  let roads: Roads | null = null;
  for (let round = 0; ; round++) {
    const before = cut.seam.slice();
    const disk = diskOf(cut, triangles);
    const places = best && best.flipped === 0 ? flatten(disk, placesBefore(best, disk)) : flatten(disk);
    if (places) {
      const one = stretched(disk, places);
      // What has turned over is worse than any stretch.
      const worst = offBeside(one.off, own, REST) + (one.flipped > 0 ? 1e6 * one.flipped : 0);
      if (worst < least) [best, least] = [one, worst];
      if (least <= STRETCHED) return best;
    }
    if (best?.disk === disk || !best) kept = before;
    const room = bound - seamLength(cut);
    const most = round === 0 ? FIRST * room : room;
    if (round === LED_ON || room < SHORTEST * bound) break;
    roads ??= roadsOf(cut, triangles);
    if (!leadOn(cut, triangles, roads, best, most)) break;
  }
  // What the best one was laid by is what counts.
  if (kept) cut.seam.set(kept);
  return best;
}

/** Where the vertices of a part lay before its cut was led on. */
function placesBefore(before: LaidDisk, { corner, count }: Disk): Float64Array {
  const places = new Float64Array(2 * count);
  for (let c = 0; c < corner.length; c++) {
    const [v, was] = [2 * corner[c], 2 * before.disk.corner[c]];
    places[v] = before.places[was];
    places[v + 1] = before.places[was + 1];
  }
  return places;
}

function stretched(disk: Disk, places: Float64Array): LaidDisk {
  const { corner, flat } = disk;
  const off = new Float64Array(corner.length / 3).fill(1);
  const laid = new Float64Array(6);
  const singular: Singular = { most: 1, least: 1 };
  let flipped = 0;
  for (let t = 0, o = 0; t < off.length; t++, o += 3) {
    if (!(flat[o + 2] > 0)) continue;
    for (let k = 0; k < 3; k++) {
      laid[2 * k] = places[2 * corner[o + k]];
      laid[2 * k + 1] = places[2 * corner[o + k] + 1];
    }
    singularValues([flat[o], flat[o + 1], flat[o + 2]], laid, singular);
    off[t] = timesOff(singular);
    if (singular.least <= 0) flipped++;
  }
  return { disk, places, off, flipped };
}

/** Leads the cut on to the vertex that is stretched worst, so many metres at most; false where there is none to lead it to. */
function leadOn(cut: Cut, triangles: readonly number[], roads: Roads, laid: LaidDisk | null, most: number): boolean {
  const rims = new Set<number>();
  for (const t of triangles)
    for (let h = 3 * t; h < 3 * t + 3; h++) if (isRim(cut, h)) rims.add(cut.vertex[h]).add(cut.vertex[nextOf(h)]);
  if (rims.size === 0) return false;
  const { far, way } = pathsFrom(cut, roads, rims, most);
  let [worst, at] = [0, -1];
  const consider = (v: number, value: number) => {
    if (far[v] > 0 && far[v] < Infinity && value > worst) [worst, at] = [value, v];
  };
  if (laid) {
    // Far from the cut something stretched weighs more: what is near it hardly gains by a longer one.
    const { disk, off } = laid;
    for (let t = 0; t < off.length; t++) {
      const stretch = Math.log(off[t]);
      for (let c = 3 * t; c < 3 * t + 3; c++) {
        const v = disk.vertex[disk.corner[c]];
        consider(v, stretch * far[v]);
      }
    }
  } else far.forEach((value, v) => consider(v, value));
  if (at < 0) return false;
  cutAlong(cut, way, at);
  return true;
}

/** Turned so that up is at the top; of what lies rather level north, as a map has it, and as it comes where neither is told. */
function upright(laid: LaidDisk, position: Float64Array, area: Float64Array): LaidDisk {
  const { disk, places } = laid;
  const whole = disk.triangles.reduce((sum, t) => sum + area[t], 0);
  const [up, north] = [wayOf(laid, position, area, 1, 1), wayOf(laid, position, area, 2, -1)];
  const [x, y] = Math.hypot(...up) > LEVEL * whole ? up : Math.hypot(...north) > TOLD * whole ? north : [0, 1];
  const [s, c] = [x / Math.hypot(x, y), y / Math.hypot(x, y)];
  const turned = new Float64Array(places.length);
  for (let k = 0; k < places.length; k += 2) {
    turned[k] = c * places[k] - s * places[k + 1];
    // Down on the sheet.
    turned[k + 1] = -(s * places[k] + c * places[k + 1]);
  }
  return { ...laid, places: turned };
}

/** What rises by less than this share of the way, in the mean, lies rather level. */
const LEVEL = 0.35;
/** A direction whose mean is shorter, as a share of the way, is none. */
const TOLD = 0.05;

/** Which way on the flat part a coordinate of the mesh rises, in the mean over its area, times the area. */
function wayOf(
  { disk, places }: LaidDisk,
  position: Float64Array,
  area: Float64Array,
  axis: number,
  sign: number,
): [x: number, y: number] {
  let [x, y] = [0, 0];
  for (let i = 0, o = 0; i < disk.triangles.length; i++, o += 3) {
    const [side, along, high] = [disk.flat[o], disk.flat[o + 1], disk.flat[o + 2]];
    if (!(high > 0)) continue;
    const t = disk.triangles[i];
    const [a, b, c] = [disk.corner[o], disk.corner[o + 1], disk.corner[o + 2]];
    const pa = sign * position[3 * disk.vertex[a] + axis];
    const pb = sign * position[3 * disk.vertex[b] + axis];
    const pc = sign * position[3 * disk.vertex[c] + axis];
    // How it grows along the triangle's own two directions.
    const du = (pb - pa) / side;
    const dv = (pc - pa - along * du) / high;
    const ux = (places[2 * b] - places[2 * a]) / side;
    const uy = (places[2 * b + 1] - places[2 * a + 1]) / side;
    const vx = (places[2 * c] - places[2 * a] - along * ux) / high;
    const vy = (places[2 * c + 1] - places[2 * a + 1] - along * uy) / high;
    x += area[t] * (du * ux + dv * vx);
    y += area[t] * (du * uy + dv * vy);
  }
  return [x, y];
}

/** All parts in a row, the largest first. */
function besides(laid: readonly LaidDisk[], m: number, seams: number): Unrolled {
  const boxes = laid.map(({ places }) => boxOf(places));
  const order = laid.map((_, k) => k).sort((a, b) => laid[b].disk.triangles.length - laid[a].disk.triangles.length);
  const room = ROOM * Math.max(...boxes.map(({ least, most }) => most[0] - least[0]));
  const n = laid.reduce((sum, { disk }) => sum + disk.count, 0);
  const out: Unrolled = {
    index: new Uint32Array(3 * m),
    places: new Float64Array(2 * n),
    parts: laid.length,
    seams,
    flipped: laid.reduce((sum, one) => sum + one.flipped, 0),
  };
  let [first, x] = [0, 0];
  for (const k of order) {
    const { disk, places } = laid[k];
    const { least, most } = boxes[k];
    for (let v = 0; v < disk.count; v++) {
      out.places[2 * (first + v)] = places[2 * v] - least[0] + x;
      out.places[2 * (first + v) + 1] = places[2 * v + 1] - least[1];
    }
    disk.triangles.forEach((t, i) => {
      for (let corner = 0; corner < 3; corner++) out.index[3 * t + corner] = first + disk.corner[3 * i + corner];
    });
    first += disk.count;
    x += most[0] - least[0] + room;
  }
  return out;
}

function boxOf(places: Float64Array): { least: [number, number]; most: [number, number] } {
  const box = { least: [Infinity, Infinity] as [number, number], most: [-Infinity, -Infinity] as [number, number] };
  for (let k = 0; k < places.length; k++) {
    box.least[k % 2] = Math.min(box.least[k % 2], places[k]);
    box.most[k % 2] = Math.max(box.most[k % 2], places[k]);
  }
  return box;
}

function seamLength({ vertex, twin, seam, position: P }: Cut): number {
  let sum = 0;
  for (let h = 0; h < seam.length; h++) {
    if (seam[h] === 0 || twin[h] < h) continue;
    const [a, b] = [3 * vertex[h], 3 * vertex[nextOf(h)]];
    sum += Math.hypot(P[a] - P[b], P[a + 1] - P[b + 1], P[a + 2] - P[b + 2]);
  }
  return sum;
}

function extentOf(position: Float64Array): number {
  const sides = [0, 1, 2].map((axis) => {
    let [least, most] = [Infinity, -Infinity];
    for (let p = axis; p < position.length; p += 3) {
      least = Math.min(least, position[p]);
      most = Math.max(most, position[p]);
    }
    return Math.max(0, most - least);
  });
  return Math.hypot(...sides);
}
