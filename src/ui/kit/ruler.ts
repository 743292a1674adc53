/** What rulers share: how far their marks lie apart, and how those are written. */

/** 1, 2 or 5 times a power of ten, at least `least`. */
export function niceStep(least: number): number {
  const power = 10 ** Math.floor(Math.log10(least));
  return power * ([1, 2, 5, 10].find((k) => k * power >= least) ?? 10);
}

/** A place on a ruler with as many decimals as its marks need. */
export const markLabel = (at: number, step: number): string =>
  at.toFixed(Math.max(0, Math.ceil(-Math.log10(step) - 1e-9)));
