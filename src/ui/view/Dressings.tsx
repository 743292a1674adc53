"use client";
/** All placements, one instanced mesh for each part of each prop of each dressing. */
import { invalidate } from "@react-three/fiber";
import { useEffect, useMemo, useRef } from "react";
import {
  BoxGeometry,
  InstancedBufferAttribute,
  InstancedMesh,
  MeshStandardMaterial,
  type BufferGeometry,
  type Material,
} from "three";
import type { Placements } from "@/core/place";
import type { Prop } from "@/core/scene";
import { useScene } from "@/store";
import { useModel } from "../assets/models";
import { usePictures } from "../assets/pictures";
import { useResults } from "../state/results";
import { useSession } from "../state/session";
import { matricesOf } from "./placed";

export function Dressings() {
  const results = useResults((state) => state.byDressing);
  const props = useScene((scene) => scene.props);
  const byId = useMemo(() => new Map(props.map((prop) => [prop.id, prop])), [props]);
  useEffect(() => invalidate(), [results, props]);
  return [...results.values()].map(({ id, placements }) => (
    <group key={id} position={placements.origin}>
      {placements.props.map((propId, index) => {
        const prop = byId.get(propId);
        return prop && <PlacedProp key={propId} prop={prop} index={index} placements={placements} />;
      })}
    </group>
  ));
}

function PlacedProp({ prop, index, placements }: { prop: Prop; index: number; placements: Placements }) {
  const display = useSession((session) => session.display);
  const model = useModel(prop.asset);
  const matrices = useMemo(() => matricesOf(placements, index), [placements, index]);
  if (display === "boxes" || !model) return <Boxes prop={prop} matrices={matrices} />;
  return model.parts.map((part, i) => (
    <Instances key={i} geometry={part.geometry} material={part.material} matrices={matrices} />
  ));
}

function Boxes({ prop, matrices }: { prop: Prop; matrices: Float32Array }) {
  const color = usePictures(prop.asset)?.color ?? "#b9a784";
  const { min, max } = prop.bounds;
  const geometry = useMemo(() => {
    const size = [0, 1, 2].map((k) => Math.max(max[k] - min[k], 1e-4));
    return new BoxGeometry(size[0], size[1], size[2]).translate(
      (min[0] + max[0]) / 2,
      (min[1] + max[1]) / 2,
      (min[2] + max[2]) / 2,
    );
  }, [min, max]);
  const material = useMemo(() => new MeshStandardMaterial({ color, roughness: 0.9 }), [color]);
  return <Instances geometry={geometry} material={material} matrices={matrices} />;
}

interface InstancesProps {
  geometry: BufferGeometry;
  material: Material | Material[];
  matrices: Float32Array;
}

/** Picking goes by boxes (see `pick`), so the meshes themselves are passed over by rays. */
function Instances({ geometry, material, matrices }: InstancesProps) {
  const ref = useRef<InstancedMesh>(null);
  const count = matrices.length / 16;
  useEffect(() => {
    const mesh = ref.current;
    if (!mesh) return;
    mesh.instanceMatrix = new InstancedBufferAttribute(matrices, 16);
    mesh.count = count;
    mesh.boundingSphere = null;
    invalidate();
  }, [matrices, count]);
  if (count === 0) return null;
  return (
    <instancedMesh
      ref={ref}
      // A new number of instances needs new buffers.
      key={count}
      // Geometry and material are no constructor arguments: a change of colour must not make the mesh anew.
      args={[undefined, undefined, count]}
      geometry={geometry}
      material={material}
      raycast={() => null}
      castShadow
      receiveShadow
    />
  );
}
