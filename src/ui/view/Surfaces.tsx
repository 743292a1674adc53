"use client";
/** The scene's surfaces, drawn as their files show them. */
import { invalidate } from "@react-three/fiber";
import { useEffect } from "react";
import type { Surface } from "@/core/scene";
import { useScene } from "@/store";
import { useModel } from "../assets/models";

/** The name of the group that holds them, for finding what the pointer meets. */
export const SURFACES = "surfaces";

export function Surfaces() {
  const surfaces = useScene((scene) => scene.surfaces);
  return (
    <group name={SURFACES}>
      {surfaces.map((surface) => (
        <SurfaceMesh key={surface.id} surface={surface} />
      ))}
    </group>
  );
}

function SurfaceMesh({ surface }: { surface: Surface }) {
  const model = useModel(surface.asset);
  useEffect(() => {
    for (const part of model?.parts ?? []) if (!part.geometry.boundsTree) part.geometry.computeBoundsTree();
    invalidate();
  }, [model]);
  if (!model) return null;
  return (
    <group
      position={[...surface.position]}
      quaternion={[...surface.rotation]}
      scale={surface.scale}
      userData={{ ground: surface.ground }}
    >
      {model.parts.map((part, i) => (
        <mesh key={i} geometry={part.geometry} material={part.material} castShadow receiveShadow />
      ))}
    </group>
  );
}
