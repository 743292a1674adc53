/** Which moment of a clip is shown, when it is played so often. */

/**
 * @param gone how much of the clip has been played so far, seconds; below zero it is played backwards
 * @param seconds how long the clip is
 * @param times how often it is played; 0 for without end
 */
export function clipTime(gone: number, seconds: number, times: number): number {
  if (!(seconds > 0)) return 0;
  // What has ended stays at its end; played backwards that is its beginning.
  if (times > 0 && Math.abs(gone) >= times * seconds) return gone > 0 ? seconds : 0;
  const into = gone - seconds * Math.floor(gone / seconds);
  return into < seconds ? Math.max(0, into) : 0;
}
