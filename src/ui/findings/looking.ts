/** *Looking through the whole time*: what is wrong at any frame, looked for beside all else, and kept until it is looked for anew. */
import { create } from "zustand";
import { frameCount, momentOf, type Scene } from "@/core/scene";
import { lookThrough, stopLookingThrough } from "@/engine/file-clients";
import type { WorstFinding } from "@/engine/look-through";
import { assetsFor, useSceneStore } from "@/store";
import { showMoment } from "../state";
import { goTo } from "../time";

interface Looking {
  /** How far it is, from 0 to 1; null when nothing is being looked for. */
  share: number | null;
  /** What was found, and in which scene; null before anything was looked for. */
  found: { worst: readonly WorstFinding[]; scene: Scene } | null;
  /** Why it came to nothing. */
  failure: string | null;
}

const NONE: Looking = { share: null, found: null, failure: null };
export const useLooking = create<Looking>()(() => NONE);

// What was found in one scene says nothing of another.
useSceneStore.subscribe(({ id }, before) => {
  if (id === before.id) return;
  if (useLooking.getState().share !== null) stopLookingThrough();
  useLooking.setState(NONE);
});

export async function look(): Promise<void> {
  const { id, history } = useSceneStore.getState();
  const { scene } = history;
  useLooking.setState({ share: 0, failure: null });
  const here = () => useSceneStore.getState().id === id;
  try {
    const worst = await lookThrough(scene, await assetsFor(scene), [0, frameCount(scene.time) - 1], (share) => {
      if (here()) useLooking.setState({ share });
    });
    if (here()) useLooking.setState({ found: { worst, scene } });
  } catch (error) {
    // What was stopped has said so already.
    if (here() && useLooking.getState().share !== null)
      useLooking.setState({ failure: error instanceof Error ? error.message : String(error) });
  } finally {
    if (here()) useLooking.setState({ share: null });
  }
}

export function stopLooking(): void {
  useLooking.setState({ share: null });
  stopLookingThrough();
}

/** Goes to a frame, and comes back when the scene is seen as it is then. */
export function goToFrame(frame: number): Promise<void> {
  const moment = momentOf(frame, useSceneStore.getState().shown.time);
  goTo(moment);
  return showMoment(moment);
}
