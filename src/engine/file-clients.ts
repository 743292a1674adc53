/** *The application's side of the workers for files and meshes*: one each for what is asked for, what goes on in the background and what strangers made. */
import * as Comlink from "comlink";
import type { Member, Merged, TriangleMesh, Shapes } from "@/core/mesh";
import type { Assets, GivenFile } from "@/core/files";
import { InputError } from "@/core/schema";
import type { Scene } from "@/core/scene";
import type { Answer, FilesApi } from "./files.worker";
import type { WorstFinding } from "./look-through";
import type { MeshesApi } from "./meshes.worker";

/** A worker for whole files, started at its first use; ended, it starts again at the next. */
class FilesWorker {
  #worker: Worker | null = null;
  #remote: Comlink.Remote<FilesApi> | null = null;
  readonly #waiting = new Set<(reason: Error) => void>();

  /** @throws InputError with a sentence for the artist when it cannot be done, or has been ended */
  async ask<T>(work: (remote: Comlink.Remote<FilesApi>) => Promise<Answer<T>>): Promise<T> {
    if (!this.#worker) {
      this.#worker = new Worker(new URL("./files.worker.ts", import.meta.url), { type: "module" });
      this.#worker.onerror = () => this.end("The work on files stopped unexpectedly. Try again.");
      this.#remote = Comlink.wrap<FilesApi>(this.#worker);
    }
    let give: (reason: Error) => void = () => undefined;
    const ended = new Promise<never>((_, reject) => this.#waiting.add((give = reject)));
    try {
      const result = await Promise.race([work(this.#remote!), ended]);
      if (result.ok) return result.value;
      throw result.expected ? new InputError(result.sentence) : new Error(result.sentence);
    } finally {
      this.#waiting.delete(give);
    }
  }

  /** Ends whatever it does; all who wait are told why. */
  end(why: string): void {
    this.#worker?.terminate();
    this.#worker = null;
    for (const give of [...this.#waiting]) give(new InputError(why));
  }
}

const files = new FilesWorker();

/** Work on whole files, in a worker. Each throws an InputError with a sentence for the artist when it cannot be done. */
export const fileJobs = {
  splitFile: (bytes: Uint8Array, name: string) => files.ask((remote) => remote.splitFile(bytes, name)),
  writePlacements: (...args: Parameters<FilesApi["writePlacements"]>) =>
    files.ask((remote) => remote.writePlacements(...args)),
  writeAnimation: (...args: Parameters<FilesApi["writeAnimation"]>) =>
    files.ask((remote) => remote.writeAnimation(...args)),
  placeWithSeed: (...args: Parameters<FilesApi["placeWithSeed"]>) =>
    files.ask((remote) => remote.placeWithSeed(...args)),
  writeSolid: (...args: Parameters<FilesApi["writeSolid"]>) => files.ask((remote) => remote.writeSolid(...args)),
  writeProject: (...args: Parameters<FilesApi["writeProject"]>) => files.ask((remote) => remote.writeProject(...args)),
};

/** What takes as long as it takes goes on beside all else. */
const background = new FilesWorker();

/**
 * What is wrong at all frames of a scene, in a worker of its own.
 *
 * @param looked is told how far it is, from 0 to 1
 * @throws InputError when it has been stopped
 */
export const lookThrough = (
  scene: Scene,
  assets: Assets,
  frames: readonly [number, number],
  looked: (share: number) => void,
): Promise<WorstFinding[]> => {
  const tell = (share: number) => {
    looked(share);
    return true;
  };
  return background.ask((remote) => remote.lookThrough(scene, assets, frames, Comlink.proxy(tell))) as Promise<
    WorstFinding[]
  >;
};

export const stopLookingThrough = (): void => background.end("Stopped.");

/** Files of strangers are read in a worker of their own, which can be ended without losing anything else. */
const strangers = new FilesWorker();

/** A single file is read no longer than this, milliseconds. */
const LONGEST = 120_000;

async function within<T>(name: string, work: Promise<T>): Promise<T> {
  const clock = setTimeout(
    () => strangers.end(`“${name}” took longer than two minutes to read, and was let go.`),
    LONGEST,
  );
  try {
    return await work;
  } finally {
    clearTimeout(clock);
  }
}

/** Reading of what comes in, as {@link fileJobs}. */
export const incoming = {
  bringInFile: (main: GivenFile, others: readonly GivenFile[]) =>
    within(
      main.name,
      strangers.ask((remote) => remote.bringInFile(main, others)),
    ),
  bringInCache: (...args: Parameters<FilesApi["bringInCache"]>) =>
    within(
      args[0].name,
      strangers.ask((remote) => remote.bringInCache(...args)),
    ),
  readDrawing: (file: GivenFile) =>
    within(
      file.name,
      strangers.ask((remote) => remote.readDrawing(file)),
    ),
  meshesInZip: (zip: GivenFile) =>
    within(
      zip.name,
      strangers.ask((remote) => remote.meshesInZip(zip)),
    ),
  readProject: (bytes: Uint8Array, name: string) =>
    within(
      name,
      strangers.ask((remote) => remote.readProject(bytes, name)),
    ),
  plainGlb: (bytes: Uint8Array, name: string) =>
    within(
      name,
      strangers.ask((remote) => remote.plainGlb(bytes, name)),
    ),
  /** Ends what is being read; it comes to an InputError. */
  stop: () => strangers.end("Stopped."),
};

let meshesWorker: Comlink.Remote<MeshesApi> | null = null;
const taught = new WeakMap<TriangleMesh, string>();
let names = 0;

/** The shaped members of a prop's part as one mesh, made in a worker. The part's mesh goes there once. */
export async function mergeShapes(
  part: TriangleMesh,
  shapes: Shapes,
  members: Member[],
  maxTriangles: number,
): Promise<Merged> {
  meshesWorker ??= Comlink.wrap<MeshesApi>(
    new Worker(new URL("./meshes.worker.ts", import.meta.url), { type: "module" }),
  );
  let name = taught.get(part);
  if (name === undefined) taught.set(part, (name = String(names++)));
  const merged = await meshesWorker.merge(name, shapes, members, maxTriangles);
  if (merged) return merged;
  await meshesWorker.learn(name, part);
  return (await meshesWorker.merge(name, shapes, members, maxTriangles))!;
}
