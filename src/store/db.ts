/** What is kept in the browser: scenes, their assets by the hash of their bytes, and pictures. */
import Dexie, { type Table } from "dexie";
import type { Scene } from "@/core/scene";

export interface SceneRow {
  id: string;
  name: string;
  /** Milliseconds since 1970. */
  modified: number;
  /** Counts the saves: whoever saves must know the latest one. */
  revision: number;
  scene: Scene;
}

export interface AssetRow {
  hash: string;
  bytes: Uint8Array<ArrayBuffer>;
}

/** Pictures of scenes by the scene's id, as data addresses. */
export interface PictureRow {
  id: string;
  picture: string;
}

class Database extends Dexie {
  scenes!: Table<SceneRow, string>;
  assets!: Table<AssetRow, string>;
  pictures!: Table<PictureRow, string>;

  constructor() {
    super("clothesline");
    this.version(1).stores({ scenes: "id, modified", assets: "hash", pictures: "id" });
  }
}

export const db = new Database();
