/** The box about what stands in dressings, as their results have it. */
import type { PropBounds } from "@/core/mesh";
import { boxOfAll, FLAG } from "@/core/place";
import { preparedBounds } from "@/core/scene";
import { useSceneStore } from "@/store";
import { wholeOf } from "./insides";
import { useResults } from "./results";

/**
 * In world coordinates, metres; null where nothing stands.
 *
 * @param only of the one dressing just these placements, by their indices
 */
export function boxAbout(dressings: readonly string[], only?: ReadonlySet<number>): PropBounds | null {
  const props = new Map(useSceneStore.getState().shown.props.map((prop) => [prop.id, preparedBounds(prop)]));
  const [min, max] = [[Infinity, Infinity, Infinity], [-Infinity, -Infinity, -Infinity]]; // prettier-ignore
  for (const id of dressings) {
    const result = useResults.getState().byDressing.get(id);
    if (!result) continue;
    const { apart } = result;
    const whole = wholeOf(result);
    const flags = only
      ? whole.flags.map((flag, k) => (only.has(apart ? apart.of[k] : k) ? flag : flag | FLAG.blank))
      : whole.flags;
    const box = boxOfAll({ ...whole, flags }, (prop) => props.get(prop));
    for (let k = 0; box && k < 3; k++) {
      min[k] = Math.min(min[k], whole.origin[k] + box.min[k]);
      max[k] = Math.max(max[k], whole.origin[k] + box.max[k]);
    }
  }
  return min[0] <= max[0] ? { min: [min[0], min[1], min[2]], max: [max[0], max[1], max[2]] } : null;
}
