/** Assets as things to draw: each GLB loaded once, its meshes laid flat into parts of one geometry and one material. */
import { useEffect } from "react";
import { BufferGeometry, Material, Mesh, Object3D, SkinnedMesh, type Box3 } from "three";
import { GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";
import { computeBoundsTree, disposeBoundsTree, acceleratedRaycast } from "three-mesh-bvh";
import { create } from "zustand";
import { assetBytes } from "@/store";

BufferGeometry.prototype.computeBoundsTree = computeBoundsTree;
BufferGeometry.prototype.disposeBoundsTree = disposeBoundsTree;
Mesh.prototype.raycast = acceleratedRaycast;

export interface ModelPart {
  geometry: BufferGeometry;
  material: Material | Material[];
}

export interface Model {
  parts: readonly ModelPart[];
  triangles: number;
  box: Box3;
}

type Loaded = Model | "loading" | "failed";

export const useModels = create<{ models: ReadonlyMap<string, Loaded> }>()(() => ({ models: new Map() }));

const put = (hash: string, loaded: Loaded) =>
  useModels.setState(({ models }) => ({ models: new Map(models).set(hash, loaded) }));

/** The model of an asset, loading it if need be; null until it is there, or when it cannot be drawn. */
export function useModel(hash: string): Model | null {
  const loaded = useModels(({ models }) => models.get(hash));
  useEffect(() => void requestModel(hash), [hash]);
  return loaded === undefined || typeof loaded === "string" ? null : loaded;
}

export async function requestModel(hash: string): Promise<void> {
  if (useModels.getState().models.has(hash)) return;
  put(hash, "loading");
  try {
    const bytes = await assetBytes(hash);
    if (!bytes) throw new Error("the asset is missing");
    const copy = bytes.slice().buffer;
    const { scene } = await new GLTFLoader().parseAsync(copy, "");
    put(hash, flatten(scene));
  } catch {
    put(hash, "failed");
  }
}

function flatten(root: Object3D): Model {
  root.updateMatrixWorld(true);
  const parts: ModelPart[] = [];
  let triangles = 0;
  root.traverse((object) => {
    if (!(object instanceof Mesh) || object instanceof SkinnedMesh) return;
    const geometry = (object.geometry as BufferGeometry).clone().applyMatrix4(object.matrixWorld);
    if (object.matrixWorld.determinant() < 0) turnInsideOut(geometry);
    if (!geometry.getAttribute("normal")) geometry.computeVertexNormals();
    geometry.computeBoundingBox();
    triangles += (geometry.index?.count ?? geometry.getAttribute("position").count) / 3;
    parts.push({ geometry, material: object.material as Material });
  });
  if (parts.length === 0) throw new Error("nothing to draw");
  const box = parts[0].geometry.boundingBox!.clone();
  for (const part of parts) box.union(part.geometry.boundingBox!);
  return { parts, triangles, box };
}

function turnInsideOut(geometry: BufferGeometry): void {
  const index = geometry.index;
  if (!index) return;
  for (let i = 0; i + 2 < index.count; i += 3) {
    const second = index.getX(i + 1);
    index.setX(i + 1, index.getX(i + 2));
    index.setX(i + 2, second);
  }
}
