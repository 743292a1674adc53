"use client";
/** Gives the view its hands, and tells when it has them: before that a click would be lost. */
import { useThree } from "@react-three/fiber";
import { useEffect } from "react";
import { Aim } from "./aim";
import { ViewHands } from "./hands";
import type { Controls } from "./CameraRig";

export function Pointer({ onReady }: { onReady: () => void }) {
  const { gl, camera, scene, controls } = useThree();
  useEffect(() => {
    const hands = new ViewHands(gl.domElement, new Aim(gl.domElement, camera, scene), controls as Controls | null);
    onReady();
    return () => hands.release();
  }, [gl, camera, scene, controls, onReady]);
  return null;
}
