"use client";
/** One prop on its own: as it stands, which way its front is, where its pivot and footprint are. A click can pick the pivot. */
import { Canvas, invalidate, useThree, type ThreeEvent } from "@react-three/fiber";
import { useEffect, useMemo, useRef, useState } from "react";
import { Vector3, type BufferGeometry, type PerspectiveCamera } from "three";
import type { OrbitControls } from "three/examples/jsm/controls/OrbitControls.js";
import type { Vec3 } from "@/core/math";
import type { RestMesh } from "@/core/mesh";
import { placingBounds, preparedBounds, snapPointsOf, type Prop } from "@/core/scene";
import { usePrepared } from "../assets";
import { FatLine, Label, Orbit } from "../three";
import { inFile, placeMet, restOf, type PickedPlace } from "./pick";

/** Whence it is seen at first, in radii from its middle. */
const FROM = new Vector3(1.9, 1.5, 3.4);

interface FramedProps {
  x: number;
  y: number;
  z: number;
  radius: number;
}

/** Keeps all of the prop in sight whenever its size or its pivot is changed; from where it is seen is the artist's. */
function Framed({ x, y, z, radius }: FramedProps) {
  const three = useThree((state) => state.get);
  const controls = useThree((state) => state.controls) as OrbitControls | null;
  const seen = useRef(false);
  useEffect(() => {
    if (!controls) return;
    const { camera } = three();
    const from = camera.position.clone().sub(controls.target);
    if (from.lengthSq() < 1e-12 || !seen.current) from.copy(FROM);
    seen.current = true;
    controls.target.set(x, y, z);
    camera.position.set(x, y, z).add(from.setLength(FROM.length() * radius));
    frame(camera as PerspectiveCamera, radius);
    controls.update();
    invalidate();
  }, [three, controls, x, y, z, radius]);
  return null;
}

function frame(camera: PerspectiveCamera, radius: number): void {
  camera.near = radius / 100;
  camera.far = radius * 100;
  camera.updateProjectionMatrix();
}

interface PrepareViewProps {
  prop: Prop;
  /** With it, a click on the prop picks a place; it is told in the file's own coordinates. */
  onPick?: (picked: { position: Vec3; direction: Vec3; what: PickedPlace["what"] }) => void;
  /** The number of the snap point that is chosen. */
  chosen?: number | null;
}

export function PrepareView({ prop, onPick, chosen = null }: PrepareViewProps) {
  const model = usePrepared(prop);
  const { min, max } = preparedBounds(prop);
  const radius = Math.max(1e-3, Math.hypot(...max.map((high, k) => high - min[k])) / 2);
  const middle = max.map((high, k) => (high + min[k]) / 2) as unknown as [number, number, number];
  useEffect(() => invalidate(), [model, prop]);
  const [met, setMet] = useState<PickedPlace | null>(null);
  /** The meshes of the parts, made when the pointer is first over them. */
  const meshes = useMemo(() => model && new Map<BufferGeometry, RestMesh>(), [model]);
  const meshOf = (geometry: BufferGeometry): RestMesh => {
    const mesh = meshes?.get(geometry) ?? restOf(geometry);
    meshes?.set(geometry, mesh);
    return mesh;
  };
  const pick = (event: ThreeEvent<MouseEvent>) => {
    if (!onPick || event.delta > 4) return;
    event.stopPropagation();
    const place = placeMet(event, meshOf);
    if (place) onPick({ ...inFile(prop, place), what: place.what });
  };
  const over = (event: ThreeEvent<PointerEvent>) => {
    event.stopPropagation();
    if (event.buttons === 0) setMet(placeMet(event, meshOf));
  };
  return (
    <Canvas
      frameloop="demand"
      dpr={[0.5, 2]}
      camera={{ fov: 35, near: radius / 100, far: radius * 100 }}
      role="img"
      aria-label={`${prop.name} on its own, with its front, its pivot and its footprint`}
      className={onPick ? "cursor-crosshair" : ""}
    >
      <hemisphereLight args={["#eaf3f4", "#c8b48c", 1.7]} />
      <directionalLight position={[2, 4, 3]} intensity={2.4} color="#fff4dd" />
      <Orbit />
      <Framed x={middle[0]} y={middle[1]} z={middle[2]} radius={radius} />
      <group onClick={pick} {...(onPick && { onPointerMove: over, onPointerOut: () => setMet(null) })}>
        {model?.parts.map((part, i) => (
          <mesh key={i} geometry={part.geometry} material={part.material} />
        ))}
      </group>
      <Signs prop={prop} radius={radius} />
      <Snaps prop={prop} radius={radius} chosen={chosen} />
      {onPick && met && (
        <>
          <Dot at={met.position} size={0.035 * radius} color={MADDER} />
          <Label position={met.position} text={met.what === "place" ? "here" : met.what} color={MADDER} above />
        </>
      )}
    </Canvas>
  );
}

const SEA = "#1e6f77";
const MADDER = "#b5363f";
const OCHRE = "#c98a1b";
const CORD = "#8f7650";

function Dot({ at, size, color }: { at: Vec3; size: number; color: string }) {
  return (
    <mesh position={at as [number, number, number]} renderOrder={10} raycast={() => null}>
      <sphereGeometry args={[size, 16, 12]} />
      <meshBasicMaterial color={color} depthTest={false} transparent />
    </mesh>
  );
}

/** The prop's own snap points: where they are, where they point, and what they are called. */
function Snaps({ prop, radius, chosen }: { prop: Prop; radius: number; chosen: number | null }) {
  const names = new Map(prop.prepared.snaps.map(({ id, name }) => [name, id]));
  return snapPointsOf(prop).flatMap(({ name, position, direction, own }) => {
    if (!own) return [];
    const tip = direction.map((x, k) => position[k] + 0.3 * radius * x) as unknown as Vec3;
    const color = names.get(name) === chosen ? MADDER : OCHRE;
    return (
      <group key={name}>
        <Cord points={[position, tip]} color={color} onTop />
        <Dot at={position} size={0.04 * radius} color={color} />
        <Dot at={tip} size={0.018 * radius} color={color} />
        <Label position={position} text={name} color={color} above />
      </group>
    );
  });
}

/** Front arrow, up arrow, pivot and footprint. */
function Signs({ prop, radius }: { prop: Prop; radius: number }) {
  const { min } = preparedBounds(prop);
  const foot = placingBounds(prop);
  const y = min[1];
  const outline: Vec3[] = [
    [foot.min[0], y, foot.min[2]],
    [foot.max[0], y, foot.min[2]],
    [foot.max[0], y, foot.max[2]],
    [foot.min[0], y, foot.max[2]],
    [foot.min[0], y, foot.min[2]],
  ];
  const x = (foot.min[0] + foot.max[0]) / 2;
  const reach = foot.max[2] + 0.55 * radius;
  const wing = 0.09 * radius;
  const arrow: Vec3[] = [
    [x, y, foot.max[2]],
    [x, y, reach],
    [x - wing, y, reach - wing],
    [x, y, reach],
    [x + wing, y, reach - wing],
  ];
  const cross = 0.16 * radius;
  const axes: [Vec3, Vec3][] = [
    [
      [-cross, 0, 0],
      [cross, 0, 0],
    ],
    [
      [0, -cross, 0],
      [0, cross, 0],
    ],
    [
      [0, 0, -cross],
      [0, 0, cross],
    ],
  ];
  return (
    <>
      <gridHelper args={[8 * radius, 16, CORD, "#ebe2d0"]} position={[0, Math.min(y, 0), 0]} />
      <Cord points={outline} color={CORD} />
      <Cord points={arrow} color={SEA} />
      {axes.map((points, i) => (
        <Cord key={i} points={points} color={OCHRE} onTop />
      ))}
      <mesh renderOrder={9}>
        <sphereGeometry args={[0.03 * radius, 16, 12]} />
        <meshBasicMaterial color={OCHRE} depthTest={false} transparent />
      </mesh>
      <Letter at={[x, y, reach + 0.12 * radius]} radius={radius} />
    </>
  );
}

function Cord({ points, color, onTop = false }: { points: readonly Vec3[]; color: string; onTop?: boolean }) {
  return <FatLine {...{ points, color, onTop }} width={2.5} />;
}

/** An F on the ground before the front, for front: drawn of three strokes, readable from where the camera starts. */
function Letter({ at, radius }: { at: Vec3; radius: number }) {
  const s = 0.09 * radius;
  const place = (x: number, z: number): Vec3 => new Vector3(...at).add(new Vector3(x * s, 0, z * s)).toArray() as Vec3;
  return (
    <>
      <Cord points={[place(-0.6, 2), place(-0.6, 0), place(0.7, 0)]} color={SEA} />
      <Cord points={[place(-0.6, 0.9), place(0.4, 0.9)]} color={SEA} />
    </>
  );
}
