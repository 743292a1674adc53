/** Everything that can be commanded: its name, its key if it is frequent, and when it can be done. */
import { hasKnots, LINE_KINDS } from "@/core/line";
import { MADE_KINDS } from "@/core/made";
import { STEP_NAMES, STEP_SCHEMAS } from "@/core/place";
import { freeName, newId } from "@/core/scene";
import type { ChoiceDescription } from "@/core/schema";
import { useSceneStore } from "@/store";
import {
  addLine,
  deleteDressing,
  editDressing,
  makeSurface,
  millimetre,
  openStep,
  selectLine,
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
import { chooseTable } from "../kit";
import { cameraNow, drawAs, paintedFields, startPainting, stopPainting, startDrawing, stopDrawing } from "../view";

export interface Command {
  id: string;
  name: string;
  /** Other words by which it is looked for: what it is good for. */
  words?: string;
  /** Whether it is one of very many, listed only when it is looked for. */
  deep?: boolean;
  /** Where it is listed among the keys. */
  group?: "Scene" | "Draw" | "See" | "Select and change";
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
  const focused = globalThis.document?.activeElement;
  const inField = focused && /^(INPUT|TEXTAREA)$/.test(focused.tagName) ? (focused as HTMLElement) : null;
  if (store().history.drag) store().cancelDrag();
  else if (inField) inField.blur();
  else if (session().tool === "draw") stopDrawing();
  else if (session().tool === "paint") stopPainting();
  else if (session().moving !== null) useSession.setState({ moving: null });
  else if (session().keys.size > 0) useSession.setState({ keys: NO_KEYS });
  else if (session().knots.length > 0) useSession.setState({ knots: [] });
  else selectNothing();
}

function drawForm(form: Parameters<typeof drawAs>[0]): void {
  startDrawing();
  drawAs(form);
}

/** A straight line of two metres in the middle of what is seen, with its first number at hand. */
function lineByNumbers(): void {
  const [x, y, z] = cameraNow.target.map(millimetre);
  addLine(
    [
      [millimetre(x - 1), y, z],
      [millimetre(x + 1), y, z],
    ],
    false,
    session().drawProp,
  );
  selectLine(store().history.scene.lines.at(-1)!.id, 0);
  setTimeout(() => document.querySelector<HTMLInputElement>('input[aria-label="Knot 1 x"]')?.focus(), 60);
}

const dressAs = (dressKind: NonNullable<ReturnType<typeof session>["dressKind"]>) => () =>
  useSession.setState({ dialog: "dress", dressKind });

const meets = (side: "top" | "bottom"): void =>
  editDressing(session().dressing!, side === "top" ? "Hang" : "Stand", ({ stance }) => void (stance.meetsUp = side));

function saveView(): void {
  store().change("Save view", (scene) => {
    const taken = scene.views.map((view) => view.name);
    const { position, target } = cameraNow;
    scene.views.push({ id: newId(), name: freeName("View 1", taken), position: [...position], target: [...target] });
  });
}

/** The commands that what the scene has makes possible: its views, and each step's options. */
export function commandsNow(): readonly Command[] {
  const { views } = store().history.scene;
  const seen = views.map(({ id, name }): Command => ({
    id: `view ${id}`,
    name: `See “${name}”`,
    words: "view camera",
    run: () => useSession.setState({ cameraWish: { kind: "view", id } }),
  }));
  return [...COMMANDS, ...seen, ...(session().dressing === null ? [] : OPTIONS)];
}

/** Every option of the seven steps by its name, and what it is for; it leads to its step. */
const OPTIONS: readonly Command[] = STEP_NAMES.flatMap((step) =>
  Object.entries(STEP_SCHEMAS[step].shape).flatMap(([name, schema]): Command[] => {
    const said = (schema as { meta: () => Partial<ChoiceDescription> | undefined }).meta();
    if (!said?.label) return [];
    return [
      {
        id: `${step} ${name}`,
        name: `${step[0].toUpperCase()}${step.slice(1)}: ${said.label}`,
        words: [said.help, ...Object.values(said.choices ?? {})].join(" "),
        deep: true,
        run: () => openStep(step),
      },
    ];
  }),
);

/** The commands that are found by words: those whose names have them first, then those that are about them. */
export function found(commands: readonly Command[], query: string): Command[] {
  const asked = query.toLowerCase().split(/\s+/).filter(Boolean);
  const ranked = commands.flatMap((command) => {
    const name = command.name.toLowerCase();
    const about = `${name} ${command.words?.toLowerCase() ?? ""}`;
    if (!asked.every((word) => about.includes(word))) return [];
    const rank = asked.every((word) => name.includes(word)) ? 0 : 1;
    return [{ command, rank: rank + (command.deep ? 0.5 : 0) }];
  });
  return ranked.sort((a, b) => a.rank - b.rank).map(({ command }) => command);
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
  { id: "palette", group: "Scene", name: "Find a command", keys: "mod+k", run: show("palette") },
  {
    id: "undo",
    group: "Scene",
    name: "Undo",
    keys: "mod+z",
    possible: () => store().history.past.length > 0 || store().history.drag !== null,
    run: () => store().undo(),
  },
  {
    id: "redo",
    group: "Scene",
    name: "Redo",
    keys: "mod+shift+z, mod+y",
    possible: () => store().history.future.length > 0,
    run: () => store().redo(),
  },
  { id: "save", group: "Scene", name: "Save now", keys: "mod+s", run: () => void store().flush() },
  {
    id: "draw",
    group: "Draw",
    name: "Draw line",
    words: "path spline curve guide",
    keys: "l",
    run: () => drawForm("free"),
  },
  {
    id: "line-by-numbers",
    name: "Line by numbers",
    words: "type coordinates keyboard x y z",
    run: lineByNumbers,
  },
  ...(["circle", "ellipse", "arc", "rectangle", "coil"] as const).map((form) => ({
    id: `draw-${form}`,
    name: `Draw ${/^[aeiou]/.test(form) ? "an" : "a"} ${LINE_KINDS[form].label.toLowerCase()}`,
    words: {
      circle: "round ring",
      ellipse: "oval",
      arc: "bow",
      rectangle: "square frame",
      coil: "spiral helix spring",
    }[form],
    run: () => drawForm(form),
  })),
  {
    id: "draw-hanging",
    name: "Draw a hanging rope",
    words: "cable catenary sag bunting garland droop hang",
    run: () => drawForm("hanging"),
  },
  {
    id: "rim",
    name: "Take a line from the rim of a surface",
    words: "edge boundary border outline mesh loop",
    possible: () => store().history.scene.surfaces.length > 0,
    run: () => drawForm("boundary"),
  },
  {
    id: "bring",
    name: "Bring in files…",
    words: "import load open add prop mesh model glb gltf obj stl ply zip",
    run: () => document.querySelector<HTMLInputElement>('[data-testid="prop-files"]')?.click(),
    possible: () => document.querySelector('[data-testid="prop-files"]') !== null,
  },
  ...(["bumps", "box", "revolve", "loft"] as const).map((kind) => ({
    id: `make-${kind}`,
    name: `Make a surface: ${MADE_KINDS[kind].label.toLowerCase()}`,
    words: {
      bumps: "ground terrain floor hill",
      box: "cube room",
      revolve: "lathe vase tower",
      loft: "sail sheet hull",
    }[kind],
    run: () => makeSurface(kind, cameraNow.target),
  })),
  {
    id: "paint",
    group: "Draw",
    name: "Paint where things stand",
    keys: "p",
    possible: () => paintedFields().length > 0,
    run: () => (session().tool === "paint" ? stopPainting() : startPainting()),
  },
  {
    id: "dress",
    group: "Draw",
    name: "Dress…",
    words: "fence row railing repeat array place along line new dressing",
    keys: "d",
    run: dressAs("along"),
  },
  { id: "dress-over", name: "Dress a surface…", words: "scatter spread over ground area meadow", run: dressAs("over") },
  { id: "dress-inside", name: "Fill a volume…", words: "inside box space fill crate pack", run: dressAs("inside") },
  {
    id: "dress-loose",
    name: "Put props down by hand…",
    words: "loose pile heap stack drop on each other",
    run: dressAs("loose"),
  },
  {
    id: "hang",
    name: "Hang the dressing's props by their top",
    words: "hang top below ceiling lantern",
    possible: () => session().dressing !== null,
    run: () => meets("top"),
  },
  {
    id: "stand",
    name: "Stand the dressing's props on their bottom",
    words: "stand bottom foot pivot",
    possible: () => session().dressing !== null,
    run: () => meets("bottom"),
  },
  {
    id: "onto-ground",
    name: "Drop the dressing's props onto the ground",
    words: "drop snap floor terrain float",
    possible: () => session().dressing !== null,
    run: () => editDressing(session().dressing!, "On ground", ({ fit }) => void (fit.drop = "down")),
  },
  {
    id: "save-view",
    name: "Save this view",
    words: "camera bookmark view",
    run: saveView,
  },
  {
    id: "frame",
    group: "See",
    name: "Frame the selection",
    keys: "f",
    run: () => useSession.setState({ cameraWish: { kind: "selection" } }),
  },
  {
    id: "frame-all",
    group: "See",
    name: "Frame everything",
    keys: "shift+f",
    run: () => useSession.setState({ cameraWish: { kind: "all" } }),
  },
  {
    id: "insert-knot",
    group: "Draw",
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
  { id: "boxes", group: "See", name: "Show props as boxes, or in full again", keys: "b", run: showBoxes },
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
  ...(["light", "dark", "system"] as const).map((choice) => ({
    id: `table-${choice}`,
    name:
      choice === "system"
        ? "Colours of the table as the system has them"
        : `${choice === "dark" ? "Dark" : "Light"} table`,
    words: "theme mode colours night day",
    run: () => chooseTable(choice),
  })),
  { id: "export", group: "Scene", name: "Export…", keys: "mod+e", run: show("export") },
  { id: "keys", group: "Scene", name: "Show all keys", keys: "shift+slash, shift+?", run: show("keys") },
  { id: "escape", group: "Scene", name: "Give up what is going on, or select nothing", keys: "escape", run: escape },
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
