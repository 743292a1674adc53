/** *A shelf of pictures*: they are made when they are first asked for, a few at a time so that the screen stays alive. */
import { create } from "zustand";

interface Making<Wanted, Made> {
  /** So many are kept; the oldest go first. */
  most: number;
  /** So many are made at a time. */
  atOnce: number;
  /** In the order in which they are wanted; undefined is what cannot be made yet, and is asked for anew. */
  make: (wanted: readonly Wanted[]) => readonly (Made | undefined)[];
}

/** What is asked for within so many milliseconds is made together: each making waits for the graphics once. */
const GATHER = 40;

export function shelfOf<Wanted, Made>({ most, atOnce, make }: Making<Wanted, Made>) {
  const useShelf = create<{ pictures: ReadonlyMap<string, Made> }>()(() => ({ pictures: new Map() }));
  const waiting = new Map<string, Wanted>();

  function work(): void {
    const next = [...waiting].slice(0, atOnce);
    for (const [name] of next) waiting.delete(name);
    const made = make(next.map(([, wanted]) => wanted));
    const come = next.flatMap(([name], i) => (made[i] === undefined ? [] : [[name, made[i]] as const]));
    if (come.length > 0)
      useShelf.setState(({ pictures }) => ({ pictures: new Map([...pictures, ...come].slice(-most)) }));
    if (waiting.size > 0) setTimeout(work, 0);
  }

  /** The picture of that name; undefined until it is made. */
  function ask(name: string, wanted: Wanted): Made | undefined {
    const made = useShelf.getState().pictures.get(name);
    if (made === undefined && !waiting.has(name)) {
      waiting.set(name, wanted);
      if (waiting.size === 1) setTimeout(work, GATHER);
    }
    return made;
  }

  return { useShelf, ask };
}
