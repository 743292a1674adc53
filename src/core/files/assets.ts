/** Assets: files that a scene names by the hash of their bytes. */
import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex } from "@noble/hashes/utils.js";
import { filesOf, type Mover } from "../movers";
import { allParts, type Scene } from "../scene";

/** Bytes by their hash. */
export type Assets = ReadonlyMap<string, Uint8Array>;

/** The SHA-256 of some bytes, in hexadecimal: an asset's name. */
export const hashOf = (bytes: Uint8Array): string => bytesToHex(sha256(bytes));

/** The hashes of all assets that a scene names, with what names each, for messages. */
export function assetsOf(scene: Pick<Scene, "props" | "surfaces" | "dressings" | "lines">): Map<string, string> {
  const named = new Map<string, string>();
  for (const { asset, light, name } of scene.props) {
    if (asset !== null) named.set(asset, `the prop “${name}”`);
    if (light) named.set(light.asset, `the light version of the prop “${name}”`);
  }
  const { surfaces, dressings } = allParts(scene);
  for (const { asset, standIn, movers, name } of surfaces) {
    if (asset !== null) named.set(asset, `the surface “${name}”`);
    if (standIn !== null) named.set(standIn, `the stand-in of the surface “${name}”`);
    for (const mover of movers)
      for (const file of filesOf(mover as Mover)) named.set(file, `a mover of the surface “${name}”`);
  }
  for (const { name, gaps } of dressings) {
    for (const { asset } of gaps.images) named.set(asset, `a mask of the dressing “${name}”`);
  }
  return named;
}
