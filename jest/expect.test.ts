import fc from "fast-check";

const { own } = globalThis as unknown as { own: typeof expect };

const CHECKS = ["toBe", "toEqual", "toBeLessThan", "toBeLessThanOrEqual", "toBeGreaterThan", "toBeGreaterThanOrEqual"];
const MORE = ["toBeCloseTo", "toBeNull", "toBeNaN", "toContain", "toStrictEqual"];
const ALONE = ["toBeNull", "toBeNaN"];
const value = fc.oneof(
  fc.constantFrom<unknown>(0, -0, 1, 1.004, 1.005, 1.006, NaN, Infinity, -Infinity, null, undefined, "a", 3n),
  fc.array(fc.constantFrom<unknown>(0, -0, 1, NaN, "a", undefined), { maxLength: 2 }),
);

/** Whether a check lets pass. */
function passes(check: () => unknown): boolean {
  try {
    check();
    return true;
  } catch {
    return false;
  }
}

test("what is let pass at once is what the runner's own lets pass, the other way round as well", () => {
  let [passed, refused] = [0, 0];
  fc.assert(
    fc.property(value, value, fc.constantFrom(...CHECKS, ...MORE), fc.boolean(), (a, b, check, not) => {
      const by = (made: typeof expect) => {
        const said = not ? made(a).not : made(a);
        const checks = said as unknown as Record<string, (...args: unknown[]) => void>;
        return passes(() => checks[check](...(ALONE.includes(check) ? [] : [b])));
      };
      if (by(own)) passed++;
      else refused++;
      own(by(expect)).toBe(by(own));
    }),
    { numRuns: 3000 },
  );
  own(Math.min(passed, refused)).toBeGreaterThan(500);
});
