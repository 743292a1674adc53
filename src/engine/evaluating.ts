/**
 * *The worker that evaluates*, and who hears of it. One that is left at rest waits for the next scene: starting another takes
 * longer than most scenes do, and this one has what it runs compiled.
 */
import * as Comlink from "comlink";
import type { EvaluationApi, Progress } from "./evaluation.worker";
import { listenForPulse } from "./pulse";

/** Who hears of a worker. */
interface Heard {
  progress(progress: Progress): void;
  /** It threw, or stopped. */
  failed(reason: Error): void;
  /** It has ended without a word. */
  silent(): void;
}

export class EvaluationWorker {
  /** The one that waits for a scene. */
  static #waiting: EvaluationWorker | null = null;
  readonly remote: Comlink.Remote<EvaluationApi>;
  readonly #worker: Worker;
  readonly #deaf: () => void;
  #heard: Heard | null;

  constructor(heard: Heard) {
    this.#heard = heard;
    this.#worker = new Worker(new URL("./evaluation.worker.ts", import.meta.url), { type: "module" });
    this.remote = Comlink.wrap<EvaluationApi>(this.#worker);
    this.#worker.addEventListener("message", ({ data }: MessageEvent<Partial<Progress>>) => {
      if (data?.placing !== undefined) this.#heard?.progress(data as Progress);
    });
    this.#worker.onerror = ({ message }) => this.#failed(new Error(message || "the worker stopped"));
    this.#deaf = listenForPulse(this.#worker, () => (this.#heard ? this.#heard.silent() : this.#failed()));
  }

  /** The one that waits, or a new one. */
  static forScene(heard: Heard): EvaluationWorker {
    const one = EvaluationWorker.#waiting;
    EvaluationWorker.#waiting = null;
    if (!one) return new EvaluationWorker(heard);
    one.#heard = heard;
    return one;
  }

  /** Ends the one that waits. */
  static endWaiting(): void {
    EvaluationWorker.#waiting?.end();
  }

  /** Forgets its scene and waits for another; it must be at rest. */
  leave(): void {
    this.#heard = null;
    EvaluationWorker.endWaiting();
    EvaluationWorker.#waiting = this;
    void this.remote.forget();
  }

  end(): void {
    if (EvaluationWorker.#waiting === this) EvaluationWorker.#waiting = null;
    this.#deaf();
    this.#worker.terminate();
  }

  /** What fails while it waits is let go of. */
  #failed(reason?: Error): void {
    if (this.#heard && reason) this.#heard.failed(reason);
    else this.end();
  }
}
