/** A project as one file: a zip with `scene.json`, `assets/<hash>.glb` and, for pictures, `assets/<hash>.png`. */
import { isPng } from "../image";
import { strFromU8, strToU8, unzipSync, zipSync, type Zippable } from "fflate";
import { parseScene, type Scene } from "../scene";
import { InputError } from "../schema";
import { assetsOf, hashOf, type Assets } from "./assets";
import { isPointCache } from "./pc2";

export interface Project {
  scene: Scene;
  assets: Assets;
}

/** What a zip may unpack to, unless the caller says otherwise. */
const MAX_BYTES = 4 * 1024 ** 3;
/** What its scene.json may come to: a million pegs are a hundred megabytes. */
const MAX_SCENE = 256 * 1024 ** 2;

/** All zips of the same project are the same bytes: entries carry no time of their own. */
const NO_TIME = new Date(1980, 0, 1);

/** @throws InputError when an asset that the scene names is not among the given ones */
export function writeProject(scene: Scene, assets: Assets): Uint8Array {
  const files: Zippable = {
    "scene.json": [strToU8(JSON.stringify(scene, null, 2)), { level: 6, mtime: NO_TIME }],
  };
  for (const [hash, owner] of assetsOf(scene)) {
    const bytes = assets.get(hash);
    if (!bytes) throw new InputError(`The file of ${owner} is missing, so the project cannot be written.`);
    files[assetPath(hash, bytes)] = [bytes, { level: 6, mtime: NO_TIME }];
  }
  return zipSync(files);
}

/** How the files of assets end: meshes, pictures, point caches. */
const ENDINGS = ["glb", "png", "pc2"] as const;
const endingOf = (bytes: Uint8Array): (typeof ENDINGS)[number] =>
  isPng(bytes) ? "png" : isPointCache(bytes) ? "pc2" : "glb";

/** Where an asset lies in a project, by what its bytes are. */
export const assetPath = (hash: string, bytes: Uint8Array): string => `assets/${hash}.${endingOf(bytes)}`;

/**
 * Reads a project file.
 *
 * @throws InputError when it is no zip, holds no scene, lacks an asset, has a changed one, or was written by a newer version
 */
export function readProject(bytes: Uint8Array, name: string, maxBytes = MAX_BYTES): Project {
  const text = entriesOf(bytes, name, (path) => path === "scene.json", Math.min(MAX_SCENE, maxBytes))["scene.json"];
  if (!text) throw new InputError(`“${name}” is not a project file: there is no scene.json in it.`);
  const scene = parseSceneText(strFromU8(text), name);
  // Only what the scene names is unpacked, whatever else lies in the zip.
  const paths = new Set([...assetsOf(scene).keys()].flatMap((hash) => ENDINGS.map((one) => `assets/${hash}.${one}`)));
  const entries = entriesOf(bytes, name, (path) => paths.has(path), maxBytes - text.byteLength);
  return { scene, assets: checkedAssets(scene, name, (path) => entries[path]) };
}

/** Whether a zip is a project file rather than a bundle of something else. */
export function holdsScene(bytes: Uint8Array): boolean {
  try {
    let found = false;
    unzipSync(bytes, { filter: ({ name }) => ((found ||= name === "scene.json"), false) });
    return found;
  } catch {
    return false;
  }
}

/** The entries of a zip that are wanted. @throws InputError when it is none, or they come to more than `most` bytes */
function entriesOf(
  bytes: Uint8Array,
  name: string,
  wanted: (path: string) => boolean,
  most: number,
): Record<string, Uint8Array> {
  let unpacked = 0;
  try {
    return unzipSync(bytes, {
      filter: ({ name: path, originalSize }) => {
        if (!wanted(path)) return false;
        unpacked += originalSize;
        if (unpacked > most) throw new InputError(`“${name}” unpacks to more than ${megabytes(most)}.`);
        return true;
      },
    });
  } catch (error) {
    if (error instanceof InputError) throw error;
    throw new InputError(`“${name}” is not a project file: it is no zip, or a damaged one.`);
  }
}

/** The scene in the text of a `scene.json`. */
export function parseSceneText(text: string, name: string): Scene {
  if (isTooDeep(text)) throw new InputError(`“${name}” cannot be read: its scene.json is nested too deeply.`);
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    throw new InputError(`“${name}” cannot be read: its scene.json is no JSON.`);
  }
  return parseScene(data);
}

/** A scene's JSON has far fewer brackets within each other than this. */
const MOST_DEPTH = 64;

function isTooDeep(text: string): boolean {
  let depth = 0;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code === QUOTE) {
      // To the end of the string: a quotation mark with an even number of backslashes before it.
      for (i++; i < text.length && text.charCodeAt(i) !== QUOTE; i++) if (text.charCodeAt(i) === BACKSLASH) i++;
    } else if (code === 0x5b || code === 0x7b) {
      if (++depth > MOST_DEPTH) return true;
    } else if (code === 0x5d || code === 0x7d) depth--;
  }
  return false;
}

const [QUOTE, BACKSLASH] = [0x22, 0x5c];

/** The assets that a scene names, each there and unchanged. */
export function checkedAssets(scene: Scene, name: string, read: (path: string) => Uint8Array | undefined): Assets {
  const assets = new Map<string, Uint8Array>();
  for (const [hash, owner] of assetsOf(scene)) {
    const bytes = ENDINGS.reduce<Uint8Array | undefined>(
      (found, one) => found ?? read(`assets/${hash}.${one}`),
      undefined,
    );
    if (!bytes) throw new InputError(`“${name}” is not whole: the file of ${owner} (assets/${hash}) is missing.`);
    if (hashOf(bytes) !== hash) {
      throw new InputError(
        `“${name}” is not whole: the file of ${owner} (assets/${hash}) is not the one that was saved.`,
      );
    }
    assets.set(hash, bytes);
  }
  return assets;
}

const megabytes = (n: number): string => `${Math.round(n / 1024 ** 2)} MB`;
