/** Work on whole files, the same in a worker and under Node. */
import { FORMATS, standing, type Assets, type EvaluatedScene, type FormatName } from "@/core/files";
import { InputError, type Scene } from "@/core/scene";
import type { Finding } from "@/core/check";
import { Engine } from "./engine";

/** What a caller allows, and which part it wants. */
export interface JobOptions {
  /** Only the dressing of this name. */
  dressing?: string;
  /** Refuses scenes that come to more placements. */
  maxPlacements?: number;
  /** The time, as `performance.now()` tells it, at which to give up; looked at between dressings. */
  deadline?: number;
}

/** More work than the caller allows. */
export class LimitError extends InputError {
  override name = "LimitError";
}

/** The scene with its dressings evaluated, and what the checks find on them. */
export function evaluateScene(scene: Scene, options: JobOptions = {}): EvaluatedScene & { findings: Finding[] } {
  const { dressing: wanted, maxPlacements = Infinity, deadline = Infinity } = options;
  const chosen = wanted === undefined ? scene.dressings : scene.dressings.filter((d) => d.name === wanted);
  if (wanted !== undefined && chosen.length === 0) {
    const names = scene.dressings.map((d) => `“${d.name}”`).join(", ");
    throw new InputError(`There is no dressing “${wanted}”; the scene has ${names || "none"}.`);
  }
  const dressings: EvaluatedScene["dressings"][number][] = [];
  const findings: Finding[] = [];
  let placed = 0;
  for (const dressing of chosen) {
    if (performance.now() > deadline)
      throw new LimitError("The scene takes too long to place. Ask for one dressing at a time.");
    for (const result of new Engine().evaluate({ ...scene, dressings: [dressing] })) {
      dressings.push({ dressing, placements: result.placements });
      findings.push(...result.findings);
      placed += standing(result.placements);
    }
    if (placed > maxPlacements) {
      throw new LimitError(
        `The scene comes to more than ${maxPlacements.toLocaleString("en")} placements. Ask for one dressing at a time.`,
      );
    }
  }
  return { scene, dressings, findings };
}

/** The scene's placements in one of the formats. */
export async function writePlacements(
  scene: Scene,
  assets: Assets,
  format: FormatName,
  options: JobOptions = {},
): Promise<Uint8Array> {
  return FORMATS[format].write(evaluateScene(scene, options), assets);
}
