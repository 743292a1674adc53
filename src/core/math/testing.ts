/** Numbers for property tests. */
import fc from "fast-check";

/**
 * Numbers of a range, each part of it as likely as any other. fast-check's own doubles are chosen by their bits, so that of a
 * range about zero nearly all lie very close to it, and what is to be tried is not.
 */
export const evenly = (min: number, max: number): fc.Arbitrary<number> =>
  fc.integer({ min: 0, max: 1e6 }).map((x) => min + (x / 1e6) * (max - min));
