/** The worker that evaluates a scene while it is edited. Placements are handed over, not copied. */
import * as Comlink from "comlink";
import type { LaidTrack } from "@/core/line";
import { buffersOf } from "@/core/place";
import type { Scene } from "@/core/scene";
import { Engine, type DressingResult } from "./engine";

/** How far the work has come: posted while it lasts, beside the answer. */
export interface Progress {
  placing: string;
  share: number;
}

/** What an evaluation came to. */
export interface Evaluation {
  results: DressingResult[];
  /** Where lines lie on surfaces, by their ids; and the ids of those that no longer do. */
  laid: [string, LaidTrack][];
  free: string[];
}

const engine = new Engine();
/** The tracks that the application has been given. */
let told: ReadonlyMap<string, LaidTrack> = new Map();

const api = {
  /** Takes in the file of an asset whose mesh is wanted. */
  async learn(asset: string, bytes: Uint8Array): Promise<void> {
    await engine.learnFile(asset, bytes);
  },

  /** Results of the dressings that changed since the last call, and the lines that lie otherwise than then. */
  evaluate(scene: Scene): Evaluation {
    const results = engine.evaluate(scene, (placing, share) => {
      postMessage({ placing, share } satisfies Progress);
    });
    const { tracks } = engine;
    const laid = [...tracks].filter(([id, track]) => told.get(id) !== track);
    const free = [...told.keys()].filter((id) => !tracks.has(id));
    told = tracks;
    return Comlink.transfer(
      { results, laid, free },
      results.flatMap(({ placements }) => buffersOf(placements)),
    );
  },
};

export type EvaluationApi = typeof api;

Comlink.expose(api);
