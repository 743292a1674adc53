/**
 * *Files that come in*: one file a format; how they are called stands in `kinds.ts`. Whatever it was, it is kept as a GLB
 * that any reader understands: compressed meshes unpacked, instances a node each, everything in one file. A GLB that is so
 * already stays as it is, byte for byte.
 */
import { InputError } from "../../schema";
import { writePlain, type GltfFile } from "../gltf";
import { isCompanion, meshKindOf, MESH_KINDS, type MeshKind } from "./kinds";
import type { GivenFile } from "./given";
import { readGlbAsIs, readGltf } from "./gltf";
import { readObj } from "./obj";
import { readPly } from "./ply";
import { readStl } from "./stl";
import { unpacked } from "./zip";

export type { GivenFile } from "./given";

type Read = (main: GivenFile, others: readonly GivenFile[]) => GltfFile | Promise<GltfFile>;

const READING: Readonly<Record<MeshKind, Read>> = {
  glb: readGlbAsIs,
  gltf: readGltf,
  obj: readObj,
  stl: readStl,
  ply: readPly,
};

/** What came in, as it is kept. */
export interface Incoming {
  file: GltfFile;
  /** A plain GLB. */
  bytes: Uint8Array;
}

/**
 * @param others files that came with it, among which those that it names are looked for
 * @throws InputError when it is of no kind that can be read, is damaged, or a file that it names is missing
 */
export async function readIncoming(main: GivenFile, others: readonly GivenFile[]): Promise<Incoming> {
  const kind = meshKindOf(main.name);
  if (!kind) {
    const labels = Object.values(MESH_KINDS).map(({ label }) => label);
    throw new InputError(
      `“${main.name}” cannot be brought in. Meshes are read from ${labels.slice(0, -1).join(", ")} and ${labels.at(-1)}.`,
    );
  }
  const file = await READING[kind](main, others);
  return { file, bytes: file.packed ? await writePlain(file.document) : main.bytes };
}

/** The meshes' files in a zip, each with all others. @throws InputError when there are none, or it cannot be opened */
export function meshesInZip(zip: GivenFile): { mains: GivenFile[]; others: GivenFile[] } {
  const files = unpacked(zip);
  const mains = files.filter(({ name }) => meshKindOf(name) !== null);
  if (mains.length === 0) throw new InputError(`“${zip.name}” holds no meshes, and it is no project file either.`);
  return { mains, others: files.filter(({ name }) => isCompanion(name)) };
}
