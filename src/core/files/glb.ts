/**
 * GLB: the dressings as a scene of their own, with the props' meshes, materials and textures, each prop stored once. What is
 * mirrored, tinted, bent or clipped is a mesh of its own, and placements that look the same share it.
 *
 * Instanced: a node for each mesh of each dressing that carries all its places (`EXT_mesh_gpu_instancing`). Plain: a node
 * for every placement, for programs that do not read that. Positions count from the dressing's node, which stands at the
 * dressing's origin, so that they keep their precision far away from the scene's.
 */
import { entryOf } from "../mesh";
import {
  Document,
  Logger,
  type Buffer,
  type mat4,
  type Mesh,
  type Node,
  type vec3,
  type vec4,
} from "@gltf-transform/core";
import { EXTMeshGPUInstancing } from "@gltf-transform/extensions";
import { mergeDocuments, prune, unpartition } from "@gltf-transform/functions";
import { InputError } from "../schema";
import { addLines, addSurfaces, madeMesh } from "./scenery";
import { coursesOf, isStill, Moving, nodeName } from "./motion";
import { stands, type EvaluatedDressing, type EvaluatedScene, type Nest } from "./evaluated";
import { flatMesh, meshNodesOf, plainIO, readGlb, transformedMesh, writeCompressed } from "./gltf";
import { meshAt, takenOn } from "./poses";
import type { MovedShape } from "../movers";
import { addAllSnaps, addSnaps, ownSnaps, snapNode, snapPlaceIn, type OwnSnaps } from "./snap-nodes";
import { Variants, WHITE } from "./variants";
import { preparationMatrix } from "../scene";
import { subtract, type Quat, type Vec3 } from "../math";
import { FLAG, hexOf, keyUnder, stillAt, stillKey, type Key, type Placements, type Still } from "../place";
import type { Assets } from "./assets";

export type GlbForm = "instanced" | "plain";

const NO_SNAPS: OwnSnaps = new Map();

/**
 * @param compressed whether meshes are quantized (to a sixteen-thousandth of their size) and packed by meshopt
 * @throws InputError when the asset of a prop that is placed is missing or cannot be read
 */
export async function writeGlb(
  evaluated: EvaluatedScene,
  assets: Assets,
  form: GlbForm,
  compressed = false,
): Promise<Uint8Array> {
  const document = new Document().setLogger(new Logger(Logger.Verbosity.SILENT));
  document.getRoot().getAsset().generator = "Clothesline";
  const buffer = document.createBuffer();
  const scene = document.createScene(evaluated.scene.name);
  document.getRoot().setDefaultScene(scene);

  // glTF knows no scene without nodes.
  if (evaluated.dressings.length === 0) scene.addChild(document.createNode(evaluated.scene.name));
  const { surfaces = [], lines = [], motion = null } = evaluated;
  const moving = motion && new Moving(document, buffer, motion.times);
  const { takenOn: shapes = new Map<string, MovedShape[]>() } = evaluated;
  const meshes = new Variants(document, buffer, await meshesOf(document, buffer, evaluated, assets), shapes, moving);
  const snaps = evaluated.snaps === false ? NO_SNAPS : ownSnaps(evaluated.scene.props);
  for (const [n, dressed] of evaluated.dressings.entries()) {
    const node = document.createNode(dressed.dressing.name).setTranslation(dressed.placements.origin);
    scene.addChild(node);
    const frames = motion?.placements[n] ?? null;
    if (moving && frames && !isStill(frames)) {
      addMoving(document, node, dressed, frames, meshes, moving, snaps);
      if (motion?.uses) addSnapsOfUses(document, node, motion.uses[n], snaps, moving);
      continue;
    }
    if (form === "instanced") {
      addInstances(document, buffer, node, dressed, meshes);
      addAllSnaps(document, node, dressed.placements, snaps);
    } else if (dressed.nest) addNest(document, node, dressed.nest, meshes, snaps);
    else addNodes(document, node, dressed, meshes, snaps);
    if (dressed.uses) addSnapsOfUses(document, node, [dressed.uses], snaps);
  }

  await addSurfaces(document, buffer, scene, surfaces, assets, moving);
  addLines(document, buffer, scene, lines, moving);

  await document.transform(
    prune({ keepLeaves: true, keepAttributes: true, keepIndices: true, keepSolidTextures: true, keepExtras: true }),
    unpartition(),
  );
  // A file without any geometry has no buffer: an empty one would not be valid.
  const empty = document.getRoot().listAccessors().length === 0;
  if (empty) buffer.dispose();
  return compressed && !empty ? writeCompressed(document) : plainIO().writeBinary(document);
}

/** One flat mesh, as it is prepared, for each prop that stands somewhere, and for each of its stills that is taken. */
async function meshesOf(
  document: Document,
  buffer: Buffer,
  evaluated: EvaluatedScene,
  assets: Assets,
): Promise<Map<string, Mesh>> {
  const used = new Set<string>();
  const stills = new Map<string, Map<string, Still & { name: string }>>();
  const { dressings, motion, still } = evaluated;
  for (const placements of motion?.placements.flat() ?? dressings.map((one) => one.placements)) {
    for (let i = 0; i < placements.count; i++) {
      if (!stands(placements, i)) continue;
      const prop = placements.props[placements.prop[i]];
      used.add(prop);
      const own = stillOf(placements, i);
      if (own) (stills.get(prop) ?? stills.set(prop, new Map()).get(prop)!).set(own.name, own);
    }
  }
  const meshes = new Map<string, Mesh>();
  for (const prop of evaluated.scene.props) {
    if (!used.has(prop.id)) continue;
    // In several frames, each look of it takes its shapes on.
    const shapes = evaluated.takenOn?.get(prop.id);
    const shaped = (mesh: Mesh) => takenOn(document, mesh, shapes?.length === 1 ? shapes : null, null);
    const made = evaluated.made?.get(prop.id);
    if (made) meshes.set(prop.id, shaped(madeMesh(document, buffer, prop.name, made)));
    // What stands in an assembly is a prop of its own.
    if (prop.asset === null) continue;
    const bytes = assets.get(prop.asset);
    if (!bytes) throw new InputError(`The file of the prop “${prop.name}” is missing, so it cannot be exported.`);
    const source = await readGlb(bytes, prop.file || prop.name);
    const merged = mergeDocuments(document, source);
    const shown = meshNodesOf(source).map(({ node, matrix }) => ({ node: merged.get(node) as Node, matrix }));
    const rows = preparationMatrix(prop);
    meshes.set(prop.id, shaped(flatMesh(document, shown, prop.name, columns(rows))));
    for (const { name, clip, moment } of stills.get(prop.id)?.values() ?? []) {
      const shape = still?.(prop.id, clip, moment);
      const stood = shape && meshAt(document, flatMesh(document, shown, prop.name), shape);
      if (stood) meshes.set(name, transformedMesh(document, stood, columns(rows), prop.name));
    }
    for (const property of [...source.getRoot().listScenes(), ...source.getRoot().listNodes()]) {
      merged.get(property)?.dispose();
    }
  }
  return meshes;
}

/** The still that placement `i` stands in; null for as at rest. */
function stillOf({ posed, prop, props }: Placements, i: number): (Still & { name: string }) | null {
  const still = posed && stillAt(posed.poses, prop[i], posed.pose[i]);
  return still && { ...still, name: stillKey(props[prop[i]], still.clip, still.moment) };
}

/** Rows of 3 × 4 numbers as glTF writes a matrix: columns of 4 × 4. */
const columns = (m: readonly number[]): mat4 =>
  [m[0], m[4], m[8], 0, m[1], m[5], m[9], 0, m[2], m[6], m[10], 0, m[3], m[7], m[11], 1] as mat4;

/** The mesh of placement `i`; undefined where there is nothing to show. */
function meshOf(p: Placements, i: number, meshes: Variants): Mesh | undefined {
  if (!stands(p, i)) return undefined;
  const prop = p.props[p.prop[i]];
  const look = { mirrored: (p.flags[i] & FLAG.mirrored) !== 0, tint: p.tints[p.tint[i]] ?? WHITE };
  const entry = entryOf(p.shapes, i);
  if (!p.shapes || entry < 0) return meshes.stiff(stillOf(p, i)?.name ?? prop, look) ?? meshes.stiff(prop, look);
  return meshes.shaped(prop, p.shapes, p.shapes.form[entry], look);
}

/** Where the meshes of some placements stand, from the dressing's origin: 3, 4 and 3 numbers each. */
function placesOf(p: Placements, members: readonly number[]) {
  const n = members.length;
  const places = {
    translation: new Float32Array(3 * n),
    rotation: new Float32Array(4 * n),
    scale: new Float32Array(3 * n).fill(1),
  };
  members.forEach((i, k) => {
    const entry = entryOf(p.shapes, i);
    if (p.shapes && entry >= 0) {
      places.translation.set(p.shapes.frame.subarray(7 * entry, 7 * entry + 3), 3 * k);
      places.rotation.set(p.shapes.frame.subarray(7 * entry + 3, 7 * entry + 7), 4 * k);
      return;
    }
    places.translation.set(p.position.subarray(3 * i, 3 * i + 3), 3 * k);
    places.rotation.set(p.rotation.subarray(4 * i, 4 * i + 4), 4 * k);
    places.scale.set(p.scale.subarray(3 * i, 3 * i + 3), 3 * k);
  });
  return places;
}

/** A node for each placement that stands in any frame, which goes through where it is in all of them. */
function addMoving(
  document: Document,
  parent: Node,
  dressed: EvaluatedDressing,
  frames: readonly Placements[],
  meshes: Variants,
  moving: Moving,
  snaps: OwnSnaps,
): void {
  for (const course of coursesOf(dressed, frames)) {
    const mesh = meshOf(frames[course.frame], course.index, meshes);
    if (!mesh) continue;
    const node = document.createNode(nodeName(mesh, course.key)).setExtras({ key: hexOf(course.key) });
    const looks = frames.map((p, frame) =>
      course.indices[frame] < 0 ? mesh : meshOf(p, course.indices[frame], meshes),
    );
    if (looks.every((look) => look === mesh)) meshes.dress(node, mesh);
    else addLooks(document, node, looks, meshes, moving);
    addSnaps(document, node, frames[course.frame], course.index, snaps);
    moving.through(node, course, course.comesAndGoes);
    parent.addChild(node);
  }
}

/** A node for each mesh that one placement looks like in some frame, of full size then and of none otherwise. */
function addLooks(
  document: Document,
  parent: Node,
  looks: readonly (Mesh | undefined)[],
  meshes: Variants,
  moving: Moving,
): void {
  const n = looks.length;
  for (const mesh of new Set(looks)) {
    if (!mesh) continue;
    const node = document.createNode(mesh.getName());
    meshes.dress(node, mesh);
    const shown = Float32Array.from({ length: 3 * n }, (_, k) => (looks[Math.floor(k / 3)] === mesh ? 1 : 0));
    const upright = Float32Array.from({ length: 4 * n }, (_, k) => (k % 4 === 3 ? 1 : 0));
    moving.through(node, { translation: new Float32Array(3 * n), rotation: upright, scale: shown }, true);
    parent.addChild(node);
  }
}

/**
 * A node for every placement, and for each use of an assembly one with all that is in it below. Their keys are those that they have
 * where they are written side by side.
 */
function addNest(
  document: Document,
  parent: Node,
  { placements: p, at }: Nest,
  meshes: Variants,
  snaps: OwnSnaps,
  keyOf: (key: Key) => Key = (key) => key,
): void {
  for (let i = 0; i < p.count; i++) {
    const used = stands(p, i) ? at(i) : null;
    if (!used) {
      addNode(document, parent, p, i, meshes, snaps, keyOf);
      continue;
    }
    const key = hexOf(keyOf(p.key[i]));
    const node = placed(document.createNode(`${used.name} ${key}`).setExtras({ key }), p, i);
    addSnaps(document, node, p, i, snaps, false);
    parent.addChild(node);
    const prepared = document.createNode(`${used.name}, prepared`).setMatrix(columns(used.matrix));
    node.addChild(prepared);
    for (const { name, salt, nest } of used.dressings) {
      const below = document.createNode(name).setTranslation(nest.placements.origin);
      prepared.addChild(below);
      const inner = (key: Key) => keyOf(keyUnder(p.key[i], salt, key));
      addNest(document, below, nest, meshes, snaps, inner);
    }
  }
}

/** A snap point of a use of an assembly. */
interface SnapOfUse {
  name: string;
  key: string;
  position: Vec3;
  rotation: Quat;
}

/**
 * The snap points of assemblies that are written as what is in them, by their keys and numbers.
 *
 * @param origin what they are counted from; what they stand in may be counted from elsewhere in each frame
 */
function snapsOfUses(document: Document, uses: Nest, origin: Vec3, snaps: OwnSnaps): Map<string, SnapOfUse> {
  const out = new Map<string, SnapOfUse>();
  // Nodes that are in no scene, for what they come to in each other.
  const frames: Node[] = [];
  const frameIn = (outer: Node | null): Node => {
    const frame = document.createNode();
    outer?.addChild(frame);
    frames.push(frame);
    return frame;
  };
  const add = ({ placements: p, at }: Nest, outer: Node, keyOf: (key: Key) => Key): void => {
    for (let i = 0; i < p.count; i++) {
      const used = stands(p, i) ? at(i) : null;
      if (!used) continue;
      const own = placed(frameIn(outer), p, i);
      const key = hexOf(keyOf(p.key[i]));
      for (const [k, snap] of (snaps.get(p.props[p.prop[i]]) ?? []).entries())
        out.set(`${key} ${k}`, { name: snap.name, key, ...snapPlaceIn(own.getWorldMatrix(), snap) });
      const prepared = frameIn(own).setMatrix(columns(used.matrix));
      for (const { salt, nest } of used.dressings) {
        const below = frameIn(prepared).setTranslation(nest.placements.origin);
        add(nest, below, (inner) => keyOf(keyUnder(p.key[i], salt, inner)));
      }
    }
  };
  add(uses, frameIn(null).setTranslation([...subtract(uses.placements.origin, origin)]), (key) => key);
  for (const frame of frames) frame.dispose();
  return out;
}

/**
 * Those snap points in one node: each where it is, pointing where it points, in every frame.
 *
 * @param uses in each frame, or in the only one
 */
function addSnapsOfUses(
  document: Document,
  parent: Node,
  uses: readonly (Nest | null)[],
  snaps: OwnSnaps,
  moving: Moving | null = null,
): void {
  const frames = uses.map((nest) =>
    nest ? snapsOfUses(document, nest, parent.getTranslation(), snaps) : new Map<string, SnapOfUse>(),
  );
  const names = new Set(frames.flatMap((frame) => [...frame.keys()]));
  if (names.size === 0) return;
  const all = document.createNode(`${parent.getName()} snap points of assemblies`);
  parent.addChild(all);
  const n = frames.length;
  for (const name of names) {
    const first = frames.find((frame) => frame.has(name))!.get(name)!;
    const node = snapNode(document, first.name, first.position, first.rotation).setExtras({ snap: true, key: first.key }); // prettier-ignore
    all.addChild(node);
    if (!moving || n < 2) continue;
    const course = { translation: new Float32Array(3 * n), rotation: new Float32Array(4 * n), scale: new Float32Array(3 * n) }; // prettier-ignore
    let last = first;
    frames.forEach((frame, k) => {
      const here = frame.get(name);
      last = here ?? last;
      course.translation.set(last.position, 3 * k);
      course.rotation.set(last.rotation, 4 * k);
      course.scale.fill(here ? 1 : 0, 3 * k, 3 * k + 3);
    });
    moving.through(
      node,
      course,
      frames.some((frame) => !frame.has(name)),
    );
  }
}

/** A node put where placement `i` of its dressing stands. */
function placed(node: Node, p: Placements, i: number): Node {
  const side = p.flags[i] & FLAG.mirrored ? -1 : 1;
  const [x, y, z] = p.scale.subarray(3 * i, 3 * i + 3);
  return node
    .setTranslation([...p.position.subarray(3 * i, 3 * i + 3)] as vec3)
    .setRotation([...p.rotation.subarray(4 * i, 4 * i + 4)] as vec4)
    .setScale([side * x, y, z]);
}

function addInstances(
  document: Document,
  buffer: Buffer,
  parent: Node,
  { placements: p }: EvaluatedDressing,
  meshes: Variants,
): void {
  const instancing = document.createExtension(EXTMeshGPUInstancing).setRequired(true);
  const byMesh = new Map<Mesh, number[]>();
  for (let i = 0; i < p.count; i++) {
    const mesh = meshOf(p, i, meshes);
    if (!mesh) continue;
    const list = byMesh.get(mesh);
    if (list) list.push(i);
    else byMesh.set(mesh, [i]);
  }
  for (const [mesh, members] of byMesh) {
    const { translation, rotation, scale } = placesOf(p, members);
    const attribute = (type: "VEC3" | "VEC4", array: Float32Array<ArrayBuffer>) =>
      document.createAccessor().setType(type).setBuffer(buffer).setArray(array);
    const batch = instancing
      .createInstancedMesh()
      .setAttribute("TRANSLATION", attribute("VEC3", translation))
      .setAttribute("ROTATION", attribute("VEC4", rotation))
      .setAttribute("SCALE", attribute("VEC3", scale));
    parent.addChild(document.createNode(mesh.getName()).setMesh(mesh).setExtension("EXT_mesh_gpu_instancing", batch));
  }
}

function addNodes(
  document: Document,
  parent: Node,
  { placements: p }: EvaluatedDressing,
  meshes: Variants,
  snaps: OwnSnaps,
): void {
  for (let i = 0; i < p.count; i++) addNode(document, parent, p, i, meshes, snaps, (key) => key);
}

/** A node for placement `i`, if anything stands there. */
function addNode(
  document: Document,
  parent: Node,
  p: Placements,
  i: number,
  meshes: Variants,
  snaps: OwnSnaps,
  keyOf: (key: Key) => Key,
): void {
  const mesh = meshOf(p, i, meshes);
  if (!mesh) return;
  const { translation, rotation, scale } = placesOf(p, [i]);
  const key = keyOf(p.key[i]);
  const node = document
    .createNode(nodeName(mesh, key))
    .setMesh(mesh)
    .setTranslation([...translation] as vec3)
    .setRotation([...rotation] as vec4)
    .setScale([...scale] as vec3)
    .setExtras({ key: hexOf(key) });
  addSnaps(document, node, p, i, snaps);
  parent.addChild(node);
}
