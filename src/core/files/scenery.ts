/** Surfaces and lines of a scene as they go into a GLB besides its dressings. */
import { mergeDocuments } from "@gltf-transform/functions";
import {
  Primitive,
  type Buffer,
  type Document,
  type Mesh,
  type Node,
  type Scene as GltfScene,
} from "@gltf-transform/core";
import { InputError } from "../schema";
import { flatMesh, meshNodesOf, readGlb } from "./gltf";
import type { Assets } from "./assets";
import type { ShownLine, ShownSurface, Stand } from "./evaluated";
import { dress, type Moving } from "./motion";
import { takenOn } from "./poses";
import type { Shape } from "../mesh";
import type { Surface } from "../scene";

/** What made surfaces are made of: pale stone, both sides of it. */
const STONE: [number, number, number, number] = [0.62, 0.55, 0.41, 1];
const CORD: [number, number, number, number] = [0.15, 0.09, 0.04, 1];

export async function addSurfaces(
  document: Document,
  buffer: Buffer,
  scene: GltfScene,
  surfaces: readonly ShownSurface[],
  assets: Assets,
  moving: Moving | null,
): Promise<void> {
  for (const shown of surfaces) {
    const { surface, shapes, stands } = shown;
    const mesh = shown.made
      ? madeMesh(document, buffer, surface.name, shown.made)
      : await fileMesh(document, surface, assets);
    if (!mesh) continue;
    const [first] = stands;
    const node = document
      .createNode(surface.name)
      .setTranslation([...first.position])
      .setRotation([...first.rotation])
      .setScale([first.scale, first.scale, first.scale]);
    scene.addChild(node);
    dress(node, takenOn(document, mesh, shapes, moving), moving);
    if (moving && stands.some((stand) => stand !== first)) moving.through(node, standsOf(stands));
  }
}

function standsOf(stands: readonly Stand[]) {
  return {
    translation: Float32Array.from(stands.flatMap(({ position }) => position)),
    rotation: Float32Array.from(stands.flatMap(({ rotation }) => rotation)),
    scale: Float32Array.from(stands.flatMap(({ scale }) => [scale, scale, scale])),
  };
}

async function fileMesh(document: Document, { name, asset, file }: Surface, assets: Assets): Promise<Mesh | null> {
  if (asset === null) return null;
  const bytes = assets.get(asset);
  if (!bytes) throw new InputError(`The file of the surface “${name}” is missing, so it cannot be exported.`);
  const source = await readGlb(bytes, file || name);
  const merged = mergeDocuments(document, source);
  const shown = meshNodesOf(source).map(({ node, matrix }) => ({ node: merged.get(node) as Node, matrix }));
  const flat = flatMesh(document, shown, name);
  for (const property of [...source.getRoot().listScenes(), ...source.getRoot().listNodes()])
    merged.get(property)?.dispose();
  // What is shared with the file's own mesh may move here.
  const mesh = document.createMesh(name);
  for (const primitive of flat.listPrimitives()) mesh.addPrimitive(primitive.clone());
  flat.dispose();
  return mesh;
}

export function madeMesh(
  document: Document,
  buffer: Buffer,
  name: string,
  { position, index, attributes }: Shape,
): Mesh {
  const accessor = (type: "SCALAR" | "VEC2" | "VEC3", array: Float32Array<ArrayBuffer> | Uint32Array<ArrayBuffer>) =>
    document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
  const named = (wanted: string) => attributes.find((one) => one.name === wanted)?.array;
  const primitive = document
    .createPrimitive()
    .setMaterial(
      document.createMaterial("Stone").setBaseColorFactor(STONE).setRoughnessFactor(0.95).setDoubleSided(true),
    )
    .setIndices(accessor("SCALAR", index.slice()))
    .setAttribute("POSITION", accessor("VEC3", Float32Array.from(position)));
  const [normal, uv] = [named("NORMAL"), named("TEXCOORD_0")];
  if (normal) primitive.setAttribute("NORMAL", accessor("VEC3", normal.slice() as Float32Array<ArrayBuffer>));
  if (uv) primitive.setAttribute("TEXCOORD_0", accessor("VEC2", uv.slice() as Float32Array<ArrayBuffer>));
  return document.createMesh(name).addPrimitive(primitive);
}

export function addLines(
  document: Document,
  buffer: Buffer,
  scene: GltfScene,
  lines: readonly ShownLine[],
  moving: Moving | null,
): void {
  if (lines.length === 0) return;
  const cord = document.createMaterial("Cord").setBaseColorFactor(CORD).setRoughnessFactor(1);
  for (const { name, points, closed } of lines) {
    const [first] = points;
    if (first.length < 6) continue;
    // Counted from its first point, so that it keeps its precision far away.
    const [x, y, z] = first;
    const own = (frame: Float64Array) => Float32Array.from(frame, (value, p) => value - [x, y, z][p % 3]);
    const primitive = document
      .createPrimitive()
      .setMode(closed ? Primitive.Mode.LINE_LOOP : Primitive.Mode.LINE_STRIP)
      .setMaterial(cord)
      .setAttribute("POSITION", document.createAccessor().setType("VEC3").setArray(own(first)).setBuffer(buffer));
    const mesh = document.createMesh(name).addPrimitive(primitive);
    const node = document.createNode(name).setTranslation([x, y, z]);
    scene.addChild(node);
    const moves = points.some((frame) => frame.some((value, p) => value !== first[p]));
    if (moves) moving?.shaped(mesh, points.map((frame) => ({ position: own(frame), normal: NONE }))); // prettier-ignore
    dress(node, mesh, moving);
  }
}

/** Lines have no normals. */
const NONE = new Float32Array(0);
