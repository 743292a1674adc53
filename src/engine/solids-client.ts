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
  kept?(job: string): Promise<Solved | undefined>;
  keep?(solved: Solved): Promise<void>;
}

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
  #drop: (() => void) | null = null;
  /** Jobs that the artist stopped, or that failed: not begun again by themselves. */
  readonly #left = new Set<string>();
  /** What was joined last for each surface. */
  readonly #solved = new Map<string, Solved>();

  constructor(listener: SolidsListener) {
    this.#listener = listener;
  }

  /** What all jobs came to that surfaces show now, by their names. */
  get solved(): ReadonlyMap<string, Solved> {
    return new Map([...this.#solved.values()].map((one) => [one.name, one]));
  }

  /** Whether a job waits until it is asked for again. */
  isLeft(job: string): boolean {
    return this.#left.has(job);
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
    if (this.#at) this.#left.add(this.#at.job);
    for (const { job } of this.#waiting) this.#left.add(job);
    this.#waiting = [];
    this.#giveUp();
  }

  /** Begins again what was left. */
  again(states: ReadonlyMap<string, SolidState>): void {
    this.#left.clear();
    this.want(states);
  }

  close(): void {
    this.#waiting = [];
    this.#drop?.();
    this.#end();
  }

  #giveUp(): void {
    void this.#remote?.stop();
    this.#drop?.();
  }

  #end(): void {
    this.#worker?.terminate();
    this.#worker = this.#remote = null;
  }

  async #run(): Promise<void> {
    this.#running = true;
    for (let next = this.#waiting.shift(); next; next = this.#waiting.shift()) {
      this.#at = next;
      try {
        const dropped = new Promise<null>((resolve) => (this.#drop = () => resolve(null)));
        const solved = await Promise.race([this.#solve(next), dropped]);
        if (solved) {
          this.#solved.set(next.id, solved);
          await this.#listener.solved(next.id, solved);
        }
      } catch (error) {
        this.#left.add(next.job);
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
    const solved = await remote.solve(sent);
    if (typeof solved === "string") {
      this.#left.add(job);
      this.#listener.failed?.(id, solved);
      return null;
    }
    if (solved) await this.#listener.keep?.(solved);
    return solved;
  }

  #started(): Comlink.Remote<SolidsApi> {
    if (this.#remote) return this.#remote;
    this.#worker = new Worker(new URL("./solids.worker.ts", import.meta.url), { type: "module" });
    this.#worker.onerror = () => {
      this.#drop?.();
      this.#end();
    };
    this.#worker.addEventListener("message", ({ data }: MessageEvent<Partial<JoinProgress>>) => {
      if (data?.joining === undefined || this.#at?.job !== data.joining) return;
      this.#listener.progress?.({ id: this.#at.id, share: data.share! });
    });
    return (this.#remote = Comlink.wrap<SolidsApi>(this.#worker));
  }
}
