/** Scenes as wholes: list, make, open, save, copy, delete. Each write is one transaction, so no half of one is ever read. */
import { assetsOf, type Assets } from "@/core/files";
import { emptyScene, freeName, newId, parseScene, type Scene } from "@/core/scene";
import { db, type SceneRow } from "./db";

/** Somebody else, another tab most likely, has saved this scene in the meantime. */
export class ConflictError extends Error {
  constructor() {
    super("This scene was changed in another tab.");
  }
}

export interface SceneCard {
  id: string;
  name: string;
  modified: number;
  picture: string | null;
}

export async function listScenes(): Promise<SceneCard[]> {
  const [rows, pictures] = await Promise.all([
    db.scenes.orderBy("modified").reverse().toArray(),
    db.pictures.toArray(),
  ]);
  const byId = new Map(pictures.map((row) => [row.id, row.picture]));
  return rows.map(({ id, name, modified }) => ({ id, name, modified, picture: byId.get(id) ?? null }));
}

export const sceneExists = async (id: string): Promise<boolean> => (await db.scenes.get(id)) !== undefined;

/** A stored scene, checked and brought up to the present version; undefined where there is none. */
export async function loadScene(id: string): Promise<SceneRow | undefined> {
  const row = await db.scenes.get(id);
  return row && { ...row, scene: parseScene(row.scene) };
}

/** Adds a scene with its assets, under a name that no other scene has; gives its id. */
export async function addScene(scene: Scene, assets: Assets, id = newId()): Promise<string> {
  await db.transaction("rw", db.scenes, db.assets, async () => {
    await putAssets(assets);
    const names = (await db.scenes.toArray()).map((row) => row.name);
    const name = freeName(scene.name, names);
    await db.scenes.put({ id, name, modified: Date.now(), revision: 1, scene: { ...scene, name } });
  });
  return id;
}

export const newScene = (): Promise<string> => addScene(emptyScene("New scene"), new Map());

/**
 * Saves a scene whose last known revision is `revision`; gives the new one.
 *
 * @throws ConflictError when the stored scene is of another revision
 */
export function saveScene(id: string, scene: Scene, revision: number): Promise<number> {
  return db.transaction("rw", db.scenes, async () => {
    const stored = await db.scenes.get(id);
    if (stored && stored.revision !== revision) throw new ConflictError();
    const next = revision + 1;
    await db.scenes.put({ id, name: scene.name, modified: Date.now(), revision: next, scene });
    return next;
  });
}

export async function duplicateScene(id: string): Promise<string> {
  const row = await db.scenes.get(id);
  if (!row) throw new Error("That scene is no longer there.");
  const copy = await addScene(row.scene, new Map());
  const picture = await db.pictures.get(id);
  if (picture) await db.pictures.put({ id: copy, picture: picture.picture });
  return copy;
}

/** Deletes a scene, its picture, and the assets that no other scene names; gives what brings it all back. */
export async function deleteScene(id: string): Promise<() => Promise<void>> {
  const [row, picture] = await Promise.all([db.scenes.get(id), db.pictures.get(id)]);
  const assets = await db.transaction("rw", db.scenes, db.assets, db.pictures, async () => {
    await db.scenes.delete(id);
    await db.pictures.delete(id);
    const needed = new Set((await db.scenes.toArray()).flatMap(({ scene }) => [...assetsOf(scene).keys()]));
    const orphans = row ? [...assetsOf(row.scene).keys()].filter((hash) => !needed.has(hash)) : [];
    const removed = await db.assets.bulkGet(orphans);
    await db.assets.bulkDelete(orphans);
    return removed.filter((asset) => asset !== undefined);
  });
  return () =>
    db.transaction("rw", db.scenes, db.assets, db.pictures, async () => {
      if (row) await db.scenes.put(row);
      if (picture) await db.pictures.put(picture);
      await db.assets.bulkPut(assets);
    });
}

export async function renameScene(id: string, name: string): Promise<void> {
  await db.transaction("rw", db.scenes, async () => {
    const row = await db.scenes.get(id);
    if (!row) return;
    const scene = { ...row.scene, name };
    await db.scenes.put({ ...row, name, scene, modified: Date.now(), revision: row.revision + 1 });
  });
}

/** Adds assets; those that are there already stay. */
export async function putAssets(assets: Assets): Promise<void> {
  await db.assets.bulkPut(Array.from(assets, ([hash, bytes]) => ({ hash, bytes: bytes as Uint8Array<ArrayBuffer> })));
}

export async function assetBytes(hash: string): Promise<Uint8Array<ArrayBuffer> | undefined> {
  return (await db.assets.get(hash))?.bytes;
}

/** The assets that a scene names, as far as they are there. */
export async function assetsFor(scene: Scene): Promise<Map<string, Uint8Array>> {
  const rows = await db.assets.bulkGet([...assetsOf(scene).keys()]);
  return new Map(rows.flatMap((row) => (row ? [[row.hash, row.bytes]] : [])));
}

export const putPicture = (id: string, picture: string): Promise<string> => db.pictures.put({ id, picture });
