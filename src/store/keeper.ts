/**
 * *Keeps the scene on the table.* Every edit is one entry of its own in the database, whole before the edit counts as kept;
 * the scene itself is written as a whole when nothing has changed for a while. It runs in a worker, so a busy page does not
 * hold it up, and under Node by itself.
 */
import Dexie from "dexie";
import { applyChange, parseScene, type Scene, type SceneChange } from "@/core/scene";
import { assetNames, db, type HeadRow } from "./db";

/** How keeping went. */
export type Kept =
  | { kind: "kept"; revision: number; at: number }
  /** Another tab has changed the scene since. */
  | { kind: "conflict" }
  /** The scene is no longer in the database: deleted in another tab, or with the browser's storage. */
  | { kind: "gone" }
  /** This keeper has no scene open: it was started again since. */
  | { kind: "closed" }
  /** It is kept, but files that it names are not there. */
  | { kind: "missing"; hashes: string[] };

export interface Opened {
  scene: Scene;
  revision: number;
  modified: number;
  /** Another version of it that was put aside, and when. */
  aside: { scene: Scene; time: number } | null;
}

/** The whole scene is written when no edit has come for so long, milliseconds, and there are edits that it lacks. */
const REST = 1500;

/** The edits of a scene since it was written as a whole. */
export const editsOf = (id: string) => db.edits.where("[id+revision]").between([id, Dexie.minKey], [id, Dexie.maxKey]);

/** A scene as it is kept, its edits included; undefined where there is none. To be called within a transaction or alone. */
export async function storedScene(id: string): Promise<{ head: HeadRow; scene: Scene } | undefined> {
  const [head, row, edits] = await Promise.all([db.heads.get(id), db.scenes.get(id), editsOf(id).toArray()]);
  if (!head || !row) return undefined;
  let scene = row.scene;
  for (const { revision, change } of edits) if (revision > row.revision) scene = applyChange(scene, change);
  return { head, scene };
}

/** Writes a scene as a whole, in place of whatever there was of it. To be called within a transaction. */
export async function putWhole(head: HeadRow, scene: Scene): Promise<void> {
  await db.scenes.put({ id: head.id, revision: head.revision, scene });
  await db.heads.put(head);
  await editsOf(head.id).delete();
}

export class Keeper {
  #id: string | null = null;
  #scene: Scene | null = null;
  #revision = 0;
  #queue: SceneChange[] = [];
  /** What the last turn came to. */
  #last: Kept | null = null;
  #writing: Promise<Kept> | null = null;
  #resting: ReturnType<typeof setTimeout> | undefined;

  /** Opens a scene; null where there is none. @throws InputError when what is kept is no scene that can be read */
  async open(id: string): Promise<Opened | null> {
    const [stored, aside] = await Promise.all([storedScene(id), db.asides.get(id)]);
    if (!stored) return null;
    const scene = parseScene(stored.scene);
    // What an earlier version wrote is brought up as a whole: edits of this one would not fit onto it.
    if (stored.scene.version !== scene.version)
      await db.transaction("rw", db.heads, db.scenes, db.edits, () => putWhole(stored.head, scene));
    [this.#id, this.#scene, this.#revision, this.#queue] = [id, scene, stored.head.revision, []];
    const { revision, modified } = stored.head;
    return { scene, revision, modified, aside: aside ? { scene: parseScene(aside.scene), time: aside.time } : null };
  }

  /** Keeps an edit of the open scene; with those that wait, in one transaction. What failed before is tried again with it. */
  write(change: SceneChange | null): Promise<Kept> {
    if (change) this.#queue.push(change);
    // Whoever comes while others are being written waits for the next turn, together with all who do.
    const turn = (this.#writing ?? Promise.resolve())
      .catch(() => undefined)
      .then(() => (change && this.#queue.length === 0 && this.#last ? this.#last : this.#flush()));
    this.#writing = turn;
    return turn;
  }

  async #flush(): Promise<Kept> {
    const [id, before, changes] = [this.#id, this.#scene, this.#queue];
    if (id === null || !before) return { kind: "closed" };
    this.#queue = [];
    let scene = before;
    for (const change of changes) scene = applyChange(scene, change);
    const last = changes.at(-1)?.revision ?? this.#revision;
    const at = Date.now();
    try {
      const kept = await db.transaction("rw", db.heads, db.edits, db.assets, async (): Promise<Kept> => {
        const head = await db.heads.get(id);
        if (!head) return { kind: "gone" };
        if (head.revision !== this.#revision) return { kind: "conflict" };
        const assets = assetNames(scene);
        if (changes.length > 0) {
          await db.edits.bulkPut(changes.map((change) => ({ id, revision: change.revision, change })));
          await db.heads.put({ id, name: scene.name, modified: at, revision: last, assets });
        }
        const there = new Set(await db.assets.where("hash").anyOf(assets).primaryKeys());
        const hashes = assets.filter((hash) => !there.has(hash));
        return hashes.length > 0 ? { kind: "missing", hashes } : { kind: "kept", revision: last, at };
      });
      if (kept.kind === "kept" || kept.kind === "missing") {
        [this.#scene, this.#revision] = [scene, last];
        if (changes.length > 0) this.#rest();
      }
      this.#last = kept;
      return kept;
    } catch (error) {
      this.#queue = [...changes, ...this.#queue];
      throw error;
    }
  }

  /** Whether the open scene is still there as it was kept. */
  verify = (): Promise<Kept> => this.write(null);

  #rest(): void {
    clearTimeout(this.#resting);
    this.#resting = setTimeout(() => void this.whole().catch(() => undefined), REST);
  }

  /** Writes the open scene as a whole, if it is still the one that is kept. */
  async whole(): Promise<void> {
    clearTimeout(this.#resting);
    const [id, scene, revision] = [this.#id, this.#scene, this.#revision];
    if (id === null || !scene) return;
    await db.transaction("rw", db.heads, db.scenes, db.edits, async () => {
      const head = await db.heads.get(id);
      if (head?.revision === revision) await putWhole(head, scene);
    });
  }

  /** Writes a scene once more as a whole, with the files that it needs: one that is gone, or one that this keeper never opened. */
  async again(id: string, scene: Scene, assets: ReadonlyMap<string, Uint8Array>): Promise<Kept> {
    const head = { id, name: scene.name, modified: Date.now(), revision: 0, assets: assetNames(scene) };
    await db.transaction("rw", db.heads, db.scenes, db.edits, db.assets, async () => {
      head.revision = Math.max(this.#revision, (await db.heads.get(id))?.revision ?? 0) + 1;
      await db.assets.bulkPut(
        Array.from(assets, ([hash, bytes]) => ({ hash, bytes: bytes as Uint8Array<ArrayBuffer> })),
      );
      await putWhole(head, scene);
    });
    [this.#id, this.#scene, this.#revision, this.#queue] = [id, scene, head.revision, []];
    return this.verify();
  }

  /** Puts a version of the scene aside, in place of one that is there; null takes it away. */
  async aside(id: string, scene: Scene | null): Promise<void> {
    if (scene) await db.asides.put({ id, scene, time: Date.now() });
    else await db.asides.delete(id);
  }
}
