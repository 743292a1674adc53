/** The worker that evaluates a scene while it is edited. Placements are handed over, not copied. */
import { InputError } from "@/core/schema";
import * as Comlink from "comlink";
import type { Finding } from "@/core/check";
import type { LaidTrack, Members } from "@/core/line";
import type { PropBounds, Shape, Unrolled } from "@/core/mesh";
import type { MovedShape } from "@/core/movers";
import {
  buffersOf,
  buffersOfDrawn,
  buffersOfSight,
  copyOf,
  type Inside,
  type Placements,
  type Sight,
} from "@/core/place";
import type { Carries, SceneChange } from "@/core/scene";
import type { InnerFinding } from "./assemblies";
import { Engine, type ChartedSurface, type LookedAt, type ShownResult } from "./engine";
import type { SolidState, Solved } from "./solids";
import type { SentJob } from "./solids.worker";
import { beatWhenAsked } from "./pulse";
import { toldSince, type Told } from "./told";

/** How far the work has come: posted while it lasts, beside the answer. */
export interface Progress {
  placing: string;
  share: number;
}

/** What an evaluation came to. */
export interface Evaluation {
  results: ShownResult[];
  /** Where lines lie on surfaces. */
  laid: Told<LaidTrack>;
  /** What the families of lines come to. */
  families: Told<Members>;
  /** Meshes of surfaces that are made of numbers and lines. */
  made: Told<Shape>;
  /** Meshes at rest of surfaces that have movers. */
  movable: Told<Shape>;
  /** Surfaces that have another shape at the moment than at rest. */
  moved: Told<MovedShape>;
  /** The stills that props stand in. */
  stills: Told<MovedShape>;
  /** What assemblies hold. */
  insides: Told<ToldInside>;
  /** What is found inside the assemblies that are used. */
  inner: readonly InnerFinding[];
  /** How far all that is held has been carried. */
  carries: Carries;
  /** Surfaces laid out by their UVs, by their ids, that have not been told of yet. */
  charts: [string, ChartedSurface][];
  /** Which dressing is looked at, and what there is to see of it unless that is as it was told last. */
  sight: { of: string | null; now: Sight | null };
  /** What is known of the surfaces that are made of closed bodies, by their ids. */
  solids: ReadonlyMap<string, SolidState>;
  /** What has been unrolled and is worth keeping, by its name. */
  unrolled: [string, Unrolled][];
}

/** What an assembly holds, in the coordinates of its dressings. */
export interface ToldInside {
  count: number;
  /** Undefined where it is empty. */
  box: PropBounds | undefined;
  /** Null where there are too many for a picture. */
  placements: Placements | null;
}

/** More than so many are not pictured. */
const MOST_PICTURED = 20_000;

const toldInside = (id: string, { placements }: Inside): ToldInside => ({
  count: placements.count,
  box: table.engine.boxOf(id),
  placements: placements.count <= MOST_PICTURED ? placements : null,
});

/** What evaluates a scene, and what the application has been told of it. */
const begun = () => ({
  engine: new Engine(),
  tracks: new Map() as Engine["tracks"],
  families: new Map() as Engine["families"],
  made: new Map() as Engine["made"],
  movable: new Map() as Engine["movable"],
  stills: new Map() as Engine["stills"],
  insides: new Map() as Engine["insides"],
  /** The charts that it has been given: as long as they are shown. */
  charts: new Map() as ReadonlyMap<string, ChartedSurface["table"]>,
  /** What there is to see of the dressing that was looked at last. */
  sight: null as Sight | null,
});
let table = begun();

/** What there is to see of a dressing that has not been told. */
function sightOf(looked: LookedAt | null): Evaluation["sight"] {
  const before = table.sight;
  const sight = (table.sight = looked && table.engine.sight(looked));
  return { of: looked?.dressing ?? null, now: sight && sight !== before ? copyOf(sight) : null };
}

/** How often an evaluation has been asked for: what is looked for between them gives way to the next one. */
let asked = 0;
/** What lasts longer lets whatever waits come in after so many milliseconds. */
const BREATH = 25;

const api = {
  /** Lets go of the scene and all that is known of it. */
  forget(): void {
    asked++;
    table = begun();
  },

  /** Takes in the file of an asset whose mesh is wanted. A damaged one counts as not there, which checks tell of. */
  async learn(asset: string, bytes: Uint8Array): Promise<void> {
    await table.engine.learnFile(asset, bytes).catch((error: unknown) => {
      if (!(error instanceof InputError)) throw error;
    });
  },

  /**
   * Results of the dressings that came to something else since the last call, and the lines that lie otherwise than then.
   *
   * @param change what differs from the scene that the worker has
   * @param looked what the sheet shows
   * @param looks whether anything is looked for that is wrong; not while it plays
   */
  evaluate(change: SceneChange, looked: LookedAt | null, looks: boolean): Evaluation {
    asked++;
    const { engine } = table;
    const tell = (placing: string, share: number) => postMessage({ placing, share } satisfies Progress);
    engine.update(change);
    const results = engine.shown(tell, looks);
    const { tracks, families, made, movable, stills, insides } = engine;
    const laid = toldSince(table.tracks, tracks);
    const between = toldSince(table.families, families);
    const meshes = toldSince(table.made, made);
    const atRest = toldSince(table.movable, movable);
    const posed = toldSince(table.stills, stills);
    const held = toldSince(table.insides, insides);
    Object.assign(table, { tracks, families, made, movable, stills, insides });
    const sight = sightOf(looked);
    const under = looked ? engine.chartsUnder(looked) : [];
    const charts = under.filter(([id, { table: chart }]) => table.charts.get(id) !== chart);
    if (under.length > 0) table.charts = new Map(under.map(([id, { table: chart }]) => [id, chart]));
    const moved = engine.movedSince();
    return Comlink.transfer(
      {
        results,
        laid,
        families: between,
        made: meshes,
        movable: atRest,
        moved,
        stills: posed,
        insides: { ...held, changed: held.changed.map(([id, one]) => [id, toldInside(id, one)]) },
        inner: looks ? engine.innerFindings() : [],
        carries: engine.carries,
        charts,
        sight,
        solids: engine.solids,
        unrolled: engine.unrolledSince(),
      },
      [
        ...results.flatMap(({ placements, apart, drawn }) => [
          ...buffersOf(placements),
          ...(apart ? [apart.of.buffer, ...buffersOf(apart.placements)] : []),
          ...buffersOfDrawn(drawn),
        ]),
        ...(sight.now ? buffersOfSight(sight.now) : []),
        ...moved.changed.flatMap(([, { position, normal }]) => [position.buffer, normal.buffer]),
      ],
    );
  },

  /** What is to be joined for a surface, with the bodies that are not among those known; null where there is nothing. */
  solidJob(id: string, known: readonly string[]): SentJob | null {
    const job = table.engine.solidJob(id);
    const there = new Set(known);
    return (
      job && {
        name: job.name,
        steps: job.steps.map(({ how, bodies }) => ({
          how,
          bodies: bodies.map(({ name, mesh }) => ({ name, mesh: there.has(name) ? null : mesh })),
        })),
      }
    );
  },

  learnUnrolling(name: string, unrolled: Unrolled): void {
    table.engine.learnUnrolling(name, unrolled);
  },

  learnSolid(id: string, solved: Solved): void {
    table.engine.learnSolid(id, solved);
  },

  /** What pokes through surfaces in the scene of a revision; null where another came between. */
  async poking(revision: number): Promise<Map<string, Finding[]> | null> {
    const { engine } = table;
    if (engine.revision !== revision) return null;
    const own = asked;
    let since = performance.now();
    return engine.poking(async () => {
      if (performance.now() - since > BREATH) {
        await new Promise((resolve) => setTimeout(resolve, 0));
        since = performance.now();
      }
      return asked === own;
    });
  },
};

export type EvaluationApi = typeof api;

beatWhenAsked();
Comlink.expose(api);
