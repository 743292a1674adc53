"use client";
/** Gives the view its hands, and tells when it has them: before that a click would be lost. */
import { useThree } from "@react-three/fiber";
import { useEffect } from "react";
import { useSession } from "../state";
import { Aim } from "./aim";
import { nearestIn } from "./nearest";
import { ViewHands } from "./hands";
import type { Controls } from "./CameraRig";

function focusView(canvas: HTMLElement): void {
  if (document.activeElement instanceof HTMLInputElement && document.activeElement.type !== "radio") return;
  canvas.closest<HTMLElement>("[tabindex]")?.focus({ preventScroll: true });
}

export function Pointer({ onReady }: { onReady: () => void }) {
  const { gl, camera, scene, controls } = useThree();
  useEffect(() => {
    const aim = new Aim(gl.domElement, camera, scene);
    const hands = new ViewHands(gl.domElement, aim, controls as Controls | null);
    nearestIn.surfaces = (point) => aim.nearestOnSurfaces(point);
    onReady();
    // Whoever begins to draw has the keys at once, and none of them goes to the button that it was begun with.
    const unsubscribe = useSession.subscribe(({ tool, moving }, before) => {
      if ((tool === "draw" && before.tool !== "draw") || (moving !== null && before.moving === null))
        setTimeout(() => focusView(gl.domElement), 0);
    });
    return () => {
      unsubscribe();
      hands.release();
      nearestIn.surfaces = () => null;
    };
  }, [gl, camera, scene, controls, onReady]);
  return null;
}
