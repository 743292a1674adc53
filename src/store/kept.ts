/**
 * What solids came to and how meshes were unrolled, kept by names that say all that went in, so that opening a scene works
 * neither out anew. It may all be thrown away.
 */
import { db } from "./db";

/** The oldest go first when there is more than so many bytes. */
const MOST_BYTES = 256 * 2 ** 20;

export async function kept(name: string): Promise<unknown> {
  try {
    const row = await db.solids.get(name);
    if (row) await db.solidUses.update(name, { used: Date.now() });
    return row?.solved;
  } catch {
    return undefined;
  }
}

/** Keeps one; where there is no room it is not kept, which costs only time. */
export async function keep(name: string, value: unknown, bytes: number): Promise<void> {
  if (bytes > MOST_BYTES) return;
  try {
    await db.transaction("rw", db.solids, db.solidUses, async () => {
      await db.solids.put({ name, solved: value });
      await db.solidUses.put({ name, used: Date.now(), bytes });
      const uses = await db.solidUses.orderBy("used").toArray();
      let total = uses.reduce((sum, use) => sum + use.bytes, 0);
      const gone = uses.filter((use) => {
        const goes = total > MOST_BYTES;
        if (goes) total -= use.bytes;
        return goes;
      });
      const names = gone.map((use) => use.name);
      await db.solids.bulkDelete(names);
      await db.solidUses.bulkDelete(names);
    });
  } catch {
    // Without it the next one who opens the scene waits.
  }
}
