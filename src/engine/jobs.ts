/** Work on whole files, the same in a worker and under Node. */
import { InputError } from "@/core/schema";
import {
  FORMATS,
  standing,
  type Assets,
  type EvaluatedScene,
  type FormatName,
  type Motion,
  type Nest,
  type ShownLine,
  type ShownSurface,
} from "@/core/files";
import type { MovedShape } from "@/core/movers";
import type { Placements } from "@/core/place";
import { allParts, frameCount, momentOf, namesIn, sceneAt, seenParts, type Scene } from "@/core/scene";
import { pointsInStep, type DrawnLine } from "@/core/line";
import { spoken, type Finding } from "@/core/check";
import { Engine, withFindings, type ShownResult } from "./engine";
import { solveAll, Solver } from "./solving";
import type { Solved } from "./solids";
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
  /** Writes surfaces and lines as well, where the form knows how. */
  surfaces?: boolean;
  lines?: boolean;
  /** Whether snap points are written; they are unless said otherwise. */
  snaps?: boolean;
  /** Writes assemblies as nodes with what is in them below, where the form has a node for each placement. */
  nested?: boolean;
  /** What solids have been joined to already, by the names of their jobs. */
  solved?: ReadonlyMap<string, Solved>;
  /** Looks for nothing that is wrong. */
  unchecked?: boolean;
  /** Looks also for what pokes through surfaces, which takes longer than all other checks. */
  poking?: boolean;
}

/** More work than the caller allows. */
export class LimitError extends InputError {
  override name = "LimitError";
}

/** Knows the cells of what it joined last. */
const SOLVER = new Solver();

/** Teaches an engine the meshes that a scene's evaluation needs and that it does not know yet. */
async function teach(engine: Engine, scene: Scene, assets: Assets, poking = false): Promise<void> {
  for (const hash of [...meshesWanted(scene), ...(poking ? meshesCompared(scene) : [])]) {
    const bytes = engine.knows(hash) ? undefined : assets.get(hash);
    if (bytes) await engine.learnFile(hash, bytes);
  }
}

/** A finding with its sentence as it is told. */
export type ToldFinding = Omit<Finding, "message"> & {
  message: string;
  /** The names of the assemblies that it is in, from outside; left out for what is in none. */
  inside?: string[];
};

function checkedFrame({ time }: Scene, frame: number): number {
  const last = frameCount(time) - 1;
  if (Number.isInteger(frame) && frame >= 0 && frame <= last) return frame;
  throw new InputError(`There is no frame ${frame}; the scene has frames 0 to ${last}.`);
}

/** @throws InputError when the scene has no such frames, or they end before they begin */
export function checkedFrames(scene: Scene, first: number, last: number): void {
  checkedFrame(scene, first);
  checkedFrame(scene, last);
  if (first > last) throw new InputError(`The frames ${first} to ${last} end before they begin.`);
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
  const hasSnaps = scene.props.some(({ assembly, prepared }) => assembly && prepared.snaps.length > 0);
  const dressings: EvaluatedScene["dressings"][number][] = [];
  const found: Finding[] = [];
  let placed = 0;
  await teach(engine, scene, assets, options.poking);
  engine.take(scene);
  const ids = chosen.map(({ id }) => id);
  if (options.surfaces || options.poking || engine.hangOnSolids(ids)) await solveAll(engine, options.solved, SOLVER);
  for (const dressing of chosen) {
    // Checks of what is refused would be for nothing.
    placed += engine.standing(dressing.id);
    if (placed > maxPlacements) {
      throw new LimitError(
        `The scene comes to more than ${maxPlacements.toLocaleString("en")} placements. Ask for one dressing at a time.`,
      );
    }
    const { placements, apart, findings } = withFindings(engine.result(dressing.id, options.unchecked ? [] : null)!);
    const nest = options.nested || hasSnaps ? engine.nestOf(dressing.id) : null;
    const [whole, uses] = options.nested ? [nest, null] : [null, nest];
    dressings.push({ dressing, placements: apart?.placements ?? placements, nest: whole, uses });
    found.push(...findings);
    const poking = options.poking ? await engine.poking(() => Promise.resolve(true), dressing.id) : null;
    found.push(...(poking?.get(dressing.id) ?? []));
  }
  const nameOf = namesIn({ ...allParts(scene), props: scene.props });
  const lineNames = new Map(engine.lines().map(({ id, name }) => [id, name]));
  const parts = seenParts(scene.props).flatMap(({ id }) => engine.partOf(id) ?? []);
  const boxed = scene.props.map((prop) => (prop.assembly ? { ...prop, bounds: engine.boxOf(prop.id) ?? prop.bounds } : prop)); // prettier-ignore
  return {
    scene: { ...scene, props: [...boxed, ...parts] },
    made: mapOf(parts, ({ id, asset }) => (asset === null ? engine.restMesh(id) : null)),
    takenOn: mapOf(parts, ({ id }) => {
      const shape = engine.shapeOf(id);
      return shape && [shape];
    }),
    dressings,
    lineNames,
    findings: [
      ...found.map((one) => ({ ...one, message: spoken(one.message, nameOf) })),
      ...(options.unchecked ? [] : engine.innerFindings(ids)).map(({ path, finding }) => ({
        ...finding,
        inside: path.map((prop) => nameOf(prop, "prop") ?? ""),
        message: spoken(finding.message, nameOf),
      })),
    ],
  };
}

/** What things come to, as far as they come to anything, by their ids. */
const mapOf = <T, R>(things: readonly (T & { id: string })[], of: (thing: T & { id: string }) => R | null) =>
  new Map(things.flatMap((one): [string, R][] => { const is = of(one); return is === null ? [] : [[one.id, is]]; })); // prettier-ignore

/** The scene's placements in one of the formats. */
export async function writePlacements(
  scene: Scene,
  assets: Assets,
  format: FormatName,
  options: JobOptions = {},
): Promise<Uint8Array> {
  const engine = new Engine();
  const evaluated = await evaluateScene(scene, assets, options, engine);
  const around = FORMATS[format].holdsScenery ? sceneryOf(evaluated.scene, engine, options) : {};
  return FORMATS[format].write(
    { ...evaluated, ...around, snaps: options.snaps, still: stillsIn(engine) },
    assets,
    options.compressed,
  );
}

/** What props look like at moments of their clips. */
const stillsIn =
  (engine: Engine): NonNullable<EvaluatedScene["still"]> =>
  (prop, clip, moment) =>
    engine.still(prop, clip, moment)?.[1] ?? null;

/** What is seen of a scene besides its dressings, as far as it is wanted. */
function sceneryOf(
  scene: Scene,
  engine: Engine,
  { surfaces, lines }: Pick<JobOptions, "surfaces" | "lines">,
): Pick<EvaluatedScene, "surfaces" | "lines"> {
  const seen = surfaces ? scene.surfaces.filter(({ hidden, outline }) => !hidden && !outline) : [];
  return {
    surfaces: seen.map((surface): ShownSurface => {
      const shape = engine.shapeOf(surface.id);
      return {
        surface,
        made: engine.madeMesh(surface.id),
        shapes: shape && [shape],
        stands: [engine.standOf(surface.id)!],
      };
    }),
    lines: lines
      ? engine.lines().flatMap(({ id, name }) => {
          const drawn = engine.drawnLine(id);
          return drawn ? [shownLine(name, [drawn])] : [];
        })
      : [],
  };
}

/** A line as it is drawn in one frame or several. */
function shownLine(name: string, frames: readonly DrawnLine[]): ShownLine {
  const closed = frames.every(({ curve }) => curve.closed);
  const points = pointsInStep(frames);
  // The first point, where a closed line ends too.
  return { name, closed, points: closed ? points.map((frame) => frame.subarray(0, -3)) : points };
}

/** No more frames than this go into one file. */
const MOST_FRAMES = 10_000;

/**
 * Several frames of a scene as one animated GLB.
 *
 * @param frames the first and the last one, of which every so many are taken
 * @throws InputError when the form holds no animation, or the scene has no such frames
 */
export async function writeAnimation(
  scene: Scene,
  assets: Assets,
  format: FormatName,
  [first, last]: readonly [number, number],
  options: Omit<JobOptions, "frame" | "moment"> & { every?: number } = {},
): Promise<Uint8Array> {
  const { every = 1, maxPlacements = Infinity } = options;
  const { label, holdsScenery } = FORMATS[format];
  if (!holdsScenery) throw new InputError(`${label} holds no animation.`);
  checkedFrames(scene, first, last);
  if (!(Number.isInteger(every) && every > 0)) throw new InputError(`Every ${every}th frame is none.`);
  const frames: number[] = [];
  for (let frame = first; frame <= last; frame += every) frames.push(frame);
  if (frames.length > MOST_FRAMES) throw new InputError(`One file holds up to ${MOST_FRAMES} frames.`);
  const engine = new Engine();
  let start: (EvaluatedScene & { engine: Engine }) | null = null;
  const placements: Placements[][] = [];
  const uses: (Nest | null)[][] = [];
  const shapes = new Map<string, MovedShape[]>();
  const stands = new Map<string, ShownSurface["stands"][number][]>();
  const drawn = new Map<string, { name: string; frames: DrawnLine[] }>();
  let left = maxPlacements;
  for (const frame of frames) {
    const evaluated = await evaluateScene(
      scene,
      assets,
      { ...options, maxPlacements: left, frame, unchecked: true },
      engine,
    );
    start ??= { ...evaluated, ...sceneryOf(evaluated.scene, engine, options), engine };
    evaluated.dressings.forEach((one, n) => {
      left -= standing(one.placements);
      (placements[n] ??= []).push(one.placements);
      (uses[n] ??= []).push(one.uses ?? null);
    });
    const note = (id: string, shape: MovedShape) => (shapes.get(id) ?? shapes.set(id, []).get(id)!).push(shape);
    for (const [id, [shape]] of evaluated.takenOn!) note(id, shape);
    for (const { surface } of start.surfaces ?? []) {
      const shape = engine.shapeOf(surface.id);
      if (shape) note(surface.id, shape);
      (stands.get(surface.id) ?? stands.set(surface.id, []).get(surface.id)!).push(engine.standOf(surface.id)!);
    }
    for (const { id, name } of options.lines ? engine.lines() : []) {
      const line = engine.drawnLine(id);
      if (line) (drawn.get(id) ?? drawn.set(id, { name, frames: [] }).get(id)!).frames.push(line);
    }
  }
  const { framesPerSecond } = scene.time;
  const motion: Motion = {
    times: Float32Array.from(frames, (frame) => (frame - first) / framesPerSecond),
    placements,
    uses,
  };
  // What has no shape of its own in every frame stays as it was first, and so does what keeps its shape.
  const all = (id: string) => {
    const own = shapes.get(id);
    if (own?.length !== frames.length) return null;
    return own.every(({ position }) => position.every((x, k) => x === own[0].position[k])) ? own.slice(0, 1) : own;
  };
  const takenOn = new Map([...start!.takenOn!].map(([id, first]) => [id, all(id) ?? first]));
  const surfaces = start!.surfaces?.map((one) => ({
    ...one,
    shapes: all(one.surface.id) ?? one.shapes,
    stands: sameAll(stands.get(one.surface.id)!),
  }));
  // One that is not there in every frame stays as it was first.
  const lines = [...drawn.values()].map(({ name, frames: all }) =>
    shownLine(name, all.length === frames.length ? all : all.slice(0, 1)),
  );
  return FORMATS[format].write(
    { ...start!, takenOn, surfaces, lines, motion, snaps: options.snaps, still: stillsIn(engine) },
    assets,
    options.compressed,
  );
}

/** Stands of which equal ones are the same object. */
function sameAll(stands: readonly ShownSurface["stands"][number][]): ShownSurface["stands"] {
  const told = JSON.stringify(stands[0]);
  return stands.map((stand) => (JSON.stringify(stand) === told ? stands[0] : stand));
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
  checkedFrames(scene, first, last);
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
): Promise<ShownResult | null> {
  const dressings = scene.dressings.map((one) =>
    one.id === id ? { ...one, variation: { ...one.variation, seed } } : one,
  );
  const seeded = { ...scene, dressings };
  await teach(engine, seeded, assets);
  engine.take(seeded);
  const result = engine.result(id);
  if (!result) return null;
  return engine.drawn(withFindings(result));
}
