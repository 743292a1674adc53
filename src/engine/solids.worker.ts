/** The worker that joins closed bodies, beside all else; it shares the work with others of its kind. */
import * as Comlink from "comlink";
import { type CellStep, type How, type NamedMesh } from "@/core/solid";
import { InputError } from "@/core/schema";
import { Solver } from "./solving";
import type { CellsApi } from "./cells.worker";
import type { Solved } from "./solids";

/** A job whose bodies the worker may know from before. */
export interface SentJob {
  name: string;
  steps: { how: How; bodies: { name: string; mesh: NamedMesh["mesh"] | null }[] }[];
}

/** How far a job has come, from 0 to 1. */
export interface JoinProgress {
  joining: string;
  share: number;
}

/** So many threads share the cells; this one only parts the work, and does alone what is not worth sharing. */
const THREADS = Math.max(1, Math.min(4, navigator.hardwareConcurrency || 2));
/** Milliseconds between letting others in. */
const BREATH = 30;

/** The bodies of the last job, by their names. */
let known = new Map<string, NamedMesh["mesh"]>();
let others: Comlink.Remote<CellsApi>[] | null = null;
const helpers = Array.from({ length: THREADS }, (_, k) => (steps: readonly CellStep[]) => {
  others ??= Array.from({ length: THREADS }, () =>
    Comlink.wrap<CellsApi>(new Worker(new URL("./cells.worker.ts", import.meta.url), { type: "module" })),
  );
  return others[k].solve(steps);
});
const solver = new Solver(helpers);
/** Counts what has been asked for: an older job gives way. */
let asked = 0;

const api = {
  /** The names of the bodies that are known. */
  known: (): string[] => [...known.keys()],

  /** What a job comes to; null once another is asked for or it is stopped; a sentence where it cannot be done. */
  async solve({ name, steps }: SentJob): Promise<Solved | string | null> {
    const own = ++asked;
    const now = new Map<string, NamedMesh["mesh"]>();
    const whole = steps.map(({ how, bodies }) => ({
      how,
      bodies: bodies.map(({ name: body, mesh }) => {
        const found = mesh ?? known.get(body)!;
        now.set(body, found);
        return { name: body, mesh: found };
      }),
    }));
    known = now;
    let since = performance.now();
    try {
      const solved = await solver.solve({ name, steps: whole }, async (share) => {
        if (performance.now() - since > BREATH) {
          postMessage({ joining: name, share } satisfies JoinProgress);
          await new Promise((resolve) => setTimeout(resolve, 0));
          since = performance.now();
        }
        return asked === own;
      });
      if (!solved) return null;
      const { position, index, attributes } = solved.mesh;
      return Comlink.transfer(
        solved,
        [position, index, ...attributes.map(({ array }) => array)].map(({ buffer }) => buffer as ArrayBuffer),
      );
    } catch (error) {
      if (error instanceof InputError) return error.message;
      throw error;
    }
  },

  stop(): void {
    asked++;
  },
};

export type SolidsApi = typeof api;

Comlink.expose(api);
