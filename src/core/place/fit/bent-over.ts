/** Bends props over the surface that they stand on: each by the piece of it that lies under its footprint. */
import { rotate, conjugate, quatAt, subtract, writeFromBasis, vectorAt, type Quat, type Vec3 } from "../../math";
import { Chart, PIECE, type Shapes, type WorldMesh } from "../../mesh";
import { FLAG, NO_PROP, type Slots } from "../slots";
import { cross, squareTo } from "../spacing/carrier";
import { SheetPlaces, type Wrapping } from "../spacing/wrapped";
import { creaseUnder } from "./crease";
import { pieceAround, type Neighbourhood, type Reach } from "./neighbourhood";
import { EVERYTHING, FINE, Forms, matrixInto, NOTHING, type Foot } from "./forms";
import type { Field } from "../../host";
import type { Placed } from "../compose";

/** All pieces together have no more triangles than this; what comes after stays stiff. */
const MOST = 1_500_000;
/** Pieces reach beyond the footprint by this share of it. */
const MARGIN = 0.02;

/**
 * The shapes of all placements that are bent over their surfaces; null where none is.
 *
 * @param wrapping how their layout is wrapped round the first of the fields; null where each lies by the neighbourhood of its foot
 * @param facing the frames that they stand in, quaternions: 4n
 * @param boxes of the props: middles and halves, 6 numbers each; and which of them are bent
 * @param off by how much their edges may be off the surface, metres
 */
export function bentOver(
  wrapping: Wrapping | null,
  fields: readonly Field[],
  slots: Slots,
  facing: Float32Array,
  { boxes, which }: { boxes: Float64Array; which: readonly boolean[] },
  placed: Placed,
  flags: Uint16Array,
  off: number,
): Shapes | null {
  const { spread } = slots;
  const chart = wrapping && fields.length > 0 ? Chart.of(fields[0].ground) : null;
  if (!spread || (wrapping && !chart)) return null;
  const sheet = chart && wrapping && new SheetPlaces(chart, wrapping);
  const forms = new Forms(slots.count);
  let triangles = 0;
  for (let i = 0; i < slots.count && triangles < MOST; i++) {
    const prop = slots.prop[i];
    const field = fields[slots.line[i]];
    if (prop === NO_PROP || !which[prop] || flags[i] & FLAG.blank || !field || field.free) continue;
    const triangle = spread.triangle[i];
    const ahead = spread.ahead && sheet ? vectorAt(spread.ahead, i) : rotate(quatAt(facing, i), [0, 0, 1]);
    const foot = footOf(field.ground, vectorAt(spread.position, i), triangle, ahead);
    const matrix = matrixInto(foot, placed, i, (flags[i] & FLAG.mirrored) !== 0);
    const reach = reachOf(matrix, boxes.subarray(6 * prop, 6 * prop + 6));
    const { piece, crease } =
      chart && sheet
        ? pieceUnder(chart, sheet, foot, triangle, reach)
        : pieceAround(field.ground, foot, triangle, reach);
    if (piece.length === 0) continue;
    triangles += piece.length / PIECE;
    const fine = FINE * Math.max(reach[2] - reach[0], reach[3] - reach[1]);
    forms.add(i, { prop, matrix, planes: EVERYTHING, samples: NOTHING, piece, crease }, foot, placed.origin, fine);
  }
  return forms.finish(off);
}

/** The frame on the surface: left, up by the smooth normal, ahead. */
function footOf(ground: WorldMesh, position: Vec3, triangle: number, ahead: Vec3): Foot {
  const up = new Float64Array(3);
  ground.smoothNormal(triangle, ...position, up);
  const forward = squareTo(up, ahead) ?? ahead;
  const rotation = new Float64Array(4);
  writeFromBasis(rotation, 0, ...cross(up, forward), up[0], up[1], up[2], ...forward);
  return { position, rotation: [rotation[0], rotation[1], rotation[2], rotation[3]] };
}

/** How far a prop reaches from its foot, least and most to the left and ahead: 4 numbers. */
function reachOf(matrix: Float64Array, box: Float64Array): Reach {
  const out: [number, number, number, number] = [0, 0, 0, 0];
  for (const [k, row] of [0, 2].entries()) {
    const m = matrix.subarray(4 * row, 4 * row + 4);
    const middle = m[0] * box[0] + m[1] * box[1] + m[2] * box[2] + m[3];
    const half = Math.abs(m[0]) * box[3] + Math.abs(m[1]) * box[4] + Math.abs(m[2]) * box[5];
    out[k] = middle - half * (1 + MARGIN);
    out[2 + k] = middle + half * (1 + MARGIN);
  }
  return out;
}

/** The triangles of a surface under a footprint, as they lie on the sheet about its foot and as they stand: see `PIECE`. */
function pieceUnder(chart: Chart, sheet: SheetPlaces, foot: Foot, triangle: number, reach: Reach): Neighbourhood {
  const [left0, ahead0, left1, ahead1] = reach;
  const { ground } = chart;
  const [cx, cy] = chart.placeIn(triangle, ...foot.position);
  const [left, ahead] = [sheet.left(chart.showsBack(triangle)), sheet.ahead];
  const at = (l: number, a: number): [number, number] => [
    cx + l * left[0] + a * ahead[0],
    cy + l * left[1] + a * ahead[1],
  ];
  const corners = [at(left0, ahead0), at(left0, ahead1), at(left1, ahead0), at(left1, ahead1)];
  const side = (axis: 0 | 1, pick: (...values: number[]) => number) => pick(...corners.map((corner) => corner[axis]));
  const least: [number, number] = [side(0, Math.min), side(1, Math.min)];
  const most: [number, number] = [side(0, Math.max), side(1, Math.max)];
  const found = chart.trianglesWithin(least, most);
  const area = left[0] * ahead[1] - left[1] * ahead[0];
  if (area === 0) return { piece: NOTHING, crease: 0 };
  const back = conjugate(foot.rotation as Quat);
  const piece = new Float64Array(PIECE * found.length);
  const kept: number[] = [];
  const [normal, flat] = [new Float64Array(3), new Float64Array(6)];
  let o = 0;
  for (const { triangle: t, by } of found) {
    let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
    for (let corner = 0; corner < 3; corner++) {
      const [x, y] = chart.cornerAt(t, corner);
      flat[2 * corner] = x + by[0];
      flat[2 * corner + 1] = y + by[1];
      [x0, y0] = [Math.min(x0, x + by[0]), Math.min(y0, y + by[1])];
      [x1, y1] = [Math.max(x1, x + by[0]), Math.max(y1, y + by[1])];
    }
    // Cells hold more than lies in the box.
    if (x1 < least[0] || y1 < least[1] || x0 > most[0] || y0 > most[1]) continue;
    kept.push(t);
    for (let corner = 0; corner < 3; corner++, o += 8) {
      const [x, y] = [flat[2 * corner] - cx, flat[2 * corner + 1] - cy];
      const p = vectorAt(ground.position, ground.index[3 * t + corner]);
      ground.smoothNormal(t, ...p, normal);
      piece[o] = (x * ahead[1] - y * ahead[0]) / area;
      piece[o + 1] = (left[0] * y - left[1] * x) / area;
      piece.set(rotate(back, subtract(p, foot.position)), o + 2);
      piece.set(rotate(back, [normal[0], normal[1], normal[2]]), o + 5);
    }
  }
  const own = piece.subarray(0, o);
  return { piece: own, crease: creaseUnder(ground, kept, own, reach) };
}
