"use client";
/** The camera: orbiting, going to saved views, framing what is selected. */
import { indicesOf } from "@/core/place";
import { useThree } from "@react-three/fiber";
import { useEffect, useRef } from "react";
import { Box3, Fog, PerspectiveCamera, Spherical, Vector3, type Object3D } from "three";
import type { OrbitControls } from "three/examples/jsm/controls/OrbitControls.js";
import { create } from "zustand";
import type { Vec3 } from "@/core/math";
import { preparedBounds, type Scene } from "@/core/scene";
import { useSceneStore } from "@/store";
import { useModels } from "../assets";
import { drawnLine, membersNow, runningLinesNow, useMade, useResults, useSession, type CameraWish } from "../state";
import { isFamily, type Line } from "@/core/line";
import { HAZE } from "./Daylight";
import { useEntering } from "./entering";
import { distanceToSee } from "./framing";
import { Orbit } from "../three";
import { boxAround, boxAroundAll } from "./placed";
import { SURFACES } from "./Surfaces";

/** The orbiting controls, as the view hands them to whoever has to stop them for a while. */
export type Controls = OrbitControls;

/** Where the camera is at the moment, for saving views. */
export const cameraNow: { position: [number, number, number]; target: [number, number, number] } = {
  position: [8, 6, 12],
  target: [0, 1, 0],
};

/** Where the camera has come to rest, for what is too costly to follow it. */
export const useEye = create<{ position: Vec3 }>()(() => ({ position: [8, 6, 12] }));

/** It rests when it has not moved for so long, milliseconds. */
const REST = 160;

/** Haze begins behind what is looked at, however far away that is. */
function haze(fog: unknown, away: number): void {
  if (!(fog instanceof Fog)) return;
  fog.near = Math.max(HAZE.near, 1.6 * away);
  fog.far = Math.max(HAZE.far, 5 * away);
}

const LEAST = new Vector3(0.5, 0.5, 0.5);

/** The view goes no further below than so far from straight above, radians. */
const LOWEST = Math.PI * 0.96;

/** What a key turns the view by, radians, and how much nearer or farther it brings it. */
const TURN = Math.PI / 36;
const NEARER = 0.9;

export function CameraRig() {
  const camera = useThree((three) => three.camera) as PerspectiveCamera;
  const invalidate = useThree((three) => three.invalidate);
  const root = useThree((three) => three.scene);
  const controls = useRef<Controls>(null);
  const wish = useSession((session) => session.cameraWish);
  const sceneId = useSceneStore((store) => store.id);
  // What is wished to be seen may have to come first.
  const models = useModels((state) => state.models);
  const meshes = useMade((state) => state.meshes);
  /** The wish that was granted last: what comes later does not move the camera once more. */
  const granted = useRef<typeof wish>(null);

  const resting = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(resting.current), []);

  const go = (position: readonly number[], target: readonly number[]) => {
    camera.position.set(position[0], position[1], position[2]);
    controls.current?.target.set(target[0], target[1], target[2]);
    controls.current?.update();
    remember();
    invalidate();
  };
  const remember = () => {
    cameraNow.position = camera.position.toArray();
    cameraNow.target = controls.current?.target.toArray() ?? [0, 0, 0];
    haze(root.fog, Math.hypot(...cameraNow.position.map((value, axis) => value - cameraNow.target[axis])));
    clearTimeout(resting.current);
    resting.current = setTimeout(() => useEye.setState({ position: cameraNow.position }), REST);
  };

  const moves = useRef({ go });
  useEffect(() => {
    moves.current = { go };
  });

  useEffect(() => {
    const { shown: scene } = useSceneStore.getState();
    const first = scene.views[0];
    if (first) moves.current.go(first.position, first.target);
    else moves.current.go([8, 6, 12], [0, 1, 0]);
  }, [sceneId]);

  useEntering(cameraNow, (position, target) => moves.current.go(position, target));

  useEffect(() => {
    if (!wish || granted.current === wish) return;
    const { focus } = useSession.getState();
    const surface = wish.kind === "selection" && focus.kind === "surface" ? focus.id : wish.kind === "surface" ? wish.id : null; // prettier-ignore
    const drawn = surface === null ? undefined : drawnSurface(root, surface);
    // One that is still being worked out is looked at once it is there.
    const its = drawn && new Box3().setFromObject(drawn);
    if (surface !== null && (!its || its.isEmpty())) return;
    granted.current = wish;
    const { shown: scene } = useSceneStore.getState();
    if (wish.kind === "view") {
      const view = scene.views.find((v) => v.id === wish.id);
      if (view) moves.current.go(view.position, view.target);
      return;
    }
    const target = controls.current?.target ?? new Vector3();
    if (wish.kind === "turn") {
      moves.current.go(turned(camera.position, target, wish).toArray(), target.toArray());
      return;
    }
    const box =
      its ??
      (wish.kind === "place"
        ? new Box3().setFromCenterAndSize(new Vector3(...wish.at), new Vector3().setScalar(wish.size))
        : wish.kind === "selection"
          ? selectionBox(scene)
          : everythingBox());
    if (box.isEmpty()) return;
    const middle = box.getCenter(new Vector3());
    // What is very small is not looked at from nearer than as if it were half a metre large.
    const away = distanceToSee(box.union(new Box3().setFromCenterAndSize(middle, LEAST)), middle, camera);
    const from = camera.position.clone().sub(target).normalize();
    moves.current.go(middle.clone().addScaledVector(from, away).toArray(), middle.toArray());
  }, [wish, camera, root, models, meshes]);

  return <Orbit ref={controls} maxPolarAngle={LOWEST} minDistance={0.05} maxDistance={2000} onChange={remember} />;
}

const drawnSurface = (root: Object3D, id: string): Object3D | undefined =>
  root.getObjectByName(SURFACES)?.children.find(({ userData }) => userData.surface === id);

/** Where the camera comes to by a key. */
function turned(position: Vector3, target: Vector3, { key, far }: Extract<CameraWish, { kind: "turn" }>): Vector3 {
  const from = new Spherical().setFromVector3(position.clone().sub(target));
  const by = TURN * (far ? 3 : 1);
  if (key === "ArrowLeft") from.theta -= by;
  if (key === "ArrowRight") from.theta += by;
  if (key === "ArrowUp") from.phi -= by;
  if (key === "ArrowDown") from.phi += by;
  if (key === "PageUp") from.radius *= NEARER;
  if (key === "PageDown") from.radius /= NEARER;
  from.phi = Math.min(LOWEST, Math.max(0.01, from.phi));
  return new Vector3().setFromSpherical(from).add(target);
}

/** The box around what is selected that is no surface: placements, a line with its knot, or else the whole dressing. */
function selectionBox(scene: Scene): Box3 {
  const { dressing, keys, focus, knots } = useSession.getState();
  const bounds = new Map(scene.props.map((prop) => [prop.id, preparedBounds(prop)]));
  if (focus.kind === "line") {
    const line = scene.lines.find((l) => l.id === focus.id);
    const points = line
      ? knots.length === 0
        ? pointsOf(line as Line)
        : knots.map((knot) => (line.knots[knot] ?? line.knots[0]).position)
      : [];
    const box = new Box3().setFromPoints(points.map((p) => new Vector3(...p)));
    return knots.length === 0 ? box : box.expandByScalar(1);
  }
  const result = dressing === null ? undefined : useResults.getState().byDressing.get(dressing);
  if (!result) return everythingBox();
  const { placements, drawn } = result;
  if (keys.size === 0) return boxAroundAll(placements, drawn);
  return boxAround(placements, bounds, indicesOf(placements.key, keys)).expandByScalar(0.3);
}

/** The points of a line, or of all members of a family. */
const pointsOf = (line: Line): readonly Vec3[] =>
  isFamily(line) ? membersNow(line.id).lines.flatMap((one) => drawnLine(one).points) : drawnLine(line).points;

/** The box around all placements and lines. */
export function everythingBox(): Box3 {
  const box = new Box3();
  for (const { placements, drawn } of useResults.getState().byDressing.values())
    box.union(boxAroundAll(placements, drawn));
  for (const line of runningLinesNow()) for (const p of drawnLine(line).points) box.expandByPoint(new Vector3(...p));
  return box;
}
