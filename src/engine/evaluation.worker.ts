/** The worker that evaluates a scene while it is edited. Placements are handed over, not copied. */
import * as Comlink from "comlink";
import { buffersOf } from "@/core/place";
import type { Scene } from "@/core/scene";
import { Engine, type DressingResult } from "./engine";

const engine = new Engine();

const api = {
  /** Results of the dressings that changed since the last call. */
  evaluate(scene: Scene): DressingResult[] {
    const results = engine.evaluate(scene);
    return Comlink.transfer(
      results,
      results.flatMap(({ placements }) => buffersOf(placements)),
    );
  },
};

export type EvaluationApi = typeof api;

Comlink.expose(api);
