/** The worker for whole files: props coming in, exports and projects going out. Apart, so that edits never wait for it. */
import { InputError } from "@/core/schema";
import * as Comlink from "comlink";
import {
  bringInCache,
  bringInFile,
  meshesInZip,
  plainGlb,
  readProject,
  readSvg,
  writeSolid,
  splitFile,
  writeProject,
  type Assets,
  type GivenFile,
} from "@/core/files";
import { type Scene } from "@/core/scene";
import { Engine } from "./engine";
import { lookThrough } from "./look-through";
import { placeWithSeed, writeAnimation, writePlacements } from "./jobs";

/** Errors meant for the artist come back as values: a thrown error would lose its kind on the way between threads. */
export type Answer<T> = { ok: true; value: T } | { ok: false; sentence: string; expected: boolean };

async function answer<T>(work: () => Promise<T> | T): Promise<Answer<T>> {
  try {
    return { ok: true, value: await work() };
  } catch (error) {
    const sentence = error instanceof Error ? error.message : String(error);
    return { ok: false, sentence, expected: error instanceof InputError };
  }
}

/** Remembers what it placed for one seed, for the next. */
const seeding = new Engine();

const api = {
  splitFile: (bytes: Uint8Array, name: string) => answer(() => splitFile(bytes, name)),
  bringInFile: (main: GivenFile, others: readonly GivenFile[]) => answer(() => bringInFile(main, others)),
  bringInCache: (...args: Parameters<typeof bringInCache>) => answer(() => bringInCache(...args)),
  readDrawing: (file: GivenFile) => answer(() => readSvg(file.bytes, file.name)),
  meshesInZip: (zip: GivenFile) => answer(() => meshesInZip(zip)),
  plainGlb: (bytes: Uint8Array, name: string) => answer(() => plainGlb(bytes, name)),
  writePlacements: (...args: Parameters<typeof writePlacements>) => answer(() => writePlacements(...args)),
  writeAnimation: (...args: Parameters<typeof writeAnimation>) => answer(() => writeAnimation(...args)),
  /** One dressing as it comes with another seed. */
  placeWithSeed: (scene: Scene, assets: Assets, dressing: string, seed: number) =>
    answer(() => placeWithSeed(scene, assets, dressing, seed, seeding)),
  lookThrough: (...args: Parameters<typeof lookThrough>) => answer(() => lookThrough(...args)),
  /** A solid as a file of its own. */
  writeSolid: (...about: Parameters<typeof writeSolid>) => answer(() => writeSolid(...about)),
  writeProject: (scene: Scene, assets: Assets) => answer(() => writeProject(scene, assets)),
  readProject: (bytes: Uint8Array, name: string) => answer(() => readProject(bytes, name)),
};

export type FilesApi = typeof api;

Comlink.expose(api);
