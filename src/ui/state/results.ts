/** What the dressings came to: kept here as the worker hands it over, replaced dressing by dressing. */
import { useMemo } from "react";
import { toast } from "sonner";
import { create } from "zustand";
import { keysNamed, type Finding } from "@/core/check";
import { FLAG, type Placements, indicesOf } from "@/core/place";
import type { Scene } from "@/core/scene";
import { assetBytes } from "@/store";
import { EvaluationClient } from "@/engine/client";
import type { ShownResult } from "@/engine/engine";
import type { Progress } from "@/engine/evaluation.worker";
import { dressingOnCharts, forgetCharts, putCharts } from "./charted";
import { forgetOthers } from "./guides";
import { putLaid, putMade, useLaid, useMade } from "./laid";
import { useSession } from "./session";
import { settlePegs } from "./settle-pegs";

interface Results {
  byDressing: ReadonlyMap<string, ShownResult>;
  /** What pokes through, as it was found last; looked for some time after everything else. */
  poking: ReadonlyMap<string, readonly Finding[]>;
  /** The scene that they belong to. */
  scene: Scene | null;
  /** Why the last evaluation failed, if it did. */
  failure: string | null;
  /** What is being placed at the moment, and how far that is. */
  progress: Progress | null;
  /** The artist stopped the placing: what is shown is from before. */
  stopped: boolean;
}

export const useResults = create<Results>()(() => ({
  byDressing: new Map(),
  poking: new Map(),
  scene: null,
  failure: null,
  progress: null,
  stopped: false,
}));

let running: { client: EvaluationClient; scene: Scene | null } | null = null;

/** Stops the placing that is going on; what was there before stays on show. */
export function stopPlacing(): void {
  running?.client.cancel();
  useResults.setState({ stopped: true, progress: null });
}

/** Places the scene as it is now, after it was stopped. */
export function placeAgain(): void {
  useResults.setState({ stopped: false });
  if (running?.scene) running.client.request(running.scene, dressingOnCharts());
}

/** Starts evaluating; gives the way to ask and the way to stop. */
export function startEvaluating(): { request: (scene: Scene) => void; stop: () => void } {
  useResults.setState(useResults.getInitialState(), true);
  useLaid.setState({ tracks: new Map() });
  useMade.setState({ meshes: new Map() });
  forgetCharts();
  const client = new EvaluationClient({
    results(results, scene) {
      const byDressing = new Map(useResults.getState().byDressing);
      const present = new Set(scene.dressings.map((dressing) => dressing.id));
      for (const id of byDressing.keys()) if (!present.has(id)) byDressing.delete(id);
      for (const result of results) byDressing.set(result.id, result);
      useResults.setState({ byDressing, scene, failure: null });
      settlePegs(results, scene);
    },
    poking(found, scene) {
      const { byDressing, poking, scene: shown } = useResults.getState();
      if (shown !== scene) return;
      const none = (all: Results["poking"]) => [...all.values()].every(({ length }) => length === 0);
      // What changes nothing draws nothing anew.
      if (none(found) && none(poking)) return;
      useResults.setState({ poking: found, byDressing: marked(byDressing, found) });
    },
    laid: putLaid,
    made: putMade,
    charts: putCharts,
    failed(reason) {
      useResults.setState({ failure: reason });
      toast.error("What places stopped unexpectedly and was started again.", {
        id: "placing failed",
        description: reason,
      });
    },
    progress: (progress) => useResults.setState({ progress }),
    asset: assetBytes,
  });
  const own: NonNullable<typeof running> = { client, scene: null };
  running = own;
  const request = (scene: Scene) => {
    own.scene = scene;
    forgetOthers(scene.lines);
    if (useResults.getState().stopped) useResults.setState({ stopped: false });
    client.request(scene, dressingOnCharts());
  };
  let onCharts = dressingOnCharts();
  const unsubscribe = useSession.subscribe(() => {
    if (onCharts === dressingOnCharts()) return;
    onCharts = dressingOnCharts();
    if (own.scene && !useResults.getState().stopped) client.request(own.scene, onCharts);
  });
  const stop = () => {
    unsubscribe();
    client.close();
  };
  return { request, stop };
}

export const usePlacements = (dressing: string | null): Placements | undefined =>
  useResults((results) => (dressing === null ? undefined : results.byDressing.get(dressing)?.placements));

const NONE: readonly Finding[] = [];

/** The results with the placements flagged that findings name; all that were so already stay as they were. */
function marked(
  byDressing: Results["byDressing"],
  found: ReadonlyMap<string, readonly Finding[]>,
): Results["byDressing"] {
  let next: Map<string, ShownResult> | null = null;
  for (const [id, findings] of found) {
    const result = byDressing.get(id);
    const named = keysNamed(findings);
    if (!result || named.length === 0) continue;
    const { key, flags } = result.placements;
    let news = false;
    for (const i of indicesOf(key, named)) {
      if (flags[i] & FLAG.finding) continue;
      flags[i] |= FLAG.finding;
      news = true;
    }
    if (news) (next ??= new Map(byDressing)).set(id, { ...result, placements: { ...result.placements } });
  }
  return next ?? byDressing;
}

export function useFindings(dressing: string): readonly Finding[] {
  const found = useResults((results) => results.byDressing.get(dressing)?.findings ?? NONE);
  const more = useResults((results) => results.poking.get(dressing) ?? NONE);
  return useMemo(() => (more.length === 0 ? found : [...found, ...more]), [found, more]);
}

/** Everything that is found on a dressing. */
export function findingsOf({ byDressing, poking }: Pick<Results, "byDressing" | "poking">, id: string) {
  const [found, more] = [byDressing.get(id)?.findings ?? NONE, poking.get(id) ?? NONE];
  return more.length === 0 ? found : [...found, ...more];
}
