/**
 * *Sparse symmetric systems*, factored once and solved as often as one likes: LDLᵀ, row by row along the elimination tree
 * (T. A. Davis, *Algorithm 849: A Concise Sparse Cholesky Factorization Package*, ACM TOMS 31(4), 2005). What is left of the
 * zeros hangs on the order in which unknowns are eliminated: see `dissection.ts`.
 *
 *     const matrix = symmetric(3, [0, 1, 2, 1], [0, 1, 2, 0], [2, 2, 2, -1]);
 *     Ldl.of(matrix, Uint32Array.of(0, 1, 2))!.solve(b); // b becomes x
 */

/** A symmetric matrix by columns, both halves written out: those of column j are `start[j]` to `start[j + 1]`. */
export interface Symmetric {
  n: number;
  start: Int32Array;
  row: Int32Array;
  value: Float64Array;
}

/** From entries of one half, or of the diagonal, in any order; what is named twice is added up. */
export function symmetric(
  n: number,
  rows: ArrayLike<number>,
  columns: ArrayLike<number>,
  values: ArrayLike<number>,
): Symmetric {
  const start = new Int32Array(n + 1);
  for (let e = 0; e < rows.length; e++) {
    start[columns[e] + 1]++;
    if (rows[e] !== columns[e]) start[rows[e] + 1]++;
  }
  for (let j = 0; j < n; j++) start[j + 1] += start[j];
  const next = start.slice(0, n);
  const row = new Int32Array(start[n]);
  const value = new Float64Array(start[n]);
  const put = (i: number, j: number, x: number) => {
    row[next[j]] = i;
    value[next[j]++] = x;
  };
  for (let e = 0; e < rows.length; e++) {
    put(rows[e], columns[e], values[e]);
    if (rows[e] !== columns[e]) put(columns[e], rows[e], values[e]);
  }
  return summed({ n, start, row, value });
}

/** Each place once. */
function summed({ n, start, row, value }: Symmetric): Symmetric {
  const at = new Int32Array(n).fill(-1);
  const begin = new Int32Array(n + 1);
  let count = 0;
  for (let j = 0; j < n; j++) {
    const first = count;
    for (let p = start[j]; p < start[j + 1]; p++) {
      const known = at[row[p]];
      if (known >= first && row[known] === row[p]) value[known] += value[p];
      else {
        at[row[p]] = count;
        row[count] = row[p];
        value[count++] = value[p];
      }
    }
    begin[j + 1] = count;
  }
  return { n, start: begin, row: row.slice(0, count), value: value.slice(0, count) };
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
    this.#work = new Float64Array(n);
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

  /** Solves for one right-hand side, in place: n. */
  solve(b: Float64Array): void {
    const n = this.#n;
    const [L, Li, Lx, D, x, order] = [this.#start, this.#row, this.#value, this.#diagonal, this.#work, this.#order];
    for (let k = 0; k < n; k++) x[k] = b[order[k]];
    for (let k = 0; k < n; k++) {
      const xk = x[k];
      for (let p = L[k]; p < L[k + 1]; p++) x[Li[p]] -= Lx[p] * xk;
    }
    for (let k = 0; k < n; k++) x[k] /= D[k];
    for (let k = n - 1; k >= 0; k--) {
      let xk = x[k];
      for (let p = L[k]; p < L[k + 1]; p++) xk -= Lx[p] * x[Li[p]];
      x[k] = xk;
    }
    for (let k = 0; k < n; k++) b[order[k]] = x[k];
  }
}

/** On which later unknown each one's elimination bears first, and where the columns of L begin. */
function eliminationTree(
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
