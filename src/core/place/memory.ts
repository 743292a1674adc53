/**
 * *The last result of each step of one dressing*, with what went into it. Inputs are compared by identity, and where that
 * differs and they are plain data, by content: parameters come anew with every message from the interface.
 */
export class StepMemory {
  readonly #last = new Map<string, { inputs: readonly unknown[]; result: unknown }>();
  /** Names of the steps that came to something new since this was last emptied, in order. */
  computed: string[] = [];

  /**
   * The step's remembered result if all inputs are the same as last time, else what `compute` gives now. A new result that
   * has the same content as the old one counts as the old one, so that later steps need not run.
   */
  step<T>(name: string, inputs: readonly unknown[], compute: () => T): T {
    const last = this.#last.get(name);
    if (last && !this.changed(name, inputs)) return last.result as T;
    const fresh = compute();
    const known = last !== undefined && same(fresh, last.result);
    const result = known ? last.result : fresh;
    if (!known) this.computed.push(name);
    this.#last.set(name, { inputs, result });
    return result as T;
  }

  /** Whether a step would be computed anew with these inputs. */
  changed(name: string, inputs: readonly unknown[]): boolean {
    const last = this.#last.get(name);
    return !last || !inputs.every((input, i) => same(input, last.inputs[i]));
  }
}

function same(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (Array.isArray(a) && Array.isArray(b)) return a.length === b.length && a.every((item, i) => same(item, b[i]));
  if (!isPlain(a) || !isPlain(b)) return false;
  const keys = Object.keys(a);
  return keys.length === Object.keys(b).length && keys.every((key) => same(a[key], b[key]));
}

/** Whether a value is an object literal, also one that came from another thread. */
function isPlain(value: unknown): value is Record<string, unknown> {
  if (typeof value !== "object" || value === null) return false;
  const prototype: unknown = Object.getPrototypeOf(value);
  return prototype === null || Object.getPrototypeOf(prototype) === null;
}
