/** *How far places are from a line*, up to a reach: the line as short straight pieces, looked up in a grid by where they begin. */
import { squaredToSegment } from "../../math";
import { PointGrid } from "../../mesh";
import type { Curve } from "../../line";

/** What rounding may take from a reach, as a share. */
const SLACK = 1e-9;

export class NearLine {
  readonly #points: Float64Array;
  readonly #starts: PointGrid;
  readonly #reach: number;
  readonly #search: number;

  /**
   * @param pieces how many straight pieces stand for the curve
   * @param reach metres; what is farther is not looked for
   */
  constructor(curve: Curve, pieces: number, reach: number) {
    const n = pieces + 1;
    const at = Float64Array.from({ length: n }, (_, i) => (curve.length * i) / pieces);
    // A closed line's last place is its first one again, which is where its last piece ends.
    const points = new Float64Array(3 * n);
    curve.sample(at, n, points, null);
    this.#points = points;
    this.#reach = reach;
    // What is within reach of a piece is no farther than that and the piece's length from where it begins.
    this.#search = (reach + curve.length / pieces) * (1 + SLACK);
    this.#starts = new PointGrid(pieces);
    for (let p = 0; p < pieces; p++) this.#starts.push(points[3 * p], points[3 * p + 1], points[3 * p + 2]);
    this.#starts.resize(this.#search);
  }

  /** Metres to the nearest place of the line; the reach where that is farther. */
  distance(x: number, y: number, z: number): number {
    const P = this.#points;
    const found = this.#starts.gather(x, y, z, this.#search);
    let squared = this.#reach ** 2;
    for (let k = 0; k < found; k++) {
      const p = 3 * this.#starts.near[k];
      const [ax, ay, az] = [P[p], P[p + 1], P[p + 2]];
      const far = squaredToSegment(x - ax, y - ay, z - az, P[p + 3] - ax, P[p + 4] - ay, P[p + 5] - az);
      if (far < squared) squared = far;
    }
    return Math.min(this.#reach, Math.sqrt(squared));
  }
}
