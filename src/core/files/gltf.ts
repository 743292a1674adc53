/** Shared work on glTF: reading bytes with every failure told in a sentence, and a prop's meshes laid flat. */
import {
  Document,
  Logger,
  Primitive,
  WebIO,
  type Accessor,
  type mat4,
  type Mesh,
  type Node,
  type Scene,
} from "@gltf-transform/core";
import { ALL_EXTENSIONS } from "@gltf-transform/extensions";
import { transformPrimitive } from "@gltf-transform/functions";
import { InputError } from "../schema";

/** Compressed meshes would need decoders of their own. */
const UNREADABLE = new Set(["KHR_draco_mesh_compression", "EXT_meshopt_compression", "KHR_meshopt_compression"]);
const READABLE = ALL_EXTENSIONS.filter((extension) => !UNREADABLE.has(extension.EXTENSION_NAME));
const READABLE_NAMES = new Set(READABLE.map((extension) => extension.EXTENSION_NAME));

const MAGIC = 0x46546c67;
const JSON_CHUNK = 0x4e4f534a;

export const glbIO = (): WebIO =>
  new WebIO().registerExtensions(READABLE).setLogger(new Logger(Logger.Verbosity.SILENT));

/**
 * The document in a GLB.
 *
 * @param name what to call the file in messages
 * @throws InputError when the bytes are no GLB, cut short, or need something that cannot be read
 */
export async function readGlb(bytes: Uint8Array, name: string): Promise<Document> {
  const json = headerOf(bytes, name);
  const required = (json.extensionsRequired ?? []).filter((extension) => !READABLE_NAMES.has(extension));
  if (required.length > 0) {
    throw new InputError(
      `“${name}” needs ${required.join(", ")}, which cannot be read here. Save it without compression and bring it again.`,
    );
  }
  const apart = [...(json.buffers ?? []), ...(json.images ?? [])].find(
    ({ uri }) => uri !== undefined && !uri.startsWith("data:"),
  );
  if (apart)
    throw new InputError(
      `“${name}” keeps parts in another file (${apart.uri}). Save it as one GLB with everything inside.`,
    );
  try {
    const document = await glbIO().readBinary(bytes);
    return document.setLogger(new Logger(Logger.Verbosity.SILENT));
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error);
    throw new InputError(`“${name}” cannot be read: its contents are damaged (${reason}).`);
  }
}

interface GltfJson {
  extensionsRequired?: string[];
  buffers?: { uri?: string }[];
  images?: { uri?: string }[];
}

/** Checks the container: magic, version, lengths; and gives its JSON. */
function headerOf(bytes: Uint8Array, name: string): GltfJson {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.byteLength < 12 || view.getUint32(0, true) !== MAGIC) {
    throw new InputError(`“${name}” is not a GLB file. Props are read from GLB, the binary form of glTF 2.`);
  }
  const version = view.getUint32(4, true);
  if (version !== 2) throw new InputError(`“${name}” is a GLB of version ${version}; only version 2 can be read.`);
  const length = view.getUint32(8, true);
  const cut = `“${name}” is cut short: it should have ${length.toLocaleString("en")} bytes and has ${bytes.byteLength.toLocaleString("en")}. Copy or export it again.`;
  if (bytes.byteLength < Math.max(20, length)) throw new InputError(cut);
  const jsonLength = view.getUint32(12, true);
  if (view.getUint32(16, true) !== JSON_CHUNK || 20 + jsonLength > bytes.byteLength) throw new InputError(cut);
  try {
    return JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + jsonLength))) as GltfJson;
  } catch {
    throw new InputError(`“${name}” cannot be read: its description is damaged.`);
  }
}

const isTriangles = (mode: number): boolean => mode >= Primitive.Mode.TRIANGLES;

/** The number of triangles that a primitive draws. */
export function trianglesIn(primitive: Primitive): number {
  const corners = primitive.getIndices()?.getCount() ?? primitive.getAttribute("POSITION")?.getCount() ?? 0;
  return primitive.getMode() === Primitive.Mode.TRIANGLES ? Math.floor(corners / 3) : Math.max(0, corners - 2);
}

/** The nodes with a mesh in the scene that a file opens with. */
export function meshNodesOf(document: Document): Node[] {
  const root = document.getRoot();
  const scene: Scene | null = root.getDefaultScene() ?? root.listScenes()[0] ?? null;
  if (!scene) return root.listNodes().filter((node) => node.getMesh() !== null);
  const found: Node[] = [];
  scene.traverse((node) => {
    if (node.getMesh()) found.push(node);
  });
  return found;
}

/** Triangle primitives of a node's mesh. */
export const solidPrimitives = (node: Node): Primitive[] =>
  node
    .getMesh()!
    .listPrimitives()
    .filter((primitive) => isTriangles(primitive.getMode()));

/** The determinant of a matrix's turn and scale: below zero where it mirrors. */
export const determinant = (m: readonly number[]): number =>
  m[0] * (m[5] * m[10] - m[6] * m[9]) - m[4] * (m[1] * m[10] - m[2] * m[9]) + m[8] * (m[1] * m[6] - m[2] * m[5]);

const isIdentity = (m: mat4): boolean => m.every((value, i) => Math.abs(value - (i % 5 === 0 ? 1 : 0)) < 1e-9);

/**
 * One mesh with everything that the given nodes show, in the coordinates of the file's scene: node transforms are worked
 * into the vertices, so that the mesh can be placed by a single translation, rotation and scale.
 */
export function flatMesh(document: Document, nodes: readonly Node[], name: string): Mesh {
  const mesh = document.createMesh(name);
  for (const node of nodes) {
    const matrix = node.getWorldMatrix();
    for (const primitive of solidPrimitives(node)) mesh.addPrimitive(transformedPrimitive(document, primitive, matrix));
  }
  return mesh;
}

/** The mesh with a matrix worked into its vertices; the same one where that changes nothing. */
export function transformedMesh(document: Document, mesh: Mesh, matrix: mat4, name: string): Mesh {
  if (isIdentity(matrix)) return mesh;
  const made = document.createMesh(name);
  for (const primitive of mesh.listPrimitives()) made.addPrimitive(transformedPrimitive(document, primitive, matrix));
  return made;
}

function transformedPrimitive(document: Document, primitive: Primitive, matrix: mat4): Primitive {
  if (isIdentity(matrix)) return primitive;
  const copy = primitive.clone();
  for (const semantic of ["POSITION", "NORMAL", "TANGENT"]) {
    const accessor = copy.getAttribute(semantic);
    if (accessor) copy.setAttribute(semantic, accessor.clone());
  }
  transformPrimitive(copy, matrix);
  if (determinant(matrix) < 0) turnInsideOut(document, copy);
  return copy;
}

/** A mirrored node shows its triangles from behind: turn each the other way round. */
function turnInsideOut(document: Document, primitive: Primitive): void {
  if (primitive.getMode() !== Primitive.Mode.TRIANGLES) return;
  const positions = primitive.getAttribute("POSITION")!;
  const indices: Accessor | null = primitive.getIndices();
  const turned = indices
    ? Uint32Array.from(indices.getArray()!)
    : Uint32Array.from({ length: positions.getCount() }, (_, i) => i);
  for (let i = 0; i + 2 < turned.length; i += 3) [turned[i + 1], turned[i + 2]] = [turned[i + 2], turned[i + 1]];
  primitive.setIndices(document.createAccessor().setType("SCALAR").setArray(turned).setBuffer(positions.getBuffer()));
}
