/** Straight steps along a curve: where is it first so far away, as the crow flies, from a place on it? */
import type { Track } from "./curve";

/** A chord is found to within this share of itself. */
const EXACT = 1e-7;
/** Where Newton's method does not settle, the curve is searched in pieces of this share of the chord. */
const PIECE = 0.25;
const NEWTON = 12;
/** Newton's method is trusted where the curve leads away by at least this share, is past by no more than … and not so far. */
const STEADY = 0.5;
const CLOSE = 0.05;
const FAR = 1.5;
/** However far chords overlap, each begins at least this share of its length after the one before it. */
export const LEAST_STEP = 0.01;
/** A search through more pieces than this ends where it is. */
const MAX_PIECES = 4_000_000;

/** So many chords at once are looked for together. */
export const TOGETHER = 128;
const ROUNDS = 6;

/** *Finds chords from place to place on one curve*, without making anything anew for each. */
export class ChordFinder {
  readonly #curve: Track;
  /** Position and tangent at the place last looked at. */
  readonly #place = new Float64Array(6);
  #pieces = 0;
  #room: Room | null = null;
  /** By how much more than its length the last chord's stretch of curve was, as a share of it; and the one before. */
  #excess = 0;
  #excessBefore = 0;
  #x = 0;
  #y = 0;
  #z = 0;
  /** The direction of the chord last looked at, times its length, against the tangent at its end. */
  #slope = 0;

  constructor(curve: Track) {
    this.#curve = curve;
  }

  /**
   * The first arc length after `from`, or before it with `way` -1, at which the curve is `chord` metres away from where it
   * is at `from`; past the ends of an open curve it runs on straight. NaN where it does not get so far within `reach`
   * metres of curve.
   */
  next(from: number, chord: number, reach: number, way: 1 | -1 = 1): number {
    const place = this.#place;
    this.#curve.sampleAt(from, place);
    this.#x = place[0];
    this.#y = place[1];
    this.#z = place[2];
    // Chords follow each other along the line: how much longer than itself the next one runs can be told ahead.
    let run = chord * (1 + Math.max(-0.01, Math.min(0.1, 2 * this.#excess - this.#excessBefore)));
    for (let i = 0; i < NEWTON; i++) {
      const short = chord - this.#distanceTo(from + way * run);
      if (Math.abs(short) <= EXACT * chord) {
        this.#excessBefore = this.#excess;
        this.#excess = run / chord - 1;
        return from + way * run;
      }
      // Only where the curve leads away steadily is its first crossing the one that Newton finds.
      const slope = way * this.#slope;
      if (!(slope > STEADY) || short < -CLOSE * chord) break;
      run += short / slope;
      if (run > FAR * chord) break;
    }
    return from + way * this.#search(from, chord, reach, way);
  }

  /**
   * Up to {@link TOGETHER} chords one behind the other, each next one beginning `gap` after the end of the one before it, but
   * never before a hundredth of that. Writes where each begins and ends into `spans`; gives how many were found. Where the
   * curve turns too sharply for the next one, {@link next} has to be asked.
   *
   * @param rooms the chords' lengths, metres
   */
  together(start: number, rooms: Float64Array, n: number, gap: number, spans: Float64Array): number {
    const { runs, lengths, position, tangent } = (this.#room ??= roomFor(TOGETHER));
    for (let k = 0; k < n; k++) runs[k] = rooms[k] * (1 + this.#excess);
    let good = n;
    for (let round = 0; round < ROUNDS && good > 0; round++) {
      let from = start;
      for (let k = 0; k < good; k++) {
        const to = from + runs[k];
        spans[2 * k] = from;
        spans[2 * k + 1] = to;
        from = Math.max(to + gap, from + LEAST_STEP * rooms[k]);
      }
      if (round === 0) {
        // Where the curve hardly bends the first guess is exact, and nothing else need be looked at.
        this.#curve.chordLengths(spans, good, lengths);
        let k = 0;
        while (k < good && Math.abs(rooms[k] - lengths[k]) <= EXACT * rooms[k]) k++;
        if (k === good) return this.#found(good, rooms);
        continue;
      }
      this.#curve.sample(spans, 2 * good, position, tangent);
      let exact = true;
      for (let k = 0; k < good; k++) {
        const p = 6 * k;
        const x = position[p + 3] - position[p];
        const y = position[p + 4] - position[p + 1];
        const z = position[p + 5] - position[p + 2];
        const chord = rooms[k];
        const away = Math.sqrt(x * x + y * y + z * z);
        const short = chord - away;
        if (Math.abs(short) <= EXACT * chord) continue;
        const slope = (x * tangent[p + 3] + y * tangent[p + 4] + z * tangent[p + 5]) / away;
        runs[k] += short / slope;
        if (!(slope > STEADY) || short < -CLOSE * chord || runs[k] > FAR * chord) good = k;
        else exact = false;
      }
      if (exact) return this.#found(good, rooms);
    }
    return 0;
  }

  /** Remembers of so many chords how much longer than itself the last one runs. */
  #found(count: number, rooms: Float64Array): number {
    const { runs } = this.#room!;
    if (count > 0) this.#excessBefore = this.#excess = runs[count - 1] / rooms[count - 1] - 1;
    return count;
  }

  #search(from: number, chord: number, reach: number, way: 1 | -1): number {
    let low = chord;
    let high = chord;
    while (this.#distanceTo(from + way * high) < chord * (1 - EXACT)) {
      if (high > reach || ++this.#pieces > MAX_PIECES) return NaN;
      low = high;
      high += PIECE * chord;
    }
    // The bracket is halved, which needs no slope and cannot leave it.
    for (let i = 0; i < 60 && high - low > EXACT * chord; i++) {
      const middle = (low + high) / 2;
      if (this.#distanceTo(from + way * middle) < chord) low = middle;
      else high = middle;
    }
    return high;
  }

  #distanceTo(s: number): number {
    const place = this.#place;
    this.#curve.sampleAt(s, place);
    const x = place[0] - this.#x;
    const y = place[1] - this.#y;
    const z = place[2] - this.#z;
    const away = Math.sqrt(x * x + y * y + z * z);
    this.#slope = (x * place[3] + y * place[4] + z * place[5]) / away;
    return away;
  }
}

/** What {@link ChordFinder.together} works in. */
interface Room {
  runs: Float64Array;
  lengths: Float64Array;
  position: Float64Array;
  tangent: Float64Array;
}

const roomFor = (n: number): Room => ({
  runs: new Float64Array(n),
  lengths: new Float64Array(n),
  position: new Float64Array(6 * n),
  tangent: new Float64Array(6 * n),
});
