/**
 * *Results that are remembered by what they were made of.* A graph holds inputs, which are set from outside, and queries,
 * each a pure function that reads inputs and other queries only through `ask`, which is how the graph knows what it hangs
 * on. When an input changes, what read it is marked; asked for again, a query runs only if something that it read has really
 * come to something else, and a result with the same content as before counts as the one before.
 *
 *     const length = input<number>("length");
 *     const area = query("area", (ask, id) => (ask(length, id) ?? 0) ** 2);
 *     const graph = new Graph();
 *     graph.set(length, "field", 3);
 *     graph.get(area, "field"); // 9
 *     graph.ran;                // ["area"]
 *
 * Inside a query, steps are remembered as well: functions of their arguments alone.
 *
 *     const doubled = step("doubled", (x: number) => 2 * x);
 *     const twice = query("twice", (ask, id) => ask.step(doubled, ask(area, id)));
 *
 * The scheme is that of incremental computation with early cut-off (A. Mokhov, N. Mitchell, S. Peyton Jones, *Build Systems
 * à la Carte*, ICFP 2018), marking ahead what may have changed and looking back only at that.
 */
import { bytesOf, same } from "./same";

/** Set from outside, by a key. */
export interface Input<V> {
  readonly name: string;
  readonly isInput: true;
  /** Only for the type checker. */
  readonly value?: V;
}

/** A pure function of a key and of what it asks for. As a generator it can be interrupted where it yields. */
export interface Query<V> {
  readonly name: string;
  readonly isInput: false;
  readonly run: (ask: Ask, key: string) => V | Work<V>;
  /**
   * Whether it is looked at before all else when something that it hangs on has changed, so that nobody who hangs on it is
   * looked at as long as it comes to the same. For what takes little and much hangs on; it may hang on inputs, and on
   * queries that hang on nothing else.
   */
  readonly first?: boolean;
  /** Whether what it comes to is a part of what it hangs on, and takes no memory of its own. */
  readonly isPart?: boolean;
}

/** Work that rests now and then; each rest says how far it is, from 0 to 1. */
export type Work<V> = Generator<number, V, void>;

/** A pure function of its arguments, which are all that it may depend on. */
export interface Step<A extends readonly unknown[], R> {
  readonly name: string;
  readonly run: (...inputs: A) => R;
}

/** How a query reads what it hangs on. */
export interface Ask {
  <V>(query: Query<V>, key: string): V;
  <V>(input: Input<V>, key: string): V | undefined;
  /** What the step comes to; remembered by its arguments since this query last asked for it in the same place. */
  step<A extends readonly unknown[], R>(step: Step<A, R>, ...inputs: A): R;
  /** Tells whoever waits how far the work has come, from 0 to 1. */
  progress(share: number): void;
}

export const input = <V>(name: string): Input<V> => ({ name, isInput: true });
export const query = <V>(name: string, run: (ask: Ask, key: string) => V): Query<V> => ({ name, isInput: false, run });
/** A query that is looked at {@link Query.first}. */
export const firstly = <V>(name: string, run: (ask: Ask, key: string) => V): Query<V> => ({
  ...query(name, run),
  first: true,
});
/** A query that comes to a part of what it hangs on. */
export const part = <V>(name: string, run: (ask: Ask, key: string) => V): Query<V> => ({
  ...query(name, run),
  isPart: true,
});
/** A query whose work is said by a module that hangs on this one, before anybody asks. */
export function declared<V>(name: string): Query<V> & { is(run: (ask: Ask, key: string) => V): void } {
  let work: ((ask: Ask, key: string) => V) | null = null;
  return {
    name,
    isInput: false,
    run: (ask, key) => work!(ask, key),
    is: (run) => void (work = run),
  };
}
export const task = <V>(name: string, run: (ask: Ask, key: string) => Work<V>): Query<V> => ({
  name,
  isInput: false,
  run,
});
export const step = <A extends readonly unknown[], R>(name: string, run: (...inputs: A) => R): Step<A, R> => ({
  name,
  run,
});

/** What a test may do to a graph: an input of a query or a step, by its name or number, that does not count. */
export type Ignoring = (node: string, input: string | number) => boolean;

/** Being worked out right now, or while it rests. */
const UNDER_WAY = -1;
const CLEAN = 0;
/** Something that it hangs on may have changed. */
const CHECK = 1;
const DIRTY = 2;

type AnyStep = Step<readonly unknown[], unknown>;

interface Remembered {
  inputs: readonly unknown[];
  result: unknown;
  bytes: number;
}

class Node {
  state = DIRTY;
  value: unknown;
  /** False before the first run, and where the value was given up to save memory. */
  held = false;
  /** Whether it has come to something, be that still held or not. */
  known = false;
  bytes = 0;
  /** Whether its function is being run at this moment. */
  running = false;
  /** Counts its runs. */
  turn = 0;
  sources = new Set<Node>();
  readonly observers = new Set<Node>();
  readonly steps = new Map<AnyStep, (Remembered | undefined)[]>();

  constructor(
    readonly of: Query<unknown> | Input<unknown>,
    readonly key: string,
    /** Where those wait that are looked at first. */
    readonly waiting: Node[],
  ) {}

  mark(state: number): void {
    if (this.state >= state) return;
    const first = this.state < CHECK;
    this.state = state;
    if (!first) return;
    if (!this.of.isInput && this.of.first) this.waiting.push(this);
    else for (const observer of this.observers) observer.mark(CHECK);
  }

  /** Hangs on nothing any more. */
  cutLoose(): void {
    for (const source of this.sources) source.observers.delete(this);
    this.sources.clear();
  }
}

export class Graph {
  readonly #nodes = new Map<Query<unknown> | Input<unknown>, Map<string, Node>>();
  readonly #ignoring: Ignoring | null;
  readonly #waiting: Node[] = [];
  /** Names of the queries and steps that have run since this was last emptied, in order. */
  ran: string[] = [];
  /** Bytes of typed arrays that are remembered. */
  bytes = 0;
  /** Is told of a query's progress, by its name and key. */
  onProgress: ((query: string, key: string, share: number) => void) | null = null;

  constructor(ignoring: Ignoring | null = null) {
    this.#ignoring = ignoring;
  }

  /** Sets an input; one with the same content keeps the object that it had. */
  set<V>(of: Input<V>, key: string, value: V): void {
    const node = this.#node(of, key);
    node.state = CLEAN;
    if (node.held && same(node.value, value)) return;
    node.value = value;
    node.held = true;
    for (const observer of node.observers) observer.mark(DIRTY);
  }

  get<V>(of: Query<V> | Input<V>, key: string): V {
    this.#lookFirst();
    const node = this.#node(of, key);
    this.#bringUp(node);
    return node.value as V;
  }

  /** Brings up what waits, so that all that hangs on it is marked if it has come to something else. */
  #lookFirst(): void {
    for (let node = this.#waiting.pop(); node; node = this.#waiting.pop()) {
      if (this.#nodes.get(node.of)?.get(node.key) !== node) continue;
      try {
        this.#bringUp(node);
      } catch {
        // Who asks for it is told.
        for (const observer of node.observers) observer.mark(DIRTY);
      }
    }
  }

  /**
   * As {@link get}, letting others in between: wherever the query's own work yields, `goOn` is awaited. Null once it says no,
   * or when something that the query has read has changed meanwhile.
   */
  async getSlowly<V>(of: Query<V>, key: string, goOn: () => Promise<boolean>): Promise<V | null> {
    this.#lookFirst();
    const node = this.#node(of, key);
    if (!this.#isDue(node)) return node.value as V;
    const ask = this.#askFor(node);
    const work = this.#begin(node, ask);
    if (!isWork(work)) return this.#finish(node, work) as V;
    const { turn } = node;
    for (;;) {
      const next = this.#running(node, () => work.next());
      if (next.done) return this.#finish(node, next.value) as V;
      ask.progress(next.value);
      const may = await goOn();
      this.#lookFirst();
      if (may && node.turn === turn && node.state === UNDER_WAY) continue;
      // Where it has been begun anew, that is another's work.
      if (node.turn === turn) node.state = DIRTY;
      return null;
    }
  }

  /** Forgets everything by a key that nothing else hangs on. */
  forget(key: string): void {
    for (let found = true; found;) {
      found = false;
      for (const nodes of this.#nodes.values()) {
        const node = nodes.get(key);
        if (!node || node.observers.size > 0) continue;
        this.#drop(nodes, node);
        found = true;
      }
    }
  }

  /** Forgets everything by keys of some sort that nothing hangs on any more, but for what was set from outside. */
  forgetLoose(isOne: (key: string) => boolean): void {
    for (let found = true; found;) {
      found = false;
      for (const nodes of this.#nodes.values())
        for (const node of nodes.values()) {
          const isSet = node.of.isInput && node.value !== undefined;
          if (node.observers.size > 0 || isSet || !isOne(node.key)) continue;
          this.#drop(nodes, node);
          found = true;
        }
    }
  }

  #drop(nodes: Map<string, Node>, node: Node): void {
    nodes.delete(node.key);
    this.bytes -= node.bytes;
    for (const list of node.steps.values()) for (const one of list) this.bytes -= one?.bytes ?? 0;
    node.cutLoose();
  }

  /** Gives up the largest results of steps until no more than so many bytes are remembered; they are worked out anew when needed. */
  trim(budget: number): void {
    if (this.bytes <= budget) return;
    const held: { bytes: number; drop: () => void }[] = [];
    for (const nodes of this.#nodes.values()) {
      for (const node of nodes.values()) {
        for (const list of node.steps.values()) {
          list.forEach((one, i) => one && held.push({ bytes: one.bytes, drop: () => (list[i] = undefined) }));
        }
      }
    }
    held.sort((a, b) => b.bytes - a.bytes);
    for (const { bytes, drop } of held) {
      if (this.bytes <= budget || bytes === 0) return;
      drop();
      this.bytes -= bytes;
    }
  }

  /** Gives up the value of a query, which is worked out anew when it is asked for; what hangs on it stays as it is. */
  release(of: Query<unknown>, key: string): void {
    const node = this.#nodes.get(of)?.get(key);
    if (!node?.held) return;
    node.value = undefined;
    node.held = false;
    this.bytes -= node.bytes;
    node.bytes = 0;
  }

  #node(of: Query<unknown> | Input<unknown>, key: string): Node {
    let nodes = this.#nodes.get(of);
    if (!nodes) this.#nodes.set(of, (nodes = new Map<string, Node>()));
    let node = nodes.get(key);
    if (!node) {
      nodes.set(key, (node = new Node(of, key, this.#waiting)));
      // An input that has not been set is undefined, and is read as such.
      if (of.isInput) node.state = CLEAN;
    }
    return node;
  }

  #bringUp(node: Node): void {
    if (!this.#isDue(node)) return;
    const work = this.#begin(node, this.#askFor(node));
    this.#finish(node, isWork(work) ? this.#running(node, () => drained(work)) : work);
  }

  /** Whether a node has to run: looks first at those that it hangs on. */
  #isDue(node: Node): boolean {
    if (node.of.isInput) return false;
    if (node.running) throw new Error(`“${node.of.name}” of ${node.key} hangs on itself.`);
    if (node.state === CHECK) {
      for (const source of node.sources) {
        this.#bringUp(source);
        if ((node.state as number) === DIRTY) break;
      }
      if (node.state === CHECK) node.state = CLEAN;
    }
    return node.state !== CLEAN || !node.held;
  }

  #begin(node: Node, ask: Ask): unknown {
    // A value that was only given up comes to the same again, and nobody need run for it.
    if (node.state !== CLEAN) node.known = node.held;
    node.cutLoose();
    node.state = UNDER_WAY;
    node.turn++;
    this.ran.push(node.of.name);
    return this.#running(node, () => (node.of as Query<unknown>).run(ask, node.key));
  }

  #running<T>(node: Node, work: () => T): T {
    node.running = true;
    let done = false;
    try {
      const result = work();
      done = true;
      return result;
    } finally {
      node.running = false;
      if (!done) node.state = DIRTY;
    }
  }

  #finish(node: Node, result: unknown): unknown {
    if (node.state === UNDER_WAY) node.state = CLEAN;
    if (node.held && same(node.value, result)) return node.value;
    const isNews = node.held || !node.known;
    this.bytes -= node.bytes;
    node.bytes = (node.of as Query<unknown>).isPart ? 0 : bytesOf(result);
    this.bytes += node.bytes;
    node.value = result;
    node.held = node.known = true;
    if (isNews) for (const observer of node.observers) observer.mark(DIRTY);
    return result;
  }

  #askFor(node: Node): Ask {
    const places = new Map<AnyStep, number>();
    const ask = <V>(of: Query<V> | Input<V>, key: string): V => {
      const source = this.#node(of, key);
      this.#bringUp(source);
      if (!this.#ignoring?.(node.of.name, of.name)) {
        node.sources.add(source);
        source.observers.add(node);
      }
      return source.value as V;
    };
    const remembered = <A extends readonly unknown[], R>(step: Step<A, R>, ...inputs: A): R => {
      const own = step as unknown as AnyStep;
      const place = places.get(own) ?? 0;
      places.set(own, place + 1);
      return this.#step(node, own, place, inputs) as R;
    };
    const progress = (share: number) => this.onProgress?.(node.of.name, node.key, share);
    return Object.assign(ask, { step: remembered, progress }) as Ask;
  }

  #step(node: Node, step: AnyStep, place: number, inputs: readonly unknown[]): unknown {
    let list = node.steps.get(step);
    if (!list) node.steps.set(step, (list = []));
    const last = list[place];
    if (last && inputs.every((one, i) => this.#isLast(step, i, one, last))) return last.result;
    this.ran.push(step.name);
    const fresh = step.run(...inputs);
    const isKnown = last !== undefined && same(fresh, last.result);
    const result = isKnown ? last.result : fresh;
    const bytes = isKnown ? last.bytes : bytesOf(result);
    this.bytes += bytes - (last?.bytes ?? 0);
    list[place] = { inputs, result, bytes };
    return result;
  }

  /** Whether an argument is what it was last, or is told not to count. */
  #isLast(step: AnyStep, i: number, one: unknown, last: Remembered): boolean {
    return same(one, last.inputs[i]) || this.#ignoring?.(step.name, i) === true;
  }
}

function isWork(result: unknown): result is Work<unknown> {
  return typeof result === "object" && result !== null && Symbol.iterator in result && "next" in result;
}

function drained<V>(work: Work<V>): V {
  for (;;) {
    const next = work.next();
    if (next.done) return next.value;
  }
}
