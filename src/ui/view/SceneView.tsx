"use client";
/** The scene in 3D. It is drawn when something changes and at no other time. */
import { Canvas, useThree } from "@react-three/fiber";
import { useCallback, useEffect, useRef, useState } from "react";
import { Toaster } from "sonner";
import { PCFShadowMap } from "three";
import { putPicture, useScene, useSceneStore } from "@/store";
import { useModels } from "../assets";
import { useResults, useSession } from "../state";
import { useFineness } from "../three";
import { CameraRig } from "./CameraRig";
import { SheetAxes } from "./SheetAxes";
import { BareGround, Daylight } from "./Daylight";
import { DensityTint } from "./DensityTint";
import { Dressings } from "./Dressings";
import { HandShadow } from "./HandShadow";
import {
  BrushRing,
  DrawnSoFar,
  Grips,
  Guides,
  PatchHandle,
  Sides,
  SnapMarks,
  TiedThings,
  SurfaceHandle,
} from "./Guides";
import { Highlights } from "./Highlights";
import { FramePace } from "./FramePace";
import { LostDrawing, WatchDrawing } from "./LostDrawing";
import { Pointer } from "./Pointer";
import { Surfaces } from "./Surfaces";
import { isPlaying } from "../time";
import { takePicture } from "./picture";
import { Overlay } from "./Overlay";

/** What is told for a moment stands above the hints, pixels. */
const ABOVE_HINTS = 96;

export function SceneView() {
  const [ready, setReady] = useState(false);
  const onReady = useCallback(() => setReady(true), []);
  const [lost, setLost] = useState(false);
  /** Counts the canvases: another one takes the place of one that is lost for good. */
  const [canvas, setCanvas] = useState(0);
  const onAnew = useCallback(() => {
    setLost(false);
    setCanvas((before) => before + 1);
  }, []);
  return (
    <section
      aria-label="View"
      aria-busy={!ready}
      className="@container relative h-full min-h-0 overflow-hidden bg-linear-to-b from-sky-0 to-sky-1 to-70%"
    >
      <Canvas
        key={canvas}
        frameloop="demand"
        dpr={[0.5, 2]}
        shadows={{ type: PCFShadowMap, autoUpdate: false }}
        gl={{ alpha: true, antialias: true }}
        camera={{ fov: 42, near: 0.05, far: 1500, position: [8, 6, 12] }}
        role="application"
        aria-label="The scene in 3D. Arrow keys turn the view about, or move selected knots; Page Up and Down bring it nearer and farther. L draws a line."
        tabIndex={0}
      >
        <Daylight />
        <BareGround />
        <Surfaces />
        <DensityTint />
        <Dressings />
        <Guides />
        <Sides />
        <Grips />
        <PatchHandle />
        <SheetAxes />
        <SurfaceHandle />
        <DrawnSoFar />
        <TiedThings />
        <SnapMarks />
        <BrushRing />
        <HandShadow />
        <Highlights />
        <CameraRig />
        <Pointer onReady={onReady} />
        <Shadows />
        <FramePace />
        <CardPicture />
        <WatchDrawing onLost={setLost} onAnew={onAnew} />
      </Canvas>
      {lost && <LostDrawing />}
      {ready && <Overlay />}
      <Toaster
        position="bottom-center"
        offset={{ bottom: ABOVE_HINTS }}
        className="absolute!"
        // What is told swallows no click that is meant for the view; its buttons take theirs.
        toastOptions={{ className: "font-sans pointer-events-none! [&_button]:pointer-events-auto!" }}
      />
    </section>
  );
}

/** Shadows are worked out again when what throws them has changed, not when the camera moves. */
function Shadows() {
  const three = useThree((state) => state.get);
  const results = useResults((state) => state.byDressing);
  const models = useModels((state) => state.models);
  const surfaces = useScene((scene) => scene.surfaces);
  const display = useSession((session) => session.display);
  const plain = useFineness((fineness) => fineness.plain);
  useEffect(() => {
    three().gl.shadowMap.needsUpdate = true;
    three().invalidate();
  }, [three, results, models, surfaces, display, plain]);
  return null;
}

/** How long everything has to be at rest before the scene's card gets a new picture, milliseconds. */
const REST = 1500;
/** And from one picture to the next, milliseconds: each is the whole view drawn once more and read back. */
const BETWEEN = 5000;

/** Renews the picture on the scene's card when what is shown has changed and come to rest. */
function CardPicture() {
  const { gl, scene, camera } = useThree();
  const results = useResults((state) => state.byDressing);
  const models = useModels((state) => state.models);
  const last = useRef(-BETWEEN);
  useEffect(() => {
    const wait = Math.max(REST, last.current + BETWEEN - performance.now());
    const timer = setTimeout(() => {
      const { id } = useSceneStore.getState();
      const loading = [...models.values()].includes("loading");
      // Nothing is at rest while it plays, however slowly, nor before anything has been placed.
      if (id === null || loading || isPlaying() || useResults.getState().scene === null) return;
      last.current = performance.now();
      void takePicture(gl, scene, camera)
        .then((picture) => putPicture(id, picture))
        .catch(() => undefined);
    }, wait);
    return () => clearTimeout(timer);
  }, [gl, scene, camera, results, models]);
  return null;
}
