/** Assets as things to draw: each GLB loaded once, its meshes laid flat into parts of one geometry and one material. */
import { useEffect, useMemo } from "react";
import { BufferGeometry, Material, Matrix4, Mesh, Object3D, SkinnedMesh, type Box3 } from "three";
import { GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";
import { computeBoundsTree, disposeBoundsTree, acceleratedRaycast } from "three-mesh-bvh";
import { create } from "zustand";
import { preparationMatrix, type Prop } from "@/core/scene";
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

/** What a prop looks like: two of the same file, prepared the same way, look the same. */
export const lookOf = (prop: Prop): string => `${prop.asset} ${preparationMatrix(prop).join(" ")}`;

/** So many looks are kept; turning a prop about while it is prepared makes new ones. */
const MAX_LOOKS = 400;
const prepared = new Map<string, { of: Model; model: Model }>();

/** The model of a prop as it is prepared; null until its file is there. */
export function usePrepared(prop: Prop): Model | null {
  const model = useModel(prop.asset);
  return useMemo(() => model && preparedModel(prop, model), [prop, model]);
}

const lights = new WeakMap<Prop, Prop>();

/** The prop with its light version in its place; the prop itself where it has none. */
export function lightOf(prop: Prop): Prop {
  if (!prop.light) return prop;
  let light = lights.get(prop);
  if (!light) lights.set(prop, (light = { ...prop, asset: prop.light.asset }));
  return light;
}

export function preparedModel(prop: Prop, of: Model): Model {
  const look = lookOf(prop);
  const known = prepared.get(look);
  if (known?.of === of) return known.model;
  const matrix = new Matrix4().fromArray([...preparationMatrix(prop), 0, 0, 0, 1]).transpose();
  const model = matrix.equals(new Matrix4()) ? of : transformed(of, matrix);
  if (prepared.size >= MAX_LOOKS) prepared.delete(prepared.keys().next().value!);
  prepared.set(look, { of, model });
  return model;
}

/** The model with a matrix worked into its geometries. */
export function transformed({ parts, triangles }: Model, matrix: Matrix4): Model {
  const made = parts.map(({ geometry, material }) => {
    const turned = geometry.clone().applyMatrix4(matrix);
    if (matrix.determinant() < 0) turnInsideOut(turned);
    turned.computeBoundingBox();
    return { geometry: turned, material };
  });
  return { parts: made, triangles, box: boxOf(made) };
}

function boxOf(parts: readonly ModelPart[]): Box3 {
  const box = parts[0].geometry.boundingBox!.clone();
  for (const part of parts) box.union(part.geometry.boundingBox!);
  return box;
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
  return { parts, triangles, box: boxOf(parts) };
}

function turnInsideOut(geometry: BufferGeometry): void {
  if (!geometry.index) geometry.setIndex(Array.from({ length: geometry.getAttribute("position").count }, (_, i) => i));
  const index = geometry.index!;
  for (let i = 0; i + 2 < index.count; i += 3) {
    const second = index.getX(i + 1);
    index.setX(i + 1, index.getX(i + 2));
    index.setX(i + 2, second);
  }
}
