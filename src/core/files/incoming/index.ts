/**
 * *Files that come in*: one file a format, and the table of them. Whatever it was, it is kept as a GLB that any reader
 * understands: compressed meshes unpacked, instances a node each, everything in one file. A GLB that is so already stays
 * as it is, byte for byte.
 */
import { InputError } from "../../schema";
import { writePlain, type GltfFile } from "../gltf";
import { baseOf, type GivenFile } from "./given";
import { readGlbAsIs, readGltf } from "./gltf";
import { readObj } from "./obj";
import { readPly } from "./ply";
import { readStl } from "./stl";
import { unpacked } from "./zip";

export type { GivenFile } from "./given";

/** A way of reading a mesh's file. */
interface Format {
  label: string;
  /** Whether it may name files beside it. */
  parted: boolean;
  read(main: GivenFile, others: readonly GivenFile[]): GltfFile | Promise<GltfFile>;
}

/** By the ending of the file's name. */
const READING: Readonly<Record<string, Format>> = {
  glb: { label: "GLB", parted: false, read: readGlbAsIs },
  gltf: { label: "glTF", parted: true, read: readGltf },
  obj: { label: "OBJ", parted: true, read: readObj },
  stl: { label: "STL", parted: false, read: readStl },
  ply: { label: "PLY", parted: false, read: readPly },
};

/** Endings of files that are meshes, and of those that only belong to one. */
export const MESH_ENDINGS = Object.keys(READING);
export const COMPANION_ENDINGS = ["bin", "mtl", "png", "jpg", "jpeg", "webp", "ktx2"];

const endingOf = (name: string): string => /\.([^./\\]+)$/.exec(baseOf(name))?.[1] ?? "";
export const isMeshFile = (name: string): boolean => endingOf(name) in READING;
export const isCompanion = (name: string): boolean => COMPANION_ENDINGS.includes(endingOf(name));
/** Whether a file may name others that have to come with it. */
export const isParted = (name: string): boolean => READING[endingOf(name)]?.parted ?? false;

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
  const format = READING[endingOf(main.name)];
  if (!format) {
    const labels = Object.values(READING).map(({ label }) => label);
    throw new InputError(
      `“${main.name}” cannot be brought in. Meshes are read from ${labels.slice(0, -1).join(", ")} and ${labels.at(-1)}.`,
    );
  }
  const file = await format.read(main, others);
  return { file, bytes: file.packed ? await writePlain(file.document) : main.bytes };
}

/** The meshes' files in a zip, each with all others. @throws InputError when there are none, or it cannot be opened */
export function meshesInZip(zip: GivenFile): { mains: GivenFile[]; others: GivenFile[] } {
  const files = unpacked(zip);
  const mains = files.filter(({ name }) => isMeshFile(name));
  if (mains.length === 0) throw new InputError(`“${zip.name}” holds no meshes, and it is no project file either.`);
  return { mains, others: files.filter(({ name }) => isCompanion(name)) };
}
