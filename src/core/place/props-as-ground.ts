/** *The props of a dressing as ground* for those of another: lanterns on crates. */
import { WorldMesh, type TriangleMesh, type PropBounds } from "../mesh";
import { rotate, type Vec3 } from "../math";
import { FLAG, NO_PROP } from "./slots";
import type { Placements } from "./placements";

/** Dressings of more triangles than this are stood on by their props' boxes. */
export const MOST_TRIANGLES = 2_000_000;

export interface PropsAsGround {
  ground: WorldMesh;
  /** Whether boxes stand for the props. */
  boxed: boolean;
}

/**
 * @param id what the ground is called
 * @param meshOf a prop's mesh as it is prepared; of one without, its box is taken
 */
export function propsAsGround(
  id: string,
  placements: Placements,
  meshOf: (prop: string) => TriangleMesh | undefined,
  boxOf: (prop: string) => PropBounds | undefined,
): PropsAsGround {
  const standing: number[] = [];
  for (let i = 0; i < placements.count; i++) {
    if (!(placements.flags[i] & FLAG.blank) && placements.prop[i] !== NO_PROP) standing.push(i);
  }
  const boxes = placements.props.map((prop) => boxMesh(boxOf(prop)));
  const whole = placements.props.map((prop, k) => meshOf(prop) ?? boxes[k]);
  const triangles = standing.reduce((sum, i) => sum + whole[placements.prop[i]].index.length / 3, 0);
  const boxed = triangles > MOST_TRIANGLES;
  const meshes = boxed ? boxes : whole;
  return { ground: standingMesh(id, placements, standing, (prop) => meshes[prop]), boxed };
}

/** Some placements as one mesh in the world. */
export function standingMesh(
  id: string,
  p: Pick<Placements, "origin" | "position" | "rotation" | "scale" | "prop" | "flags">,
  standing: readonly number[],
  solidOf: (prop: number) => Solid,
): WorldMesh {
  const sum = (count: (mesh: Solid) => number) => standing.reduce((total, i) => total + count(solidOf(p.prop[i])), 0);
  const position = new Float64Array(sum((mesh) => mesh.position.length));
  const index = new Uint32Array(sum((mesh) => mesh.index.length));
  let [vertices, corners] = [0, 0];
  for (const i of standing) {
    const mesh = solidOf(p.prop[i]);
    const mirrored = (p.flags[i] & FLAG.mirrored) !== 0;
    // The columns of the placement's turn and size.
    const axes = (
      [
        [mirrored ? -1 : 1, 0, 0],
        [0, 1, 0],
        [0, 0, 1],
      ] as const
    ).map((axis, k) => {
      const [x, y, z, w] = p.rotation.subarray(4 * i, 4 * i + 4);
      return rotate([x, y, z, w], axis).map((value) => value * p.scale[3 * i + k]) as unknown as Vec3;
    });
    for (let v = 0; v < mesh.position.length; v += 3) {
      for (let axis = 0; axis < 3; axis++) {
        position[3 * vertices + v + axis] =
          p.origin[axis] +
          p.position[3 * i + axis] +
          axes[0][axis] * mesh.position[v] +
          axes[1][axis] * mesh.position[v + 1] +
          axes[2][axis] * mesh.position[v + 2];
      }
    }
    for (let k = 0; k < mesh.index.length; k++) index[corners + k] = vertices + mesh.index[k];
    vertices += mesh.position.length / 3;
    corners += mesh.index.length;
  }
  return new WorldMesh(id, position, index);
}

export type Solid = Pick<TriangleMesh, "position" | "index">;

const FACES = [
  0, 1, 3, 0, 3, 2, 4, 6, 7, 4, 7, 5, 0, 4, 5, 0, 5, 1, 2, 3, 7, 2, 7, 6, 0, 2, 6, 0, 6, 4, 1, 5, 7, 1, 7, 3,
];

/** The twelve triangles of a box; none where there is no box. */
export function boxMesh(box: PropBounds | undefined): Solid {
  if (!box) return { position: new Float32Array(0), index: new Uint32Array(0) };
  const corners = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((k) =>
    [k & 4, k & 2, k & 1].map((side, axis) => (side ? box.max[axis] : box.min[axis])),
  );
  return { position: Float32Array.from(corners), index: Uint32Array.from(FACES) };
}
