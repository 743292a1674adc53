/** Work on whole files, the same in a worker and under Node. */
import { InputError } from "@/core/schema";
import { FORMATS, standing, type Assets, type EvaluatedScene, type FormatName } from "@/core/files";
import { frameCount, momentOf, namesIn, sceneAt, type Scene } from "@/core/scene";
import { flagged, spoken, type Finding } from "@/core/check";
import { drawnIn, Engine, type ShownResult } from "./engine";
import { meshesCompared, meshesWanted } from "./wanted";

/** What a caller allows, and which part it wants. */
export interface JobOptions {
  /** Only the dressing of this name. */
  dressing?: string;
  /** Seconds from the scene's beginning, or a frame, counted from 0; the beginning where neither is named. */
  moment?: number;
  frame?: number;
  /** Refuses scenes that come to more placements. */
  maxPlacements?: number;
  /** Writes meshes so that they take less room, where the form knows how. */
  compressed?: boolean;
  /** Looks also for what pokes through surfaces, which takes longer than all other checks. */
  poking?: boolean;
}

/** More work than the caller allows. */
export class LimitError extends InputError {
  override name = "LimitError";
}

/** Teaches an engine the meshes that a scene's evaluation needs and that it does not know yet. */
async function teach(engine: Engine, scene: Scene, assets: Assets, poking = false): Promise<void> {
  for (const hash of [...meshesWanted(scene), ...(poking ? meshesCompared(scene) : [])]) {
    const bytes = engine.knows(hash) ? undefined : assets.get(hash);
    if (bytes) await engine.learnFile(hash, bytes);
  }
}

/** A finding with its sentence as it is told. */
export type ToldFinding = Omit<Finding, "message"> & { message: string };

function checkedFrame({ time }: Scene, frame: number): number {
  const last = frameCount(time) - 1;
  if (Number.isInteger(frame) && frame >= 0 && frame <= last) return frame;
  throw new InputError(`There is no frame ${frame}; the scene has frames 0 to ${last}.`);
}

/** The scene at a frame with its dressings evaluated, and what the checks find on them. */
export async function evaluateScene(
  whole: Scene,
  assets: Assets,
  options: JobOptions = {},
  engine = new Engine(),
): Promise<EvaluatedScene & { findings: ToldFinding[] }> {
  const { dressing: wanted, maxPlacements = Infinity, frame = 0 } = options;
  const scene = sceneAt(whole, options.moment ?? momentOf(checkedFrame(whole, frame), whole.time));
  const chosen = wanted === undefined ? scene.dressings : scene.dressings.filter((d) => d.name === wanted);
  if (wanted !== undefined && chosen.length === 0) {
    const names = scene.dressings.map((d) => `“${d.name}”`).join(", ");
    throw new InputError(`There is no dressing “${wanted}”; the scene has ${names || "none"}.`);
  }
  const dressings: EvaluatedScene["dressings"][number][] = [];
  const found: Finding[] = [];
  let placed = 0;
  await teach(engine, scene, assets, options.poking);
  engine.take(scene);
  for (const dressing of chosen) {
    // Checks of what is refused would be for nothing.
    placed += standing(engine.placements(dressing.id)!);
    if (placed > maxPlacements) {
      throw new LimitError(
        `The scene comes to more than ${maxPlacements.toLocaleString("en")} placements. Ask for one dressing at a time.`,
      );
    }
    const { placements, findings } = engine.result(dressing.id)!;
    dressings.push({ dressing, placements: { ...placements, flags: flagged(placements, findings) } });
    found.push(...findings);
    const poking = options.poking ? await engine.poking(() => Promise.resolve(true), dressing.id) : null;
    found.push(...(poking?.get(dressing.id) ?? []));
  }
  const nameOf = namesIn(scene);
  return { scene, dressings, findings: found.map((one) => ({ ...one, message: spoken(one.message, nameOf) })) };
}

/** The scene's placements in one of the formats. */
export async function writePlacements(
  scene: Scene,
  assets: Assets,
  format: FormatName,
  options: JobOptions = {},
): Promise<Uint8Array> {
  return FORMATS[format].write(await evaluateScene(scene, assets, options), assets, options.compressed);
}

/**
 * The placements of several frames in one file, piece by piece. A frame comes to the same whether others came before it.
 *
 * @param frames the first and the last one
 */
export async function* writeFrames(
  scene: Scene,
  assets: Assets,
  format: FormatName,
  [first, last]: readonly [number, number],
  options: Omit<JobOptions, "frame"> = {},
): AsyncGenerator<Uint8Array> {
  const { frames, label } = FORMATS[format];
  if (!frames) throw new InputError(`${label} holds one frame: ask for a file a frame.`);
  checkedFrame(scene, first);
  checkedFrame(scene, last);
  if (first > last) throw new InputError(`The frames ${first} to ${last} end before they begin.`);
  const engine = new Engine();
  let { maxPlacements = Infinity } = options;
  for (let frame = first; frame <= last; frame++) {
    const evaluated = await evaluateScene(scene, assets, { ...options, maxPlacements, frame }, engine);
    for (const { placements } of evaluated.dressings) maxPlacements -= standing(placements);
    yield frames.write(evaluated, frame, frame === first);
  }
  yield new TextEncoder().encode(frames.end);
}

/**
 * One dressing as it comes with another seed; null when the scene has no such dressing.
 *
 * @param engine with one that has placed the dressing before, only what hangs on the seed is worked out
 */
export async function placeWithSeed(
  scene: Scene,
  assets: Assets,
  id: string,
  seed: number,
  engine = new Engine(),
): Promise<Pick<ShownResult, "placements" | "drawn"> | null> {
  const dressings = scene.dressings.map((one) =>
    one.id === id ? { ...one, variation: { ...one.variation, seed } } : one,
  );
  const seeded = { ...scene, dressings };
  await teach(engine, seeded, assets);
  engine.take(seeded);
  const result = engine.result(id);
  if (!result) return null;
  const placements = { ...result.placements, flags: flagged(result.placements, result.findings) };
  return { placements, drawn: drawnIn(scene, placements) };
}
