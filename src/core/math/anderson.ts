/**
 * *Rounds that draw nearer and nearer, drawn on*: how the last two differ says how far the next ones would lead (D. G. Anderson, 1965,
 * with one round remembered; for rounds that are local and global by turns: Y. Peng, B. Deng, J. Zhang and others, *Anderson Acceleration
 * for Geometry Optimization*, ACM TOG 37(4), 2018). Where that made it worse it is to be taken back.
 *
 *     const on = new Anderson([x, y]);
 *     for (;;) {
 *       if (worse && on.ahead) on.takeBack();
 *       else on.next([roundOfX, roundOfY]); // x and y lie farther on than the round came to
 *     }
 */
export class Anderson {
  /** Whether what is there lies farther on than the last round came to. */
  ahead = false;
  readonly #at: readonly Float64Array[];
  readonly #came: Float64Array[];
  readonly #steps: Float64Array[];
  #rounds = 0;

  /** @param at what rounds begin from, all of one system; written at each step */
  constructor(at: readonly Float64Array[]) {
    this.#at = at;
    this.#came = at.map(({ length }) => new Float64Array(length));
    this.#steps = at.map(({ length }) => new Float64Array(length));
  }

  /** Goes on from what a round came to. */
  next(came: readonly Float64Array[]): void {
    const share = this.#rounds > 0 ? this.#share(came) : 0;
    for (let k = 0; k < came.length; k++) {
      const [now, at, before, steps] = [came[k], this.#at[k], this.#came[k], this.#steps[k]];
      for (let i = 0; i < at.length; i++) {
        steps[i] = now[i] - at[i];
        at[i] = now[i] - share * (now[i] - before[i]);
        before[i] = now[i];
      }
    }
    this.ahead = share !== 0;
    this.#rounds++;
  }

  /** Back to what the last round came to. */
  takeBack(): void {
    this.#at.forEach((at, k) => at.set(this.#came[k]));
    this.ahead = false;
    this.#rounds = 0;
  }

  /** How much of the way between the last two rounds, taken off, leaves the least step. */
  #share(came: readonly Float64Array[]): number {
    let [along, size] = [0, 0];
    for (let k = 0; k < came.length; k++) {
      const [now, at, steps] = [came[k], this.#at[k], this.#steps[k]];
      for (let i = 0; i < at.length; i++) {
        const step = now[i] - at[i];
        const more = step - steps[i];
        along += step * more;
        size += more * more;
      }
    }
    return size > 0 ? along / size : 0;
  }
}
