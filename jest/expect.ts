/**
 * *What plainly holds is let pass at once.* For each `expect` the runner makes some sixty functions, which in tests that look
 * at every number of thousands takes longer than all they test. What does not plainly hold goes to the runner's own, which
 * decides and says what is wrong.
 */
type Own = typeof expect;
type Check = (this: QuickNot, ...args: unknown[]) => unknown;
type Checks = Record<string, (...args: unknown[]) => unknown>;

const all = globalThis as unknown as { expect: Own; own: Own };
/** The runner's own, which tests of these find under this name. */
const own = (all.own = all.expect);

/** What is said of a value, and the other way round. */
class QuickNot {
  constructor(readonly actual: unknown) {}
}
class Quick extends QuickNot {
  get not() {
    return new QuickNot(this.actual);
  }
  get resolves(): unknown {
    return own(this.actual).resolves;
  }
  get rejects(): unknown {
    return own(this.actual).rejects;
  }
}

const alike = (a: unknown, b: unknown): boolean =>
  Object.is(a, b) ||
  (Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((one, i) => Object.is(one, b[i])));

type Holds = (actual: never, expected: never, digits?: number) => boolean;

/** When each of them plainly holds. */
const HOLDS: Readonly<Record<string, Holds>> = {
  toBe: Object.is as Holds,
  toEqual: alike,
  toBeLessThan: (a: unknown, b: unknown) => typeof a === "number" && typeof b === "number" && a < b,
  toBeLessThanOrEqual: (a: unknown, b: unknown) => typeof a === "number" && typeof b === "number" && a <= b,
  toBeGreaterThan: (a: unknown, b: unknown) => typeof a === "number" && typeof b === "number" && a > b,
  toBeGreaterThanOrEqual: (a: unknown, b: unknown) => typeof a === "number" && typeof b === "number" && a >= b,
  toBeCloseTo: (a: unknown, b: unknown, digits = 2) =>
    typeof a === "number" && typeof b === "number" && Math.abs(a - b) < 10 ** -digits / 2,
  toBeNull: (a: unknown) => a === null,
};

/** When each of them plainly does not hold, where that is asked for. */
const FAILS: Readonly<Record<string, Holds>> = {
  toBe: (a: unknown, b: unknown) => !Object.is(a, b),
  toBeNaN: (a: unknown) => typeof a === "number" && a === a,
  toContain: (a: unknown, b: unknown) => Array.isArray(a) && !a.includes(b),
};

/** Gives a class all checks: those that are plain at once, all others by the runner's own. */
function equip(made: { prototype: QuickNot }, plain: typeof HOLDS, theirs: (actual: unknown) => unknown): void {
  for (const name of Object.keys(own(0).not)) {
    const holds = plain[name];
    const check: Check = function (...args) {
      if (holds?.(this.actual as never, args[0] as never, args[1] as number | undefined)) return undefined;
      try {
        return (theirs(this.actual) as Checks)[name](...args);
      } catch (error) {
        // So that the line that is shown is the test's.
        if (error instanceof Error) Error.captureStackTrace(error, check);
        throw error;
      }
    };
    Object.defineProperty(made.prototype, name, { value: check });
  }
}

equip(Quick, HOLDS, own);
equip(QuickNot, FAILS, (actual) => own(actual).not);
all.expect = Object.assign((actual: unknown) => new Quick(actual), own) as unknown as Own;
