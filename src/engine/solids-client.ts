/**
 * *Has solids joined, one after the other.* What a job came to is kept, so that nothing is joined twice; a job that nothing
 * wants any more is given up.
 */
import * as Comlink from "comlink";
import type { SolidState, Solved } from "./solids";
import type { JoinProgress, SentJob, SolidsApi } from "./solids.worker";

export interface SolidsListener {
  /** A job, with the bodies that are not among those known; null where it is wanted no more. */
  job(id: string, known: readonly string[]): Promise<SentJob | null>;
  /** Takes in what a job came to. */
  solved(id: string, solved: Solved): Promise<void>;
  /** How far the joining for a surface has come; null when there is none. */
  progress?(progress: { id: string; share: number } | null): void;
  /** Why a surface could not be joined. */
  failed?(id: string, reason: string): void;
  /** The jobs that were stopped or failed, and wait until they are asked for again. */
  left?(jobs: ReadonlySet<string>): void;
  kept?(job: string): Promise<Solved | undefined>;
  keep?(solved: Solved): Promise<void>;
}

/** Milliseconds that a worker has to come to rest. */
const PATIENCE = 1500;

/** A surface and the job that it waits for. */
interface Waiting {
  id: string;
  job: string;
}

export class SolidsClient {
  readonly #listener: SolidsListener;
  #worker: Worker | null = null;
  #remote: Comlink.Remote<SolidsApi> | null = null;
  #waiting: Waiting[] = [];
  #at: Waiting | null = null;
  #running = false;
  /** Ends the waiting for the job at hand, with an error where there is one. */
  #drop: ((error?: Error) => void) | null = null;
  /** What the worker does; null while it rests. */
  #busy: Promise<unknown> | null = null;
  /** Jobs that the artist stopped, or that failed: not begun again by themselves. */
  #left: ReadonlySet<string> = new Set();
  /** What was joined last for each surface. */
  readonly #solved = new Map<string, Solved>();

  constructor(listener: SolidsListener) {
    this.#listener = listener;
  }

  /** What all jobs came to that surfaces show now, by their names. */
  get solved(): ReadonlyMap<string, Solved> {
    return new Map([...this.#solved.values()].map((one) => [one.name, one]));
  }

  /** Takes note of what surfaces wait for now. */
  want(states: ReadonlyMap<string, SolidState>): void {
    for (const id of this.#solved.keys()) if (!states.has(id)) this.#solved.delete(id);
    this.#waiting = [...states].flatMap(([id, { job, solved }]) =>
      job !== null && job !== solved?.name && !this.#left.has(job) ? [{ id, job }] : [],
    );
    if (this.#at && !this.#waiting.some(({ job }) => job === this.#at?.job)) this.#giveUp();
    if (!this.#running) void this.#run();
  }

  /** Leaves what is being joined as it is. */
  stop(): void {
    this.#leave([...(this.#at ? [this.#at] : []), ...this.#waiting].map(({ job }) => job));
    this.#waiting = [];
    this.#giveUp();
  }

  /** Begins again what was left. */
  again(states: ReadonlyMap<string, SolidState>): void {
    this.#left = new Set();
    this.#listener.left?.(this.#left);
    this.want(states);
  }

  close(): void {
    this.#waiting = [];
    this.#drop?.();
    this.#end();
  }

  #leave(jobs: readonly string[]): void {
    this.#left = new Set([...this.#left, ...jobs]);
    this.#listener.left?.(this.#left);
  }

  /** A worker that does not come to rest soon, since a single step of its work takes so long, is ended. */
  #giveUp(): void {
    void this.#remote?.stop();
    this.#drop?.();
    const busy = this.#busy;
    if (busy) setTimeout(() => this.#busy === busy && this.#end(), PATIENCE);
  }

  #end(): void {
    this.#worker?.terminate();
    this.#worker = this.#remote = this.#busy = null;
  }

  async #run(): Promise<void> {
    this.#running = true;
    for (let next = this.#waiting.shift(); next; next = this.#waiting.shift()) {
      this.#at = next;
      try {
        const dropped = new Promise<null>((resolve, reject) => {
          this.#drop = (error) => (error ? reject(error) : resolve(null));
        });
        const solved = await Promise.race([this.#solve(next), dropped]);
        if (solved) {
          this.#solved.set(next.id, solved);
          await this.#listener.solved(next.id, solved);
        }
      } catch (error) {
        this.#leave([next.job]);
        this.#end();
        this.#listener.failed?.(next.id, error instanceof Error ? error.message : String(error));
      }
    }
    this.#at = this.#drop = null;
    this.#running = false;
    this.#listener.progress?.(null);
  }

  async #solve({ id, job }: Waiting): Promise<Solved | null> {
    const same = [...this.#solved.values()].find(({ name }) => name === job);
    const kept = same ?? (await this.#listener.kept?.(job));
    if (kept) return kept;
    const remote = this.#started();
    const sent = await this.#listener.job(id, await remote.known());
    if (!sent || sent.name !== job) return null;
    this.#listener.progress?.({ id, share: 0 });
    const work = remote.solve(sent);
    this.#busy = work;
    const solved = await work.finally(() => {
      if (this.#busy === work) this.#busy = null;
    });
    if (typeof solved === "string") {
      this.#leave([job]);
      this.#listener.failed?.(id, solved);
      return null;
    }
    if (solved) await this.#listener.keep?.(solved);
    return solved;
  }

  #started(): Comlink.Remote<SolidsApi> {
    if (this.#remote) return this.#remote;
    this.#worker = new Worker(new URL("./solids.worker.ts", import.meta.url), { type: "module" });
    this.#worker.onerror = () => this.#drop?.(new Error("The joining stopped unexpectedly."));
    this.#worker.addEventListener("message", ({ data }: MessageEvent<Partial<JoinProgress>>) => {
      if (data?.joining === undefined || this.#at?.job !== data.joining) return;
      this.#listener.progress?.({ id: this.#at.id, share: data.share! });
    });
    return (this.#remote = Comlink.wrap<SolidsApi>(this.#worker));
  }
}
