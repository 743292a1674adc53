"use client";
/** The scene's surfaces, drawn as their files show them. */
import { invalidate } from "@react-three/fiber";
import { useEffect } from "react";
import type { Surface } from "@/core/scene";
import { useScene } from "@/store";
import { useModel } from "../assets/models";
import { useSession } from "../state/session";

/** The name of the group that holds them, for finding what the pointer meets. */
export const SURFACES = "surfaces";

export function Surfaces() {
  const surfaces = useScene((scene) => scene.surfaces);
  return (
    <group name={SURFACES}>
      {surfaces
        .filter(({ hidden }) => !hidden)
        .map((surface) => (
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
  const chosen = useSession(({ focus }) => focus.kind === "surface" && focus.id === surface.id);
  useEffect(() => invalidate(), [chosen]);
  if (!model) return null;
  return (
    <group
      position={[...surface.position]}
      quaternion={[...surface.rotation]}
      scale={surface.scale}
      userData={{ ground: surface.ground, surface: surface.id }}
    >
      {model.parts.map((part, i) => (
        <mesh key={i} geometry={part.geometry} material={part.material} castShadow receiveShadow />
      ))}
      {chosen && <box3Helper args={[model.box, "#1e6f77"]} raycast={() => null} />}
    </group>
  );
}
