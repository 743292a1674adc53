"use client";
/** Sun, sky and haze. The sun's shadows cover what the camera looks at when the scene is opened. */
import { useEffect, useMemo } from "react";
import { DirectionalLight, Object3D } from "three";
import { useScene } from "@/store";
import { invalidate } from "@react-three/fiber";
import { useSurfaceModels, useSurfacesMeant } from "../assets";
import { inks, useTableColours } from "../kit";
import { LevelNet, useFineness } from "../three";

const REACH = 26;
/** Where haze begins, and where it hides everything, metres. */
export const HAZE = { near: 60, far: 330 } as const;

export function Daylight() {
  const dark = useTableColours((table) => table.dark);
  useEffect(() => invalidate(), [dark]);
  const focus = useScene((s) => s.views[0]?.target);
  const [x, , z] = focus ?? [0, 0, 0];
  const sun = useMemo(() => {
    const light = new DirectionalLight("#fff1d6", 2.7);
    light.shadow.mapSize.set(2048, 2048);
    light.shadow.radius = 5;
    light.shadow.bias = -0.0004;
    light.shadow.normalBias = 0.03;
    Object.assign(light.shadow.camera, { left: -REACH, right: REACH, top: REACH, bottom: -REACH, near: 1, far: 110 });
    light.target = new Object3D();
    return light;
  }, []);
  const plain = useFineness((fineness) => fineness.plain);
  useEffect(() => invalidate(), [plain]);
  useEffect(() => {
    sun.position.set(x - 20, 30, z + 15);
    sun.target.position.set(x, 0, z - 4);
    sun.target.updateMatrixWorld();
  }, [sun, x, z]);
  return (
    <>
      <fog attach="fog" args={[inks.horizon, HAZE.near, HAZE.far]} key={String(dark)} />
      <primitive object={sun} castShadow={!plain} />
      <primitive object={sun.target} />
      <hemisphereLight args={["#dcecf2", "#cdb892", 1.55]} />
      <ambientLight intensity={0.18} />
    </>
  );
}

/** Ground narrower than this, metres, does not tell by itself how large things are. */
const SMALL = 12;

/** A level net of lines at height zero, for scenes that have no ground of their own, or so little that nothing shows its scale. */
export function BareGround() {
  const dark = useTableColours((table) => table.dark);
  const plain = useFineness((fineness) => fineness.plain);
  const shown = useSurfacesMeant(({ ground, hidden }) => ground && !hidden);
  const models = useSurfaceModels(shown);
  const large = models.some(({ surface, model: { box } }) => {
    return surface.scale * Math.max(box.max.x - box.min.x, box.max.z - box.min.z) > SMALL;
  });
  // What has not come yet may be large.
  if (large || models.length < shown.length) return null;
  return (
    <>
      <mesh rotation-x={-Math.PI / 2} position-y={-0.012} receiveShadow raycast={() => null}>
        <planeGeometry args={[400, 400]} />
        {plain ? (
          <meshLambertMaterial color={inks.bareGround} key={String(dark)} />
        ) : (
          <meshStandardMaterial color={inks.bareGround} key={String(dark)} roughness={1} />
        )}
      </mesh>
      <LevelNet height={-0.006} cell={1} every={5} color="#c9b88f" mainColor="#bba87c" reach={60} />
    </>
  );
}
