/**
 * *A scene that can be changed and changed back.* Each change is kept as Immer patches; a drag is one change, however many
 * steps it takes, and can be given up while it lasts.
 */
import { applyPatches, enablePatches, produceWithPatches, type Draft, type Patch } from "immer";
import type { Scene } from "@/core/scene";

enablePatches();

export type Recipe = (scene: Draft<Scene>) => void;

interface Change {
  label: string;
  forward: Patch[];
  back: Patch[];
  /** Changes with the same mark made in quick succession are one. */
  mark: string | null;
  time: number;
}

export interface History {
  scene: Scene;
  past: readonly Change[];
  future: readonly Change[];
  /** A drag that is going on: what it is called and what it started from. */
  drag: { label: string; base: Scene } | null;
}

const MAX_CHANGES = 500;
/** Within this many milliseconds changes with the same mark become one. */
const TOGETHER = 800;

export const startHistory = (scene: Scene): History => ({ scene, past: [], future: [], drag: null });

/** The history with one more change; the same history if the recipe changes nothing. */
export function changed(history: History, label: string, recipe: Recipe, mark: string | null = null, now = 0): History {
  const settled = history.drag ? dragEnded(history) : history;
  const [scene, forward, back] = produceWithPatches(settled.scene, recipe);
  return scene === settled.scene ? settled : recorded(settled, { label, forward, back, mark, time: now }, scene);
}

function recorded(history: History, change: Change, scene: Scene): History {
  const last = history.past.at(-1);
  if (last && change.mark !== null && last.mark === change.mark && change.time - last.time < TOGETHER) {
    const joined = { ...change, forward: [...last.forward, ...change.forward], back: [...change.back, ...last.back] };
    return { ...history, scene, past: [...history.past.slice(0, -1), joined], future: [] };
  }
  return { ...history, scene, past: [...history.past, change].slice(-MAX_CHANGES), future: [] };
}

export function dragBegun(history: History, label: string): History {
  const settled = history.drag ? dragEnded(history) : history;
  return { ...settled, drag: { label, base: settled.scene } };
}

/** The drag so far, always worked out from where it started. */
export function dragged(history: History, recipe: Recipe): History {
  if (!history.drag) return history;
  const [scene] = produceWithPatches(history.drag.base, recipe);
  return { ...history, scene };
}

/** The drag done: one change. */
export function dragEnded(history: History): History {
  const { drag, scene } = history;
  if (!drag) return history;
  const before: History = { ...history, scene: drag.base, drag: null };
  const [same, forward, back] = produceWithPatches(drag.base, (draft) => {
    for (const key of Object.keys(scene) as (keyof Scene)[]) {
      if (scene[key] !== drag.base[key]) (draft as Record<string, unknown>)[key] = scene[key];
    }
  });
  if (same === drag.base) return before;
  return recorded(before, { label: drag.label, forward, back, mark: null, time: 0 }, scene);
}

/** The drag given up: what was is put back. */
export const dragCancelled = (history: History): History =>
  history.drag ? { ...history, scene: history.drag.base, drag: null } : history;

/** One change back; in the middle of a drag, the drag is given up instead. */
export function undone(history: History): History {
  if (history.drag) return dragCancelled(history);
  const change = history.past.at(-1);
  if (!change) return history;
  return {
    ...history,
    scene: applyPatches(history.scene, change.back),
    past: history.past.slice(0, -1),
    future: [...history.future, change],
  };
}

export function redone(history: History): History {
  const change = history.future.at(-1);
  if (!change || history.drag) return history;
  return {
    ...history,
    scene: applyPatches(history.scene, change.forward),
    past: [...history.past, { ...change, mark: null }],
    future: history.future.slice(0, -1),
  };
}
