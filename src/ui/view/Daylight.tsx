"use client";
/** Sun, sky and haze. The sun's shadows cover what the camera looks at when the scene is opened. */
import { useEffect, useMemo } from "react";
import { DirectionalLight, Object3D } from "three";
import { useScene } from "@/store";
import { LevelNet } from "../three";

const HORIZON = "#dfeaea";
const REACH = 26;

export function Daylight() {
  const focus = useScene((s) => s.views[0]?.target);
  const [x, , z] = focus ?? [0, 0, 0];
  const sun = useMemo(() => {
    const light = new DirectionalLight("#fff1d6", 2.7);
    light.castShadow = true;
    light.shadow.mapSize.set(2048, 2048);
    light.shadow.radius = 5;
    light.shadow.bias = -0.0004;
    light.shadow.normalBias = 0.03;
    Object.assign(light.shadow.camera, { left: -REACH, right: REACH, top: REACH, bottom: -REACH, near: 1, far: 110 });
    light.target = new Object3D();
    return light;
  }, []);
  useEffect(() => {
    sun.position.set(x - 20, 30, z + 15);
    sun.target.position.set(x, 0, z - 4);
    sun.target.updateMatrixWorld();
  }, [sun, x, z]);
  return (
    <>
      <fog attach="fog" args={[HORIZON, 60, 330]} />
      <primitive object={sun} />
      <primitive object={sun.target} />
      <hemisphereLight args={["#dcecf2", "#cdb892", 1.55]} />
      <ambientLight intensity={0.18} />
    </>
  );
}

/** A level net of lines at height zero, for scenes that have no ground of their own. */
export function BareGround() {
  const empty = useScene((scene) => !scene.surfaces.some((surface) => surface.ground));
  if (!empty) return null;
  return (
    <>
      <mesh rotation-x={-Math.PI / 2} position-y={-0.012} receiveShadow raycast={() => null}>
        <planeGeometry args={[400, 400]} />
        <meshStandardMaterial color="#f3e6cc" roughness={1} />
      </mesh>
      <LevelNet height={-0.006} cell={1} every={5} color="#c9b88f" mainColor="#bba87c" reach={60} />
    </>
  );
}
