"use client";
/** The scene's surfaces, drawn as their files show them or as they are made; spaces by their edges. */
import { invalidate } from "@react-three/fiber";
import { useEffect, useMemo } from "react";
import { EdgesGeometry } from "three";
import type { Surface } from "@/core/scene";
import { useScene } from "@/store";
import { isMoving, type Model, raycastMoving, useMovedModel, useSurfaceModel } from "../assets";
import { useSession } from "../state";
import { asDrawn, useFineness } from "../three";

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
  const model = useSurfaceModel(surface);
  const shown = useMovedModel(surface.id, model);
  useEffect(() => {
    for (const part of model?.parts ?? []) if (!part.geometry.boundsTree) part.geometry.computeBoundsTree();
    invalidate();
  }, [model]);
  const plain = useFineness((fineness) => fineness.plain);
  const { made } = surface;
  useEffect(() => () => void (made && model?.parts.forEach(({ geometry }) => geometry.dispose())), [made, model]);
  const chosen = useSession(({ focus }) => focus.kind === "surface" && focus.id === surface.id);
  useEffect(() => invalidate(), [chosen]);
  if (!model || !shown) return null;
  // Where it is at the moment is not known beforehand, and is fitted to only where somebody looks.
  const moves = isMoving(surface.id, shown) && { frustumCulled: false, raycast: raycastMoving };
  return (
    <group
      position={[...surface.position]}
      quaternion={[...surface.rotation]}
      scale={surface.scale}
      userData={{ ground: surface.ground, surface: surface.id, outline: surface.outline }}
    >
      {surface.outline ? (
        <Outline model={model} chosen={chosen} />
      ) : (
        shown.parts.map((part) => (
          <mesh
            key={part.geometry.uuid}
            {...moves}
            position={model.origin}
            geometry={part.geometry}
            material={asDrawn(part.material, plain)}
            castShadow
            receiveShadow
          />
        ))
      )}
      {chosen && (
        <group position={model.origin}>
          <box3Helper args={[shown.box, "#1e6f77"]} raycast={() => null} />
        </group>
      )}
    </group>
  );
}

/** Edges between faces that meet at more than this, degrees, are drawn of an outline. */
const EDGE = 20;

/** A space: its edges, and a breath of its faces to take hold of. */
function Outline({ model, chosen }: { model: Model; chosen: boolean }) {
  const edges = useMemo(() => model.parts.map(({ geometry }) => new EdgesGeometry(geometry, EDGE)), [model]);
  useEffect(() => () => edges.forEach((geometry) => geometry.dispose()), [edges]);
  return model.parts.map((part, i) => (
    <mesh key={i} position={model.origin} geometry={part.geometry}>
      <meshBasicMaterial color="#1e6f77" transparent opacity={chosen ? 0.07 : 0.03} depthWrite={false} />
      <lineSegments geometry={edges[i]} raycast={() => null}>
        <lineBasicMaterial color="#1e6f77" transparent opacity={chosen ? 0.9 : 0.45} />
      </lineSegments>
    </mesh>
  ));
}
