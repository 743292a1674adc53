/** What is kept in the browser: scenes, what was changed in them since, their assets by the hash of their bytes, pictures. */
import Dexie, { type Table } from "dexie";
import { assetsOf } from "@/core/files";
import type { Scene, SceneChange } from "@/core/scene";

/** What there is to know of a scene without reading it. */
export interface HeadRow {
  id: string;
  name: string;
  /** Milliseconds since 1970. */
  modified: number;
  /** Counts the edits that are kept: whoever writes must know the latest one. */
  revision: number;
  /** Hashes of the assets that it names. */
  assets: string[];
}

/** A scene as a whole, as it was at a revision. */
export interface SceneRow {
  id: string;
  revision: number;
  scene: Scene;
}

/** What differs at a revision from the one before it. */
export interface EditRow {
  id: string;
  revision: number;
  change: SceneChange;
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

/** A scene's other version: what a tab had when another one had changed the same scene. */
export interface AsideRow {
  id: string;
  time: number;
  scene: Scene;
}

/** What a solid came to, by the name of its job; it may be thrown away. The store does not look into it. */
export interface SolidRow {
  name: string;
  solved: unknown;
}

/** When that was used last, and how large it is: told apart, so that nobody reads it all to know. */
export interface SolidUseRow {
  name: string;
  /** Milliseconds since 1970. */
  used: number;
  bytes: number;
}

/** A recipe, and a picture of what it came to. The store does not look into it. */
export interface RecipeRow {
  id: string;
  recipe: unknown;
  picture: string | null;
}

class Database extends Dexie {
  heads!: Table<HeadRow, string>;
  scenes!: Table<SceneRow, string>;
  edits!: Table<EditRow, [string, number]>;
  assets!: Table<AssetRow, string>;
  pictures!: Table<PictureRow, string>;
  asides!: Table<AsideRow, string>;
  solids!: Table<SolidRow, string>;
  solidUses!: Table<SolidUseRow, string>;
  recipes!: Table<RecipeRow, string>;

  constructor() {
    super("clothesline");
    this.version(1).stores({ scenes: "id, modified", assets: "hash", pictures: "id" });
    // Version 2 keeps each edit by itself, and what the list of scenes shows apart from the scenes.
    this.version(2)
      .stores({ scenes: "id", heads: "id, modified", edits: "[id+revision]", asides: "id" })
      .upgrade(async (transaction) => {
        const rows = await transaction.table<SceneRow & Omit<HeadRow, "assets">, string>("scenes").toArray();
        const heads = rows.map(({ id, name, modified, revision, scene }) => ({
          ...{ id, name, modified, revision },
          assets: assetNames(scene),
        }));
        await transaction.table("heads").bulkPut(heads);
      });
    // Version 3 keeps what solids came to.
    this.version(3).stores({ solids: "name", solidUses: "name, used" });
    // Version 4 keeps recipes.
    this.version(4).stores({ recipes: "id" });
  }
}

export const db = new Database();

/** The hashes of all assets that a scene names; none of what is no scene of the present version. */
export function assetNames(scene: Scene): string[] {
  try {
    return [...assetsOf(scene).keys()];
  } catch {
    return [];
  }
}
