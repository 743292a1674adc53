/** Scenes as wholes: list, make, open, copy, rename, delete. Each write is one transaction, so no half of one is ever read. */
import type { Assets } from "@/core/files";
import { emptyScene, freeName, newId, parseScene, type Scene } from "@/core/scene";
import { assetNames, db } from "./db";
import { editsOf, putWhole, storedScene } from "./keeper";
import { tellDeleted } from "./tabs";

export interface SceneCard {
  id: string;
  name: string;
  modified: number;
  picture: string | null;
}

export async function listScenes(): Promise<SceneCard[]> {
  const [heads, pictures] = await Promise.all([
    db.heads.orderBy("modified").reverse().toArray(),
    db.pictures.toArray(),
  ]);
  const byId = new Map(pictures.map((row) => [row.id, row.picture]));
  return heads.map(({ id, name, modified }) => ({ id, name, modified, picture: byId.get(id) ?? null }));
}

export const sceneExists = async (id: string): Promise<boolean> => (await db.heads.get(id)) !== undefined;

/** A stored scene, checked and brought up to the present version; undefined where there is none. */
export async function loadScene(id: string): Promise<{ scene: Scene; revision: number } | undefined> {
  const stored = await storedScene(id);
  return stored && { scene: parseScene(stored.scene), revision: stored.head.revision };
}

/** Adds a scene with its assets, under a name that no other scene has; gives its id. */
export async function addScene(scene: Scene, assets: Assets, id = newId()): Promise<string> {
  await db.transaction("rw", db.heads, db.scenes, db.edits, db.assets, async () => {
    await putAssets(assets);
    const names = (await db.heads.toArray()).map((row) => row.name);
    const name = freeName(scene.name, names);
    const head = { id, name, modified: Date.now(), revision: 1, assets: assetNames(scene) };
    await putWhole(head, { ...scene, name });
  });
  return id;
}

export const newScene = (): Promise<string> => addScene(emptyScene("New scene"), new Map());

export async function duplicateScene(id: string): Promise<string> {
  const stored = await storedScene(id);
  if (!stored) throw new Error("That scene is no longer there.");
  const copy = await addScene(stored.scene, new Map());
  const picture = await db.pictures.get(id);
  if (picture) await db.pictures.put({ id: copy, picture: picture.picture });
  return copy;
}

/**
 * Deletes a scene, its picture, and the assets that no other scene names, and tells other tabs. Gives what brings it all
 * back, but for what has come to be there again in the meantime.
 */
export async function deleteScene(id: string): Promise<() => Promise<void>> {
  const tables = [db.heads, db.scenes, db.edits, db.assets, db.pictures];
  const { stored, picture, assets } = await db.transaction("rw", tables, async () => {
    const [stored, picture] = [await storedScene(id), await db.pictures.get(id)];
    await Promise.all([db.heads.delete(id), db.scenes.delete(id), db.pictures.delete(id)]);
    await editsOf(id).delete();
    const needed = new Set((await db.heads.toArray()).flatMap((head) => head.assets));
    const orphans = (stored?.head.assets ?? []).filter((hash) => !needed.has(hash));
    const removed = await db.assets.bulkGet(orphans);
    await db.assets.bulkDelete(orphans);
    return { stored, picture, assets: removed.filter((asset) => asset !== undefined) };
  });
  tellDeleted(id);
  return () =>
    db.transaction("rw", tables, async () => {
      await db.assets.bulkPut(assets);
      if (stored && !(await db.heads.get(id))) await putWhole(stored.head, stored.scene);
      if (picture && !(await db.pictures.get(id))) await db.pictures.put(picture);
    });
}

export async function renameScene(id: string, name: string): Promise<void> {
  await db.transaction("rw", db.heads, db.scenes, db.edits, async () => {
    const stored = await storedScene(id);
    if (!stored) return;
    const { head, scene } = stored;
    await putWhole({ ...head, name, modified: Date.now(), revision: head.revision + 1 }, { ...scene, name });
  });
}

/** Bytes of assets that were asked for or put while this page is open, so that what is lost can be written again. */
const held = new Map<string, Uint8Array<ArrayBuffer>>();

/** Adds assets; those that are there already stay. */
export async function putAssets(assets: Assets): Promise<void> {
  for (const [hash, bytes] of assets) held.set(hash, bytes as Uint8Array<ArrayBuffer>);
  await db.assets.bulkPut(Array.from(assets, ([hash, bytes]) => ({ hash, bytes: bytes as Uint8Array<ArrayBuffer> })));
}

export async function assetBytes(hash: string): Promise<Uint8Array<ArrayBuffer> | undefined> {
  const bytes = held.get(hash) ?? (await db.assets.get(hash))?.bytes;
  if (bytes) held.set(hash, bytes);
  return bytes;
}

/** The assets that a scene names, as far as they are there. */
export async function assetsFor(scene: Scene): Promise<Map<string, Uint8Array>> {
  const all = await Promise.all(assetNames(scene).map(async (hash) => [hash, await assetBytes(hash)] as const));
  return new Map(all.flatMap(([hash, bytes]) => (bytes ? [[hash, bytes]] : [])));
}

/** Lets go of the bytes of all other assets. */
export function holdOnly(hashes: readonly string[]): void {
  const named = new Set(hashes);
  for (const hash of held.keys()) if (!named.has(hash)) held.delete(hash);
}

/** Those that are in memory. */
export const heldAssets = (hashes: readonly string[]): Map<string, Uint8Array> =>
  new Map(hashes.flatMap((hash) => (held.has(hash) ? [[hash, held.get(hash)!]] : [])));

export const putPicture = (id: string, picture: string): Promise<string> => db.pictures.put({ id, picture });
