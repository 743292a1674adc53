/** *Values over time thinned out*: of samples at even moments those that the rest lies between, to within a tolerance. */

/** How far off a value may be, and how values lie between two others. */
export interface Thinning {
  /** Numbers a value: 3 for places and sizes, 4 for unit quaternions. */
  width: 3 | 4;
  /** Metres, factors, or radians for quaternions. */
  tolerance: number;
}

/**
 * The samples that are kept, rising: the first and the last, and whatever lies farther off the way between its neighbours than
 * allowed (D. H. Douglas, T. K. Peucker, 1973). A single one where nothing changes.
 *
 * @param values `width` numbers for each of `n` samples
 */
export function thinned(values: ArrayLike<number>, n: number, { width, tolerance }: Thinning): number[] {
  const keep = new Uint8Array(n);
  keep[0] = keep[n - 1] = 1;
  const stack: [number, number][] = [[0, n - 1]];
  for (let next = stack.pop(); next; next = stack.pop()) {
    const [a, b] = next;
    let [worst, far] = [-1, tolerance];
    for (let i = a + 1; i < b; i++) {
      const off = offWay(values, width, a, b, i);
      if (off > far) [worst, far] = [i, off];
    }
    if (worst < 0) continue;
    keep[worst] = 1;
    stack.push([a, worst], [worst, b]);
  }
  const kept: number[] = [];
  for (let i = 0; i < n; i++) if (keep[i]) kept.push(i);
  const still = kept.length === 2 && offWay(values, width, 0, 0, n - 1) <= tolerance;
  return still ? [0] : kept;
}

/** How far sample `i` lies off the even way from `a` to `b`. */
function offWay(values: ArrayLike<number>, width: 3 | 4, a: number, b: number, i: number): number {
  const share = b > a ? (i - a) / (b - a) : 0;
  if (width === 4) return turnOff(values, a, b, i, share);
  let sum = 0;
  for (let k = 0; k < 3; k++) {
    const from = values[3 * a + k];
    sum += (from + share * (values[3 * b + k] - from) - values[3 * i + k]) ** 2;
  }
  return Math.sqrt(sum);
}

/** The angle between a quaternion and the one a share of the shorter way from one to another, by spherical interpolation. */
function turnOff(Q: ArrayLike<number>, a: number, b: number, i: number, share: number): number {
  let dot = 0;
  for (let k = 0; k < 4; k++) dot += Q[4 * a + k] * Q[4 * b + k];
  const sign = dot < 0 ? -1 : 1;
  const angle = Math.acos(Math.min(1, Math.abs(dot)));
  const [p, q] =
    angle < 1e-6
      ? [1 - share, share]
      : [Math.sin((1 - share) * angle) / Math.sin(angle), Math.sin(share * angle) / Math.sin(angle)];
  let [along, length] = [0, 0];
  for (let k = 0; k < 4; k++) {
    const value = p * Q[4 * a + k] + sign * q * Q[4 * b + k];
    along += value * Q[4 * i + k];
    length += value * value;
  }
  return 2 * Math.acos(Math.min(1, Math.abs(along) / Math.sqrt(length || 1)));
}
