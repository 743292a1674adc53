/**
 * Whether what a glTF's description says fits together and fits the bytes there are: every index names something, every
 * accessor lies within its data, no node hangs in a circle, and nothing asks for more memory than the file is worth.
 */
import { InputError } from "../../schema";
import { COMPONENT_BYTES, ELEMENT_SIZE, type Description } from "./description";

/** Compressed data unpacks to no more than so many times its size; the codecs cannot do better than about a hundred. */
const MOST_UNPACKED = 200;
/** Compressed meshes and instances come to no more than so many vertices and nodes in all. */
const MOST_VERTICES = 100_000_000;

type Accessor = Description["accessors"][number];
type Skin = Description["skins"][number];
type Animation = Description["animations"][number];

/**
 * @param bytesOf how many bytes there are of a buffer; null for one that is not there
 * @throws InputError with the first thing that does not fit
 */
export function checkConsistency(json: Description, name: string, bytesOf: (buffer: number) => number | null): void {
  const damaged = (where: string): never => {
    throw new InputError(`“${name}” cannot be read: its description does not fit its contents (${where}).`);
  };
  const within = (index: number | undefined, list: readonly unknown[], where: string): void => {
    if (index !== undefined && index >= list.length) damaged(where);
  };

  let total = 0;
  json.buffers.forEach((_, i) => (total += bytesOf(i) ?? 0));
  const draco = new Set<number>();
  for (const { primitives } of json.meshes) {
    for (const { attributes, indices, extensions } of primitives) {
      if (!extensions?.KHR_draco_mesh_compression) continue;
      for (const accessor of Object.values(attributes)) draco.add(accessor);
      if (indices !== undefined) draco.add(indices);
    }
  }

  json.bufferViews.forEach((view, i) => {
    const where = `bufferViews ${i}`;
    within(view.buffer, json.buffers, where);
    const packed = view.extensions?.EXT_meshopt_compression ?? view.extensions?.KHR_meshopt_compression;
    if (packed) {
      within(packed.buffer, json.buffers, where);
      if (packed.byteOffset + packed.byteLength > (bytesOf(packed.buffer) ?? 0)) damaged(where);
      if (packed.count * packed.byteStride > view.byteLength) damaged(where);
      if (view.byteLength > MOST_UNPACKED * packed.byteLength) damaged(where);
    } else if (view.byteOffset + view.byteLength > (bytesOf(view.buffer) ?? 0)) damaged(where);
  });

  /** Whether so many elements of a kind lie within a view. */
  const fits = (view: number, offset: number, n: number, bytes: number): boolean => {
    const { byteLength, byteStride = bytes } = json.bufferViews[view];
    return n === 0 || offset + (n - 1) * byteStride + bytes <= byteLength;
  };
  let unpacked = 0;
  json.accessors.forEach((accessor, i) => {
    const where = `accessors ${i}`;
    const { bufferView, byteOffset, count, sparse } = accessor;
    const bytes = bytesEach(accessor);
    within(bufferView, json.bufferViews, where);
    if (bufferView !== undefined) {
      if (!fits(bufferView, byteOffset, count, bytes)) damaged(where);
    } else if (draco.has(i)) {
      if ((unpacked += count) > MOST_VERTICES || count * bytes > MOST_UNPACKED * total) damaged(where);
    } else if (count * bytes > total) damaged(where);
    if (!sparse) return;
    within(sparse.indices.bufferView, json.bufferViews, where);
    within(sparse.values.bufferView, json.bufferViews, where);
    if (sparse.count > count) damaged(where);
    const indexBytes = COMPONENT_BYTES[sparse.indices.componentType];
    if (!fits(sparse.indices.bufferView, sparse.indices.byteOffset, sparse.count, indexBytes)) damaged(where);
    if (!fits(sparse.values.bufferView, sparse.values.byteOffset, sparse.count, bytes)) damaged(where);
  });

  json.images.forEach(({ uri, bufferView }, i) => {
    if ((uri === undefined) === (bufferView === undefined)) damaged(`images ${i}`);
    within(bufferView, json.bufferViews, `images ${i}`);
  });
  json.textures.forEach(({ source, sampler, extensions = {} }, i) => {
    within(source, json.images, `textures ${i}`);
    within(sampler, json.samplers, `textures ${i}`);
    for (const one of Object.values(extensions)) within(one.source, json.images, `textures ${i}`);
    if (source === undefined && Object.keys(extensions).length === 0) damaged(`textures ${i}`);
  });
  json.materials.forEach((material, i) =>
    checkTextures(material, 0, (index) => within(index, json.textures, `materials ${i}`)),
  );
  json.meshes.forEach(({ primitives }, i) => {
    for (const primitive of primitives) checkPrimitive(json, primitive, () => damaged(`meshes ${i}`));
  });
  json.scenes.forEach(({ nodes }, i) => nodes.forEach((one) => within(one, json.nodes, `scenes ${i}`)));
  within(json.scene, json.scenes, "scene");
  checkNodes(json, damaged);
  json.skins.forEach((skin, i) => checkSkin(json, skin, () => damaged(`skins ${i}`)));
  json.animations.forEach((animation, i) => checkAnimation(json, animation, () => damaged(`animations ${i}`)));
}

function checkSkin(json: Description, { joints, skeleton, inverseBindMatrices }: Skin, damaged: () => never): void {
  if (joints.some((joint) => joint >= json.nodes.length)) damaged();
  if (skeleton !== undefined && skeleton >= json.nodes.length) damaged();
  if (inverseBindMatrices === undefined) return;
  const { type, componentType, count } = json.accessors[inverseBindMatrices] ?? damaged();
  if (type !== "MAT4" || componentType !== 5126 || count < joints.length) damaged();
}

/** How many numbers a keyframe has, by what it moves; of weights as many as there are shapes. */
const WIDTH: Readonly<Record<string, string>> = {
  translation: "VEC3",
  scale: "VEC3",
  rotation: "VEC4",
  weights: "SCALAR",
};

function checkAnimation(json: Description, { channels, samplers }: Animation, damaged: () => never): void {
  for (const { input, output } of samplers) {
    const { type, componentType } = json.accessors[input] ?? damaged();
    if (type !== "SCALAR" || componentType !== 5126 || !json.accessors[output]) damaged();
  }
  for (const { sampler, target } of channels) {
    const { input, interpolation, output } = samplers[sampler] ?? damaged();
    if (target.node !== undefined && target.node >= json.nodes.length) damaged();
    const type = WIDTH[target.path];
    if (!type || target.node === undefined) continue;
    const each = target.path === "weights" ? shapesOf(json, target.node) : 1;
    const keyframes = json.accessors[input].count * (interpolation === "CUBICSPLINE" ? 3 : 1);
    if (json.accessors[output].type !== type || json.accessors[output].count < keyframes * each) damaged();
  }
}

/** Into how many shapes the mesh of a node may morph. */
const shapesOf = (json: Description, node: number): number =>
  json.meshes[json.nodes[node].mesh ?? -1]?.primitives[0]?.targets?.length ?? 0;

const bytesEach = ({ type, componentType }: Accessor): number => ELEMENT_SIZE[type] * COMPONENT_BYTES[componentType];

const MOST_DEPTH = 8;

/** What a material's textures point at, wherever in its extensions they are; no number in it is without end. */
function checkTextures(value: unknown, depth: number, texture: (index: number) => void): void {
  if (typeof value === "number" && !Number.isFinite(value)) return texture(Infinity);
  if (typeof value !== "object" || value === null) return;
  if (depth > MOST_DEPTH) return texture(Infinity);
  for (const [key, inner] of Object.entries(value)) {
    if (/Texture$/.test(key)) {
      const index = (inner as { index?: unknown } | null)?.index;
      texture(typeof index === "number" && Number.isInteger(index) && index >= 0 ? index : Infinity);
    }
    checkTextures(inner, depth + 1, texture);
  }
}

/** What each attribute that is used may be made of. */
const TYPES: readonly [RegExp, readonly string[]][] = [
  [/^POSITION$/, ["VEC3"]],
  [/^NORMAL$/, ["VEC3"]],
  [/^TANGENT$/, ["VEC4"]],
  [/^TEXCOORD_\d+$/, ["VEC2"]],
  [/^COLOR_\d+$/, ["VEC3", "VEC4"]],
  [/^(JOINTS|WEIGHTS)_\d+$/, ["VEC4"]],
];

function checkPrimitive(
  json: Description,
  { attributes, indices, material, targets = [], extensions }: Description["meshes"][number]["primitives"][number],
  damaged: () => never,
): void {
  const accessor = (index: number): Accessor => json.accessors[index] ?? damaged();
  if (material !== undefined && material >= json.materials.length) damaged();
  const vertices = "POSITION" in attributes ? accessor(attributes.POSITION).count : null;
  for (const [semantic, index] of Object.entries(attributes)) {
    const { type, count } = accessor(index);
    const known = TYPES.find(([pattern]) => pattern.test(semantic));
    if (known && !known[1].includes(type)) damaged();
    if (vertices !== null && count < vertices) damaged();
  }
  for (const target of targets) {
    for (const index of Object.values(target)) {
      const { type, count } = accessor(index);
      if (type !== "VEC3" || (vertices !== null && count < vertices)) damaged();
    }
  }
  if (indices !== undefined) {
    const { type, componentType } = accessor(indices);
    if (type !== "SCALAR" || ![5121, 5123, 5125].includes(componentType)) damaged();
  }
  const draco = extensions?.KHR_draco_mesh_compression;
  if (draco && draco.bufferView >= json.bufferViews.length) damaged();
  if (draco && Object.keys(draco.attributes).some((semantic) => !(semantic in attributes))) damaged();
}

/** Every node has one parent at most and is its own ancestor nowhere; what they name is there. */
function checkNodes(json: Description, damaged: (where: string) => never): void {
  const parent = new Int32Array(json.nodes.length).fill(-1);
  json.nodes.forEach(({ children, mesh, skin, extensions }, i) => {
    const where = `nodes ${i}`;
    if (mesh !== undefined && mesh >= json.meshes.length) damaged(where);
    if (skin !== undefined && skin >= json.skins.length) damaged(where);
    for (const child of children) {
      if (child >= json.nodes.length || parent[child] >= 0) damaged(where);
      parent[child] = i;
    }
    const batch = Object.values(extensions?.EXT_mesh_gpu_instancing?.attributes ?? {});
    const counts = batch.map((one) => json.accessors[one]?.count ?? damaged(where));
    if (new Set(counts).size > 1) damaged(where);
  });
  // From each node up to its root, each step once: whoever never gets there hangs in a circle.
  const rooted = new Uint8Array(json.nodes.length);
  for (let i = 0; i < parent.length; i++) {
    const way: number[] = [];
    let at = i;
    while (at >= 0 && rooted[at] === 0) {
      rooted[at] = 2;
      way.push(at);
      at = parent[at];
    }
    if (at >= 0 && rooted[at] === 2) damaged(`nodes ${at}`);
    for (const one of way) rooted[one] = 1;
  }
}
