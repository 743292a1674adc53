"use client";
/** The camera turned about a point, by mouse, touch and wheel. Others find the controls in the view's state. */
import { extend, useFrame, useThree } from "@react-three/fiber";
import { useCallback, useEffect, useState, type RefObject } from "react";
import { OrbitControls } from "three/examples/jsm/controls/OrbitControls.js";
import type { Vec3 } from "@/core/math";

const Controls = extend(OrbitControls);

interface OrbitProps {
  ref?: RefObject<OrbitControls | null>;
  target?: Vec3;
  /** How near and how far the camera may come, metres. */
  minDistance?: number;
  maxDistance?: number;
  /** How far it may be turned down from straight above, radians. */
  maxPolarAngle?: number;
  onChange?: () => void;
}

export function Orbit({ ref, onChange, ...props }: OrbitProps) {
  const camera = useThree((three) => three.camera);
  const element = useThree((three) => three.gl.domElement);
  const invalidate = useThree((three) => three.invalidate);
  const set = useThree((three) => three.set);
  const [controls, setControls] = useState<OrbitControls | null>(null);
  useEffect(() => {
    if (!controls) return;
    controls.connect(element);
    set({ controls });
    return () => {
      set({ controls: null });
      controls.dispose();
    };
  }, [controls, element, set]);
  useEffect(() => {
    const told = () => {
      invalidate();
      onChange?.();
    };
    controls?.addEventListener("change", told);
    return () => controls?.removeEventListener("change", told);
  }, [controls, onChange, invalidate]);
  useFrame(() => void controls?.update(), -1);
  // Whoever holds the reference has it at once, so that the first view is looked at from its own place.
  const both = useCallback(
    (found: OrbitControls | null) => {
      setControls(found);
      if (ref) ref.current = found;
    },
    [ref],
  );
  return <Controls ref={both} args={[camera]} enableDamping={false} {...props} />;
}
