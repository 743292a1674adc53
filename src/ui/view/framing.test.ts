import fc from "fast-check";
import { evenly } from "@/core/math/testing";
import { Box3, PerspectiveCamera, Vector3 } from "three";
import { distanceToSee } from "./framing";

const metres = evenly(-30, 30);
const place = fc.tuple(metres, metres, metres).map(([x, y, z]) => new Vector3(x, y, z));
const size = evenly(0.1, 40);

/** How far out of the middle of the picture the farthest corner of a box lies; 1 is the picture's edge. */
function farthestCorner(box: Box3, camera: PerspectiveCamera): number {
  let most = 0;
  for (let k = 0; k < 8; k++) {
    const corner = new Vector3(
      k & 1 ? box.max.x : box.min.x,
      k & 2 ? box.max.y : box.min.y,
      k & 4 ? box.max.z : box.min.z,
    ).project(camera);
    if (corner.z > 1) return Infinity;
    most = Math.max(most, Math.abs(corner.x), Math.abs(corner.y));
  }
  return most;
}

test("from the distance that is said every corner of a box is in the picture, and from a little nearer it is not", () => {
  const sides = fc.tuple(size, size, size).map(([x, y, z]) => new Vector3(x, y, z));
  fc.assert(
    fc.property(place, sides, place, fc.constantFrom(0.6, 1.4, 2), (middle, extent, from, aspect) => {
      fc.pre(Math.hypot(from.x, from.z) > 0.5);
      const box = new Box3().setFromCenterAndSize(middle, extent);
      const camera = new PerspectiveCamera(40, aspect, 0.001, 1e5);
      const outFrom = (distance: number) => {
        camera.position.copy(middle).addScaledVector(from.clone().normalize(), distance);
        camera.lookAt(middle);
        camera.updateMatrixWorld();
        return farthestCorner(box, camera);
      };
      outFrom(1);
      const away = distanceToSee(box, middle, camera);
      expect(outFrom(away)).toBeLessThanOrEqual(1);
      expect(outFrom(away / 1.06)).toBeGreaterThan(1);
    }),
  );
});
