/** *Joining what an engine's surfaces want*, in the thread that asks for it. */
import { creased, factsOf, inCell, Joiner, solidLibrary, type CellSolver } from "@/core/solid";
import { InputError } from "@/core/schema";
import type { Engine } from "./engine";
import type { SolidJob, Solved } from "./solids";

/** *Does one job after the other*, and knows the cells of the last one. */
export class Solver {
  #joiner: Joiner | null = null;
  readonly #others: readonly CellSolver[];

  /** @param others share the cells among them, where there are several */
  constructor(others: readonly CellSolver[] = []) {
    this.#others = others;
  }

  /**
   * What a job comes to; null once it is given up.
   *
   * @param goOn is told how far it is, from 0 to 1; once it says no, the job is given up
   * @throws InputError when the bodies cannot be joined
   */
  async solve({ name, steps }: SolidJob, goOn?: (share: number) => Promise<boolean>): Promise<Solved | null> {
    const library = await solidLibrary();
    const own: CellSolver = (cell) => Promise.resolve(inCell(library, cell));
    this.#joiner ??= new Joiner(library, own, this.#others);
    try {
      const joined = await this.#joiner.join(steps, { goOn });
      return joined && { name, mesh: creased(joined.mesh), facts: factsOf(joined.mesh, joined.open) };
    } catch (error) {
      // What fails in there may have left anything behind.
      this.#joiner = null;
      throw new InputError(
        `The bodies could not be joined: ${error instanceof Error ? error.message : String(error)}.`,
      );
    }
  }
}

/** A solid may be made of solids, so deep. */
const DEEPEST = 16;

/**
 * Joins whatever an engine's surfaces want, until nothing is wanted any more.
 *
 * @param kept what is known already, by the names of jobs
 */
export async function solveAll(
  engine: Engine,
  kept: ReadonlyMap<string, Solved> = new Map(),
  solver = new Solver(),
): Promise<void> {
  for (let round = 0; round < DEEPEST; round++) {
    const waiting = unsolved(engine);
    if (waiting.length === 0) return;
    for (const id of waiting) {
      const job = engine.solidJob(id);
      const solved = job && (kept.get(job.name) ?? (await solver.solve(job)));
      if (solved) engine.learnSolid(id, solved);
    }
  }
}

/** The surfaces for which something is to be joined that is not known yet. */
export const unsolved = (engine: Engine): string[] =>
  [...engine.solids].flatMap(([id, { job, solved }]) => (job !== null && job !== solved?.name ? [id] : []));
