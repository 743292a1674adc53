/**
 * *The application's side of the workers.* Newest request wins: while one scene is being evaluated only the latest of those
 * that follow is kept. A worker that dies is started again, and whoever listens is told.
 */
import * as Comlink from "comlink";
import { InputError, type Scene } from "@/core/scene";
import type { DressingResult } from "./engine";
import type { EvaluationApi } from "./evaluation.worker";
import type { Answer, FilesApi } from "./files.worker";

interface Listener {
  /** Results of the dressings that changed, for the scene that was evaluated. */
  results(results: DressingResult[], scene: Scene): void;
  /** The worker died or threw; it has been started again. */
  failed(reason: string): void;
}

/** How often in a row a failing worker is started again for the same scene. */
const MAX_RESTARTS = 2;

export class EvaluationClient {
  readonly #listener: Listener;
  #worker: Worker | null = null;
  #remote: Comlink.Remote<EvaluationApi> | null = null;
  #waiting: Scene | null = null;
  #busy = false;
  #restarts = 0;
  #closed = false;

  constructor(listener: Listener) {
    this.#listener = listener;
  }

  request(scene: Scene): void {
    this.#waiting = scene;
    this.#restarts = 0;
    if (!this.#busy) void this.#run();
  }

  close(): void {
    this.#closed = true;
    this.#worker?.terminate();
  }

  async #run(): Promise<void> {
    this.#busy = true;
    while (this.#waiting && !this.#closed) {
      const scene = this.#waiting;
      this.#waiting = null;
      try {
        const results = await this.#evaluate(scene);
        if (!this.#closed) this.#listener.results(results, scene);
      } catch (error) {
        if (this.#closed) return;
        this.#worker?.terminate();
        this.#worker = null;
        this.#listener.failed(error instanceof Error ? error.message : String(error));
        if (this.#restarts++ < MAX_RESTARTS) this.#waiting ??= scene;
      }
    }
    this.#busy = false;
  }

  #evaluate(scene: Scene): Promise<DressingResult[]> {
    if (!this.#worker) {
      this.#worker = new Worker(new URL("./evaluation.worker.ts", import.meta.url), { type: "module" });
      this.#remote = Comlink.wrap<EvaluationApi>(this.#worker);
    }
    const worker = this.#worker;
    const died = new Promise<never>((_, reject) => {
      worker.onerror = (event) => reject(new Error(event.message || "the worker stopped"));
    });
    return Promise.race([this.#remote!.evaluate(scene), died]);
  }
}

let filesWorker: Comlink.Remote<FilesApi> | null = null;

/** The worker for whole files, started at its first use. */
function files(): Comlink.Remote<FilesApi> {
  filesWorker ??= Comlink.wrap<FilesApi>(new Worker(new URL("./files.worker.ts", import.meta.url), { type: "module" }));
  return filesWorker;
}

async function opened<T>(answer: Promise<Answer<T>>): Promise<T> {
  const result = await answer;
  if (result.ok) return result.value;
  throw result.expected ? new InputError(result.sentence) : new Error(result.sentence);
}

/** Work on whole files, in the worker. Each throws an InputError with a sentence for the artist when it cannot be done. */
export const fileJobs = {
  inspectProp: (bytes: Uint8Array, name: string) => opened(files().inspectProp(bytes, name)),
  writePlacements: (...args: Parameters<FilesApi["writePlacements"]>) => opened(files().writePlacements(...args)),
  writeProject: (...args: Parameters<FilesApi["writeProject"]>) => opened(files().writeProject(...args)),
  readProject: (bytes: Uint8Array, name: string) => opened(files().readProject(bytes, name)),
};
