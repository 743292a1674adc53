/**
 * GLB: the dressings as a scene of their own, with the props' meshes, materials and textures, each prop stored once.
 *
 * Instanced: a node for each prop of each dressing that carries all its places (`EXT_mesh_gpu_instancing`). Plain: a node
 * for every placement, for programs that do not read that. Positions count from the dressing's node, which stands at the
 * dressing's origin, so that they keep their precision far away from the scene's.
 */
import { Document, Logger, type Buffer, type Mesh, type Node } from "@gltf-transform/core";
import { EXTMeshGPUInstancing } from "@gltf-transform/extensions";
import { mergeDocuments, prune, unpartition } from "@gltf-transform/functions";
import { InputError } from "../scene";
import { stands, type EvaluatedDressing, type EvaluatedScene } from "./evaluated";
import { flatMesh, glbIO, meshNodesOf, readGlb } from "./gltf";
import type { Assets } from "./assets";

export type GlbForm = "instanced" | "plain";

/** @throws InputError when the asset of a prop that is placed is missing or cannot be read */
export async function writeGlb(evaluated: EvaluatedScene, assets: Assets, form: GlbForm): Promise<Uint8Array> {
  const document = new Document().setLogger(new Logger(Logger.Verbosity.SILENT));
  document.getRoot().getAsset().generator = "Clothesline";
  const buffer = document.createBuffer();
  const scene = document.createScene(evaluated.scene.name);
  document.getRoot().setDefaultScene(scene);

  // glTF knows no scene without nodes.
  if (evaluated.dressings.length === 0) scene.addChild(document.createNode(evaluated.scene.name));
  const meshes = await meshesOf(document, evaluated, assets);
  for (const dressed of evaluated.dressings) {
    const node = document.createNode(dressed.dressing.name).setTranslation(dressed.placements.origin);
    scene.addChild(node);
    if (form === "instanced") addInstances(document, buffer, node, dressed, meshes);
    else addNodes(document, node, dressed, meshes);
  }

  await document.transform(
    prune({ keepLeaves: true, keepAttributes: true, keepIndices: true, keepSolidTextures: true, keepExtras: true }),
    unpartition(),
  );
  // A file without any geometry has no buffer: an empty one would not be valid.
  if (document.getRoot().listAccessors().length === 0) buffer.dispose();
  return glbIO().writeBinary(document);
}

/** One flat mesh for each prop that stands somewhere. */
async function meshesOf(document: Document, evaluated: EvaluatedScene, assets: Assets): Promise<Map<string, Mesh>> {
  const used = new Set<string>();
  for (const { placements } of evaluated.dressings) {
    for (let i = 0; i < placements.count; i++)
      if (stands(placements, i)) used.add(placements.props[placements.prop[i]]);
  }
  const meshes = new Map<string, Mesh>();
  for (const prop of evaluated.scene.props) {
    if (!used.has(prop.id)) continue;
    const bytes = assets.get(prop.asset);
    if (!bytes) throw new InputError(`The file of the prop “${prop.name}” is missing, so it cannot be exported.`);
    const source = await readGlb(bytes, prop.file || prop.name);
    const merged = mergeDocuments(document, source);
    const nodes = meshNodesOf(source).map((node) => merged.get(node) as Node);
    meshes.set(prop.id, flatMesh(document, nodes, prop.name));
    for (const property of [
      ...source.getRoot().listScenes(),
      ...source.getRoot().listNodes(),
      ...source.getRoot().listSkins(),
      ...source.getRoot().listCameras(),
      ...source.getRoot().listAnimations(),
    ]) {
      merged.get(property)?.dispose();
    }
  }
  return meshes;
}

function addInstances(
  document: Document,
  buffer: Buffer,
  parent: Node,
  { placements: p }: EvaluatedDressing,
  meshes: ReadonlyMap<string, Mesh>,
): void {
  const instancing = document.createExtension(EXTMeshGPUInstancing).setRequired(true);
  p.props.forEach((prop, index) => {
    const mesh = meshes.get(prop);
    const members = indicesOf(p.count, (i) => p.prop[i] === index && stands(p, i));
    if (!mesh || members.length === 0) return;
    const attribute = (type: "VEC3" | "VEC4", width: number, source: Float32Array) =>
      document
        .createAccessor()
        .setType(type)
        .setBuffer(buffer)
        .setArray(gathered(source, members, width));
    const batch = instancing
      .createInstancedMesh()
      .setAttribute("TRANSLATION", attribute("VEC3", 3, p.position))
      .setAttribute("ROTATION", attribute("VEC4", 4, p.rotation))
      .setAttribute("SCALE", attribute("VEC3", 3, p.scale));
    parent.addChild(document.createNode(mesh.getName()).setMesh(mesh).setExtension("EXT_mesh_gpu_instancing", batch));
  });
}

function addNodes(
  document: Document,
  parent: Node,
  { placements: p }: EvaluatedDressing,
  meshes: ReadonlyMap<string, Mesh>,
): void {
  for (let i = 0; i < p.count; i++) {
    const mesh = stands(p, i) ? meshes.get(p.props[p.prop[i]]) : undefined;
    if (!mesh) continue;
    const node = document
      .createNode(`${mesh.getName()} ${p.key[i]}`)
      .setMesh(mesh)
      .setTranslation([p.position[3 * i], p.position[3 * i + 1], p.position[3 * i + 2]])
      .setRotation([p.rotation[4 * i], p.rotation[4 * i + 1], p.rotation[4 * i + 2], p.rotation[4 * i + 3]])
      .setScale([p.scale[3 * i], p.scale[3 * i + 1], p.scale[3 * i + 2]])
      .setExtras({ key: p.key[i] });
    parent.addChild(node);
  }
}

function indicesOf(n: number, wanted: (i: number) => boolean): number[] {
  const found: number[] = [];
  for (let i = 0; i < n; i++) if (wanted(i)) found.push(i);
  return found;
}

function gathered(source: Float32Array, members: readonly number[], width: number): Float32Array<ArrayBuffer> {
  const out = new Float32Array(members.length * width);
  members.forEach((i, k) => out.set(source.subarray(i * width, (i + 1) * width), k * width));
  return out;
}
