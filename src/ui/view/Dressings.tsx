"use client";
/** All placements: an instanced mesh for each part of each prop of each dressing, and one mesh for those bent or clipped. */
import { invalidate, useThree } from "@react-three/fiber";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import {
  BoxGeometry,
  BufferAttribute,
  BufferGeometry,
  InstancedBufferAttribute,
  InstancedMesh,
  Matrix4,
  MeshStandardMaterial,
  PerspectiveCamera,
  type Camera,
  type Material,
} from "three";
import type { TriangleMesh } from "@/core/mesh";
import type { Placements } from "@/core/place";
import { preparedBounds, type Prop } from "@/core/scene";
import { mergeShapes } from "@/engine/client";
import { useScene } from "@/store";
import { lightOf, transformed, usePrepared, type Model, type ModelPart } from "../assets/models";
import { usePictures } from "../assets/pictures";
import { useResults } from "../state/results";
import { useSession } from "../state/session";
import type { Share } from "./budget";
import { useEye } from "./CameraRig";
import { useBudget } from "./useBudget";
import { levelsOf, dependsOnCamera, regionsOf } from "./levels";
import { instancesOf, isMirrored, linearTint, membersOf, type Instances as Placed } from "./placed";

export function Dressings() {
  const results = useResults((state) => state.byDressing);
  const props = useScene((scene) => scene.props);
  const byId = useMemo(() => new Map(props.map((prop) => [prop.id, prop])), [props]);
  const budget = useBudget();
  useEffect(() => invalidate(), [results, props]);
  return [...results.values()].map(({ id, placements }) => (
    <group key={id} position={placements.origin}>
      {placements.props.map((propId, index) => {
        const prop = byId.get(propId);
        const share = budget.shares.get(id)![index];
        return prop && <PlacedProp key={propId} {...{ prop, index, placements, share }} />;
      })}
    </group>
  ));
}

interface PlacedPropProps {
  prop: Prop;
  /** Of the prop among the placements' props. */
  index: number;
  placements: Placements;
  share: Share;
}

function PlacedProp({ prop, index, placements, share }: PlacedPropProps) {
  const display = useSession((session) => session.display);
  const model = usePrepared(prop);
  const lightModel = usePrepared(useMemo(() => lightOf(prop), [prop]));
  const pixels = useThree(({ size, camera }) => pixelsPerMetre(size.height, camera));
  const members = membersOf(placements)[index];
  const sight = useMemo(() => {
    const { min, max } = preparedBounds(prop);
    const extent = Math.max(...min.map((low, axis) => max[axis] - low));
    const hasLight = prop.light !== null && lightModel !== null;
    return { display, share, hasFull: model !== null, hasLight, extent, pixels };
  }, [display, share, prop, model, lightModel, pixels]);
  const usesCamera = dependsOnCamera(sight, members);
  const eye = useEye(({ position }) => (usesCamera ? position : null));
  const sets = useMemo(() => {
    const levels = levelsOf(placements, members, { ...sight, eye });
    const placed = (some: readonly number[]) => regionsOf(placements, some).map((r) => instancesOf(placements, r));
    const mirrored = (i: number) => isMirrored(placements, i);
    const parted = (some: readonly number[]) => ({
      plain: placed(some.filter((i) => !mirrored(i))),
      mirrored: placed(some.filter(mirrored)),
    });
    return {
      shaped: levels.shaped,
      full: parted(levels.full),
      light: parted(levels.light),
      boxes: placed(levels.boxes),
      points: levels.points,
    };
  }, [placements, members, sight, eye]);
  return (
    <>
      {model && <Level model={model} {...sets.full} />}
      {lightModel && <Level model={lightModel} {...sets.light} />}
      {model && members.shaped.length > 0 && <ShapedParts model={model} placements={placements} shaped={sets.shaped} />}
      {sets.boxes.map((placed, region) => (
        <Boxes key={region} prop={prop} placed={placed} />
      ))}
      {sets.points.length > 0 && <Dots prop={prop} placements={placements} members={sets.points} />}
    </>
  );
}

/** How many pixels a metre has at a distance of one metre. */
const pixelsPerMetre = (height: number, camera: Camera): number =>
  camera instanceof PerspectiveCamera ? height / (2 * Math.tan((camera.fov * Math.PI) / 360)) : height;

/** Some placements by one model, region by region; mirrored ones have a mesh that is. */
function Level({ model, plain, mirrored }: { model: Model; plain: readonly Placed[]; mirrored: readonly Placed[] }) {
  const some = mirrored.length > 0;
  const turned = useMemo(() => (some ? transformed(model, MIRROR) : null), [model, some]);
  return (
    <>
      {plain.map((placed, region) => (
        <Parts key={region} model={model} placed={placed} />
      ))}
      {turned && mirrored.map((placed, region) => <Parts key={region} model={turned} placed={placed} />)}
    </>
  );
}

/** Each placement as a dot in its prop's colour: all of them, however many. */
function Dots({ prop, placements, members }: { prop: Prop; placements: Placements; members: readonly number[] }) {
  const color = usePictures(prop)?.color ?? "#b9a784";
  const geometry = useMemo(() => {
    const position = new Float32Array(3 * members.length);
    members.forEach((i, k) => position.set(placements.position.subarray(3 * i, 3 * i + 3), 3 * k));
    const made = new BufferGeometry();
    made.setAttribute("position", new BufferAttribute(position, 3));
    return made;
  }, [placements, members]);
  useEffect(() => {
    invalidate();
    return () => geometry.dispose();
  }, [geometry]);
  return (
    <points geometry={geometry} raycast={() => null}>
      <pointsMaterial color={color} size={5} sizeAttenuation={false} />
    </points>
  );
}

const MIRROR = new Matrix4().makeScale(-1, 1, 1);

const Parts = ({ model, placed }: { model: Model; placed: Placed }) =>
  model.parts.map((part, i) => <Instances key={i} geometry={part.geometry} material={part.material} placed={placed} />);

function Boxes({ prop, placed }: { prop: Prop; placed: Placed }) {
  const color = usePictures(prop)?.color ?? "#b9a784";
  const geometry = useMemo(() => {
    const { min, max } = preparedBounds(prop);
    const size = [0, 1, 2].map((k) => Math.max(max[k] - min[k], 1e-4));
    return new BoxGeometry(size[0], size[1], size[2]).translate(
      (min[0] + max[0]) / 2,
      (min[1] + max[1]) / 2,
      (min[2] + max[2]) / 2,
    );
  }, [prop]);
  const material = useMemo(() => new MeshStandardMaterial({ color, roughness: 0.9 }), [color]);
  return <Instances geometry={geometry} material={material} placed={placed} />;
}

interface InstancesProps {
  geometry: BufferGeometry;
  material: Material | Material[];
  placed: Placed;
}

/** Picking goes by boxes (see `pick`), so the meshes themselves are passed over by rays. */
function Instances({ geometry, material, placed: { matrices, colours } }: InstancesProps) {
  const ref = useRef<InstancedMesh>(null);
  const count = matrices.length / 16;
  useEffect(() => {
    const mesh = ref.current;
    if (!mesh) return;
    mesh.instanceMatrix = new InstancedBufferAttribute(matrices, 16);
    mesh.instanceColor = colours && new InstancedBufferAttribute(colours, 3);
    mesh.count = count;
    mesh.boundingSphere = null;
    invalidate();
  }, [matrices, colours, count]);
  if (count === 0) return null;
  return (
    <instancedMesh
      ref={ref}
      // A new number of instances needs new buffers, and tints another program.
      key={`${count} ${colours !== null}`}
      // Geometry and material are no constructor arguments: a change of colour must not make the mesh anew.
      args={[undefined, undefined, count]}
      geometry={geometry}
      material={material}
      raycast={() => null}
      castShadow
      receiveShadow
    />
  );
}

interface ShapedProps {
  model: Model;
  placements: Placements;
  /** Indices of those that are bent or clipped. */
  shaped: readonly number[];
}

const ShapedParts = ({ model, placements, shaped }: ShapedProps) =>
  model.parts.map((part, i) => <ShapedPart key={i} part={part} placements={placements} shaped={shaped} />);

/** The bent and clipped placements of one part, as one mesh that a worker makes; the one before stays until it comes. */
function ShapedPart({ part, placements, shaped }: { part: ModelPart } & Omit<ShapedProps, "model">) {
  const three = useThree((state) => state.get);
  const [geometry, setGeometry] = useState<BufferGeometry | null>(null);
  const submit = useNewest();
  useEffect(() => {
    submit(async (isWanted) => {
      const made = shaped.length > 0 ? await merged(part, placements, shaped).catch(() => null) : null;
      if (isWanted()) setGeometry(made);
    });
  }, [submit, part, placements, shaped]);
  useEffect(() => {
    three().gl.shadowMap.needsUpdate = true;
    invalidate();
    return () => geometry?.dispose();
  }, [three, geometry]);
  const material = useMemo(() => coloured(part.material), [part]);
  if (!geometry) return null;
  return <mesh geometry={geometry} material={material} raycast={() => null} castShadow receiveShadow />;
}

async function merged(part: ModelPart, { shapes, tints, tint }: Placements, shaped: readonly number[]) {
  if (!shapes) return null;
  const colours = tints.map(linearTint);
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
