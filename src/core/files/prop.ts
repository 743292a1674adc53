/** Reading a GLB as a prop: is it sound, how large is it, what does it bring. */
import type { PropBounds } from "../mesh";
import { type Brought } from "../scene";
import {
  atRest,
  boxOf,
  determinant,
  emptiesOf,
  liesFar,
  meshNodesOf,
  readGlbFile,
  solidPrimitives,
  trianglesIn,
  type GltfFile,
  type Note,
} from "./gltf";
import type { Material } from "@gltf-transform/core";
import { FARTHEST, InputError } from "../schema";
import { hashOf } from "./assets";
import { readIncoming, type GivenFile } from "./incoming";

/** What a prop's file brings. */
export interface PropFile {
  /** The box around all its vertices, in metres, as its scene stands. */
  bounds: PropBounds;
  triangles: number;
  brought: Brought;
}

/** A file whose box lies so many times its own size away from the origin has left its pivot behind. */
const FAR = 10;

/**
 * Reads a prop's file and looks it over.
 *
 * @param name the file's name, for messages
 * @throws InputError when it is no GLB, is damaged, has no triangles, lacks positions or has ones that are no numbers
 */
export const readPropFile = async (bytes: Uint8Array, name: string): Promise<PropFile> =>
  lookOver(await readGlbFile(bytes, name), name);

/** What came in as a mesh's file: how it is kept, and what it brings. */
export interface BroughtIn extends PropFile {
  asset: string;
  /** A plain GLB. */
  bytes: Uint8Array;
}

/**
 * Takes in a mesh's file, of any kind that can be read.
 *
 * @param others files that came with it, for those that are made of several
 * @throws InputError as {@link readPropFile}, and when a file that it names is missing
 */
export async function bringInFile(main: GivenFile, others: readonly GivenFile[]): Promise<BroughtIn> {
  const { file, bytes } = await readIncoming(main, others);
  return { asset: hashOf(bytes), bytes, ...lookOver(file, main.name) };
}

/** Brings the document to rest. @throws InputError when there are no triangles, or vertices lie further away than can be told */
function lookOver({ document, notes }: GltfFile, name: string): PropFile {
  const clips = (atRest(document)?.clips ?? []).map((clip) => ({
    name: clip.name.slice(0, 120),
    seconds: clip.seconds,
  }));
  const shown = meshNodesOf(document);
  const materials = new Set<Material | null>();
  const mended: Brought["mended"] = notes.map(({ what, part }) => ({ what: MEND_OF[what], part }));
  let triangles = 0;
  for (const { node, matrix } of shown) {
    const part = node.getMesh()!.getName() || node.getName() || "its mesh";
    for (const what of leftoverScale(matrix)) mended.push({ what, part });
    for (const primitive of solidPrimitives(node)) {
      materials.add(primitive.getMaterial());
      if (!primitive.getAttribute("NORMAL")) mended.push({ what: "normals", part });
      triangles += trianglesIn(primitive);
    }
  }
  if (triangles === 0) throw new InputError(`“${name}” cannot be used: there are no triangles in it.`);
  const bounds = boxOf(shown);
  if (![...bounds.min, ...bounds.max].every((x) => Math.abs(x) < FARTHEST)) {
    throw new InputError(`“${name}” cannot be used: it reaches further than 10,000 km from its origin.`);
  }
  if (liesFar(bounds, FAR)) mended.push({ what: "far", part: "" });
  const empties = emptiesOf(document)
    .slice(0, 200)
    .filter(({ position }) => position.every((x) => Math.abs(x) < FARTHEST))
    .map(({ name, position, up }) => ({ name: name.trim().slice(0, 120), position, direction: up }));
  const textures = document.getRoot().listTextures().length;
  const parts = shown.length;
  return {
    bounds,
    triangles,
    brought: { parts, materials: materials.size, textures, clips, empties, mended: once(mended) },
  };
}

const MEND_OF: Readonly<Record<Note, Brought["mended"][number]["what"]>> = {
  lines: "lines",
  numbers: "numbers",
  instances: "instances",
  missing: "missing",
  extension: "extension",
};

/** What the scale in a node's matrix asks for: it is worked into the vertices. */
function leftoverScale(m: readonly number[]): ("scale" | "uneven" | "mirrored")[] {
  const [x, y, z] = [0, 4, 8].map((o) => Math.hypot(m[o], m[o + 1], m[o + 2]));
  const [least, most] = [Math.min(x, y, z), Math.max(x, y, z)];
  const found: ("scale" | "uneven" | "mirrored")[] = [];
  if (most - least > 1e-3 * most) found.push("uneven");
  else if (Math.abs(most - 1) > 1e-3) found.push("scale");
  if (determinant(m) < 0) found.push("mirrored");
  return found;
}

/** Each remark once, and no more of them than can be read. */
function once(mended: Brought["mended"]): Brought["mended"] {
  const named = new Map(mended.map((one) => [`${one.what} ${one.part}`, { ...one, part: one.part.slice(0, 120) }]));
  return [...named.values()].slice(0, 40);
}
