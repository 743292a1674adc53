/** The worker that evaluates a scene while it is edited. Placements are handed over, not copied. */
import * as Comlink from "comlink";
import { readSolid } from "@/core/files";
import { buffersOf } from "@/core/place";
import type { Scene } from "@/core/scene";
import { Engine, type DressingResult } from "./engine";

/** How far the work has come: posted while it lasts, beside the answer. */
export interface Progress {
  placing: string;
  share: number;
}

const engine = new Engine();

const api = {
  /** Takes in the file of an asset whose mesh is wanted. */
  async learn(asset: string, bytes: Uint8Array): Promise<void> {
    engine.learn(asset, await readSolid(bytes, "A surface's file"));
  },

  /** Results of the dressings that changed since the last call. */
  evaluate(scene: Scene): DressingResult[] {
    const results = engine.evaluate(scene, (placing, share) => {
      postMessage({ placing, share } satisfies Progress);
    });
    return Comlink.transfer(
      results,
      results.flatMap(({ placements }) => buffersOf(placements)),
    );
  },
};

export type EvaluationApi = typeof api;

Comlink.expose(api);
