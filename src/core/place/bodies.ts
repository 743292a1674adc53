/** *The meshes of placements against each other*, for those whose boxes meet already. */
import { quatAt, rotate, type Vec3 } from "../math";
import { FLAG } from "./slots";
import type { Body, BodyMatrix } from "../mesh";
import type { Placements } from "./placements";
import type { Exactly } from "./boxes";

type Standing = Pick<Placements, "position" | "rotation" | "scale" | "prop" | "flags">;

const AXES: readonly Vec3[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];

/** The matrix that brings placement `i` into the world, counted from the placements' origin. */
export function placingMatrix({ position, rotation, scale, flags }: Omit<Standing, "prop">, i: number): BodyMatrix {
  const turn = quatAt(rotation, i);
  const columns = AXES.flatMap((own, axis) => {
    const by = scale[3 * i + axis] * (axis === 0 && flags[i] & FLAG.mirrored ? -1 : 1);
    return [...rotate(turn, own).map((value) => by * value), 0];
  });
  return Float64Array.of(...columns, ...position.subarray(3 * i, 3 * i + 3), 1);
}

/** The same from the world's origin, raised along the placement's own up by so many metres. */
export function worldMatrix(p: Placements, i: number, raise = 0): BodyMatrix {
  const matrix = placingMatrix(p, i);
  const unit = Math.hypot(matrix[4], matrix[5], matrix[6]) || 1;
  for (let axis = 0; axis < 3; axis++) matrix[12 + axis] += p.origin[axis] + (raise * matrix[4 + axis]) / unit;
  return matrix;
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
