/** *A row of the table*: the same work done by us and by a public library, in one run. */
import { setFlagsFromString } from "node:v8";
import { runInNewContext } from "node:vm";

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
  /** Null for what is only reported. */
  peer: string | null;
  peer_ms: number | null;
  /** How many times as long the peer takes. */
  ratio: number | null;
  /** What else there is to say. */
  note?: string;
}

/** Runs that are not counted, until the compiler has settled. */
const WARM_UP = 12;
/** The sides take turns so often, each for so many milliseconds, and for so many in all. */
const ROUNDS = 20;
const TURN_MS = 600;
const MOST_MS = 60_000;

/** Collects all garbage, so that what one side leaves lying is not cleared away in the other's time. */
const collect = (() => {
  setFlagsFromString("--expose-gc");
  return runInNewContext("gc") as () => void;
})();

const milliseconds = (work: () => unknown): number => {
  const start = performance.now();
  work();
  return performance.now() - start;
};

/** The least time of several runs: of so many, or as many as fit a turn, but no fewer than two. */
function quickest(work: () => unknown, runs = Infinity): number {
  collect();
  const end = performance.now() + TURN_MS;
  let least = Infinity;
  for (let run = 0; run < runs && (run < 2 || runs < Infinity || performance.now() < end); run++) {
    least = Math.min(least, milliseconds(work));
  }
  return least;
}

/**
 * The quickest run of each side. Other work on the machine only ever makes a run slower, and it comes and goes: so the
 * sides take turns, and what counts is what each needs when it is left alone.
 */
export function compete({ name, n, peer, ours, theirs }: Contest): Row {
  const end = performance.now() + MOST_MS;
  quickest(ours, WARM_UP);
  quickest(theirs, WARM_UP);
  let [ours_ms, peer_ms] = [Infinity, Infinity];
  for (let round = 0; round < ROUNDS && (round < 2 || performance.now() < end); round++) {
    ours_ms = Math.min(ours_ms, quickest(ours));
    peer_ms = Math.min(peer_ms, quickest(theirs));
  }
  return { name, n, ours_ms, peer, peer_ms, ratio: peer_ms / ours_ms };
}
