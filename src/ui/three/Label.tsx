"use client";
/** A few words that stay over a place of the scene, drawn by the browser. */
import { useFrame, useThree } from "@react-three/fiber";
import { useEffect, useRef } from "react";
import { Vector3 } from "three";
import type { Vec3 } from "@/core/math";

interface LabelProps {
  position: Vec3;
  text: string;
  /** Of its border. */
  color: string;
  /** Beside the place instead of on it. */
  above?: boolean;
}

const LOOK =
  "pointer-events-none absolute left-0 top-0 rounded-md border bg-linen-0/90 px-1.5 py-px text-[11px] text-ink-9";

export function Label({ position, text, color, above = false }: LabelProps) {
  const { gl, camera, size, invalidate } = useThree();
  const label = useRef<HTMLSpanElement | null>(null);
  useEffect(() => {
    const element = Object.assign(document.createElement("span"), { className: LOOK, textContent: text });
    element.style.borderColor = color;
    gl.domElement.parentElement?.append(element);
    label.current = element;
    invalidate();
    return () => element.remove();
  }, [gl, text, color, position, invalidate]);
  useFrame(() => {
    const element = label.current;
    if (!element) return;
    const { x, y, z } = new Vector3(...position).project(camera);
    const [left, top] = [(0.5 + 0.5 * x) * size.width, (0.5 - 0.5 * y) * size.height];
    element.hidden = Math.abs(z) > 1;
    element.style.transform = `translate(-50%, -50%) translate(${left}px, ${above ? top - 20 : top}px)`;
  });
  return null;
}
