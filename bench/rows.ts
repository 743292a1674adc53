/**
 * *The rows of the table by name.* Each is measured in a process of its own, as `million` is: what another row's work leaves
 * behind (a heap in pieces, code that was compiled for other arrays) made some take half as long again.
 */
import { sayingOf } from "./alone";
import { compete, type Contest, type Row } from "./row";

const one = (contests: readonly Contest[], name: string): Row[] =>
  contests.filter((contest) => contest.name === name).map(compete);
const line = async (name: string) => one((await import("./lines")).lineContests(), name);
const surface = async (name: string) => one((await import("./surfaces")).surfaceContests().contests, name);
const moving = async (name: string) => one((await import("./moving")).movingContests(), name);

const ROWS: Readonly<Record<string, (name: string) => Promise<Row[]>>> = {
  "line-100k": line,
  "evaluate-100k": line,
  "re-evaluate-variation-100k": line,
  "drop-100k": surface,
  "random-over-1m": surface,
  "even-over-100k": surface,
  "drop-building": async () => (await import("./surfaces")).surfaceContests().reports,
  "pins-100k": moving,
  "waves-200k": moving,
  "skin-100k": moving,
  "over-20k": async () => (await import("./over")).overRows(),
  unroll: async () => (await import("./unroll")).unrollRows(),
  "relief-100k": async () => [(await import("./wrap")).reliefRow()],
  "wrap-1m": async () => [(await import("./wrap")).wrapRow()],
  "rack-100k": async (name) => one((await import("./rack")).rackContests(), name),
  "assemblies-100k": async (name) => one((await import("./assemblies")).assemblyContests(), name),
  "assemblies-100k-all": async (name) => one((await import("./assemblies")).assemblyContests(), name),
  "assembly-peg": async () => [(await import("./assemblies")).assemblyPeg()],
  "sow-100k": async (name) => one([(await import("./sow")).sowContest()], name),
  engine: async () => (await import("./engine")).engineRows(),
};

export const ROW_NAMES = Object.keys(ROWS);

/** What comes before them where they are told. */
export const RESULT = "rows: ";

/** The rows of that name, some of which stand for several; measured here. */
export const measured = (name: string): Promise<Row[]> => ROWS[name](name);

/** The same, measured in a process of their own. */
export function rowsOf(name: string): Row[] {
  const told = sayingOf("row-alone", name);
  return JSON.parse(told.slice(told.lastIndexOf(RESULT) + RESULT.length)) as Row[];
}
