/** Work on whole files, the same in a worker and under Node. */
import { FORMATS, readPropFile, type Assets, type EvaluatedScene, type FormatName, type PropFile } from "@/core/files";
import { InputError, type Scene } from "@/core/scene";
import { Engine } from "./engine";

/** The scene with all its dressings evaluated, or only the one of the given name. */
export function evaluateScene(
  scene: Scene,
  dressing?: string,
): EvaluatedScene & { results: ReturnType<Engine["evaluate"]> } {
  const dressings = dressing === undefined ? scene.dressings : scene.dressings.filter((d) => d.name === dressing);
  if (dressing !== undefined && dressings.length === 0) {
    const names = scene.dressings.map((d) => `“${d.name}”`).join(", ");
    throw new InputError(`There is no dressing “${dressing}”; the scene has ${names || "none"}.`);
  }
  const results = new Engine().evaluate({ ...scene, dressings });
  return {
    scene,
    dressings: results.map((result, i) => ({ dressing: dressings[i], placements: result.placements })),
    results,
  };
}

/** The scene's placements in one of the formats. */
export async function writePlacements(
  scene: Scene,
  assets: Assets,
  format: FormatName,
  dressing?: string,
): Promise<Uint8Array> {
  return FORMATS[format].write(evaluateScene(scene, dressing), assets);
}

export const inspectProp = (bytes: Uint8Array, name: string): Promise<PropFile> => readPropFile(bytes, name);
