/** Reading glTF: bytes of strangers checked, decoded and made into a document, with every failure told in a sentence. */
import { Document, Logger, WebIO, type JSONDocument, type Mesh, type Primitive } from "@gltf-transform/core";
import { ALL_EXTENSIONS } from "@gltf-transform/extensions";
import { meshopt, uninstance } from "@gltf-transform/functions";
import { InputError } from "../../schema";
import { atRest } from "./at-rest";
import { checkConsistency } from "./consistent";
import { openContainer } from "./container";
import { DRACO, INSTANCES, MESHOPT, PACKING } from "./packing";
import { dracoDecoder, meshoptDecoder, meshoptEncoder } from "./decoders";
import { checkedDescription, type Description } from "./description";
import { meshNodesOf, solidPrimitives, trianglesIn } from "./flat";

/** What extensions add that is of no use here: files that need them are read without. */
const PASSED_OVER =
  /^(KHR_lights_punctual|KHR_materials_variants|KHR_xmp|KHR_xmp_json_ld|KHR_animation_pointer|KHR_node_visibility|EXT_lights_image_based|MSFT_lod)$/;
const READ = ALL_EXTENSIONS.filter(({ EXTENSION_NAME }) => !PASSED_OVER.test(EXTENSION_NAME));
const READ_NAMES = new Set<string>(READ.map(({ EXTENSION_NAME }) => EXTENSION_NAME));

/** Instances come to no more than so many nodes. */
const MOST_INSTANCES = 100_000;

/** The same as a GLB that any reader understands. @throws InputError as {@link readGlb} */
export const plainGlb = async (bytes: Uint8Array, name: string): Promise<Uint8Array> =>
  writePlain((await readGlbFile(bytes, name)).document);

/** What was found in a file and not used, or changed so that it could be. */
export type Note =
  | "lines" /* lines or points beside triangles */
  | "numbers" /* values that are no numbers */
  | "instances"
  | "missing" /* a file that it can do without */
  | "extension";

export interface GltfFile {
  document: Document;
  /** Each with the part of the file that it is about: a mesh's name, an extension's. */
  notes: { what: Note; part: string }[];
  /** Whether the bytes hold anything that only a reader with decoders understands, or that was mended here. */
  packed: boolean;
}

/** Reads and writes plain glTF: without codecs for compressed meshes. */
export const plainIO = (): WebIO =>
  new WebIO()
    .registerExtensions(
      READ.filter(({ EXTENSION_NAME }) => EXTENSION_NAME !== DRACO && !MESHOPT.includes(EXTENSION_NAME)),
    )
    .setLogger(new Logger(Logger.Verbosity.SILENT));

/**
 * The document in a GLB as it stands before anything in it moves.
 *
 * @param name what to call the file in messages
 * @throws InputError when the bytes are no GLB, are damaged, or need something that cannot be read
 */
export async function readGlb(bytes: Uint8Array, name: string): Promise<Document> {
  const { document } = await readGlbFile(bytes, name);
  atRest(document);
  return document;
}

/** The same with all that moves. */
export async function readGlbFile(bytes: Uint8Array, name: string): Promise<GltfFile> {
  const { json, binary } = openContainer(bytes, name);
  return readDescribed(json, binary, name, () => undefined);
}

/**
 * A glTF by its description.
 *
 * @param binary what a buffer without an address stands for
 * @param resource the bytes of another file that it names; undefined for one that is not there
 * @throws InputError as {@link readGlb}, and when a file is missing
 */
export async function readDescribed(
  json: unknown,
  binary: Uint8Array | null,
  name: string,
  resource: (uri: string) => Uint8Array | undefined,
): Promise<GltfFile> {
  const description = checkedDescription(json, name);
  checkExtensions(description, name);
  const resources: Record<string, Uint8Array> = {};
  const missing: string[] = [];
  const buffers = description.buffers.map((buffer, i): Uint8Array | null => {
    if (buffer.uri === undefined) return i === 0 ? binary : null;
    const bytes = buffer.uri.startsWith("data:") ? bytesOfUri(buffer.uri) : resource(buffer.uri);
    if (!bytes) missing.push(buffer.uri);
    return (bytes && (resources[buffer.uri] = bytes)) ?? null;
  });
  for (const { uri } of description.images) {
    if (uri === undefined) continue;
    const bytes = uri.startsWith("data:") ? bytesOfUri(uri) : resource(uri);
    if (bytes) resources[uri] = bytes;
    else missing.push(uri);
  }
  if (missing.length > 0) throw new InputError(missingSentence(name, missing));
  // Buffers that only stand for what is compressed have no bytes of their own.
  checkConsistency(description, name, (i) => {
    const bytes = buffers[i];
    return bytes && Math.min(bytes.byteLength, description.buffers[i].byteLength);
  });
  if (binary) resources["@glb.bin"] = binary;

  const notes = notesOf(description);
  const used = stripped(description);
  try {
    const document = await ioFor(used).then((io) => io.readJSON({ json: used, resources } as unknown as JSONDocument));
    document.setLogger(new Logger(Logger.Verbosity.SILENT));
    const packed = PACKING.some((extension) => used.extensionsUsed.includes(extension));
    if (used.extensionsUsed.includes(INSTANCES)) await expand(document, name, notes);
    for (const extension of document.getRoot().listExtensionsUsed()) {
      if (extension.extensionName === DRACO || MESHOPT.includes(extension.extensionName)) extension.dispose();
    }
    const deep = depthOf(used) > DEEP;
    if (deep) {
      atRest(document);
      rootAll(document);
    }
    checkShown(document, name);
    const mended = mendNumbers(document, name);
    notes.push(...mended.map((part) => ({ what: "numbers" as const, part })));
    const external = Object.keys(resources).some((uri) => uri !== "@glb.bin");
    return { document, notes, packed: packed || external || deep || mended.length > 0 };
  } catch (error) {
    if (error instanceof InputError) throw error;
    throw new InputError(`“${name}” cannot be read: its contents are damaged.`);
  }
}

/** Extensions that a file cannot be read without must be known. */
function checkExtensions({ extensionsRequired }: Description, name: string): void {
  const unknown = extensionsRequired.filter((one) => !READ_NAMES.has(one) && !PASSED_OVER.test(one));
  if (unknown.length === 0) return;
  const named = unknown
    .slice(0, 3)
    .map((one) => one.slice(0, 60))
    .join(", ");
  throw new InputError(
    `“${name}” can only be read by programs that know ${named}, an extension of glTF, and Clothesline does not. Export it without.`,
  );
}

function missingSentence(name: string, missing: readonly string[]): string {
  const named = missing.slice(0, 3).map((uri) => `“${decodedUri(uri).slice(0, 80)}”`);
  const more = missing.length > 3 ? ` and ${missing.length - 3} more` : "";
  const them = missing.length === 1 ? "it" : "them";
  return `“${name}” keeps parts in files of their own, and ${named.join(", ")}${more} did not come with it. Bring ${them} in together with it, or all in one zip.`;
}

/** An address as it is written in a file, with what is escaped in it put back. */
export function decodedUri(uri: string): string {
  try {
    return decodeURIComponent(uri);
  } catch {
    return uri;
  }
}

function bytesOfUri(uri: string): Uint8Array | undefined {
  const comma = uri.indexOf(",");
  if (comma < 0) return undefined;
  const body = uri.slice(comma + 1);
  try {
    if (!/;base64$/i.test(uri.slice(0, comma))) return new TextEncoder().encode(decodeURIComponent(body));
    return Uint8Array.from(atob(body), (c) => c.charCodeAt(0));
  } catch {
    return undefined;
  }
}

const named = (part: string | undefined, otherwise: string): string => (part ? part.slice(0, 80) : otherwise);

/** What the file has and nothing is made of. */
function notesOf(json: Description): GltfFile["notes"] {
  const notes: GltfFile["notes"] = [];
  for (const { name, primitives } of json.meshes) {
    const part = named(name, "its mesh");
    const triangles = primitives.some(({ mode }) => mode >= 4);
    if (triangles && primitives.some(({ mode }) => mode < 4)) notes.push({ what: "lines", part });
  }
  for (const extension of json.extensionsUsed) {
    if (!READ_NAMES.has(extension) && !PASSED_OVER.test(extension))
      notes.push({ what: "extension", part: extension.slice(0, 60) });
  }
  return notes;
}

/** The description without what is not known. */
function stripped(json: Description): Description {
  const known = (extensions: readonly string[]) => extensions.filter((one) => READ_NAMES.has(one));
  return {
    ...json,
    extensionsUsed: known(json.extensionsUsed),
    extensionsRequired: known(json.extensionsRequired),
    animations: json.animations.map((animation) => ({
      ...animation,
      channels: animation.channels.filter(({ target: { path } }) => MOVABLE.has(path)),
    })),
  };
}

/** What of a node a clip may move; whatever else is an extension's. */
const MOVABLE = new Set(["translation", "rotation", "scale", "weights"]);

async function ioFor({ extensionsUsed }: Description): Promise<WebIO> {
  const io = new WebIO().registerExtensions(READ).setLogger(new Logger(Logger.Verbosity.SILENT));
  if (extensionsUsed.includes(DRACO)) io.registerDependencies({ "draco3d.decoder": await dracoDecoder() });
  if (MESHOPT.some((one) => extensionsUsed.includes(one)))
    io.registerDependencies({ "meshopt.decoder": await meshoptDecoder() });
  return io;
}

/** A file shows no more triangles than this, however often it shows the same. */
const MOST_TRIANGLES = 20_000_000;

function checkShown(document: Document, name: string): void {
  let triangles = 0;
  for (const { node } of meshNodesOf(document))
    for (const primitive of solidPrimitives(node)) triangles += trianglesIn(primitive);
  if (triangles <= MOST_TRIANGLES) return;
  const [found, most] = [triangles, MOST_TRIANGLES].map((n) => n.toLocaleString("en"));
  throw new InputError(`“${name}” comes to ${found} triangles; a file may have ${most} at most.`);
}

/** A node for each instance. */
async function expand(document: Document, name: string, notes: GltfFile["notes"]): Promise<void> {
  let instances = 0;
  for (const node of document.getRoot().listNodes()) {
    const batch = node.getExtension(INSTANCES) as { listAttributes(): { getCount(): number }[] } | null;
    if (!batch) continue;
    instances += batch.listAttributes()[0]?.getCount() ?? 0;
    notes.push({ what: "instances", part: named(node.getName() || node.getMesh()?.getName(), "its mesh") });
  }
  if (instances > MOST_INSTANCES) {
    throw new InputError(
      `“${name}” shows its meshes ${instances.toLocaleString("en")} times; a file may show them ${MOST_INSTANCES.toLocaleString("en")} times at most.`,
    );
  }
  await document.transform(uninstance());
}

/** Nodes that hang deeper than this are hung from the scene instead: not every reader walks so far down. */
const DEEP = 200;

function depthOf({ nodes, scenes }: Description): number {
  let depth = 0;
  let level = scenes.flatMap((scene) => scene.nodes);
  for (; level.length > 0 && depth <= DEEP; depth++) level = level.flatMap((i) => nodes[i].children);
  return depth;
}

/** Hangs all nodes with a mesh from the scene itself, where they are; the others go. */
function rootAll(document: Document): void {
  const shown = meshNodesOf(document);
  const kept = new Set(shown.map(({ node }) => node));
  const scene = document.getRoot().getDefaultScene() ?? document.getRoot().listScenes()[0];
  for (const { node, matrix } of shown) {
    node.detach();
    scene.addChild(node.setMatrix(matrix));
  }
  for (const node of document.getRoot().listNodes()) if (!kept.has(node)) node.dispose();
}

/** What may be no number without the file being useless: it counts as nothing, or is worked out anew. */
function mendNumbers(document: Document, name: string): string[] {
  const mended = new Set<string>();
  for (const mesh of document.getRoot().listMeshes()) {
    const part = named(mesh.getName(), "its mesh");
    for (const primitive of mesh.listPrimitives()) if (mendPrimitive(primitive, mesh, name)) mended.add(part);
  }
  return [...mended];
}

function mendPrimitive(primitive: Primitive, mesh: Mesh, name: string): boolean {
  let mended = false;
  const part = named(mesh.getName(), "its mesh");
  const unusable = (why: string) => new InputError(`“${name}” cannot be used: ${why}.`);
  const vertices = primitive.getAttribute("POSITION")?.getCount() ?? 0;
  if (vertices === 0) throw unusable(`“${part}” has no vertex positions`);
  const beyond = primitive
    .getIndices()
    ?.getArray()
    ?.find((index: number) => index >= vertices);
  if (beyond !== undefined)
    throw unusable(`a triangle of “${part}” asks for vertex ${beyond}, and there are ${vertices}`);
  for (const semantic of primitive.listSemantics()) {
    const accessor = primitive.getAttribute(semantic)!;
    const array = accessor.getArray();
    if (!array) throw unusable(`“${part}” lacks its data`);
    const bad = array instanceof Float32Array ? array.findIndex((value) => !Number.isFinite(value)) : -1;
    if (bad < 0) continue;
    if (semantic === "POSITION") {
      const vertex = Math.floor(bad / accessor.getElementSize()) + 1;
      throw unusable(`a vertex of “${part}” (number ${vertex}) has a position that is no number`);
    }
    mended = true;
    if (semantic === "NORMAL" || semantic === "TANGENT") primitive.setAttribute(semantic, null);
    else
      accessor.setArray(
        array.map((value: number) => (Number.isFinite(value) ? value : 0)) as Float32Array<ArrayBuffer>,
      );
  }
  return mended;
}

/** The document as a GLB that takes less room: quantized, in an order that packs well, and packed by meshopt. */
export async function writeCompressed(document: Document): Promise<Uint8Array> {
  const [encoder, decoder] = [await meshoptEncoder(), await meshoptDecoder()];
  await document.transform(meshopt({ encoder, level: "medium" }));
  const dependencies = { "meshopt.encoder": encoder, "meshopt.decoder": decoder };
  return new WebIO().registerExtensions(READ).registerDependencies(dependencies).writeBinary(document);
}

/** The document as a GLB that any reader understands. */
export function writePlain(document: Document): Promise<Uint8Array> {
  const [first, ...others] = document.getRoot().listBuffers();
  for (const accessor of document.getRoot().listAccessors()) accessor.setBuffer(first ?? document.createBuffer());
  for (const other of others) other.dispose();
  return plainIO().writeBinary(document);
}
