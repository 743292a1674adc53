/**
 * A second belt for the moment when the page goes away: a worker may be ended before it has written what it was just told.
 * What is not known to be kept then is also put down in local storage, and stays there until it is.
 */
import { parseScene, type Scene } from "@/core/scene";

interface Entry {
  /** The revision that was kept last; any later one has overtaken the entry. */
  revision: number;
  scene: Scene;
}

const keyOf = (id: string): string => `clothesline:unsaved:${id}`;

/** Puts down a scene. Where there is no room for it, what the keeper wrote has to do: all but the last instant. */
export function putDown(id: string, entry: Entry): void {
  try {
    localStorage.setItem(keyOf(id), JSON.stringify(entry));
  } catch {
    // A full or forbidden local storage leaves us the database.
  }
}

/** The scene put down over the given revision, or undefined. It stays put down until {@link pickUp}. */
export function lyingDown(id: string, revision: number): Scene | undefined {
  try {
    const text = localStorage.getItem(keyOf(id));
    if (text === null) return undefined;
    const entry = JSON.parse(text) as Entry;
    if (entry.revision === revision) return parseScene(entry.scene);
    pickUp(id);
  } catch {
    // What cannot be read is of no use.
  }
  return undefined;
}

/** Once all of it is kept, or has been overtaken. */
export function pickUp(id: string): void {
  try {
    localStorage.removeItem(keyOf(id));
  } catch {
    // There is nothing then.
  }
}
