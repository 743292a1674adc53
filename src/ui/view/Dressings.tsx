"use client";
/** All placements: an instanced mesh for each chunk and part of each prop of each dressing, and one mesh for those bent or clipped. */
import { invalidate, useThree } from "@react-three/fiber";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import {
  BoxGeometry,
  BufferAttribute,
  BufferGeometry,
  InstancedBufferAttribute,
  InstancedMesh,
  InterleavedBuffer,
  InterleavedBufferAttribute,
  Matrix4,
  MeshStandardMaterial,
  PerspectiveCamera,
  PointsMaterial,
  type Camera,
  type Material,
} from "three";
import type { TriangleMesh } from "@/core/mesh";
import { subtract } from "@/core/math";
import { CHUNK, linear, stillAt, stillKey, type Drawn, type Placements, type Poses } from "@/core/place";
import { preparedBounds, type Prop } from "@/core/scene";
import { mergeShapes } from "@/engine/file-clients";
import {
  lightOf,
  modelOf,
  stillModel,
  useMovedModel,
  transformed,
  useDrawnProps,
  useModel,
  usePictures,
  usePrepared,
  type Model,
  type ModelPart,
} from "../assets";
import { useDrawnAsSolids, useResults, useSession, useStills, wholeOf } from "../state";
import { asDrawn, useFineness } from "../three";
import type { Share } from "./budget";
import { useEye } from "./CameraRig";
import { useBudget } from "./useBudget";
import { dependsOnCamera, levelsOf, type Range } from "./levels";
import { chunksOf, chunkSphere, sizeOfChunks } from "./placed";

export function Dressings() {
  const results = useResults((state) => state.byDressing);
  const props = useDrawnProps();
  const byId = useMemo(() => new Map(props.map((prop) => [prop.id, prop])), [props]);
  const budget = useBudget();
  const asSolids = useDrawnAsSolids();
  useEffect(() => invalidate(), [results, props, asSolids]);
  const own = [...results.values()].filter(({ id }) => !asSolids.has(id));
  return own.map((result) => {
    const { id, drawn } = result;
    const placements = wholeOf(result);
    return (
      <group key={id} position={placements.origin}>
        {placements.props.map((propId, index) => {
          const prop = byId.get(propId);
          const share = budget.shares.get(id)![index];
          // An assembly is taken apart into what is in it.
          const isDrawn = prop && !prop.assembly;
          return isDrawn && <PlacedProp key={propId} {...{ prop, index, placements, drawn, share }} />;
        })}
      </group>
    );
  });
}

interface PlacedPropProps {
  prop: Prop;
  /** Of the prop among the placements' props. */
  index: number;
  placements: Placements;
  drawn: Drawn;
  share: Share;
}

function PlacedProp({ prop, index, placements, drawn, share }: PlacedPropProps) {
  const display = useSession((session) => session.display);
  // A surface that is part of an assembly may move.
  const model = useMovedModel(prop.id, usePrepared(prop));
  const lightModel = usePrepared(useMemo(() => lightOf(prop), [prop]));
  const pixels = useThree(({ size, camera }) => pixelsPerMetre(size.height, camera));
  const chunks = useMemo(() => chunksOf(drawn, index), [drawn, index]);
  const sight = useMemo(() => {
    const { min, max } = preparedBounds(prop);
    const extent = Math.max(...min.map((low, axis) => max[axis] - low));
    const hasLight = prop.light !== null && lightModel !== null;
    return { display, share, hasFull: model !== null, hasLight, extent, pixels };
  }, [display, share, prop, model, lightModel, pixels]);
  const usesCamera = dependsOnCamera(sight, sizeOfChunks(drawn, chunks));
  const eye = useEye(({ position }) => (usesCamera ? position : null));
  const levels = useMemo(() => {
    const own = eye && subtract(eye, placements.origin);
    return levelsOf(drawn, chunks, { ...sight, eye: own });
  }, [placements, drawn, chunks, sight, eye]);
  const bent = drawn.kind.includes(CHUNK.shaped);
  return (
    <>
      {model && !placements.posed && <Level model={model} drawn={drawn} ranges={levels.full} />}
      {model && placements.posed && (
        <Posed {...{ prop, index, model, drawn }} poses={placements.posed.poses} ranges={levels.full} />
      )}
      {lightModel && <Level model={lightModel} drawn={drawn} ranges={levels.light} />}
      {model && bent && <ShapedParts model={model} placements={placements} drawn={drawn} ranges={levels.shaped} />}
      {levels.boxes.length > 0 && <Boxes prop={prop} drawn={drawn} ranges={levels.boxes} />}
      {levels.points.length > 0 && <Dots prop={prop} drawn={drawn} ranges={levels.points} />}
    </>
  );
}

interface PosedProps extends RangesProps {
  prop: Prop;
  index: number;
  /** As at rest: what stands in where a still is not there yet, or never will be. */
  model: Model;
  poses: Poses;
}

/** Placements that stand as their file's clip has them, each still by a model of its own. */
function Posed({ prop, index, model, drawn, poses, ranges }: PosedProps) {
  const file = useModel(modelOf(prop));
  const shapes = useStills((stills) => stills.shapes);
  const byPose = useMemo(() => {
    const groups = new Map<number, Range[]>();
    for (const range of ranges) {
      const pose = drawn.pose[range.chunk];
      const known = groups.get(pose);
      if (known) known.push(range);
      else groups.set(pose, [range]);
    }
    return groups;
  }, [ranges, drawn]);
  return [...byPose].map(([pose, own]) => {
    const at = stillAt(poses, index, pose);
    const shape = at ? shapes.get(stillKey(modelOf(prop), at.clip, at.moment)) : undefined;
    const still = file && shape ? stillModel(prop, file, shape) : null;
    return <Level key={pose} model={still ?? model} drawn={drawn} ranges={own} />;
  });
}

/** How many pixels a metre has at a distance of one metre. */
const pixelsPerMetre = (height: number, camera: Camera): number =>
  camera instanceof PerspectiveCamera ? height / (2 * Math.tan((camera.fov * Math.PI) / 360)) : height;

interface RangesProps {
  drawn: Drawn;
  ranges: readonly Range[];
}

/**
 * Ranges with names: what is drawn of a chunk stays the same mesh, whatever else is drawn how, and however many it holds from
 * one frame to the next while they move.
 */
function named(ranges: readonly Range[]): { name: string; range: Range }[] {
  const times = new Map<number, number>();
  return ranges.map((range) => {
    const nth = times.get(range.chunk) ?? 0;
    times.set(range.chunk, nth + 1);
    return { name: `${range.chunk} ${nth}`, range };
  });
}

/** Some placements by one model, chunk by chunk; mirrored ones have a mesh that is. */
function Level({ model, drawn, ranges }: { model: Model } & RangesProps) {
  const isMirrored = ({ chunk }: Range) => drawn.kind[chunk] === CHUNK.mirrored;
  const some = ranges.some(isMirrored);
  const turned = useMemo(() => (some ? transformed(model, MIRROR) : null), [model, some]);
  return named(ranges).flatMap(({ name, range }) => {
    const { parts } = (isMirrored(range) && turned) || model;
    return parts.map(({ geometry, material }, i) => (
      <Instances key={`${name} ${i}`} {...{ geometry, material, drawn, range }} />
    ));
  });
}

/** Numbers of a matrix, and which of them are its place. */
const [MATRIX, PLACE] = [16, 12];

/** Each placement as a dot in its prop's colour: all of them, however many. */
function Dots({ prop, drawn, ranges }: { prop: Prop } & RangesProps) {
  const color = usePictures(prop)?.color ?? "#b9a784";
  // One for all, so that what it is drawn by is not made anew whenever a chunk is.
  const material = useMemo(() => new PointsMaterial({ color, size: 5, sizeAttenuation: false }), [color]);
  useEffect(() => () => material.dispose(), [material]);
  return named(ranges).map(({ name, range }) => <DotsOf key={name} material={material} drawn={drawn} range={range} />);
}

function DotsOf({ material, drawn, range: { chunk, from, to } }: { material: Material; drawn: Drawn; range: Range }) {
  const geometry = useMemo(() => {
    const made = new BufferGeometry();
    const matrices = new InterleavedBuffer(drawn.matrices.subarray(MATRIX * from, MATRIX * to), MATRIX);
    made.setAttribute("position", new InterleavedBufferAttribute(matrices, 3, PLACE));
    made.boundingSphere = chunkSphere(drawn, chunk);
    return made;
  }, [drawn, chunk, from, to]);
  useEffect(() => {
    invalidate();
    return () => geometry.dispose();
  }, [geometry]);
  return <points geometry={geometry} material={material} raycast={() => null} />;
}

const MIRROR = new Matrix4().makeScale(-1, 1, 1);

function Boxes({ prop, drawn, ranges }: { prop: Prop } & RangesProps) {
  const color = usePictures(prop)?.color ?? "#b9a784";
  const [plain, mirrored] = useMemo(() => {
    const { min, max } = preparedBounds(prop);
    const size = [0, 1, 2].map((k) => Math.max(max[k] - min[k], 1e-4));
    const [x, y, z] = [0, 1, 2].map((k) => (min[k] + max[k]) / 2);
    return [x, -x].map((across) => new BoxGeometry(size[0], size[1], size[2]).translate(across, y, z));
  }, [prop]);
  const material = useMemo(() => new MeshStandardMaterial({ color, roughness: 0.9 }), [color]);
  return named(ranges).map(({ name, range }) => {
    const geometry = drawn.kind[range.chunk] === CHUNK.mirrored ? mirrored : plain;
    return <Instances key={name} {...{ geometry, material, drawn, range }} />;
  });
}

interface InstancesProps {
  geometry: BufferGeometry;
  material: Material | Material[];
  drawn: Drawn;
  range: Range;
}

/** Picking goes by boxes (see `pick`), so the meshes themselves are passed over by rays. */
function Instances({ geometry, material, drawn, range: { chunk, from, to } }: InstancesProps) {
  const ref = useRef<InstancedMesh>(null);
  const { matrices, colours } = drawn;
  const plain = useFineness((fineness) => fineness.plain);
  useEffect(() => {
    const mesh = ref.current;
    if (!mesh) return;
    mesh.instanceMatrix = new InstancedBufferAttribute(matrices.subarray(MATRIX * from, MATRIX * to), MATRIX);
    mesh.instanceColor = colours && new InstancedBufferAttribute(colours.subarray(3 * from, 3 * to), 3);
    mesh.count = to - from;
    mesh.boundingSphere = chunkSphere(drawn, chunk);
    invalidate();
  }, [drawn, matrices, colours, chunk, from, to]);
  return (
    <instancedMesh
      ref={ref}
      // Tints need another program.
      key={String(colours !== null)}
      // Geometry and material are no constructor arguments: a change of colour must not make the mesh anew.
      // Nor is the number: the mesh would fill matrices of its own, which are not wanted.
      args={[undefined, undefined, 0]}
      geometry={geometry}
      material={asDrawn(material, plain)}
      raycast={() => null}
      castShadow
      receiveShadow
    />
  );
}

interface ShapedProps {
  model: Model;
  placements: Placements;
  drawn: Drawn;
  /** Of those that are bent or clipped. */
  ranges: readonly Range[];
}

const ShapedParts = ({ model, ...shaped }: ShapedProps) =>
  model.parts.map((part, i) => <ShapedPart key={i} part={part} {...shaped} />);

/** The bent and clipped placements of one part, as one mesh that a worker makes; the one before stays until it comes. */
function ShapedPart({ part, placements, drawn, ranges }: { part: ModelPart } & Omit<ShapedProps, "model">) {
  const three = useThree((state) => state.get);
  const [geometry, setGeometry] = useState<BufferGeometry | null>(null);
  const submit = useNewest();
  useEffect(() => {
    submit(async (isWanted) => {
      const made = ranges.length > 0 ? await merged(part, placements, drawn, ranges).catch(() => null) : null;
      if (isWanted()) setGeometry(made);
    });
  }, [submit, part, placements, drawn, ranges]);
  useEffect(() => {
    three().gl.shadowMap.needsUpdate = true;
    invalidate();
    return () => geometry?.dispose();
  }, [three, geometry]);
  const plain = useFineness((fineness) => fineness.plain);
  const material = useMemo(() => asDrawn(coloured(part.material), plain), [part, plain]);
  if (!geometry) return null;
  return <mesh geometry={geometry} material={material} raycast={() => null} castShadow receiveShadow />;
}

async function merged(
  part: ModelPart,
  { shapes, tints, tint }: Placements,
  { order }: Drawn,
  ranges: readonly Range[],
) {
  if (!shapes) return null;
  const colours = tints.map(linear);
  const shaped = ranges.flatMap(({ from, to }) => Array.from(order.subarray(from, to)));
  const members = shaped.map((i) => ({ entry: shapes.entry[i], tint: colours[tint[i]] }));
  const { mesh } = await mergeShapes(plainMesh(part.geometry), shapes, members, Infinity);
  return geometryOf(mesh);
}

type Job = (isWanted: () => boolean) => Promise<void>;

/** Runs jobs one after the other; of those that come while one is running only the newest is kept. */
function useNewest(): (job: Job) => void {
  const state = useRef({ running: false, next: null as Job | null, gone: false });
  useEffect(() => {
    const held = state.current;
    held.gone = false;
    return () => void (held.gone = true);
  }, []);
  return useCallback((job: Job) => {
    const held = state.current;
    held.next = job;
    if (held.running) return;
    const run = async () => {
      held.running = true;
      while (held.next) {
        const next = held.next;
        held.next = null;
        await next(() => !held.gone);
      }
      held.running = false;
    };
    void run();
  }, []);
}

function coloured(material: Material | Material[]): Material | Material[] {
  if (Array.isArray(material)) return material.map((one) => coloured(one) as Material);
  const made = material.clone();
  made.vertexColors = true;
  return made;
}

/** Names of vertex attributes in files, and in the library that draws them. */
const ATTRIBUTES: readonly (readonly [name: string, drawn: string])[] = [
  ["NORMAL", "normal"],
  ["TANGENT", "tangent"],
  ["TEXCOORD_0", "uv"],
  ["TEXCOORD_1", "uv1"],
  ["COLOR_0", "color"],
];

const plain = new WeakMap<BufferGeometry, TriangleMesh>();

function plainMesh(geometry: BufferGeometry): TriangleMesh {
  let mesh = plain.get(geometry);
  if (!mesh) {
    const floats = (name: string, width: number) => {
      const attribute = geometry.getAttribute(name);
      const array = new Float32Array(width * attribute.count);
      for (let i = 0; i < attribute.count; i++) {
        for (let k = 0; k < width; k++) array[width * i + k] = attribute.getComponent(i, k);
      }
      return array;
    };
    const position = floats("position", 3);
    mesh = {
      position,
      index: Uint32Array.from(geometry.index?.array ?? position.slice(0, position.length / 3).map((_, i) => i)),
      attributes: ATTRIBUTES.filter(([, drawn]) => geometry.hasAttribute(drawn)).map(([name, drawn]) => {
        const width = geometry.getAttribute(drawn).itemSize;
        return { name, width, array: floats(drawn, width) };
      }),
    };
    plain.set(geometry, mesh);
  }
  return mesh;
}

function geometryOf({ position, index, attributes }: TriangleMesh): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(position, 3));
  geometry.setIndex(new BufferAttribute(index, 1));
  for (const [name, drawn] of ATTRIBUTES) {
    const attribute = attributes.find((one) => one.name === name);
    if (attribute) geometry.setAttribute(drawn, new BufferAttribute(attribute.array, attribute.width));
  }
  return geometry;
}
