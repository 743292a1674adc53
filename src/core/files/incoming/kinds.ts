/** Which files are meshes, by the endings of their names, and which only belong to one. */
import { baseOf } from "./given";

/** By ending: what they are called, and whether they may name files beside them. */
export const MESH_KINDS = {
  glb: { label: "GLB", parted: false },
  gltf: { label: "glTF", parted: true },
  obj: { label: "OBJ", parted: true },
  stl: { label: "STL", parted: false },
  ply: { label: "PLY", parted: false },
} as const;

export type MeshKind = keyof typeof MESH_KINDS;

export const MESH_ENDINGS = Object.keys(MESH_KINDS);
/** What is chosen from for a replay. */
export const CACHE_ENDINGS = ["pc2", "mdd", "glb", "gltf"];
export const COMPANION_ENDINGS = ["bin", "mtl", "png", "jpg", "jpeg", "webp", "ktx2"];

const endingOf = (name: string): string => /\.([^./\\]+)$/.exec(baseOf(name))?.[1] ?? "";

/** Null for what is no mesh's file. */
export function meshKindOf(name: string): MeshKind | null {
  const ending = endingOf(name);
  return Object.hasOwn(MESH_KINDS, ending) ? (ending as MeshKind) : null;
}

export const isCompanion = (name: string): boolean => COMPANION_ENDINGS.includes(endingOf(name));

/** Whether a file may name others that have to come with it. */
export function isParted(name: string): boolean {
  const kind = meshKindOf(name);
  return kind !== null && MESH_KINDS[kind].parted;
}
