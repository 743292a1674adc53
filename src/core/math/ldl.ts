/**
 * *Sparse symmetric systems*, factored once and solved as often as one likes: LDLᵀ, row by row along the elimination tree
 * (T. A. Davis, *Algorithm 849: A Concise Sparse Cholesky Factorization Package*, ACM TOMS 31(4), 2005). What is left of the
 * zeros hangs on the order in which unknowns are eliminated: see `minimum-degree.ts`.
 *
 *     const matrix = symmetric(3, [0, 1, 2, 1], [0, 1, 2, 0], [2, 2, 2, -1]);
 *     Ldl.of(matrix, Uint32Array.of(0, 1, 2))!.solveBoth(a, b); // a and b become what they are made of
 */

/** A symmetric matrix by columns, both halves written out: those of column j are `start[j]` to `start[j + 1]`. */
export interface Symmetric {
  n: number;
  start: Int32Array;
  row: Int32Array;
  value: Float64Array;
}

/** The same of complex numbers, each the conjugate of its mirror image. */
export interface Hermitian extends Symmetric {
  imaginary: Float64Array;
}

/** From entries of one half, or of the diagonal, in any order; what is named twice is added up. */
export function symmetric(
  n: number,
  rows: ArrayLike<number>,
  columns: ArrayLike<number>,
  values: ArrayLike<number>,
): Symmetric {
  const { start, row, parts } = mirrored(n, rows, columns, [[values, 1]]);
  return { n, start, row, value: parts[0] };
}

/** Of complex entries likewise. */
export function hermitian(
  n: number,
  rows: ArrayLike<number>,
  columns: ArrayLike<number>,
  values: ArrayLike<number>,
  imaginary: ArrayLike<number>,
): Hermitian {
  const { start, row, parts } = mirrored(n, rows, columns, [
    [values, 1],
    [imaginary, -1],
  ]);
  return { n, start, row, value: parts[0], imaginary: parts[1] };
}

interface Mirrored {
  start: Int32Array;
  row: Int32Array;
  parts: Float64Array[];
}

/** Both halves by columns, each place once. @param parts numbers of the entries, and what they are times in the other half */
function mirrored(
  n: number,
  rows: ArrayLike<number>,
  columns: ArrayLike<number>,
  parts: readonly (readonly [ArrayLike<number>, 1 | -1])[],
): Mirrored {
  const start = new Int32Array(n + 1);
  for (let e = 0; e < rows.length; e++) {
    start[columns[e] + 1]++;
    if (rows[e] !== columns[e]) start[rows[e] + 1]++;
  }
  for (let j = 0; j < n; j++) start[j + 1] += start[j];
  const next = start.slice(0, n);
  const row = new Int32Array(start[n]);
  /** Where each entry is from; counted from −1 down where it is mirrored. */
  const from = new Int32Array(start[n]);
  for (let e = 0; e < rows.length; e++) {
    const [i, j] = [rows[e], columns[e]];
    row[next[j]] = i;
    from[next[j]++] = e;
    if (i === j) continue;
    row[next[i]] = j;
    from[next[i]++] = -1 - e;
  }
  const at = new Int32Array(n).fill(-1);
  const begin = new Int32Array(n + 1);
  const sums = parts.map(() => new Float64Array(start[n]));
  let count = 0;
  for (let j = 0; j < n; j++) {
    const first = count;
    for (let p = start[j]; p < start[j + 1]; p++) {
      const known = at[row[p]];
      const place = known >= first && row[known] === row[p] ? known : count++;
      at[row[p]] = place;
      row[place] = row[p];
      for (let k = 0; k < parts.length; k++) {
        const [values, sign] = parts[k];
        sums[k][place] += from[p] >= 0 ? values[from[p]] : sign * values[-1 - from[p]];
      }
    }
    begin[j + 1] = count;
  }
  return { start: begin, row: row.slice(0, count), parts: sums.map((sum) => sum.slice(0, count)) };
}

export class Ldl {
  readonly #n: number;
  /** Which unknown is eliminated when: n. */
  readonly #order: Uint32Array;
  /** L below its diagonal of ones, by columns. */
  readonly #start: Int32Array;
  readonly #row: Int32Array;
  readonly #value: Float64Array;
  readonly #diagonal: Float64Array;
  readonly #work: Float64Array;

  private constructor(n: number, order: Uint32Array, start: Int32Array, diagonal: Float64Array) {
    this.#n = n;
    this.#order = order;
    this.#start = start;
    this.#row = new Int32Array(start[n]);
    this.#value = new Float64Array(start[n]);
    this.#diagonal = diagonal;
    this.#work = new Float64Array(2 * n);
  }

  /** Entries of L below its diagonal. */
  get entries(): number {
    return this.#row.length;
  }

  /**
   * @param order which unknown is eliminated when: a permutation of 0 to n − 1
   * @returns null where the matrix is not positive definite
   */
  static of(matrix: Symmetric, order: Uint32Array): Ldl | null {
    const { n } = matrix;
    const place = new Int32Array(n);
    for (let k = 0; k < n; k++) place[order[k]] = k;
    const { parent, start } = eliminationTree(matrix, order, place);
    const ldl = new Ldl(n, order, start, new Float64Array(n));
    return ldl.#factor(matrix, place, parent) ? ldl : null;
  }

  #factor({ start, row, value }: Symmetric, place: Int32Array, parent: Int32Array): boolean {
    const n = this.#n;
    const [L, Li, Lx, D] = [this.#start, this.#row, this.#value, this.#diagonal];
    const filled = new Int32Array(n);
    const y = new Float64Array(n);
    const seen = new Int32Array(n).fill(-1);
    const pattern = new Int32Array(n);
    for (let k = 0; k < n; k++) {
      const column = this.#order[k];
      let top = n;
      seen[k] = k;
      for (let p = start[column]; p < start[column + 1]; p++) {
        let i = place[row[p]];
        if (i > k) continue;
        y[i] += value[p];
        let long = 0;
        for (; seen[i] !== k; i = parent[i]) {
          pattern[long++] = i;
          seen[i] = k;
        }
        while (long > 0) pattern[--top] = pattern[--long];
      }
      let d = y[k];
      const size = Math.abs(d);
      y[k] = 0;
      for (; top < n; top++) {
        const i = pattern[top];
        const yi = y[i];
        y[i] = 0;
        const end = L[i] + filled[i];
        for (let p = L[i]; p < end; p++) y[Li[p]] -= Lx[p] * yi;
        const l = yi / D[i];
        d -= l * yi;
        Li[end] = k;
        Lx[end] = l;
        filled[i]++;
      }
      if (!(d > 1e-14 * size)) return false;
      D[k] = d;
    }
    return true;
  }

  /** Solves for two right-hand sides at once, in place: n each. */
  solveBoth(a: Float64Array, b: Float64Array): void {
    const n = this.#n;
    const [L, Li, Lx, D, order] = [this.#start, this.#row, this.#value, this.#diagonal, this.#order];
    const x = this.#work;
    for (let k = 0; k < n; k++) {
      x[2 * k] = a[order[k]];
      x[2 * k + 1] = b[order[k]];
    }
    for (let k = 0; k < n; k++) {
      const [xk, yk] = [x[2 * k], x[2 * k + 1]];
      for (let p = L[k]; p < L[k + 1]; p++) {
        const o = 2 * Li[p];
        x[o] -= Lx[p] * xk;
        x[o + 1] -= Lx[p] * yk;
      }
    }
    for (let k = n - 1; k >= 0; k--) {
      let xk = x[2 * k] / D[k];
      let yk = x[2 * k + 1] / D[k];
      for (let p = L[k]; p < L[k + 1]; p++) {
        const o = 2 * Li[p];
        xk -= Lx[p] * x[o];
        yk -= Lx[p] * x[o + 1];
      }
      x[2 * k] = xk;
      x[2 * k + 1] = yk;
      a[order[k]] = xk;
      b[order[k]] = yk;
    }
  }
}

/** On which later unknown each one's elimination bears first, and where the columns of L begin. */
export function eliminationTree(
  { n, start, row }: Symmetric,
  order: Uint32Array,
  place: Int32Array,
): { parent: Int32Array; start: Int32Array } {
  const parent = new Int32Array(n).fill(-1);
  const seen = new Int32Array(n);
  const count = new Int32Array(n + 1);
  for (let k = 0; k < n; k++) {
    seen[k] = k;
    const column = order[k];
    for (let p = start[column]; p < start[column + 1]; p++) {
      for (let i = place[row[p]]; i < k && seen[i] !== k; i = parent[i]) {
        if (parent[i] < 0) parent[i] = k;
        count[i + 1]++;
        seen[i] = k;
      }
    }
  }
  for (let k = 0; k < n; k++) count[k + 1] += count[k];
  return { parent, start: count };
}
