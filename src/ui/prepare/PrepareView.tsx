"use client";
/** One prop on its own: as it stands, which way its front is, where its pivot and footprint are. A click can pick the pivot. */
import { Canvas, invalidate, useThree, type ThreeEvent } from "@react-three/fiber";
import { useEffect, useRef } from "react";
import { Matrix4, Vector3, type PerspectiveCamera } from "three";
import type { OrbitControls } from "three/examples/jsm/controls/OrbitControls.js";
import type { Vec3 } from "@/core/math";
import { placingBounds, preparationMatrix, preparedBounds, type Prop } from "@/core/scene";
import { usePrepared } from "../assets";
import { FatLine, Orbit } from "../three";

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
  /** With it, a click on the prop picks a point; it is told in the file's own coordinates. */
  onPick?: (point: Vec3) => void;
}

export function PrepareView({ prop, onPick }: PrepareViewProps) {
  const model = usePrepared(prop);
  const { min, max } = preparedBounds(prop);
  const radius = Math.max(1e-3, Math.hypot(...max.map((high, k) => high - min[k])) / 2);
  const middle = max.map((high, k) => (high + min[k]) / 2) as unknown as [number, number, number];
  useEffect(() => invalidate(), [model, prop]);
  const pick = (event: ThreeEvent<MouseEvent>) => {
    if (!onPick || event.delta > 4) return;
    event.stopPropagation();
    const toFile = new Matrix4()
      .fromArray([...preparationMatrix(prop), 0, 0, 0, 1])
      .transpose()
      .invert();
    const point = event.point.clone().applyMatrix4(toFile);
    onPick(point.toArray().map((value) => Number(value.toFixed(5)) + 0) as unknown as Vec3);
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
      <group onClick={pick}>
        {model?.parts.map((part, i) => (
          <mesh key={i} geometry={part.geometry} material={part.material} />
        ))}
      </group>
      <Signs prop={prop} radius={radius} />
    </Canvas>
  );
}

const SEA = "#1e6f77";
const OCHRE = "#c98a1b";
const CORD = "#8f7650";

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
