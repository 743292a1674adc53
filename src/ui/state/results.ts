/** What the dressings came to: kept here as the worker hands it over, replaced dressing by dressing. */
import { create } from "zustand";
import type { Finding } from "@/core/check";
import type { Placements } from "@/core/place";
import type { Scene } from "@/core/scene";
import { EvaluationClient } from "@/engine/client";
import type { DressingResult } from "@/engine/engine";

interface Results {
  byDressing: ReadonlyMap<string, DressingResult>;
  /** The scene that they belong to. */
  scene: Scene | null;
  /** Why the last evaluation failed, if it did. */
  failure: string | null;
}

export const useResults = create<Results>()(() => ({ byDressing: new Map(), scene: null, failure: null }));

/** Starts evaluating; gives the way to ask and the way to stop. */
export function startEvaluating(): { request: (scene: Scene) => void; stop: () => void } {
  useResults.setState({ byDressing: new Map(), scene: null, failure: null });
  const client = new EvaluationClient({
    results(results, scene) {
      const byDressing = new Map(useResults.getState().byDressing);
      const present = new Set(scene.dressings.map((dressing) => dressing.id));
      for (const id of byDressing.keys()) if (!present.has(id)) byDressing.delete(id);
      for (const result of results) byDressing.set(result.id, result);
      useResults.setState({ byDressing, scene, failure: null });
    },
    failed: (reason) => useResults.setState({ failure: reason }),
  });
  return { request: (scene) => client.request(scene), stop: () => client.close() };
}

export const usePlacements = (dressing: string | null): Placements | undefined =>
  useResults((results) => (dressing === null ? undefined : results.byDressing.get(dressing)?.placements));

const NONE: readonly Finding[] = [];

export const useFindings = (dressing: string): readonly Finding[] =>
  useResults((results) => results.byDressing.get(dressing)?.findings ?? NONE);
