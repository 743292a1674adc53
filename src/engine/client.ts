/**
 * *The application's side of the workers.* Newest request wins: while one scene is being evaluated only the latest of those
 * that follow is kept. A worker that dies is started again, and whoever listens is told.
 */
import { unrollingsOf } from "./unrollings";
import type * as Comlink from "comlink";
import type { Finding } from "@/core/check";
import type { LaidTrack, Members } from "@/core/line";
import type { Shape, Unrolled } from "@/core/mesh";
import type { MovedShape } from "@/core/movers";
import type { Carries, Scene } from "@/core/scene";
import type { ChartedSurface, LookedAt, ShownResult } from "./engine";
import type { InnerFinding } from "./assemblies";
import type { Evaluation, EvaluationApi, Progress, ToldInside } from "./evaluation.worker";
import { changeBetween } from "@/core/scene";
import { EvaluationWorker } from "./evaluating";
import { SolidsClient } from "./solids-client";
import type { SolidState, Solved } from "./solids";
import { isNews, type Told } from "./told";
import { meshesCompared, meshesWanted } from "./wanted";

interface Listener {
  /** Results of the dressings that changed, for the scene that was evaluated. */
  results(results: ShownResult[], scene: Scene, sight: Evaluation["sight"]): void;
  /** Where lines lie on surfaces; told before the results. */
  laid?(laid: Told<LaidTrack>): void;
  /** What families of lines come to; told before the results. */
  families?(families: Told<Members>): void;
  /** Meshes of surfaces that are made; told before the results. */
  made?(made: Told<Shape>): void;
  /** Meshes at rest of surfaces that have movers; told before the results. */
  movable?(movable: Told<Shape>): void;
  /** Surfaces that have another shape than before; told before the results. */
  moved?(moved: Told<MovedShape>): void;
  /** The stills that props stand in; told before the results. */
  stills?(stills: Told<MovedShape>): void;
  /** How far all that is held has been carried; told before the results. */
  carries?(carries: Carries): void;
  /** Surfaces laid out by their UVs, by their ids; told before the results that go by them. */
  charts?(charts: readonly [string, ChartedSurface][]): void;
  /** What is known of surfaces that are made of closed bodies; told before the results. */
  solids?(states: ReadonlyMap<string, SolidState>): void;
  /** How far the joining for a surface has come; null when there is none. */
  joining?(progress: { id: string; share: number } | null): void;
  /** Why a surface could not be joined. */
  unjoined?(id: string, reason: string): void;
  /** The jobs for solids that wait until they are asked for again. */
  unjoinedJobs?(jobs: ReadonlySet<string>): void;
  /** What a job for a solid came to, from another time. */
  keptSolid?(job: string): Promise<Solved | undefined>;
  keepSolid?(solved: Solved): Promise<void>;
  /** What assemblies hold, and what is found in them. */
  insides?(told: Told<ToldInside>): void;
  inner?(found: readonly InnerFinding[]): void;
  /** How a mesh was unrolled at another time, by its name. */
  keptUnrolling?(name: string): Promise<Unrolled | undefined>;
  keepUnrolling?(name: string, unrolled: Unrolled): void;
  /** What pokes through, by the ids of dressings; told some time after the results of the same scene. */
  poking?(found: ReadonlyMap<string, Finding[]>, scene: Scene): void;
  /** The worker died or threw; it has been started again. */
  failed(reason: string): void;
  /** How far the work has come; null when there is none. */
  progress?(progress: Progress | null): void;
  /** The bytes of an asset whose mesh is wanted. */
  asset?(hash: string): Promise<Uint8Array | undefined>;
}

/** Work gives way to a newer scene when it has lasted longer than this, milliseconds, and than beginning anew took. */
const PATIENCE = 1500;

/** Work that has said nothing for so long, milliseconds, is told of all the same. */
const QUIET = 800;

/** Why work ended without an answer. */
class Dropped extends Error {}

/** How often in a row a failing worker is started again for the same scene. */
const MAX_RESTARTS = 2;

export class EvaluationClient {
  readonly #listener: Listener;
  /** The work at hand has told how far it is. */
  #spoken: (() => void) | null = null;
  #die: ((reason: Error) => void) | null = null;
  #worker: EvaluationWorker | null = null;
  /** Assets that the worker has been given, and unrollings that were looked for. */
  #taught = new Set<string>();
  #waiting: Scene | null = null;
  /** The scene that the worker has; null for a worker that has none yet. */
  #sent: Scene | null = null;
  #revision = 0;
  #looked: LookedAt | null = null;
  #looks = true;
  #busy = false;
  #restarts = 0;
  #closed = false;
  #begun = 0;
  /** How long the first evaluation of the last worker took, milliseconds; 0 where none has come to an end. */
  #anew = 0;
  #giveWay: ReturnType<typeof setTimeout> | undefined;
  /** Ends the work at hand without an answer. */
  #drop: (() => void) | null = null;

  readonly #solids: SolidsClient;
  /** What was last told of solids, and for which scene. */
  #states: ReadonlyMap<string, SolidState> = new Map();
  #shown: Scene | null = null;

  constructor(listener: Listener) {
    this.#listener = listener;
    this.#solids = new SolidsClient({
      job: async (id, known) => (await this.#remote?.solidJob(id, known)) ?? null,
      solved: async (id, solved) => {
        await this.#unrolledBefore(id, solved);
        await this.#remote?.learnSolid(id, solved);
        if (this.#shown && !this.#closed) this.request(this.#shown, this.#looked, this.#looks);
      },
      progress: (progress) => listener.joining?.(progress),
      failed: (id, reason) => listener.unjoined?.(id, reason),
      left: (jobs) => listener.unjoinedJobs?.(jobs),
      kept: listener.keptSolid,
      keep: listener.keepSolid,
    });
  }

  /** What solids have been joined to, by the names of their jobs. */
  get solved(): ReadonlyMap<string, Solved> {
    return this.#solids.solved;
  }

  /** Leaves what is being joined as it is. */
  stopJoining(): void {
    this.#solids.stop();
  }

  joinAgain(): void {
    this.#solids.again(this.#states);
  }

  /**
   * @param looked what the sheet shows
   * @param looks whether anything is looked for that is wrong; not while it plays
   */
  request(scene: Scene, looked: LookedAt | null = null, looks = true): void {
    this.#waiting = scene;
    this.#looked = looked;
    this.#looks = looks;
    this.#restarts = 0;
    if (!this.#busy) return void this.#run();
    clearTimeout(this.#giveWay);
    const drop = this.#drop;
    const lasted = performance.now() - this.#begun;
    this.#giveWay = setTimeout(() => this.#waiting && drop?.(), Math.max(PATIENCE, this.#anew) - lasted);
  }

  /** Ends the work at hand; what was there before stays, and the next request begins anew. */
  cancel(): void {
    this.#waiting = null;
    this.#drop?.();
  }

  close(): void {
    this.#closed = true;
    clearTimeout(this.#giveWay);
    this.#solids.close();
    if (this.#busy) return this.#end();
    this.#worker?.leave();
    this.#worker = null;
  }

  #end(): void {
    this.#worker?.end();
    this.#worker = null;
  }

  get #remote(): Comlink.Remote<EvaluationApi> | null {
    return this.#worker?.remote ?? null;
  }

  async #run(): Promise<void> {
    this.#busy = true;
    while (this.#waiting && !this.#closed) {
      const scene = this.#waiting;
      this.#waiting = null;
      try {
        const first = this.#worker === null;
        const told = await this.#evaluate(scene);
        if (first) this.#anew = performance.now() - this.#begun;
        const { results, laid, families, made, movable, moved, stills, carries, charts, solids, unrolled } = told;
        if (this.#closed) continue;
        if (isNews(laid)) this.#listener.laid?.(laid);
        if (isNews(families)) this.#listener.families?.(families);
        if (isNews(made)) this.#listener.made?.(made);
        if (isNews(movable)) this.#listener.movable?.(movable);
        if (isNews(moved)) this.#listener.moved?.(moved);
        if (isNews(stills)) this.#listener.stills?.(stills);
        this.#listener.insides?.(told.insides);
        this.#listener.inner?.(told.inner);
        this.#listener.carries?.(carries);
        if (charts.length > 0) this.#listener.charts?.(charts);
        this.#listener.solids?.(solids);
        for (const [name, one] of unrolled) this.#listener.keepUnrolling?.(name, one);
        this.#listener.results(results, scene, told.sight);
        this.#shown = scene;
        this.#states = solids;
        // While it plays, every frame would want something else.
        if (!this.#waiting && this.#looks) this.#solids.want(solids);
        if (!this.#waiting && this.#looks) void this.#lookForPoking(scene);
      } catch (error) {
        if (this.#closed) return;
        this.#end();
        if (error instanceof Dropped) continue;
        this.#listener.failed(error instanceof Error ? error.message : String(error));
        if (this.#restarts++ < MAX_RESTARTS) this.#waiting ??= scene;
      }
    }
    this.#busy = false;
    this.#listener.progress?.(null);
  }

  #evaluate(scene: Scene): Promise<Evaluation> {
    if (!this.#worker) {
      this.#taught.clear();
      this.#sent = null;
      this.#worker = EvaluationWorker.forScene({
        progress: (progress) => {
          this.#spoken?.();
          this.#listener.progress?.(progress);
        },
        failed: (reason) => this.#die?.(reason),
        silent: () => this.#silent(),
      });
    }
    this.#begun = performance.now();
    const died = new Promise<never>((_, reject) => {
      this.#die = reject;
    });
    // Whoever says nothing of how far it is can be stopped all the same.
    const [first] = scene.dressings;
    const quiet = setTimeout(() => this.#listener.progress?.({ placing: first?.name ?? scene.name, share: 0 }), QUIET);
    const spoken = () => clearTimeout(quiet);
    this.#spoken = spoken;
    const dropped = new Promise<never>((_, reject) => {
      this.#drop = () => reject(new Dropped());
    });
    return Promise.race([this.#taughtAndEvaluated(this.#worker.remote, scene), died, dropped]).finally(spoken);
  }

  /** The worker has ended without a word. */
  #silent(): void {
    const error = new Error("the work ended without a word; it has been begun anew");
    if (this.#busy) return this.#die?.(error);
    this.#end();
    this.#listener.failed(error.message);
  }

  /** Goes on beside all else, and comes to nothing when another scene is asked for meanwhile or the worker ends. */
  async #lookForPoking(scene: Scene): Promise<void> {
    const remote = this.#remote;
    if (!remote || !this.#listener.poking || scene.dressings.length === 0) return;
    try {
      await this.#teach(remote, meshesCompared(scene));
      const found = this.#waiting || this.#busy || this.#closed ? null : await remote.poking(this.#revision);
      if (found && !this.#closed) this.#listener.poking(found, scene);
    } catch {
      // Without it all the rest is still right, and a worker that throws at it is told of when it places.
    }
  }

  async #taughtAndEvaluated(remote: Comlink.Remote<EvaluationApi>, scene: Scene): Promise<Evaluation> {
    const wanted = meshesWanted(scene);
    if ([...wanted].some((hash) => !this.#taught.has(hash))) await this.#teach(remote, wanted);
    const kept = this.#unrollingsToAsk(scene);
    if (kept.length > 0) await this.#teachUnrollings(remote, kept);
    const change = changeBetween(this.#sent, scene, ++this.#revision);
    this.#sent = scene;
    return remote.evaluate(change, this.#looked, this.#looks);
  }

  /** The names of unrollings that nobody has looked for yet. */
  #unrollingsToAsk(scene: Scene): string[] {
    const same = scene.surfaces === this.#sent?.surfaces && scene.lines === this.#sent.lines;
    if (!this.#listener.keptUnrolling || same) return [];
    return [...unrollingsOf(scene).values()].filter((name) => !this.#taught.has(name));
  }

  /** Teaches how a solid was unrolled at another time, before there is one. */
  async #unrolledBefore(id: string, { name }: Solved): Promise<void> {
    const wanted = this.#shown && unrollingsOf(this.#shown, (of) => (of === id ? name : null)).get(id);
    if (this.#remote && wanted && !this.#taught.has(wanted)) await this.#teachUnrollings(this.#remote, [wanted]);
  }

  /** Teaches those that are kept, before anything asks for them. */
  async #teachUnrollings(remote: Comlink.Remote<EvaluationApi>, names: readonly string[]): Promise<void> {
    for (const name of names) {
      const kept = await this.#listener.keptUnrolling?.(name);
      if (kept) await remote.learnUnrolling(name, kept);
      if (remote === this.#remote) this.#taught.add(name);
    }
  }

  async #teach(remote: Comlink.Remote<EvaluationApi>, hashes: ReadonlySet<string>): Promise<void> {
    for (const hash of hashes) {
      if (this.#taught.has(hash)) continue;
      const bytes = await this.#listener.asset?.(hash);
      // Another's by now, or nobody's.
      if (remote !== this.#remote) return;
      if (!bytes) continue;
      await remote.learn(hash, bytes);
      if (remote === this.#remote) this.#taught.add(hash);
    }
  }
}
