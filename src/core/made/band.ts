/**
 * *A band*: a strip carried along a line, flat or with its edges turned up, that can travel along it. Its vertices lie at even
 * distances, so that wherever it has travelled to it is cut alike.
 */
import { faceName } from "./lattice";
import type { GuideLine } from "../line";
import type { TriangleMesh } from "../mesh";
import type { Band } from "./schema";

/** A piece bends by no more than this, radians, as far as there may be so many pieces. */
const BEND = 0.15;
const [FEWEST, MOST] = [8, 2000];
export const BAND_TRIANGLES = 2 * MOST * 7;
/** The line is looked at so closely for how sharply it bends. */
const LOOKS = 2048;

/** A flat piece of the cross-section: across to the left and up, metres, from where to where; seen with what it shows on its left. */
type Flat = readonly [from: readonly [number, number], to: readonly [number, number]];

/** The pieces of the cross-section, from the top round. */
function sectionOf({ breadth, thickness, edges }: Band): Flat[] {
  const half = breadth / 2;
  const top: Flat = [
    [half, 0],
    [-half, 0],
  ];
  if (thickness === 0 && edges === 0) return [top];
  const wall = Math.max(thickness, edges > 0 ? Math.min(0.01, breadth / 20) : 0);
  const out = half + (edges > 0 ? wall : 0);
  const corners: [number, number][] = [
    [-half, 0],
    ...(edges > 0 ? ([[-half, edges]] as [number, number][]) : []),
    [-out, edges],
    [-out, -wall],
    [out, -wall],
    [out, edges],
    ...(edges > 0 ? ([[half, edges]] as [number, number][]) : []),
    [half, 0],
  ];
  return [top, ...corners.slice(1).map((to, i): Flat => [corners[i], to])];
}

/** How many pieces it takes along the line. */
function piecesAlong({ curve }: GuideLine): number {
  const at = Float64Array.from({ length: LOOKS + 1 }, (_, i) => (curve.length * i) / LOOKS);
  const [position, T] = [new Float64Array(3 * at.length), new Float64Array(3 * at.length)];
  curve.sample(at, at.length, position, T);
  let most = 0;
  for (let p = 3; p < T.length; p += 3) {
    const cosine = T[p] * T[p - 3] + T[p + 1] * T[p - 2] + T[p + 2] * T[p - 1];
    most = Math.max(most, Math.acos(Math.max(-1, Math.min(1, cosine))));
  }
  return Math.max(FEWEST, Math.min(MOST, Math.ceil((LOOKS * most) / BEND)));
}

/** Null while its line is not there. */
export function band(made: Band, guides: ReadonlyMap<string, GuideLine>): TriangleMesh | null {
  const guide = made.line === null ? undefined : guides.get(made.line);
  if (!guide || !(guide.curve.length > 0)) return null;
  const flats = sectionOf(made);
  const rows = piecesAlong(guide) + 1;
  const columns = 2 * flats.length;
  const position = Float32Array.from(bandVertices(made, guide, 0));
  const normal = new Float32Array(position.length);
  const uv = new Float32Array(2 * rows * columns);
  const index: number[] = [];
  const faces: number[] = [];
  const turns = turnsAlong(made, guide, rows, 0);
  for (let row = 0; row < rows; row++) {
    let across = 0;
    flats.forEach(([[a, b], [c, d]], k) => {
      const wide = Math.hypot(c - a, d - b);
      const v = row * columns + 2 * k;
      for (const [corner, far] of [0, wide].entries()) {
        turns.write(normal, v + corner, row, (d - b) / (wide || 1), (a - c) / (wide || 1), false);
        uv[2 * (v + corner)] = (guide.curve.length * row) / (rows - 1);
        uv[2 * (v + corner) + 1] = across + far;
      }
      across += wide;
      if (row + 1 === rows || wide === 0) return;
      const [p, q, r, s] = [v, v + 1, v + columns + 1, v + columns];
      index.push(p, q, r, p, r, s);
      faces.push(faceName(row, k, 0), faceName(row, k, 1));
    });
  }
  if (made.flip) {
    for (let t = 0; t < index.length; t += 3) [index[t + 1], index[t + 2]] = [index[t + 2], index[t + 1]];
    for (let p = 0; p < normal.length; p++) normal[p] = -normal[p];
  }
  return {
    position,
    index: Uint32Array.from(index),
    attributes: [
      { name: "TEXCOORD_0", width: 2, array: uv },
      { name: "NORMAL", width: 3, array: normal },
    ],
    faces: Uint32Array.from(faces),
  };
}

/** Where the vertices of a band are that has travelled so far, metres: 3v. On an open line it goes nowhere. */
export function bandVertices(made: Band, guide: GuideLine, travel: number): Float64Array {
  const flats = sectionOf(made);
  const rows = piecesAlong(guide) + 1;
  const turns = turnsAlong(made, guide, rows, guide.curve.closed ? travel : 0);
  const out = new Float64Array(3 * rows * 2 * flats.length);
  for (let row = 0, v = 0; row < rows; row++)
    for (const [from, to] of flats) for (const [x, y] of [from, to]) turns.write(out, v++, row, x, y, true);
  return out;
}

/** The line's frames at each row, and how points across and up lie in them. */
function turnsAlong({ turn }: Band, guide: GuideLine, rows: number, travel: number) {
  const { length, closed } = guide.curve;
  const at = Float64Array.from({ length: rows }, (_, row) => (length * row) / (rows - 1) + travel);
  const [position, R] = [new Float64Array(3 * rows), new Float64Array(4 * rows)];
  guide.frames("line", at, rows, position, R);
  // The end of a closed line is its start, to the last bit.
  if (closed) {
    position.copyWithin(3 * (rows - 1), 0, 3);
    R.copyWithin(4 * (rows - 1), 0, 4);
  }
  const [cosine, sine] = [Math.cos(turn), Math.sin(turn)];
  return {
    write(out: Float32Array | Float64Array, v: number, row: number, across: number, up: number, place: boolean): void {
      const a = cosine * across - sine * up;
      const b = sine * across + cosine * up;
      const [x, y, z, w] = [R[4 * row], R[4 * row + 1], R[4 * row + 2], R[4 * row + 3]];
      const k = place ? 1 : 0;
      out[3 * v] = k * position[3 * row] + a * (1 - 2 * (y * y + z * z)) + b * 2 * (x * y - w * z);
      out[3 * v + 1] = k * position[3 * row + 1] + a * 2 * (x * y + w * z) + b * (1 - 2 * (x * x + z * z));
      out[3 * v + 2] = k * position[3 * row + 2] + a * 2 * (x * z - w * y) + b * 2 * (y * z + w * x);
    },
  };
}

/** How far a band has travelled along its line, metres. */
export function travelOf({ travel, gone }: Band, { curve }: GuideLine): number {
  return travel + (gone ? gone.metres + gone.rounds * curve.length : 0);
}
