/** What solids came to, kept by the names of their jobs, so that opening a scene joins nothing anew. It may all be thrown away. */
import { db } from "./db";

/** The oldest go first when there is more than so many bytes. */
const MOST_BYTES = 256 * 2 ** 20;

export async function keptSolid(name: string): Promise<unknown> {
  const row = await db.solids.get(name).catch(() => undefined);
  if (row) await db.solids.update(name, { used: Date.now() }).catch(() => undefined);
  return row?.solved;
}

/** Keeps one; where there is no room it is not kept, which costs only time. */
export async function keepSolid(name: string, solved: unknown, bytes: number): Promise<void> {
  if (bytes > MOST_BYTES) return;
  try {
    await db.transaction("rw", db.solids, async () => {
      await db.solids.put({ name, used: Date.now(), bytes, solved });
      const sizes: { name: string; bytes: number }[] = [];
      await db.solids.orderBy("used").each((row) => sizes.push({ name: row.name, bytes: row.bytes }));
      let total = sizes.reduce((sum, row) => sum + row.bytes, 0);
      for (const row of sizes) {
        if (total <= MOST_BYTES) break;
        await db.solids.delete(row.name);
        total -= row.bytes;
      }
    });
  } catch {
    // Without it the next one who opens the scene waits.
  }
}
