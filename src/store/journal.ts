/**
 * The last resort against lost work: what was not saved yet when the page went away. The database answers too late for that,
 * so the scene is put down in local storage, which answers at once, and taken up again when the scene is next opened.
 */
import { parseScene, type Scene } from "@/core/scene";

interface Entry {
  /** The stored revision that the scene was made from; any later one has overtaken the entry. */
  revision: number;
  scene: Scene;
}

const keyOf = (id: string): string => `clothesline:unsaved:${id}`;

/** Puts down an unsaved scene. Where there is no room it stays as it is in the database: at most a second old. */
export function putDown(id: string, entry: Entry): void {
  try {
    localStorage.setItem(keyOf(id), JSON.stringify(entry));
  } catch {
    // A full or forbidden local storage leaves us the database.
  }
}

/** The scene put down over the given revision, or undefined; the entry is gone afterwards either way. */
export function takeUp(id: string, revision: number): Scene | undefined {
  try {
    const text = localStorage.getItem(keyOf(id));
    localStorage.removeItem(keyOf(id));
    if (text === null) return undefined;
    const entry = JSON.parse(text) as Entry;
    return entry.revision === revision ? parseScene(entry.scene) : undefined;
  } catch {
    return undefined;
  }
}
