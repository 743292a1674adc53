/** *The rim of a plane* that is cut at whole steps from its middle: what is left over there, and of what it is a part. */
import { faceName } from "./lattice";
import type { CutFaces } from "../mesh";

/** Where a side is cut, metres from the middle: at both ends, and in whole pieces between them. */
export interface Cuts {
  at: Float64Array;
  piece: number;
}

/** A whole piece of a side, and its number from the middle. */
interface Whole {
  from: number;
  to: number;
  number: number;
}

/** The whole pieces that what lies between the i-th cut and the next is a part of; at a rim the one beyond it too. */
function wholesOf({ at, piece }: Cuts, i: number): Whole[] {
  const last = at.length - 2;
  const number = i - ((at.length - 1) >> 1);
  if (i > 0 && i < last) return [{ from: at[i], to: at[i + 1], number }];
  const way = i === 0 ? -1 : 1;
  const inner = i === 0 ? at[1] : at[i];
  return [0, 1].map((k) => {
    const ends = [inner + way * k * piece, inner + way * (k + 1) * piece];
    return { from: Math.min(...ends), to: Math.max(...ends), number: number + way * k };
  });
}

/**
 * The triangles of a lattice's rim, each with all whole ones that it may be a part of or lie beside.
 *
 * @param index of the lattice, whose rows lie along -z
 */
export function cutAtRim(index: Uint32Array, across: Cuts, along: Cuts): CutFaces | undefined {
  const columns = across.at.length;
  if (columns < 4 || along.at.length < 4) return undefined;
  const triangle: number[] = [];
  const name: number[] = [];
  const corners: number[] = [];
  for (let t = 0; 3 * t < index.length; t++) {
    const vertices = index.subarray(3 * t, 3 * t + 3);
    const [row, column] = [Math.floor(vertices[0] / columns), vertices[0] % columns];
    if (row > 0 && row < along.at.length - 2 && column > 0 && column < columns - 2) continue;
    const plan = Array.from(vertices, (v) => [across.at[v % columns], along.at[Math.floor(v / columns)]] as const);
    for (const high of wholesOf(along, row)) {
      for (const wide of wholesOf(across, column)) {
        for (const half of [0, 1] as const) {
          const [a, b, c, d] = [
            [wide.from, high.from],
            [wide.to, high.from],
            [wide.to, high.to],
            [wide.from, high.to],
          ] as const;
          const whole = (half === 0 ? [a, b, c] : [a, c, d]).map((point) => weightsOf(plan, point));
          triangle.push(t);
          name.push(faceName(high.number, wide.number, half));
          corners.push(...whole.flat());
        }
      }
    }
  }
  return {
    triangle: Uint32Array.from(triangle),
    name: Uint32Array.from(name),
    corners: Float64Array.from(corners),
  };
}

type Point = readonly [number, number];

/** The weights of a triangle's second and third corner that give a point of its plane. */
function weightsOf([a, b, c]: readonly Point[], [x, y]: Point): [number, number] {
  const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], c[0] - a[0], c[1] - a[1]];
  const [px, py] = [x - a[0], y - a[1]];
  const whole = ux * vy - uy * vx;
  return [(px * vy - py * vx) / whole, (ux * py - uy * px) / whole];
}
