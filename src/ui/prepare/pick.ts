/** Which place of a prop a click on it means: a landmark of its mesh that is near on screen, or the very point. */
import type { ThreeEvent } from "@react-three/fiber";
import { Matrix4, Vector3, type BufferGeometry, type Camera, type Mesh } from "three";
import type { Vec3 } from "@/core/math";
import { landmarksAt, RestMesh, type Landmark } from "@/core/mesh";
import { preparationMatrix, type Prop } from "@/core/scene";

/** In larger meshes no landmarks are looked for: their edges take longer than a pointer waits. */
const MOST_TRIANGLES = 200_000;

/** Landmarks are caught within so many pixels. */
const NEAR = 16;

export interface PickedPlace {
  /** In the prop's own metres, as it is prepared. */
  position: Vec3;
  direction: Vec3;
  what: Landmark["what"] | "place";
}

/** The mesh of a geometry as the core knows it. */
export const restOf = (geometry: BufferGeometry): RestMesh => {
  const position = geometry.getAttribute("position");
  const index = geometry.index?.array ?? Uint32Array.from({ length: position.count }, (_, i) => i);
  return new RestMesh({
    position: Float64Array.from({ length: 3 * position.count }, (_, k) =>
      position.getComponent(Math.floor(k / 3), k % 3),
    ),
    index: Uint32Array.from(index),
    attributes: [],
  });
};

/** Where a pointer event met a prop, caught on landmarks unless Ctrl is held. */
export function placeMet(
  event: ThreeEvent<PointerEvent | MouseEvent>,
  meshOf: (geometry: BufferGeometry) => RestMesh,
): PickedPlace | null {
  const { faceIndex, face, point, camera } = event;
  if (faceIndex === undefined || faceIndex === null || !face) return null;
  const plain: PickedPlace = {
    position: point.toArray() as unknown as Vec3,
    direction: face.normal.toArray() as unknown as Vec3,
    what: "place",
  };
  const { geometry } = event.object as Mesh;
  const corners = geometry.index?.count ?? geometry.getAttribute("position").count;
  if (event.ctrlKey || event.metaKey || corners > 3 * MOST_TRIANGLES) return plain;
  const canvas = event.nativeEvent.target as HTMLElement;
  const [width, height] = [canvas.clientWidth, canvas.clientHeight];
  const [x, y] = [((event.pointer.x + 1) / 2) * width, ((1 - event.pointer.y) / 2) * height];
  const far = (at: Vec3): number => {
    const [px, py] = pixelOf(at, camera, width, height);
    return Math.hypot(px - x, py - y);
  };
  const all = landmarksAt(meshOf(geometry), faceIndex);
  const near = all.map((one) => ({ one, by: far(one.position) })).filter(({ by }) => by < NEAR);
  // Of those equally near the first of its list, in which holes come before all others.
  near.sort((a, b) => Math.round(a.by / 4) - Math.round(b.by / 4));
  return near[0]?.one ?? plain;
}

function pixelOf(at: Vec3, camera: Camera, width: number, height: number): [number, number] {
  const { x, y } = new Vector3(...at).project(camera);
  return [((x + 1) / 2) * width, ((1 - y) / 2) * height];
}

const rounded = (v: Vector3): Vec3 => v.toArray().map((x) => Number(x.toFixed(6)) + 0) as unknown as Vec3;

/** A place of the prop in the coordinates and directions of its file. */
export function inFile(prop: Prop, { position, direction }: PickedPlace): { position: Vec3; direction: Vec3 } {
  const toFile = new Matrix4()
    .fromArray([...preparationMatrix(prop), 0, 0, 0, 1])
    .transpose()
    .invert();
  return {
    position: rounded(new Vector3(...position).applyMatrix4(toFile)),
    direction: rounded(new Vector3(...direction).transformDirection(toFile)),
  };
}
