/** Positions in rows and columns along the texture coordinates of a surface, about so many metres apart. */
import type { Field } from "../../host";

/** Rows and columns are at most so many. */
const MOST = 2 ** 13;
/** For a row and a column as one number. */
const WIDE = 2 ** 26;

/** Positions on a mesh, as they are found. */
export interface UvRows {
  /** World coordinates, metres: 3 numbers each. */
  position: number[];
  triangle: number[];
  row: number[];
  column: number[];
}

/** What rows run over. */
type Part = Pick<Field, "ground"> & { region: Pick<Field["region"], "numbers"> };

/** Null where the mesh has no texture coordinates. */
export function uvRows({ ground, region }: Part, pitch: number, most: number): UvRows | null {
  const { uv, index, position: P } = ground;
  if (!uv) return null;
  const [du, dv] = steps(ground, uv, pitch);
  const out: UvRows = { position: [], triangle: [], row: [], column: [] };
  // Where texture coordinates lie on each other, a row and column is taken once.
  const taken = new Set<number>();
  const triangles = region.numbers ?? index.length / 3;
  const count = typeof triangles === "number" ? triangles : triangles.length;
  for (let k = 0; k < count && out.triangle.length < most; k++) {
    const t = typeof triangles === "number" ? k : triangles[k];
    const [a, b, c] = [index[3 * t], index[3 * t + 1], index[3 * t + 2]];
    const [au, av] = [uv[2 * a] / du, uv[2 * a + 1] / dv];
    const [bu, bv] = [uv[2 * b] / du - au, uv[2 * b + 1] / dv - av];
    const [cu, cv] = [uv[2 * c] / du - au, uv[2 * c + 1] / dv - av];
    const twice = bu * cv - bv * cu;
    if (!(Math.abs(twice) > 1e-12)) continue;
    // Columns and rows lie in the middles of their steps, so that none falls onto a seam.
    const [firstU, lastU] = [Math.ceil(au + Math.min(0, bu, cu) - 0.5), Math.floor(au + Math.max(0, bu, cu) - 0.5)];
    const [firstV, lastV] = [Math.ceil(av + Math.min(0, bv, cv) - 0.5), Math.floor(av + Math.max(0, bv, cv) - 0.5)];
    for (let u = firstU; u <= lastU && u - firstU < MOST; u++) {
      for (let v = firstV; v <= lastV && v - firstV < MOST; v++) {
        const [x, y] = [u + 0.5 - au, v + 0.5 - av];
        const second = (x * cv - y * cu) / twice;
        const third = (bu * y - bv * x) / twice;
        if (second < -1e-12 || third < -1e-12 || second + third > 1 + 1e-12) continue;
        const cell = u * WIDE + v;
        if (taken.has(cell)) continue;
        taken.add(cell);
        const first = 1 - second - third;
        for (let axis = 0; axis < 3; axis++) {
          out.position.push(first * P[3 * a + axis] + second * P[3 * b + axis] + third * P[3 * c + axis]);
        }
        out.triangle.push(t);
        out.row.push(u);
        out.column.push(v);
      }
    }
  }
  return out;
}

/**
 * How much of u and of v lies so many metres apart, on average over the surface; made so that a whole number of steps goes
 * once round from 0 to 1.
 */
function steps({ position: P, index }: Field["ground"], uv: Float32Array, pitch: number): [du: number, dv: number] {
  let [areas, alongU, alongV] = [0, 0, 0];
  for (let t = 0; t < index.length; t += 3) {
    const [a, b, c] = [index[t], index[t + 1], index[t + 2]];
    const gradients = gradientsOf(P, uv, a, b, c);
    if (!gradients) continue;
    const { area, perU, perV } = gradients;
    areas += area;
    alongU += area * Math.hypot(...perU);
    alongV += area * Math.hypot(...perV);
  }
  const whole = (metres: number) => 1 / Math.max(1, Math.min(MOST - 1, Math.round(metres / pitch)));
  return areas > 0 ? [whole(alongU / areas), whole(alongV / areas)] : [1, 1];
}

/** In a triangle, how a point moves in space when u, or v, grows by one; null where its texture coordinates have no area. */
export function gradientsOf(
  P: ArrayLike<number>,
  uv: ArrayLike<number>,
  a: number,
  b: number,
  c: number,
): { area: number; perU: [number, number, number]; perV: [number, number, number] } | null {
  const [bu, bv] = [uv[2 * b] - uv[2 * a], uv[2 * b + 1] - uv[2 * a + 1]];
  const [cu, cv] = [uv[2 * c] - uv[2 * a], uv[2 * c + 1] - uv[2 * a + 1]];
  const twice = bu * cv - bv * cu;
  if (!(Math.abs(twice) > 1e-20)) return null;
  const e = [0, 1, 2].map((axis) => P[3 * b + axis] - P[3 * a + axis]);
  const f = [0, 1, 2].map((axis) => P[3 * c + axis] - P[3 * a + axis]);
  const area = Math.hypot(e[1] * f[2] - e[2] * f[1], e[2] * f[0] - e[0] * f[2], e[0] * f[1] - e[1] * f[0]) / 2;
  return {
    area,
    perU: [0, 1, 2].map((k) => (cv * e[k] - bv * f[k]) / twice) as [number, number, number],
    perV: [0, 1, 2].map((k) => (bu * f[k] - cu * e[k]) / twice) as [number, number, number],
  };
}
