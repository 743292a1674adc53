/** *The scene on the table*: its history, and whether it is kept. Every change is handed to the keeper at once. */
import { create } from "zustand";
import { same } from "@/core/graph";
import {
  allParts,
  carriedScene,
  changeBetween,
  emptyScene,
  inside,
  isAssembled,
  mapped,
  nestingTrouble,
  overBudget,
  seenAt,
  tiesIn,
  type Carries,
  type Prop,
  type Scene,
} from "@/core/scene";
import { changed, dragBegun, dragCancelled, dragEnded, dragged, redone, startHistory, undone } from "./history";
import type { History, Recipe } from "./history";
import { lyingDown, pickUp, putDown } from "./journal";
import { keeper } from "./keeping";
import { assetNames } from "./db";
import { assetsFor, heldAssets, holdOnly, putAssets } from "./scenes";
import { onDeleted } from "./tabs";
import { atMoment, within } from "./timed";
import type { Kept } from "./keeper";

export type SaveState =
  | { kind: "saved"; at: number }
  | { kind: "unsaved" }
  /** It is tried again by itself. */
  | { kind: "failed"; reason: string }
  /** Another tab has changed the scene. */
  | { kind: "conflict" }
  /** The scene was deleted in another tab, or with the browser's storage. */
  | { kind: "gone" };

export interface SceneStore {
  id: string | null;
  history: History;
  /** The moment at which the scene is seen and edited, seconds; no part of the scene. */
  moment: number;
  /** The moment that is gone to; null where it is the one that is seen. */
  towards: number | null;
  /** The scene as it is seen and edited at that moment, and as it is computed. */
  shown: Scene;
  computed: Scene;
  /** The assembly whose inside is seen and edited, behind those through which it was reached; empty for the scene itself. */
  opened: readonly string[];
  /** How far what is held has been carried, as far as that is known. */
  carries: Carries;
  /** How large what is in assemblies is, as far as that is known. */
  boxes: Boxes;
  save: SaveState;
  /** Why the last change that was asked for was not made; another object each time. */
  refused: { reason: string } | null;
  /** How often what another tab saved took the place of what was here, where nothing had been changed since. */
  renewed: number;
  open(id: string): Promise<"opened" | "missing">;
  change(label: string, recipe: Recipe, mark?: string): void;
  /** Changes the scene as a whole, whatever is open of it, for all time: for what is used everywhere. */
  changeAll(label: string, recipe: Recipe): void;
  /** Changes what has been opened before anything was done with it, as no step that could be undone. */
  amend(recipe: Recipe): void;
  beginDrag(label: string): void;
  drag(recipe: Recipe): void;
  /** Goes to another moment, with the scene as it is then where that is known. A drag goes on at the moment at which it began. */
  /** Is told how far what is held has been carried, and how large assemblies are. */
  carry(carries: Carries, boxes?: Boxes): void;
  /** Goes into an assembly, or back out of some. */
  enter(opened: readonly string[]): void;
  seek(moment: number, seen?: Pick<SceneStore, "shown" | "computed"> & { carries?: Carries }): void;
  /** Says which moment is gone to, as long as it is not known what the scene comes to then. */
  aim(moment: number): void;
  endDrag(): void;
  cancelDrag(): void;
  undo(): void;
  redo(): void;
  /** Another version of the scene that was put aside when tabs were of two minds. */
  aside: { scene: Scene; time: number } | null;
  /** Waits until all is kept, or cannot be. */
  flush(): Promise<void>;
  /** The page may be gone in a moment. */
  leave(): void;
  /** Looks whether what was kept is still there. */
  verify(): Promise<void>;
  /** After a conflict: takes what the other tab saved. */
  takeTheirs(): Promise<void>;
  /** Lets go of what was put aside. */
  dropAside(): Promise<void>;
  /** Writes a scene that is gone once more, with its files. */
  keepAgain(): Promise<void>;
}

/** What failed is tried again after so long, each time twice as long, up to a limit; milliseconds. */
const AGAIN = 2000;
const AGAIN_MOST = 30_000;
/** What cannot be kept, since another tab has changed the scene, is put aside when it has rested for so long. */
const ASIDE_REST = 250;

/** Milliseconds that another scene waits for what is still to be kept of this one. */
const PATIENCE = 3000;

const NOTHING: Scene = emptyScene(" ");

/** How large what is in assemblies is, in the coordinates of their dressings, by their ids. */
export type Boxes = ReadonlyMap<string, Prop["bounds"]>;
const NO_BOXES: Boxes = new Map();

export const useSceneStore = create<SceneStore>()((set, get) => {
  /** The scene that the keeper was told last, and the revision that it has by that. */
  let told: Scene = NOTHING;
  let revision = 0;
  /** The revision that is known to be kept. */
  let kept = 0;
  let wait = AGAIN;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let keeping: Promise<void> = Promise.resolve();
  /** The moment at which the drag began that is going on; the scene may play meanwhile. */
  let dragMoment = 0;
  /** Counts the openings: what is answered to an earlier one is no longer of interest. */
  let opening = 0;

  const apply = (next: History) => {
    const { history } = get();
    if (next === history) return;
    // What could not be opened again is not made.
    const reason = refusal(history.scene, next.scene);
    if (reason) return set({ refused: { reason } });
    put(next);
    keep();
  };

  /** Takes over a history, with what is seen of it. */
  const put = (history: History, moment = get().moment, more: Partial<SceneStore> = {}) => {
    const { history: before, moment: at, shown, computed } = get();
    const { scene } = history;
    const opened = stillThere(more.opened ?? get().opened, scene);
    const whole = opened.at(-1) ?? null;
    const lens = inside(scene, whole);
    const carries = stillHeld(more.carries ?? get().carries, inside(before.scene, whole), lens);
    const boxes = more.boxes ?? get().boxes;
    const same = scene === before.scene && moment === at && opened === get().opened && !more.shown;
    const known = same && carries === get().carries && boxes === get().boxes;
    const seen = known ? { shown, computed } : seenAs(lens, moment, carries, boxes, more);
    // What is computed knows neither how far anything is carried nor how large assemblies are.
    set({ history, moment, ...more, ...seen, ...(same && { computed }), opened, carries, boxes });
  };

  /** Hands over what differs from what the keeper has. */
  const keep = () => {
    const { id, history, save } = get();
    if (id === null || history.scene === told) return;
    if (save.kind === "conflict") return putAside();
    if (save.kind === "gone") return;
    const change = changeBetween(told, history.scene, ++revision);
    told = history.scene;
    if (save.kind === "saved") set({ save: { kind: "unsaved" } });
    keeping = heard(id, keeper().write(change));
  };

  const heard = async (id: string, answer: Promise<Kept>): Promise<void> => {
    const during = opening;
    try {
      const how = await answer;
      if (during !== opening) return;
      await hear(id, how);
      wait = AGAIN;
    } catch (error) {
      if (during !== opening) return;
      set({ save: { kind: "failed", reason: reasonFor(error) } });
      clearTimeout(timer);
      timer = setTimeout(() => (keeping = heard(id, keeper().write(null))), wait);
      wait = Math.min(AGAIN_MOST, 2 * wait);
    }
  };

  const hear = async (id: string, answer: Kept): Promise<void> => {
    if (answer.kind === "missing") {
      const found = heldAssets(answer.hashes);
      if (found.size < answer.hashes.length)
        throw new Error("A file that the scene needs is no longer in the browser.");
      await putAssets(found);
      return hear(id, await keeper().verify());
    }
    if (answer.kind === "closed") {
      // Another keeper than the one that opened the scene: it gets all of it.
      const { scene } = get().history;
      told = scene;
      const again = await keeper().again(id, scene, heldAssets(assetNames(scene)));
      if (again.kind === "kept") revision = again.revision;
      return hear(id, again);
    }
    if (answer.kind !== "kept") {
      const { history, save } = get();
      if (answer.kind === "conflict" && kept === revision && history.scene === told) return renew(id);
      if (save.kind !== answer.kind) set({ save: { kind: answer.kind } });
      if (answer.kind === "conflict") putAside();
      return;
    }
    kept = answer.revision;
    if (kept < revision) return;
    pickUp(id);
    const { save } = get();
    if (save.kind !== "saved") set({ save: { kind: "saved", at: answer.at } });
  };

  /** Nothing of this tab's is lost by it, so nobody is asked. */
  const renew = async (id: string) => {
    if ((await openKept(id)) === "opened") set({ renewed: get().renewed + 1 });
  };

  const openKept = async (id: string) => {
    clearTimeout(timer);
    opening++;
    set({ id: null });
    const opened = await keeper().open(id);
    if (!opened) return "missing";
    holdOnly(assetNames(opened.scene));
    told = opened.scene;
    kept = revision = opened.revision;
    const { modified: at, aside } = opened;
    put(startHistory(opened.scene), 0, {
      id,
      towards: null,
      save: { kind: "saved", at },
      aside,
      opened: [],
      boxes: NO_BOXES,
    });
    const rescued = lyingDown(id, revision);
    if (rescued) apply(startHistory(rescued));
    return "opened";
  };

  /** A recipe for what is seen, as one for the scene. */
  const asSeen = (recipe: Recipe, moment: number): Recipe =>
    within(atMoment(recipe, moment, get().carries), get().opened.at(-1) ?? null);

  const putAside = () => {
    clearTimeout(timer);
    timer = setTimeout(() => void asideNow(), ASIDE_REST);
  };
  const asideNow = async () => {
    const { id, history } = get();
    if (id !== null) await keeper().aside(id, history.scene);
  };

  onDeleted((id) => {
    if (get().id === id) void get().verify();
  });

  return {
    id: null,
    history: startHistory(NOTHING),
    moment: 0,
    towards: null,
    shown: NOTHING,
    computed: NOTHING,
    opened: [],
    carries: new Map(),
    boxes: NO_BOXES,
    save: { kind: "saved", at: 0 },
    refused: null,
    renewed: 0,
    aside: null,

    async open(id) {
      // A keeper that does not answer holds nothing up for ever.
      await Promise.race([get().flush(), new Promise((resolve) => setTimeout(resolve, PATIENCE))]);
      return openKept(id);
    },
    change: (label, recipe, mark) =>
      apply(changed(get().history, label, asSeen(recipe, meantMoment()), mark ?? null, Date.now())),
    changeAll: (label, recipe) => apply(changed(get().history, label, recipe, null, Date.now())),
    amend(recipe) {
      const { history } = get();
      if (history.past.length > 0 || history.future.length > 0 || history.drag) return;
      const { scene } = changed(history, "", within(recipe, get().opened.at(-1) ?? null));
      if (scene !== history.scene) apply(startHistory(scene));
    },
    beginDrag(label) {
      dragMoment = meantMoment();
      set({ history: dragBegun(get().history, label) });
    },
    drag: (recipe) => apply(dragged(get().history, asSeen(recipe, dragMoment))),
    seek(moment, seen) {
      if (moment !== get().moment) put(get().history, moment, { ...seen, towards: null });
      else if (get().towards !== null) set({ towards: null });
    },
    aim: (towards) => set({ towards }),
    carry(carries, boxes = get().boxes) {
      // Another box tells of other contents, even where it is as large.
      const known = get().boxes;
      const sameBoxes = boxes.size === known.size && [...boxes].every(([name, box]) => known.get(name) === box);
      if (same(carries, get().carries) && sameBoxes) return;
      put(get().history, get().moment, { carries, boxes: sameBoxes ? known : boxes });
    },
    enter(opened) {
      const { history, moment } = get();
      put(history.drag ? dragEnded(history) : history, moment, { opened, carries: new Map() });
    },
    endDrag: () => apply(dragEnded(get().history)),
    cancelDrag: () => apply(dragCancelled(get().history)),
    undo: () => apply(undone(get().history)),
    redo: () => apply(redone(get().history)),
    async flush() {
      // Each answer may have set off another; failing ones are not waited for.
      for (let last; last !== keeping;) await (last = keeping);
    },
    leave() {
      const { id, history, save } = get();
      if (id === null) return;
      if (save.kind === "conflict") void asideNow();
      else if (kept < revision) putDown(id, { revision: kept, scene: history.scene });
    },
    async verify() {
      const { id, save } = get();
      if (id === null || save.kind !== "saved") return;
      keeping = heard(id, keeper().verify());
      await keeping;
    },
    async takeTheirs() {
      const { id } = get();
      if (id === null) return;
      clearTimeout(timer);
      await keeper().aside(id, null);
      // What is ours is let go, so that nothing of it is handed over.
      set({ id: null });
      await get().open(id);
    },
    async dropAside() {
      const { id, save } = get();
      clearTimeout(timer);
      // What cannot be kept here any more is not put aside once more when the table is left.
      set({ aside: null, ...(save.kind === "conflict" && { id: null }) });
      if (id !== null) await keeper().aside(id, null);
    },
    async keepAgain() {
      const { id, history } = get();
      if (id === null) return;
      told = history.scene;
      const answer = await keeper().again(id, history.scene, await assetsFor(history.scene));
      if (answer.kind === "kept") revision = answer.revision;
      set({ save: { kind: "unsaved" } });
      await heard(id, Promise.resolve(answer));
      // What was changed meanwhile.
      keep();
    },
  };
});

/** The moment that whatever is done belongs to, seconds: the one that was asked for last, even where it is not shown yet. */
export function meantMoment(): number {
  const { moment, towards } = useSceneStore.getState();
  return towards ?? moment;
}

/** The scene as it is seen at a moment, with what is held where it has been carried, and as it is computed. */
function seenAs(
  scene: Scene,
  moment: number,
  carries: Carries,
  boxes: Boxes,
  known: Partial<Pick<SceneStore, "shown" | "computed">>,
): Pick<SceneStore, "shown" | "computed"> {
  const { shown, computed } =
    known.shown && known.computed ? (known as Pick<SceneStore, "shown" | "computed">) : seenAt(scene, moment);
  return { shown: boxed(carriedScene(shown, carries), boxes), computed };
}

/** A scene whose assemblies are as large as what is in them. */
function boxed(scene: Scene, boxes: Boxes): Scene {
  const props = mapped(scene.props, (prop) => {
    const bounds = prop.assembly && boxes.get(prop.id);
    return bounds && bounds !== prop.bounds ? { ...prop, bounds } : prop;
  });
  return props === scene.props ? scene : { ...scene, props };
}

/** The assemblies that are open, as far as they are still there. */
function stillThere(opened: readonly string[], scene: Scene): readonly string[] {
  const gone = opened.findIndex((id) => !isAssembled(scene.props.find((prop) => prop.id === id)));
  return gone < 0 ? opened : opened.slice(0, gone);
}

/** Why a scene is not made as it was asked for; null where it is. */
function refusal(before: Scene, next: Scene): string | null {
  const same = (list: "props" | "mixes" | "lines" | "surfaces") => before[list] === next[list];
  if (!same("props") || !same("mixes")) {
    const reason = nestingTrouble(next);
    if (reason) return reason;
  }
  return same("lines") && same("surfaces") && same("props") ? null : overBudget(allParts(next));
}

/** Without what is tied otherwise than it was, or no more: how far that is carried is not known yet. */
function stillHeld(carries: Carries, before: Scene, now: Scene): Carries {
  const same = (["lines", "surfaces", "dressings"] as const).every((list) => before[list] === now[list]);
  if (carries.size === 0 || same) return carries;
  const [old, ties] = [before, now].map((scene) => new Map(tiesIn(scene).map(({ name, tie }) => [name, tie])));
  const held = [...carries].filter(([name]) => ties.has(name) && ties.get(name) === old.get(name));
  return held.length === carries.size ? carries : new Map(held);
}

/** Why something could not be kept, in words. */
function reasonFor(error: unknown): string {
  const name = (error as { inner?: { name?: string }; name?: string } | null)?.inner?.name ?? (error as Error)?.name;
  if (name === "QuotaExceededError") return "the browser's storage is full";
  if (name === "DatabaseClosedError" || name === "InvalidStateError") return "the browser closed its storage";
  return error instanceof Error && /^A file/.test(error.message)
    ? error.message
    : "the browser's storage does not answer";
}

/** What `pick` takes from the scene on the table, as it is at the moment. */
export const useScene = <T>(pick: (scene: Scene) => T): T => useSceneStore((store) => pick(store.shown));
