/** glTF that comes in: as one GLB, or as a description with its files beside it. */
import { decodedUri, parseDescription, readDescribed, readGlbFile, type GltfFile } from "../gltf";
import { companion, type GivenFile } from "./given";

export const readGlbAsIs = ({ name, bytes }: GivenFile): Promise<GltfFile> => readGlbFile(bytes, name);

export async function readGltf({ name, bytes }: GivenFile, others: readonly GivenFile[]): Promise<GltfFile> {
  const json = parseDescription(bytes, name);
  const resource = (uri: string) => companion(others, name, decodedUri(uri))?.bytes;
  return { ...(await readDescribed(json, null, name, resource)), packed: true };
}
