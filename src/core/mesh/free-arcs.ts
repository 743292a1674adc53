/** *What neighbours leave free of a circle*, as arcs (D. Dunbar, G. Humphreys, SIGGRAPH 2006). Angles are radians. */
const TURN = 2 * Math.PI;
/** Arcs shorter than this are none. */
export const SHORT = 1e-4;

export class FreeArcs {
  /** How many arcs are left. */
  count = 0;
  readonly #from = new Float64Array(128);
  readonly #to = new Float64Array(128);

  reset(): void {
    this.#from[0] = 0;
    this.#to[0] = TURN;
    this.count = 1;
  }

  /**
   * Takes away what a neighbour in direction (u, v) covers.
   *
   * @param squared how far it lies from the circle's middle, squared
   * @param least how far it covers
   */
  cover(u: number, v: number, squared: number, radius: number, least: number): void {
    const cosine = (squared + radius * radius - least * least) / (2 * radius * Math.sqrt(squared));
    if (!(cosine < 1)) return;
    const half = Math.acos(Math.max(-1, cosine));
    const signed = Math.atan2(v, u);
    const angle = signed < 0 ? signed + TURN : signed;
    this.subtract(angle - half, angle + half);
  }

  /** Takes away an arc no longer than a whole turn. */
  subtract(from: number, to: number): void {
    if (from < 0) {
      this.#cut(from + TURN, TURN);
      this.#cut(0, to);
    } else if (to > TURN) {
      this.#cut(from, TURN);
      this.#cut(0, to - TURN);
    } else this.#cut(from, to);
  }

  /** The middle of the longest. */
  middle(): number {
    let [best, long] = [0, -1];
    for (let k = 0; k < this.count; k++) {
      const arc = this.#to[k] - this.#from[k];
      if (arc <= long) continue;
      long = arc;
      best = 0.5 * (this.#to[k] + this.#from[k]);
    }
    return best;
  }

  #cut(from: number, to: number): void {
    const starts = this.#from;
    const ends = this.#to;
    for (let k = 0; k < this.count; k++) {
      const start = starts[k];
      const end = ends[k];
      if (end <= from || start >= to) continue;
      const before = from - start > SHORT;
      const after = end - to > SHORT;
      if (before) ends[k] = from;
      if (after && !before) starts[k] = to;
      else if (after && this.count < starts.length) {
        starts[this.count] = to;
        ends[this.count++] = end;
      } else if (!before) {
        this.count--;
        starts[k] = starts[this.count];
        ends[k] = ends[this.count];
        k--;
      }
    }
  }
}
