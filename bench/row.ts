/** *A row of the table*: the same work done by us and by a public library, in one run. */

/** Two ways of doing the same work; each call does all of it anew. */
export interface Contest {
  name: string;
  /** How many placements. */
  n: number;
  /** The library and what of it is used. */
  peer: string;
  ours: () => unknown;
  theirs: () => unknown;
}

export interface Row {
  name: string;
  n: number;
  ours_ms: number;
  peer: string;
  peer_ms: number;
  /** How many times as long the peer takes. */
  ratio: number;
}

/** Runs that are not counted, until the compiler has settled; then runs that are. */
const WARM_UP = 5;
const RUNS = 15;

const milliseconds = (work: () => unknown): number => {
  const start = performance.now();
  work();
  return performance.now() - start;
};

const median = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
};

/** The median time of one side, milliseconds. */
function time(work: () => unknown): number {
  const times: number[] = [];
  for (let run = -WARM_UP; run < RUNS; run++) {
    const ms = milliseconds(work);
    if (run >= 0) times.push(ms);
  }
  return median(times);
}

/** One side after the other, so that nobody's garbage is collected in the other's time. */
export function compete({ name, n, peer, ours, theirs }: Contest): Row {
  const ours_ms = time(ours);
  const peer_ms = time(theirs);
  return { name, n, ours_ms, peer, peer_ms, ratio: peer_ms / ours_ms };
}
