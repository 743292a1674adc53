/** A browser's stores for tests under Node: import it before anything that opens the database. */
import Dexie from "dexie";
import { IDBFactory } from "fake-indexeddb";

// Nothing that other files of tests have kept.
Dexie.dependencies.indexedDB = new IDBFactory();

const kept = new Map<string, string>();

export const localStorageStand = {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => void kept.set(key, value),
  removeItem: (key: string) => void kept.delete(key),
  get length() {
    return kept.size;
  },
};

Object.assign(globalThis, { localStorage: localStorageStand });
afterAll(() => Reflect.deleteProperty(globalThis, "localStorage"));
