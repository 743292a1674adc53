/** Things in assemblies set down each by itself: as far above the ground under it as it is above its assembly's foot. */
import { between, conjugate, dot, multiply, quatAt, rotate, type Quat, type Vec3 } from "../math";
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
  const [met, normal]: [Met, Float64Array] = [{ triangle: -1, x: 0, y: 0, z: 0 }, new Float64Array(3)];
  for (let k = 0; k < placements.count; k++) {
    const i = of[k];
    if (!isAssembly[outer.prop[i]]) continue;
    const up: Vec3 = follows ? rotate(quatAt(outer.rotation, i), [0, 1, 0]) : [0, 1, 0];
    const from = (c: number) => position[3 * k + c] - outer.position[3 * i + c];
    const height = dot([from(0), from(1), from(2)], up);
    // Where it would stand if the ground were level there.
    const foot = [0, 1, 2].map((c) => placements.origin[c] + position[3 * k + c] - height * up[c]);
    let [least, ground] = [Infinity, null as WorldMesh | null];
    const hit = { triangle: -1, x: 0, y: 0, z: 0 };
    for (const one of grounds)
      for (const sign of [1, -1]) {
        one.tree.first(foot[0], foot[1], foot[2], sign * up[0], sign * up[1], sign * up[2], met);
        if (met.triangle < 0) continue;
        const far = Math.hypot(met.x - foot[0], met.y - foot[1], met.z - foot[2]);
        if (far >= least) continue;
        [least, ground] = [far, one];
        Object.assign(hit, met);
      }
    if (!ground) continue;
    let out: Vec3 = up;
    if (follows) {
      ground.smoothNormal(hit.triangle, hit.x, hit.y, hit.z, normal);
      const side = dot([normal[0], normal[1], normal[2]], up) < 0 ? -1 : 1;
      out = [side * normal[0], side * normal[1], side * normal[2]];
      rotation.set(multiply(between(up, out), quatAt(rotation, k)), 4 * k);
    }
    const there = [hit.x, hit.y, hit.z];
    for (let c = 0; c < 3; c++) position[3 * k + c] = there[c] + height * out[c] - placements.origin[c];
  }
  return { placements: { ...placements, position, rotation, shapes: shapesAlong(placements, position, rotation) }, of, leftOut }; // prettier-ignore
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
