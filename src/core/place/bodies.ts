/** *The meshes of placements against each other*, for those whose boxes meet already. */
import { Matrix4, Quaternion, Vector3 } from "three";
import { Body } from "../mesh";
import { FLAG } from "./slots";
import type { Placements } from "./placements";
import type { Exactly } from "./boxes";

type Standing = Pick<Placements, "position" | "rotation" | "scale" | "prop" | "flags">;

/** The matrix that brings placement `i` into the world, counted from the placements' origin. */
export function placingMatrix({ position, rotation, scale, flags }: Omit<Standing, "prop">, i: number): Matrix4 {
  const mirror = flags[i] & FLAG.mirrored ? -1 : 1;
  return new Matrix4().compose(
    new Vector3().fromArray(position, 3 * i),
    new Quaternion().fromArray(rotation, 4 * i),
    new Vector3(mirror * scale[3 * i], scale[3 * i + 1], scale[3 * i + 2]),
  );
}

/**
 * Whether two placements meet by their meshes. Of a prop whose mesh is not known its box is what there is, and boxes that
 * may overlap by so much are asked for that before.
 *
 * @param bodies of the props that `standing.prop` counts
 * @param room metres that are to stay free
 */
export function byMesh(standing: Standing, bodies: readonly (Body | undefined)[], room: number): Exactly {
  return (i, j) => {
    const [a, b] = [bodies[standing.prop[i]], bodies[standing.prop[j]]];
    if (!a || !b) return true;
    return a.meets(b, placingMatrix(standing, i), placingMatrix(standing, j), Math.max(0, room));
  };
}
