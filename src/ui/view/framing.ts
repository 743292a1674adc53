/** How far away a camera stands to have something in its picture. */
import { Vector3, type Box3, type PerspectiveCamera } from "three";

/** How far from a box's middle a camera that looks as this one does must be for all the box's corners to be in its picture. */
export function distanceToSee(box: Box3, middle: Vector3, camera: PerspectiveCamera): number {
  const up = Math.tan((camera.fov * Math.PI) / 360);
  const across = up * camera.aspect;
  let most = 0.01;
  for (let k = 0; k < 8; k++) {
    const corner = new Vector3(
      k & 1 ? box.max.x : box.min.x,
      k & 2 ? box.max.y : box.min.y,
      k & 4 ? box.max.z : box.min.z,
    );
    const { x, y, z } = corner.sub(middle).applyQuaternion(camera.quaternion.clone().invert());
    most = Math.max(most, z + Math.abs(x) / across, z + Math.abs(y) / up);
  }
  return 1.05 * most;
}
