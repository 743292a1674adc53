/** Things in assemblies set down each by itself: as far above the ground under it as it is above its assembly's foot. */
import { between, conjugate, multiply, quatAt, rotate, type Quat, type Vec3 } from "../math";
import type { Met, WorldMesh } from "../mesh";
import type { Expanded } from "./expand";
import type { Placements } from "./placements";

/**
 * The same with each thing moved along its assembly's up, or straight down, onto the ground nearest to it that way; where there
 * is none it stays. Which of {@link Expanded.of} are assemblies is told by their props.
 *
 * @param outer the placements that were taken apart
 * @param isAssembly by the index of an outer prop
 * @param follows whether they also turn from the assembly's up to the ground's normal, as on a surface; if not, they drop straight
 */
export function settledEach(
  { placements, of, leftOut }: Expanded,
  outer: Placements,
  isAssembly: readonly boolean[],
  grounds: readonly WorldMesh[],
  follows: boolean,
): Expanded {
  const [position, rotation] = [placements.position.slice(), placements.rotation.slice()];
  const [met, hit]: [Met, Met] = [{ ...MISSED }, { ...MISSED }];
  const normal = new Float64Array(3);
  const { origin } = placements;
  // An assembly's up is that of all that is in it.
  let [last, up]: [number, Vec3] = [-1, [0, 1, 0]];
  for (let k = 0; k < placements.count; k++) {
    const i = of[k];
    if (!isAssembly[outer.prop[i]]) continue;
    if (follows && i !== last) [last, up] = [i, rotate(quatAt(outer.rotation, i), [0, 1, 0])];
    const [ux, uy, uz] = up;
    const [p, o] = [3 * k, 3 * i];
    const height =
      (position[p] - outer.position[o]) * ux +
      (position[p + 1] - outer.position[o + 1]) * uy +
      (position[p + 2] - outer.position[o + 2]) * uz;
    // Where it would stand if the ground were level there.
    const x = origin[0] + position[p] - height * ux;
    const y = origin[1] + position[p + 1] - height * uy;
    const z = origin[2] + position[p + 2] - height * uz;
    const ground = nearest(grounds, x, y, z, ux, uy, uz, met, hit);
    if (!ground) continue;
    normal.set(up);
    if (follows) {
      ground.smoothNormal(hit.triangle, hit.x, hit.y, hit.z, normal);
      const side = normal[0] * ux + normal[1] * uy + normal[2] * uz < 0 ? -1 : 1;
      for (let c = 0; c < 3; c++) normal[c] *= side;
      turnBetween(rotation, 4 * k, ux, uy, uz, normal);
    }
    position[p] = hit.x + height * normal[0] - origin[0];
    position[p + 1] = hit.y + height * normal[1] - origin[1];
    position[p + 2] = hit.z + height * normal[2] - origin[2];
  }
  return { placements: { ...placements, position, rotation, shapes: shapesAlong(placements, position, rotation) }, of, leftOut }; // prettier-ignore
}

const MISSED: Met = { triangle: -1, x: 0, y: 0, z: 0 };

/** The ground that a line both ways through a point meets nearest to it, and where; null where it meets none. */
function nearest(
  grounds: readonly WorldMesh[],
  x: number,
  y: number,
  z: number,
  ux: number,
  uy: number,
  uz: number,
  met: Met,
  hit: Met,
): WorldMesh | null {
  let [least, ground] = [Infinity, null as WorldMesh | null];
  for (const one of grounds)
    for (let sign = 1; sign >= -1; sign -= 2) {
      one.tree.first(x, y, z, sign * ux, sign * uy, sign * uz, met);
      if (met.triangle < 0) continue;
      const far = Math.hypot(met.x - x, met.y - y, met.z - z);
      if (far >= least) continue;
      [least, ground] = [far, one];
      Object.assign(hit, met);
    }
  return ground;
}

/** Turns the quaternion at `o` from one direction to another by the shortest way. */
function turnBetween(out: Float32Array, o: number, ux: number, uy: number, uz: number, to: Float64Array): void {
  const [x, y, z, w] = between([ux, uy, uz], [to[0], to[1], to[2]]);
  const [a, b, c, d] = [out[o], out[o + 1], out[o + 2], out[o + 3]];
  out[o] = w * a + x * d + y * c - z * b;
  out[o + 1] = w * b - x * c + y * d + z * a;
  out[o + 2] = w * c + x * b - y * a + z * d;
  out[o + 3] = w * d - x * a - y * b - z * c;
}

/** What is bent or clipped goes along with its placement. */
function shapesAlong(before: Placements, position: Float32Array, rotation: Float32Array): Placements["shapes"] {
  const { shapes } = before;
  if (!shapes) return null;
  const frame = shapes.frame.slice();
  for (let k = 0; k < before.count; k++) {
    const m = shapes.entry[k];
    if (m < 0) continue;
    const by: Quat = multiply(quatAt(rotation, k), conjugate(quatAt(before.rotation, k)));
    const from = [0, 1, 2].map((c) => frame[7 * m + c] - before.position[3 * k + c]) as unknown as Vec3;
    const there = rotate(by, from);
    for (let c = 0; c < 3; c++) frame[7 * m + c] = position[3 * k + c] + there[c];
    frame.set(multiply(by, [frame[7 * m + 3], frame[7 * m + 4], frame[7 * m + 5], frame[7 * m + 6]]), 7 * m + 3);
  }
  return { ...shapes, frame };
}
