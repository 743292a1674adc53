/** JSON: the placements of every dressing under its name, world coordinates, metres. */
import { forEachRow, type EvaluatedScene, type PlacementRow } from "./evaluated";

export function writeJson(evaluated: EvaluatedScene): Uint8Array {
  const byDressing = new Map<string, Omit<PlacementRow, "dressing">[]>();
  for (const { dressing } of evaluated.dressings) byDressing.set(dressing.name, []);
  forEachRow(evaluated, ({ dressing, ...placement }) => byDressing.get(dressing)!.push(placement));
  const dressings = [...byDressing].map(([name, placements]) => ({ name, count: placements.length, placements }));
  return new TextEncoder().encode(JSON.stringify({ scene: evaluated.scene.name, dressings }));
}
