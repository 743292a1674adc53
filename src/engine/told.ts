/** What is told of things by their ids: what came to something else since the last time, and what is gone. */
export interface Told<V> {
  changed: [id: string, value: V][];
  gone: string[];
}

/** Values are compared by identity. */
export const toldSince = <V>(before: ReadonlyMap<string, V>, now: ReadonlyMap<string, V>): Told<V> => ({
  changed: [...now].filter(([id, value]) => before.get(id) !== value),
  gone: [...before.keys()].filter((id) => !now.has(id)),
});

export const isNews = ({ changed, gone }: Told<unknown>): boolean => changed.length > 0 || gone.length > 0;

/** What one knows, once one has been told. */
export function knowing<V>(before: ReadonlyMap<string, V>, { changed, gone }: Told<V>): ReadonlyMap<string, V> {
  const now = new Map(before);
  for (const id of gone) now.delete(id);
  for (const [id, value] of changed) now.set(id, value);
  return now;
}
