/** MTL: the materials of an OBJ, as near as glTF's come to them. */
import type { Document, Material, Texture } from "@gltf-transform/core";
import { toLinear } from "../../image";
import { companion, type GivenFile } from "./given";

/** Pictures that glTF holds, by their first bytes. */
const KINDS: readonly [type: string, begins: readonly number[]][] = [
  ["image/png", [0x89, 0x50, 0x4e, 0x47]],
  ["image/jpeg", [0xff, 0xd8, 0xff]],
];

/** The materials by their names. Pictures that did not come along, or that no browser shows, are left out. */
export function materialsOf(document: Document, mtl: GivenFile, others: readonly GivenFile[]): Map<string, Material> {
  const found = new Map<string, Material>();
  const textures = new Map<GivenFile, Texture>();
  const textureOf = (words: readonly string[]): Texture | null => {
    // Options come before the path, each a word beginning with a dash and its values.
    const path = words
      .slice(1)
      .join(" ")
      .replace(/^(-\S+\s+(?:[-\d.]+\s+|on\s+|off\s+|\w\s+)*)*/, "");
    const file = companion(others, mtl.name, path);
    const type = file && KINDS.find(([, begins]) => begins.every((byte, i) => file.bytes[i] === byte))?.[0];
    if (!file || !type) return null;
    let texture = textures.get(file);
    if (!texture) {
      texture = document
        .createTexture(file.name)
        .setImage(file.bytes as Uint8Array<ArrayBuffer>)
        .setMimeType(type);
      textures.set(file, texture);
    }
    return texture;
  };
  let material: Material | null = null;
  for (const text of new TextDecoder().decode(mtl.bytes).split(/\r?\n/)) {
    const words = text.trim().split(/\s+/);
    const key = words[0].toLowerCase();
    if (key === "newmtl") {
      const name = words.slice(1).join(" ");
      material = document.createMaterial(name).setRoughnessFactor(0.85).setMetallicFactor(0);
      found.set(name, material);
    }
    if (!material) continue;
    const values = words.slice(1).map(Number);
    const [r, g, b, a] = material.getBaseColorFactor();
    if (key === "kd" && values.length >= 3 && values.every(Number.isFinite)) {
      const [x, y, z] = values.map((value) => toLinear(Math.min(1, Math.max(0, value))));
      material.setBaseColorFactor([x, y, z, a]);
    } else if ((key === "d" || key === "tr") && Number.isFinite(values[0])) {
      const opacity = Math.min(1, Math.max(0, key === "d" ? values[0] : 1 - values[0]));
      material.setBaseColorFactor([r, g, b, opacity]).setAlphaMode(opacity < 1 ? "BLEND" : "OPAQUE");
    } else if (key === "ns" && values[0] >= 0) {
      // Shininess runs from dull to polished; most of what it is used for is somewhere near dull.
      material.setRoughnessFactor(Math.min(1, Math.max(0.15, Math.sqrt(2 / (values[0] + 2)))));
    } else if (key === "map_kd") {
      const texture = textureOf(words);
      if (texture) material.setBaseColorTexture(texture).setBaseColorFactor([1, 1, 1, a]);
    } else if (key === "norm" || key === "map_norm") {
      material.setNormalTexture(textureOf(words));
    }
  }
  return found;
}
