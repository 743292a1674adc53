/** Everything that can be commanded: its name, its key if it is frequent, and when it can be done. */
import { hasKnots } from "@/core/line";
import { useSceneStore } from "@/store";
import {
  deleteDressing,
  allKnots,
  deleteKnots,
  deleteLine,
  deleteMix,
  deleteProp,
  deleteSurface,
  duplicateDressing,
  duplicateLine,
  duplicateSurface,
  insertKnotBeside,
  lineOf,
  removePlacements,
  reverseLine,
  splitLine,
  turnPlacements,
  unpeg,
  useResults,
  currentKnot,
  NO_KEYS,
  selectNothing,
  selectPlacements,
  useSession,
} from "../state";
import { paintedFields, startPainting, stopPainting, startDrawing, stopDrawing } from "../view";

export interface Command {
  id: string;
  name: string;
  /** Keys as react-hotkeys-hook writes them; `mod` is Ctrl, or ⌘ on a Mac. */
  keys?: string;
  /** Whether it can be done now. */
  possible?: () => boolean;
  run: () => void;
}

const store = () => useSceneStore.getState();
const session = () => useSession.getState();
const show = (dialog: ReturnType<typeof session>["dialog"]) => () => useSession.setState({ dialog });

function deleteSelected(): void {
  const { focus, knots, keys, dressing } = session();
  if (focus.kind === "line") {
    const line = lineOf(store().history.scene, focus.id);
    if (knots.length > 0 && line && hasKnots(line)) deleteKnots(focus.id, knots);
    else deleteLine(focus.id);
  } else if (focus.kind === "prop") deleteProp(focus.id);
  else if (focus.kind === "mix") deleteMix(focus.id);
  else if (focus.kind === "surface") deleteSurface(focus.id);
  else if (dressing !== null && keys.size > 0) removePlacements(dressing, keys);
}

function insertKnotHere(): void {
  const { focus } = session();
  if (focus.kind === "line") insertKnotBeside(focus.id, currentKnot(session()) ?? 0);
}

/** The placements of the selected dressing. */
function placementsShown() {
  const { dressing } = session();
  return dressing === null ? undefined : useResults.getState().byDressing.get(dressing)?.placements;
}

/** All placements of the dressing; of a line in focus, all its knots. */
function selectAll(): void {
  const { dressing, focus } = session();
  const line = focus.kind === "line" ? lineOf(store().history.scene, focus.id) : undefined;
  if (line) return useSession.setState({ knots: allKnots(line) });
  const placements = placementsShown();
  if (dressing !== null && placements) selectPlacements(dressing, [...placements.key]);
}

function duplicateSelected(): void {
  const { focus, dressing } = session();
  if (focus.kind === "line") duplicateLine(focus.id);
  else if (focus.kind === "surface") duplicateSurface(focus.id);
  else if (dressing !== null) duplicateDressing(dressing);
}

const showBoxes = () => useSession.setState({ display: session().display === "boxes" ? "full" : "boxes" });

/** Out of what is going on, one thing at a time: a drag, a field, drawing, the selection. */
function escape(): void {
  if (store().history.drag) store().cancelDrag();
  else if (document.activeElement instanceof HTMLInputElement) document.activeElement.blur();
  else if (session().tool === "draw") stopDrawing();
  else if (session().tool === "paint") stopPainting();
  else if (session().moving !== null) useSession.setState({ moving: null });
  else if (session().keys.size > 0) useSession.setState({ keys: NO_KEYS });
  else if (session().knots.length > 0) useSession.setState({ knots: [] });
  else selectNothing();
}

/** The line in focus, if it has knots. */
function knottedLine() {
  const { focus } = session();
  const line = focus.kind === "line" ? lineOf(store().history.scene, focus.id) : undefined;
  return line && hasKnots(line) ? line : undefined;
}

const turnCommand = (id: string, name: string, keys: string, degrees: number): Command => ({
  id,
  name,
  keys,
  possible: () => session().dressing !== null && session().keys.size > 0,
  run: () => turnPlacements(session().dressing!, session().keys, (degrees * Math.PI) / 180),
});

const canDelete = () => {
  const { focus, keys } = session();
  return focus.kind !== "dressing" || keys.size > 0;
};

export const COMMANDS: readonly Command[] = [
  { id: "palette", name: "Find a command", keys: "mod+k", run: show("palette") },
  {
    id: "undo",
    name: "Undo",
    keys: "mod+z",
    possible: () => store().history.past.length > 0 || store().history.drag !== null,
    run: () => store().undo(),
  },
  {
    id: "redo",
    name: "Redo",
    keys: "mod+shift+z, mod+y",
    possible: () => store().history.future.length > 0,
    run: () => store().redo(),
  },
  { id: "save", name: "Save now", keys: "mod+s", run: () => void store().flush() },
  { id: "draw", name: "Draw line", keys: "l", run: () => startDrawing() },
  {
    id: "paint",
    name: "Paint where things stand",
    keys: "p",
    possible: () => paintedFields().length > 0,
    run: () => (session().tool === "paint" ? stopPainting() : startPainting()),
  },
  { id: "dress", name: "Dress a line…", keys: "d", run: show("dress") },
  {
    id: "frame",
    name: "Frame the selection",
    keys: "f",
    run: () => useSession.setState({ cameraWish: { kind: "selection" } }),
  },
  {
    id: "frame-all",
    name: "Frame everything",
    keys: "shift+f",
    run: () => useSession.setState({ cameraWish: { kind: "all" } }),
  },
  {
    id: "insert-knot",
    name: "Insert a knot after the selected one",
    keys: "i",
    possible: () => session().focus.kind === "line",
    run: insertKnotHere,
  },
  { id: "all", name: "Select all placements, or all knots of a line", keys: "mod+a", run: selectAll },
  {
    id: "delete",
    name: "Delete what is selected (placements are left blank)",
    keys: "delete, backspace",
    possible: canDelete,
    run: deleteSelected,
  },
  turnCommand("turn-back", "Turn what is selected back by 5°", "comma", -5),
  turnCommand("turn-on", "Turn what is selected on by 5°", "period", 5),
  turnCommand("turn-far-back", "Turn what is selected back by 45°", "shift+comma", -45),
  turnCommand("turn-far-on", "Turn what is selected on by 45°", "shift+period", 45),
  {
    id: "unpeg",
    name: "Take the pegs off what is selected",
    keys: "u",
    possible: () => session().dressing !== null && session().keys.size > 0,
    run: () => unpeg(session().dressing!, session().keys),
  },
  {
    id: "reverse",
    name: "Run the line the other way",
    possible: () => knottedLine() !== undefined,
    run: () => reverseLine(knottedLine()!.id),
  },
  {
    id: "split",
    name: "Split the line at the selected knot",
    possible: () => knottedLine() !== undefined && currentKnot(session()) !== null,
    run: () => splitLine(knottedLine()!.id, currentKnot(session())!),
  },
  {
    id: "duplicate",
    name: "Duplicate the dressing, the surface, or the line with what hangs on it",
    keys: "mod+d",
    run: duplicateSelected,
  },
  {
    id: "delete-dressing",
    name: "Delete the dressing",
    possible: () => session().dressing !== null,
    run: () => deleteDressing(session().dressing!),
  },
  { id: "boxes", name: "Show props as boxes, or in full again", keys: "b", run: showBoxes },
  { id: "full", name: "Show props in full", run: () => useSession.setState({ display: "full" }) },
  { id: "points", name: "Show props as points", run: () => useSession.setState({ display: "points" }) },
  {
    id: "auto",
    name: "Show each prop as its size on the screen asks (auto)",
    run: () => useSession.setState({ display: "auto" }),
  },
  {
    id: "tint",
    name: "Show in the view how full it is, or no longer",
    possible: () => (placementsShown()?.density ?? null) !== null,
    run: () => useSession.setState({ tinted: !session().tinted }),
  },
  {
    id: "basket",
    name: "Fold or unfold the basket",
    run: () => useSession.setState({ basketFolded: !session().basketFolded }),
  },
  {
    id: "seeds",
    name: "Choose a seed by its picture…",
    possible: () => session().dressing !== null,
    run: show("seeds"),
  },
  {
    id: "prepare",
    name: "Set up the selected prop…",
    possible: () => session().focus.kind === "prop",
    run: show("prepare"),
  },
  {
    id: "surfaces",
    name: "Show the surfaces in the basket, or the props",
    run: () =>
      useSession.setState({
        basketFolded: false,
        basketShows: session().basketShows === "props" ? "surfaces" : "props",
      }),
  },
  { id: "export", name: "Export…", keys: "mod+e", run: show("export") },
  { id: "keys", name: "Show all keys", keys: "shift+slash, shift+?", run: show("keys") },
  { id: "escape", name: "Give up what is going on, or select nothing", keys: "escape", run: escape },
];

const NAMES: Readonly<Record<string, string>> = {
  delete: "Delete",
  backspace: "Backspace",
  escape: "Esc",
  shift: "Shift",
  slash: "?",
  "?": "?",
  comma: ",",
  period: ".",
};

/** The first key of a command as it is shown, for example “Ctrl Z”. */
export function shownKeys(keys: string): string {
  const mac = typeof navigator !== "undefined" && /Mac/.test(navigator.platform);
  const first = keys.split(",")[0].trim();
  if (first === "shift+slash") return "?";
  return first
    .split("+")
    .map((key) => (key === "mod" ? (mac ? "⌘" : "Ctrl") : (NAMES[key] ?? key.toUpperCase())))
    .join(" ");
}
