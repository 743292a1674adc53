/**
 * *Closed meshes joined, cut and overlapped*, cell by cell, so that a change in one place redoes only what lies there, and so
 * that several workers share the work.
 *
 *     const library = await solidLibrary();
 *     const joiner = new Joiner(library, (steps) => Promise.resolve(inCell(library, steps)));
 *     const { mesh } = await joiner.join([{ how: "join", bodies }]);
 */
import { partsIn, sideFor, withoutWalls } from "./cells";
import { rimmed, stitched, type Rimmed } from "./stitch";
import type { ClosedMesh } from "./closed";
import type { CellStep, How } from "./in-cell";
import type { ManifoldToplevel } from "manifold-3d";

/** A closed mesh, and what its content is known by. */
export interface NamedMesh {
  name: string;
  mesh: ClosedMesh;
}

/** As a {@link CellStep}, with whole meshes. */
export interface JoinStep {
  how: How;
  bodies: readonly NamedMesh[];
}

/** What a join came to. */
export interface Joined {
  mesh: ClosedMesh;
  /** How many of its edges are open, or have faces that do not pair. */
  open: number;
  /** In how many cells the work was done now, and for how many it was known. */
  done: number;
  kept: number;
}

/** Works out one cell, see `inCell`. */
export type CellSolver = (steps: readonly CellStep[]) => Promise<ClosedMesh>;

export interface JoinOptions {
  /** Is told how far it is, from 0 to 1, now and then; once it says no, the join is given up. */
  goOn?: (share: number) => Promise<boolean>;
  /** For tests: the side of cells, metres; null for one alone. */
  side?: number | null;
}

/** The shares of all the work that are done before the cells, and after them. */
const BEFORE = 0.1;
const AFTER = 0.1;

interface Cell {
  name: string;
  key: string;
  steps: CellStep[];
}

export class Joiner {
  readonly #library: ManifoldToplevel;
  readonly #alone: CellSolver;
  readonly #helpers: readonly CellSolver[];
  /** The parts of meshes in cells, and what cells came to: those of the last join alone. */
  #parts = new Map<string, Map<string, ClosedMesh>>();
  #cells = new Map<string, Rimmed>();

  /**
   * @param alone does what is not worth sharing
   * @param helpers share the cells, each does one at a time
   */
  constructor(library: ManifoldToplevel, alone: CellSolver, helpers: readonly CellSolver[] = []) {
    this.#library = library;
    this.#alone = alone;
    this.#helpers = helpers.length > 0 ? helpers : [alone];
  }

  /** What steps come to, done one after the other; null once it is given up. What is done until then is known the next time. */
  async join(steps: readonly JoinStep[], { goOn, side }: JoinOptions = {}): Promise<Joined | null> {
    const own = side === undefined ? sideFor(steps.flatMap(({ bodies }) => bodies.map(({ mesh }) => mesh))) : side;
    const joined = own === null ? null : await this.#inCells(steps, own, goOn ?? (() => Promise.resolve(true)));
    if (joined === "given up") return null;
    // Where the cells do not meet, all of it is done in one.
    if (joined && joined.open === 0) return joined;
    const whole = steps.map(({ how, bodies }) => ({ how, parts: bodies.map(({ mesh }) => mesh) }));
    return { ...stitched([rimmed(await this.#alone(whole))]), done: 1, kept: 0 };
  }

  async #inCells(
    steps: readonly JoinStep[],
    side: number,
    goOn: (share: number) => Promise<boolean>,
  ): Promise<Joined | "given up"> {
    const parts = new Map<string, Map<string, ClosedMesh>>();
    const all = new Map(steps.flatMap(({ bodies }) => bodies.map(({ name, mesh }) => [name, mesh] as const)));
    for (const [name, mesh] of all) {
      const key = `${name}/${side}`;
      parts.set(key, this.#parts.get(key) ?? partsIn(mesh, side, (outlines) => this.#library.triangulate(outlines)));
      if (!(await goOn((BEFORE * parts.size) / all.size))) return "given up";
    }
    this.#parts = parts;
    const cells = cellsOf(steps, (name) => parts.get(`${name}/${side}`)!, side);
    const results = new Map<string, Rimmed>();
    const waiting = cells.filter(({ key }) => {
      const known = this.#cells.get(key);
      if (known) results.set(key, known);
      return !known;
    });
    const [done, kept] = [waiting.length, results.size];
    let stopped = false;
    const worker = async (solve: CellSolver): Promise<void> => {
      for (let cell = waiting.pop(); cell && !stopped; cell = waiting.pop()) {
        results.set(cell.key, rimmed(withoutWalls(await solve(cell.steps), cell.name, side)));
        const share = done > 0 ? 1 - waiting.length / done : 1;
        if (!(await goOn(BEFORE + (1 - BEFORE - AFTER) * share))) stopped = true;
      }
    };
    try {
      await Promise.all(this.#helpers.map(worker));
    } finally {
      this.#cells = results;
    }
    if (stopped) return "given up";
    return { ...stitched(cells.map(({ key }) => results.get(key)!)), done, kept };
  }
}

/** The cells that anything reaches into, and what is done in each. */
function cellsOf(steps: readonly JoinStep[], partsOf: (name: string) => Map<string, ClosedMesh>, side: number): Cell[] {
  const found = new Map<string, { steps: { how: How; parts: ClosedMesh[] }[]; names: string[][] }>();
  steps.forEach(({ bodies }, s) => {
    for (const { name } of bodies)
      for (const [cell, part] of partsOf(name)) {
        let own = found.get(cell);
        if (!own) {
          own = { steps: steps.map(({ how }) => ({ how, parts: [] })), names: steps.map(() => []) };
          found.set(cell, own);
        }
        own.steps[s].parts.push(part);
        own.names[s].push(name);
      }
  });
  return [...found].map(([name, own]) => ({
    name,
    key: `${side}/${name}/${own.steps.map(({ how }, s) => `${how} ${own.names[s].sort().join(" ")}`).join("/")}`,
    steps: own.steps,
  }));
}
