/** What the dressings came to: kept here as the worker hands it over, replaced dressing by dressing. */
import type { Unrolled } from "@/core/mesh";
import { bytesOfUnrolling } from "@/engine/unrollings";
import { useMemo } from "react";
import { toast } from "sonner";
import { create } from "zustand";
import { keysNamed, type Finding } from "@/core/check";
import { FLAG, type Placements, type Sight, indicesOf } from "@/core/place";
import { same } from "@/core/graph";
import { inside, seenAt, type Carries, type Scene } from "@/core/scene";
import { assetBytes, keep, kept, useSceneStore } from "@/store";
import { EvaluationClient } from "@/engine/client";
import type { ShownResult } from "@/engine/engine";
import type { Progress } from "@/engine/evaluation.worker";
import { forgetCharts, lookedAt, putCharts } from "./charted";
import { forgetOthers } from "./guides";
import { putFamilies, runningLinesNow, useFamilies } from "./families";
import { putLaid, putMade, useLaid, useMade } from "./laid";
import { boxesNow, putInner, putInsides, useInsides } from "./insides";
import { forgetMoved, putMovable, putMoved, putStills } from "./moved";
import { useSession } from "./session";
import { settlePegs } from "./settle-pegs";
import { putSolids, useSolids } from "./solids";
import type { Solved } from "@/engine/solids";

interface Results {
  byDressing: ReadonlyMap<string, ShownResult>;
  /** What there is to see besides of the dressing that is looked at. */
  sight: { of: string; is: Sight } | null;
  /** What pokes through, as it was found last; looked for some time after everything else. */
  poking: ReadonlyMap<string, readonly Finding[]>;
  /** The scene that they belong to, and its moment, seconds. */
  scene: Scene | null;
  moment: number;
  /** Why the last evaluation failed, if it did. */
  failure: string | null;
  /** What is being placed at the moment, and how far that is. */
  progress: Progress | null;
  /** The artist stopped the placing: what is shown is from before. */
  stopped: boolean;
}

export const useResults = create<Results>()(() => ({
  byDressing: new Map(),
  sight: null,
  poking: new Map(),
  scene: null,
  moment: 0,
  failure: null,
  progress: null,
  stopped: false,
}));

interface Arriving {
  seen: ReturnType<typeof seenAt<Scene>>;
  of: Scene;
  /** Seconds. */
  moment: number;
  /** Whether anything is looked for that is wrong. */
  looks: boolean;
  arrived: () => void;
}

interface Running {
  client: Client;
  /** What was asked for last. */
  scene: Scene | null;
  /** A moment that is to be shown together with what the scene comes to then. */
  carries: Carries;
  arriving: Arriving | null;
  /** What is done once the moment that is shown has rested. */
  resting?: ReturnType<typeof setTimeout>;
}

let running: Running | null = null;

/**
 * Goes to a moment once it is known what the scene comes to then, so that all that is seen belongs to one moment.
 *
 * @param looks whether anything is looked for that is wrong then
 * @returns when it is shown, or another moment is wanted
 */
export function showMoment(moment: number, looks = false): Promise<void> {
  const { history, computed, seek, aim, opened } = useSceneStore.getState();
  const seen = seenAt(inside(history.scene, opened.at(-1) ?? null), moment);
  const scene = seen.computed;
  letArrive(running);
  if (!running || scene === computed) {
    seek(moment, seen);
    return Promise.resolve();
  }
  const own = running;
  aim(moment);
  return new Promise((arrived) => {
    own.arriving = { seen, of: history.scene, moment, looks, arrived };
    own.scene = scene;
    own.client.request(scene, lookedAt(), looks);
  });
}

/** Ends what waits for a moment. @returns which one was waited for */
function letArrive(own: Running | null): Running["arriving"] {
  const arriving = own?.arriving ?? null;
  if (own) own.arriving = null;
  clearTimeout(own?.resting);
  arriving?.arrived();
  return arriving;
}

/** A moment that has been shown for so long, milliseconds, is looked at for what is wrong. */
const REST = 300;

/** Looks for what is not looked for while it plays. */
export function lookAgain(): void {
  if (running?.scene) running.client.request(running.scene, lookedAt());
}

/** Stops the placing that is going on; what was there before stays on show. */
export function stopPlacing(): void {
  clearTimeout(running?.resting);
  running?.client.cancel();
  useResults.setState({ stopped: true, progress: null });
}

/** Places the scene as it is now, after it was stopped. */
export function placeAgain(): void {
  useResults.setState({ stopped: false });
  if (running?.scene) running.client.request(running.scene, lookedAt());
}

/** What evaluates, and tells. */
type Client = Pick<EvaluationClient, "request" | "cancel" | "close" | "solved" | "stopJoining" | "joinAgain">;
type Listener = ConstructorParameters<typeof EvaluationClient>[0];

/** Starts evaluating; gives the way to ask and the way to stop. @param clientFor what evaluates and tells a listener */
export function startEvaluating(
  clientFor: (listener: Listener) => Client = (listener) => new EvaluationClient(listener),
): {
  request: (scene: Scene) => void;
  stop: () => void;
} {
  useResults.setState(useResults.getInitialState(), true);
  useLaid.setState({ tracks: new Map() });
  useFamilies.setState({ families: new Map() });
  useMade.setState({ meshes: new Map() });
  useInsides.setState(useInsides.getInitialState(), true);
  forgetMoved();
  forgetCharts();
  useSolids.setState(useSolids.getInitialState(), true);
  const client = clientFor({
    results(results, scene, { of, now }) {
      const before = useResults.getState();
      const byDressing = new Map(before.byDressing);
      const sight = of === null ? null : now ? { of, is: now } : before.sight?.of === of ? before.sight : null;
      const present = new Set(scene.dressings.map((dressing) => dressing.id));
      for (const id of byDressing.keys()) if (!present.has(id)) byDressing.delete(id);
      for (const result of results) byDressing.set(result.id, result);
      arrive(own, scene);
      useSceneStore.getState().carry(own.carries, boxesNow());
      useResults.setState({ byDressing, sight, scene, moment: useSceneStore.getState().moment, failure: null });
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
    carries: (carries) => void (own.carries = carries),
    laid: putLaid,
    families: putFamilies,
    made: putMade,
    movable: putMovable,
    moved: putMoved,
    stills: putStills,
    insides: putInsides,
    inner: putInner,
    charts: putCharts,
    solids: putSolids,
    joining: (joining) => useSolids.setState({ joining }),
    unjoined: (id, reason) => useSolids.setState(({ failures }) => ({ failures: new Map(failures).set(id, reason) })),
    unjoinedJobs: (left) => useSolids.setState({ left }),
    keptSolid: (job) => kept(job) as Promise<Solved | undefined>,
    keepSolid: (solved) => keep(solved.name, solved, bytesOfSolid(solved)),
    keptUnrolling: (name) => kept(name) as Promise<Unrolled | undefined>,
    keepUnrolling: (name, unrolled) => void keep(name, unrolled, bytesOfUnrolling(unrolled)),
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
  const own: Running = { client, scene: null, arriving: null, carries: new Map() };
  running = own;
  useSolids.setState({
    solved: () => client.solved,
    stop: () => client.stopJoining(),
    again() {
      useSolids.setState({ failures: new Map() });
      client.joinAgain();
    },
  });
  const request = (scene: Scene) => {
    // What has just arrived is there already.
    if (scene === own.scene) return;
    const arriving = letArrive(own);
    own.scene = scene;
    forgetOthers([...scene.lines, ...runningLinesNow()]);
    if (useResults.getState().stopped) useResults.setState({ stopped: false });
    // What is changed on the way to a moment is shown at that one.
    if (arriving) void showMoment(arriving.moment, true);
    if (!own.arriving) client.request(scene, lookedAt());
  };
  let looked = lookedAt();
  const unsubscribe = useSession.subscribe(() => {
    const now = lookedAt();
    if (same(looked, now)) return;
    looked = now;
    if (now && own.scene && !useResults.getState().stopped) client.request(own.scene, now);
  });
  const stop = () => {
    unsubscribe();
    letArrive(own);
    client.close();
  };
  return { request, stop };
}

const bytesOfSolid = ({ mesh }: Solved): number =>
  [mesh.position, mesh.index, ...mesh.attributes.map(({ array }) => array)].reduce(
    (sum, one) => sum + one.byteLength,
    0,
  );

/** Takes the table to the moment of what has arrived. */
function arrive(own: Running, scene: Scene): void {
  if (own.arriving?.seen.computed !== scene) return;
  const { of, moment, seen, looks } = letArrive(own)!;
  if (!looks) own.resting = setTimeout(lookAgain, REST);
  const { history, seek } = useSceneStore.getState();
  // Where something else was changed, which is not what is computed, it is seen otherwise.
  if (history.scene === of) seek(moment, { ...seen, carries: own.carries });
  else void showMoment(moment, looks);
}

/** What a dressing comes to now, for what is done once. */
export const placementsNow = (dressing: string): Placements | undefined =>
  useResults.getState().byDressing.get(dressing)?.placements;

export const usePlacements = (dressing: string | null): Placements | undefined =>
  useResults((results) => (dressing === null ? undefined : results.byDressing.get(dressing)?.placements));

/** What there is to see of a dressing besides; null as long as it is not looked at. */
export const useSight = (dressing: string | null): Sight | null =>
  useResults(({ sight }) => (sight && sight.of === dressing ? sight.is : null));

/** The same for what is done once. */
export function sightNow(dressing: string | null): Sight | null {
  const { sight } = useResults.getState();
  return sight && sight.of === dressing ? sight.is : null;
}

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
