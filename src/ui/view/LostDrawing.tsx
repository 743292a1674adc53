"use client";
/** When the graphics card lets go of the view: it is said, drawn again as soon as that can be, and at the latest begun anew. */
import { useThree } from "@react-three/fiber";
import { useEffect } from "react";

/** A drawing that does not come back by itself in so long, milliseconds, is begun anew. */
const PATIENCE = 4000;

interface WatchProps {
  onLost: (lost: boolean) => void;
  /** Makes another canvas. */
  onAnew: () => void;
}

export function WatchDrawing({ onLost, onAnew }: WatchProps) {
  const { gl, invalidate } = useThree();
  useEffect(() => {
    const canvas = gl.domElement;
    let clock: ReturnType<typeof setTimeout> | undefined;
    const lost = (event: Event) => {
      // Without this it never comes back.
      event.preventDefault();
      onLost(true);
      clock = setTimeout(onAnew, PATIENCE);
    };
    const back = () => {
      clearTimeout(clock);
      onLost(false);
      gl.shadowMap.needsUpdate = true;
      invalidate();
    };
    canvas.addEventListener("webglcontextlost", lost);
    canvas.addEventListener("webglcontextrestored", back);
    return () => {
      clearTimeout(clock);
      canvas.removeEventListener("webglcontextlost", lost);
      canvas.removeEventListener("webglcontextrestored", back);
    };
  }, [gl, invalidate, onLost, onAnew]);
  return null;
}

export const LostDrawing = () => (
  <p
    role="status"
    data-testid="lost-drawing"
    className="absolute left-1/2 top-1/2 z-20 -translate-x-1/2 -translate-y-1/2 rounded-[10px] border border-linen-2 bg-linen-0 px-3 py-2 text-xs text-ink-6 shadow-float"
  >
    The graphics card let go of the view. It is being drawn again; nothing of the scene is lost.
  </p>
);
