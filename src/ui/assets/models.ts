/** Assets as things to draw: each GLB loaded once, its meshes laid flat into parts of one geometry and one material. */
import { useEffect, useMemo } from "react";
import {
  Box3,
  BufferAttribute,
  BufferGeometry,
  Material,
  Matrix4,
  Mesh,
  Object3D,
  SkinnedMesh,
  Vector3,
  type InterleavedBufferAttribute,
  type WebGLRenderer,
} from "three";
import { GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";
import { KTX2Loader } from "three/examples/jsm/loaders/KTX2Loader.js";
import { computeBoundsTree, disposeBoundsTree, acceleratedRaycast } from "three-mesh-bvh";
import { create } from "zustand";
import { isPacked } from "@/core/files";
import { assetHashSchema } from "@/core/schema";
import { preparationMatrix, type Prop } from "@/core/scene";
import { incoming } from "@/engine/file-clients";
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
  /** In the model's own coordinates, as its geometries. */
  box: Box3;
  /** Where these lie in its file's, metres: what is far from its origin is counted from its middle. */
  origin: Vector3;
  /** What its file can play, in its order. */
  clips: readonly { name: string; seconds: number }[];
}

export const verticesIn = ({ parts }: Pick<Model, "parts">): number =>
  parts.reduce((sum, { geometry }) => sum + geometry.getAttribute("position").count, 0);

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
  // What is no file's is made elsewhere: see `assembled.ts`.
  if (useModels.getState().models.has(hash) || !isAssetHash(hash)) return;
  put(hash, "loading");
  try {
    const bytes = await assetBytes(hash);
    if (!bytes) throw new Error("the asset is missing");
    // What only a reader with decoders understands, the worker makes plain; what was brought in here is plain already.
    const plain = isPacked(bytes) ? await incoming.plainGlb(bytes, "A prop's file") : bytes;
    const loader = new GLTFLoader().setKTX2Loader(pictureLoader());
    const { scene, animations } = await loader.parseAsync(plain.slice().buffer, "");
    const clips = animations.map(({ name, duration }) => ({ name, seconds: duration }));
    put(hash, { ...flatten(scene), clips });
  } catch {
    put(hash, "failed");
  }
}

let pictures: KTX2Loader | undefined;

/** Three's loader, with its worker from an address of its own: see `app/picture-worker.js`. */
class PictureLoader extends KTX2Loader {
  override init(): Promise<void> {
    return (super.init() as unknown as Promise<void>).then(() => {
      (this as unknown as { workerSourceURL: string }).workerSourceURL = "/picture-worker.js";
    });
  }
}

/** Reads KTX2 pictures, in workers of its own, as what this machine's graphics can show. */
function pictureLoader(): KTX2Loader {
  if (pictures) return pictures;
  const gl = new OffscreenCanvas(1, 1).getContext("webgl2");
  const extensions = {
    has: (name: string) => !!gl?.getExtension(name),
    get: (name: string) => gl?.getExtension(name),
  };
  pictures = new PictureLoader().detectSupport({ extensions } as unknown as WebGLRenderer);
  return pictures;
}

/** What a prop looks like: two of the same file, prepared the same way, look the same. */
export const lookOf = (prop: Prop): string => `${modelOf(prop)} ${preparationMatrix(prop).join(" ")}`;

const isAssetHash = (name: string): boolean => assetHashSchema.safeParse(name).success;

const versions = new WeakMap<Prop["bounds"], number>();
let last = 0;

/** What a prop's model is known by: its file; or, of an assembly, itself as it is now. */
export function modelOf({ asset, id, bounds }: Pick<Prop, "asset" | "id" | "bounds">): string {
  if (asset !== null) return asset;
  if (!versions.has(bounds)) versions.set(bounds, ++last);
  return `${id} ${versions.get(bounds)}`;
}

/** So many looks are kept; turning a prop about while it is prepared makes new ones. */
const MAX_LOOKS = 400;
const prepared = new Map<string, { of: Model; model: Model }>();

/** The model of a prop as it is prepared; null until its file is there. */
export function usePrepared(prop: Prop): Model | null {
  const model = useModel(modelOf(prop));
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

/** What brings a prop's file as it is drawn to the prop as it is prepared. */
const preparing = (prop: Prop, { origin }: Pick<Model, "origin">): Matrix4 =>
  new Matrix4()
    .fromArray([...preparationMatrix(prop), 0, 0, 0, 1])
    .transpose()
    .multiply(new Matrix4().makeTranslation(origin));

/** A model of the prop's file, however its vertices lie, prepared as the prop is: of its own. */
export const preparedAs = (prop: Prop, of: Model): Model => transformed(of, preparing(prop, of));

export function preparedModel(prop: Prop, of: Model): Model {
  const look = lookOf(prop);
  const known = prepared.get(look);
  if (known?.of === of) return known.model;
  const matrix = preparing(prop, of);
  const model = matrix.equals(new Matrix4()) ? of : transformed(of, matrix);
  if (prepared.size >= MAX_LOOKS) prepared.delete(prepared.keys().next().value!);
  prepared.set(look, { of, model });
  return model;
}

/** The model with a matrix worked into its geometries, which count from the world's origin then. */
export function transformed({ parts, triangles, clips }: Model, matrix: Matrix4): Model {
  const made = parts.map(({ geometry, material }) => ({ geometry: worked(geometry, matrix), material }));
  return { parts: made, triangles, box: boxOf(made), origin: new Vector3(), clips };
}

/** A geometry of its own, in single precision whatever it was in, with a matrix worked in. */
function worked(geometry: BufferGeometry, matrix: Matrix4): BufferGeometry {
  const made = geometry.clone();
  for (const name of ["position", "normal", "tangent"]) {
    const attribute = made.getAttribute(name);
    if (attribute && !(attribute instanceof BufferAttribute && attribute.array instanceof Float32Array))
      made.setAttribute(name, inFloats(attribute));
  }
  made.applyMatrix4(matrix);
  if (matrix.determinant() < 0) turnInsideOut(made);
  made.computeBoundingBox();
  return made;
}

/** Whole numbers, and what lies between others, as plain floats. */
function inFloats(attribute: BufferAttribute | InterleavedBufferAttribute): BufferAttribute {
  const { count, itemSize } = attribute;
  const array = new Float32Array(count * itemSize);
  for (let i = 0; i < count; i++)
    for (let k = 0; k < itemSize; k++) array[itemSize * i + k] = attribute.getComponent(i, k);
  return new BufferAttribute(array, itemSize);
}

function boxOf(parts: readonly ModelPart[]): Box3 {
  const box = parts[0].geometry.boundingBox!.clone();
  for (const part of parts) box.union(part.geometry.boundingBox!);
  return box;
}

/** The geometry as bones and shapes have it before anything plays, without what they need; the same where there are none. */
function posed(mesh: Mesh): BufferGeometry {
  const { geometry } = mesh;
  const [position, normal] = [geometry.getAttribute("position"), geometry.getAttribute("normal")];
  const bones = mesh instanceof SkinnedMesh ? mesh : null;
  const morphs = geometry.morphAttributes.position !== undefined;
  if (!bones && !morphs) return geometry;
  const made = geometry.clone();
  made.morphAttributes = {};
  for (const name of ["skinIndex", "skinWeight", "tangent"]) if (bones) made.deleteAttribute(name);
  const places = new Float32Array(3 * position.count);
  const normals = bones && normal ? new Float32Array(3 * position.count) : null;
  const [at, tip] = [new Vector3(), new Vector3()];
  for (let v = 0; v < position.count; v++) {
    mesh.getVertexPosition(v, at).toArray(places, 3 * v);
    if (!normals) continue;
    // As far as a normal's tip goes from its foot: what only moves falls out.
    bones!.applyBoneTransform(v, tip.fromBufferAttribute(position, v).add(at.fromBufferAttribute(normal, v)));
    bones!.applyBoneTransform(v, at.fromBufferAttribute(position, v));
    tip
      .sub(at)
      .normalize()
      .toArray(normals, 3 * v);
  }
  made.setAttribute("position", new BufferAttribute(places, 3));
  if (normals) made.setAttribute("normal", new BufferAttribute(normals, 3));
  return made;
}

/** A file whose box lies so many times its own size away from the origin is counted from its middle. */
const FAR = 100;

function flatten(root: Object3D): Omit<Model, "clips"> {
  root.updateMatrixWorld(true);
  const shown: { geometry: BufferGeometry; material: Material; matrix: Matrix4 }[] = [];
  root.traverse((object) => {
    if (!(object instanceof Mesh) || !object.geometry.getAttribute("position")) return;
    shown.push({ geometry: posed(object), material: object.material as Material, matrix: object.matrixWorld });
  });
  if (shown.length === 0) throw new Error("nothing to draw");
  const box = new Box3();
  for (const { geometry, matrix } of shown) {
    geometry.computeBoundingBox();
    box.union(geometry.boundingBox!.clone().applyMatrix4(matrix));
  }
  const origin = box.getCenter(new Vector3());
  if (origin.length() <= FAR * box.getSize(new Vector3()).length()) origin.set(0, 0, 0);
  const near = new Matrix4().makeTranslation(origin.clone().negate());
  let triangles = 0;
  const parts = shown.map(({ geometry, material, matrix }): ModelPart => {
    const made = worked(geometry, near.clone().multiply(matrix));
    if (!made.getAttribute("normal")) made.computeVertexNormals();
    triangles += (made.index?.count ?? made.getAttribute("position").count) / 3;
    return { geometry: made, material };
  });
  return { parts, triangles, box: boxOf(parts), origin };
}

function turnInsideOut(geometry: BufferGeometry): void {
  if (!geometry.index) geometry.setIndex(Array.from({ length: geometry.getAttribute("position").count }, (_, i) => i));
  const index = geometry.index!;
  for (let i = 0; i + 2 < index.count; i += 3) {
    const second = index.getX(i + 1);
    index.setX(i + 1, index.getX(i + 2));
    index.setX(i + 2, second);
  }
  // The third direction of a normal map is the product of normal and tangent, which a mirror turns over.
  const tangent = geometry.getAttribute("tangent");
  if (tangent) for (let i = 0; i < tangent.count; i++) tangent.setW(i, -tangent.getW(i));
}
