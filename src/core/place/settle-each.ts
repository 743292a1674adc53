/** Things in assemblies set down each by itself: as far above the ground under it as it is above its assembly's foot. */
import type { Met, WorldMesh } from "../mesh";
import type { Expanded } from "./expand";
import type { Placements } from "./placements";

/**
 * The same with each thing moved straight up or down onto the ground nearest to it that way; where there is none it stays.
 * Which of {@link Expanded.of} are assemblies is told by their props.
 *
 * @param outer the placements that were taken apart
 * @param isAssembly by the index of an outer prop
 */
export function settledEach(
  { placements, of, leftOut }: Expanded,
  outer: Placements,
  isAssembly: readonly boolean[],
  grounds: readonly WorldMesh[],
): Expanded {
  const position = placements.position.slice();
  const [met, hit]: [Met, Met] = [{ ...MISSED }, { ...MISSED }];
  const { origin } = placements;
  for (let k = 0; k < placements.count; k++) {
    const i = of[k];
    if (!isAssembly[outer.prop[i]]) continue;
    const p = 3 * k;
    const height = position[p + 1] - outer.position[3 * i + 1];
    // Where it would stand if the ground were level there.
    const [x, y, z] = [origin[0] + position[p], origin[1] + outer.position[3 * i + 1], origin[2] + position[p + 2]];
    if (isMet(grounds, x, y, z, met, hit)) position[p + 1] = hit.y + height - origin[1];
  }
  return { placements: { ...placements, position, shapes: shapesAlong(placements, position) }, of, leftOut };
}

const MISSED: Met = { triangle: -1, x: 0, y: 0, z: 0 };

/** Whether a line straight up and down through a point meets ground, and where it does so nearest to it. */
function isMet(grounds: readonly WorldMesh[], x: number, y: number, z: number, met: Met, hit: Met): boolean {
  let least = Infinity;
  for (const { tree } of grounds)
    for (let sign = 1; sign >= -1; sign -= 2) {
      tree.first(x, y, z, 0, sign, 0, met);
      if (met.triangle < 0 || Math.abs(met.y - y) >= least) continue;
      least = Math.abs(met.y - y);
      Object.assign(hit, met);
    }
  return least < Infinity;
}

/** What is bent or clipped goes along with its placement. */
function shapesAlong(before: Placements, position: Float32Array): Placements["shapes"] {
  const { shapes } = before;
  if (!shapes) return null;
  const frame = shapes.frame.slice();
  for (let k = 0; k < before.count; k++) {
    const m = shapes.entry[k];
    if (m >= 0) frame[7 * m + 1] += position[3 * k + 1] - before.position[3 * k + 1];
  }
  return { ...shapes, frame };
}
