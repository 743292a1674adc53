/** *The scene on the table*: its history, and whether it is saved. Saving follows each change after a short rest. */
import { create } from "zustand";
import { emptyScene, type Scene } from "@/core/scene";
import { changed, dragBegun, dragCancelled, dragEnded, dragged, redone, startHistory, undone } from "./history";
import type { History, Recipe } from "./history";
import { putDown, takeUp } from "./journal";
import { ConflictError, loadScene, saveScene } from "./scenes";

export type SaveState =
  { kind: "saved"; at: number } | { kind: "unsaved" } | { kind: "failed"; reason: string } | { kind: "conflict" };

export interface SceneStore {
  id: string | null;
  history: History;
  save: SaveState;
  open(id: string): Promise<"opened" | "missing">;
  change(label: string, recipe: Recipe, mark?: string): void;
  /** Changes what has been opened before anything was done with it, as no step that could be undone. */
  amend(recipe: Recipe): void;
  beginDrag(label: string): void;
  drag(recipe: Recipe): void;
  endDrag(): void;
  cancelDrag(): void;
  undo(): void;
  redo(): void;
  /** Saves now what is not saved yet. */
  flush(): Promise<void>;
  /** The page may be gone in a moment: what is not saved is put down where the next opening finds it. */
  leave(): void;
  /** After a conflict: takes what the other tab saved. */
  takeTheirs(): Promise<void>;
}

/** A change is saved when nothing has changed for so long, and at the latest after so long (milliseconds). */
const REST = 250;
const LATEST = 900;

const NOTHING: Scene = emptyScene(" ");

export const useSceneStore = create<SceneStore>()((set, get) => {
  let revision = 0;
  let savedScene: Scene = NOTHING;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let waitingSince = 0;
  let saving: Promise<void> = Promise.resolve();

  const apply = (next: History) => {
    if (next === get().history) return;
    set({ history: next });
    schedule();
  };

  const schedule = () => {
    const { history, save } = get();
    if (history.scene === savedScene || save.kind === "conflict") return;
    const now = Date.now();
    waitingSince ||= now;
    if (save.kind !== "unsaved") set({ save: { kind: "unsaved" } });
    clearTimeout(timer);
    timer = setTimeout(() => void get().flush(), Math.max(0, Math.min(REST, waitingSince + LATEST - now)));
  };

  const write = async () => {
    const { id, history, save } = get();
    const scene = history.scene;
    if (id === null || scene === savedScene || save.kind === "conflict") return;
    waitingSince = 0;
    try {
      revision = await saveScene(id, scene, revision);
      savedScene = scene;
      if (get().history.scene === scene) set({ save: { kind: "saved", at: Date.now() } });
    } catch (error) {
      if (error instanceof ConflictError) set({ save: { kind: "conflict" } });
      else set({ save: { kind: "failed", reason: error instanceof Error ? error.message : String(error) } });
    }
  };

  return {
    id: null,
    history: startHistory(NOTHING),
    save: { kind: "saved", at: 0 },

    async open(id) {
      await get().flush();
      const row = await loadScene(id);
      if (!row) return "missing";
      revision = row.revision;
      savedScene = row.scene;
      set({ id, history: startHistory(row.scene), save: { kind: "saved", at: row.modified } });
      const rescued = takeUp(id, revision);
      if (rescued) apply(startHistory(rescued));
      return "opened";
    },
    change: (label, recipe, mark) => apply(changed(get().history, label, recipe, mark ?? null, Date.now())),
    amend(recipe) {
      const { history } = get();
      if (history.past.length > 0 || history.future.length > 0 || history.drag) return;
      const { scene } = changed(history, "", recipe);
      if (scene !== history.scene) apply(startHistory(scene));
    },
    beginDrag: (label) => set({ history: dragBegun(get().history, label) }),
    drag: (recipe) => apply(dragged(get().history, recipe)),
    endDrag: () => apply(dragEnded(get().history)),
    cancelDrag: () => apply(dragCancelled(get().history)),
    undo: () => apply(undone(get().history)),
    redo: () => apply(redone(get().history)),
    flush() {
      clearTimeout(timer);
      saving = saving.then(write);
      return saving;
    },
    leave() {
      const { id, history, save } = get();
      if (id === null || history.scene === savedScene || save.kind === "conflict") return;
      putDown(id, { revision, scene: history.scene });
      void get().flush();
    },
    async takeTheirs() {
      const { id } = get();
      if (id === null) return;
      set({ save: { kind: "saved", at: Date.now() }, history: startHistory(savedScene) });
      await get().open(id);
    },
  };
});

/** What `pick` takes from the scene on the table. */
export const useScene = <T>(pick: (scene: Scene) => T): T => useSceneStore((store) => pick(store.history.scene));
