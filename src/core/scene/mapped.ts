/** As an array's own `map`; the same array where nothing comes to anything else. */
export function mapped<T>(things: T[], change: (thing: T, i: number) => T): T[] {
  let out = things;
  things.forEach((thing, i) => {
    const now = change(thing, i);
    if (now === thing) return;
    if (out === things) out = [...things];
    out[i] = now;
  });
  return out;
}
