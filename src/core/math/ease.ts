/** Going from 0 to 1 with a start and a stop that are eased. */

/**
 * How far one has come, and how fast one is there, when a share of the time is spent on getting up to speed and on coming to
 * a stop, half of it each; between them the speed is even.
 *
 * @param t from 0 to 1
 * @param share 0 for even speed all the way, 1 for none that is even
 */
export function eased(t: number, share: number): { at: number; speed: number } {
  const ramp = share / 2;
  const top = 1 / (1 - ramp);
  if (t < ramp) return { at: (top * t * t) / (2 * ramp), speed: (top * t) / ramp };
  const left = 1 - t;
  if (left < ramp) return { at: 1 - (top * left * left) / (2 * ramp), speed: (top * left) / ramp };
  return { at: top * (t - ramp / 2), speed: top };
}
