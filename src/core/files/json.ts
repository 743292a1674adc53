/** JSON: the placements of every dressing under its name, world coordinates, metres; of several frames each has its own. */
import { forEachRow, type EvaluatedScene, type PlacementRow } from "./evaluated";

export const writeJson = (evaluated: EvaluatedScene): Uint8Array =>
  encoded(JSON.stringify({ scene: evaluated.scene.name, dressings: dressingsOf(evaluated) }));

/** A frame; {@link JSON_END} comes after the last one. */
export function writeJsonFrame(evaluated: EvaluatedScene, frame: number, isFirst: boolean): Uint8Array {
  const begin = isFirst ? `{"scene":${JSON.stringify(evaluated.scene.name)},"frames":[` : ",";
  return encoded(begin + JSON.stringify({ frame, dressings: dressingsOf(evaluated) }));
}

export const JSON_END = "]}";

function dressingsOf(evaluated: EvaluatedScene) {
  const byDressing = new Map<string, Omit<PlacementRow, "dressing">[]>();
  for (const { dressing } of evaluated.dressings) byDressing.set(dressing.name, []);
  forEachRow(evaluated, ({ dressing, ...placement }) => byDressing.get(dressing)!.push(placement));
  return [...byDressing].map(([name, placements]) => ({ name, count: placements.length, placements }));
}

const encoded = (text: string): Uint8Array => new TextEncoder().encode(text);
