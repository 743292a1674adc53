"use client";
/** How full a spread dressing's surfaces are, as a veil over them in the view: the thicker, the fewer may stand there. */
import { invalidate } from "@react-three/fiber";
import { useDeferredValue, useEffect, useMemo } from "react";
import { CanvasTexture, ClampToEdgeWrapping, Color, DoubleSide, ShaderMaterial, Vector2 } from "three";
import type { DensityMap } from "@/core/place";
import { useScene } from "@/store";
import { useMovedModel, useSurfaceModel, tintOf } from "../assets";
import { usePlacements, useSession, useSight } from "../state";
import type { Surface } from "@/core/scene";

const VERTEX = /* glsl */ `
  varying vec2 place;
  void main() {
    vec4 world = modelMatrix * vec4(position, 1.0);
    place = world.xz;
    gl_Position = projectionMatrix * viewMatrix * world;
  }`;

const FRAGMENT = /* glsl */ `
  uniform sampler2D map;
  uniform vec2 least;
  uniform vec2 most;
  uniform vec3 veil;
  varying vec2 place;
  void main() {
    vec2 at = (place - least) / (most - least);
    if (any(lessThan(at, vec2(0.0))) || any(greaterThan(at, vec2(1.0)))) discard;
    gl_FragColor = vec4(veil, 0.75 * texture2D(map, at).a);
    #include <colorspace_fragment>
  }`;

const VEIL = new Color("#f6f0e4");

function veilOf(density: DensityMap): ShaderMaterial {
  const map = new CanvasTexture(tintOf(density));
  // The map's first row lies at its least z.
  map.flipY = false;
  map.wrapS = map.wrapT = ClampToEdgeWrapping;
  return new ShaderMaterial({
    uniforms: {
      map: { value: map },
      least: { value: new Vector2(...density.least) },
      most: { value: new Vector2(...density.most) },
      veil: { value: VEIL },
    },
    vertexShader: VERTEX,
    fragmentShader: FRAGMENT,
    transparent: true,
    depthWrite: false,
    side: DoubleSide,
    // Just before the surface that it lies on.
    polygonOffset: true,
    polygonOffsetFactor: -1,
    polygonOffsetUnits: -2,
  });
}

/** Of the selected dressing, while it is asked for or painted. */
export function DensityTint() {
  const dressing = useSession((session) => session.dressing);
  const wanted = useSession((session) => session.tinted || session.tool === "paint");
  const density = useSight(dressing)?.density ?? null;
  return wanted && dressing !== null && density ? <Veil dressing={dressing} density={density} /> : null;
}

const NO_FIELDS: readonly string[] = [];

function Veil({ dressing, density }: { dressing: string; density: DensityMap }) {
  // While something is dragged the veil may come a little after.
  const shown = useDeferredValue(density);
  const veil = useMemo(() => veilOf(shown), [shown]);
  useEffect(() => {
    invalidate();
    return () => {
      (veil.uniforms.map.value as CanvasTexture).dispose();
      veil.dispose();
      invalidate();
    };
  }, [veil]);
  const fields = usePlacements(dressing)?.fields ?? NO_FIELDS;
  const surfaces = useScene((scene) => scene.surfaces);
  const own = surfaces.filter(({ id, hidden }) => fields.includes(id) && !hidden);
  const flat = own.length < fields.length ? flatOf(shown) : null;
  return (
    <>
      {own.map((surface) => (
        <VeiledSurface key={surface.id} surface={surface} veil={veil} />
      ))}
      {flat && (
        <mesh position={flat.middle} rotation-x={-Math.PI / 2} material={veil} renderOrder={1} raycast={() => null}>
          <planeGeometry args={flat.size} />
        </mesh>
      )}
    </>
  );
}

function VeiledSurface({ surface, veil }: { surface: Surface; veil: ShaderMaterial }) {
  const model = useMovedModel(surface.id, useSurfaceModel(surface));
  return (
    <group position={[...surface.position]} quaternion={[...surface.rotation]} scale={surface.scale}>
      {model?.parts.map(({ geometry }, i) => (
        <mesh
          key={i}
          position={model.origin}
          geometry={geometry}
          material={veil}
          renderOrder={1}
          raycast={() => null}
        />
      ))}
    </group>
  );
}

/** The level that an outlined area without a surface lies on. */
function flatOf({ least, most, height }: DensityMap): { middle: [number, number, number]; size: [number, number] } {
  const level = height.find((y) => !Number.isNaN(y)) ?? 0;
  return {
    middle: [(least[0] + most[0]) / 2, level + 0.01, (least[1] + most[1]) / 2],
    size: [most[0] - least[0], most[1] - least[1]],
  };
}
