"use client";
/** Boxes about what is selected and what the pointer is over. */
import { indicesOf, type Key } from "@/core/place";
import type { PropBounds } from "@/core/mesh";
import { invalidate } from "@react-three/fiber";
import { useEffect, useMemo } from "react";
import { BufferAttribute, BufferGeometry, Matrix4, Vector3 } from "three";
import type { Placements } from "@/core/place";
import { preparedBounds } from "@/core/scene";
import { useScene } from "@/store";
import { usePlacements, useSession } from "../state";
import { isShown, writeWhole } from "./placed";

/** More boxes than this are not drawn; the strip shows them all. */
const MAX_BOXES = 5000;

export function Highlights() {
  const dressing = useSession((session) => session.dressing);
  const keys = useSession((session) => session.keys);
  const hover = useSession((session) => session.hover);
  const hovered = useMemo(() => new Set(hover ? [hover.key] : []), [hover]);
  return (
    <>
      <KeyBoxes dressing={dressing} keys={keys} color="#1f2a33" />
      <KeyBoxes dressing={hover?.dressing ?? null} keys={hovered} color="#1e6f77" />
    </>
  );
}

function KeyBoxes({ dressing, keys, color }: { dressing: string | null; keys: ReadonlySet<Key>; color: string }) {
  const placements = usePlacements(dressing);
  const props = useScene((scene) => scene.props);
  const geometry = useMemo(() => {
    if (!placements || keys.size === 0) return null;
    const bounds = new Map(props.map((prop) => [prop.id, preparedBounds(prop)]));
    const made = new BufferGeometry();
    made.setAttribute("position", new BufferAttribute(edgesOf(placements, bounds, keys), 3));
    return made;
  }, [placements, props, keys]);
  useEffect(() => {
    invalidate();
    return () => geometry?.dispose();
  }, [geometry]);
  if (!geometry || !placements) return null;
  return (
    <lineSegments
      geometry={geometry}
      position={placements.origin}
      raycast={() => null}
      renderOrder={5}
      frustumCulled={false}
    >
      <lineBasicMaterial color={color} depthTest={false} transparent opacity={0.9} toneMapped={false} />
    </lineSegments>
  );
}

/** The twelve edges of each wanted placement's box, a little larger than the prop: 72 numbers each. */
function edgesOf(p: Placements, bounds: ReadonlyMap<string, PropBounds>, keys: ReadonlySet<Key>): Float32Array {
  const numbers: number[] = [];
  const matrix = new Matrix4();
  const buffer = new Float32Array(16);
  let boxes = 0;
  for (const i of indicesOf(p.key, keys)) {
    if (boxes === MAX_BOXES) break;
    if (!isShown(p, i)) continue;
    const box = bounds.get(p.props[p.prop[i]]);
    if (!box) continue;
    boxes++;
    writeWhole(p, i, buffer);
    matrix.fromArray(buffer);
    const margin = 0.03 * Math.max(...box.max.map((high, k) => high - box.min[k]));
    const corners = Array.from({ length: 8 }, (_, k) =>
      new Vector3(
        k & 1 ? box.max[0] + margin : box.min[0] - margin,
        k & 2 ? box.max[1] + margin : box.min[1] - margin,
        k & 4 ? box.max[2] + margin : box.min[2] - margin,
      ).applyMatrix4(matrix),
    );
    for (let a = 0; a < 8; a++) {
      for (const bit of [1, 2, 4]) if (!(a & bit)) numbers.push(...corners[a].toArray(), ...corners[a | bit].toArray());
    }
  }
  return Float32Array.from(numbers);
}
