/** Everything that can be commanded: its name, its key if it is frequent, and when it can be done. */
import { LINE_KINDS } from "@/core/line";
import { MADE_KINDS } from "@/core/made";
import { isRecipeKind } from "@/core/place";
import {
  addFamily,
  suitingPairs,
  currentKnot,
  deleteDressing,
  editDressing,
  leaveAssembly,
  makeSurface,
  openAssembly,
  reverseLine,
  saveView,
  splitLine,
  turnPlacements,
  unpeg,
  useSession,
  sightNow,
} from "../state";
import { BRING_IN } from "../basket";
import { chooseTable } from "../kit";
import { chooseFineness } from "../three";
import { goTo, playOrPause, stepFrames, timeShown, toggleTime } from "../time";
import {
  cameraNow,
  paintedFields,
  startPainting,
  startPickingPairs,
  startPinning,
  stopPainting,
  startSowing,
  stopSowing,
  stopPinning,
} from "../view";
import {
  deleteSelected,
  dressAs,
  drawForm,
  duplicateSelected,
  escape,
  insertKnotHere,
  knottedLine,
  lineByNumbers,
  meets,
  selectAll,
  selectedAssembly,
  session,
  show,
  showBoxes,
  store,
} from "./actions";

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

const turnCommand = (id: string, name: string, keys: string, degrees: number): Command => ({
  id,
  name,
  keys,
  possible: () => session().dressing !== null && session().keys.size > 0,
  run: () => turnPlacements(session().dressing!, session().keys, (degrees * Math.PI) / 180),
});

const savesAsRecipe = (): boolean => {
  const { focus, dressing: id } = session();
  if (focus.kind === "prop" && store().shown.props.some((prop) => prop.id === focus.id && prop.assembly)) return true;
  const dressing = store().shown.dressings.find((one) => one.id === id);
  return dressing !== undefined && isRecipeKind(dressing.where);
};

const canDelete = () => {
  const { focus, keys } = session();
  return focus.kind !== "dressing" || keys.size > 0;
};

export const COMMANDS: readonly Command[] = [
  { id: "recipes", name: "Recipes", words: "preset reuse rules luggage tags template", run: show("recipes") },
  {
    id: "save-recipe",
    name: "Save the dressing, or the assembly, as a recipe",
    words: "keep rules reuse template",
    possible: () => savesAsRecipe(),
    run: show("save-recipe"),
  },
  {
    id: "keep-assembly",
    name: "Keep as an assembly…",
    words: "group together nest put one prop collection",
    possible: () => store().shown.dressings.length > 0,
    run: show("keep"),
  },
  {
    id: "open-assembly",
    group: "Select and change",
    name: "Open the assembly that is selected",
    words: "go into edit inside nested",
    keys: "enter",
    possible: () => selectedAssembly() !== null,
    run: () => openAssembly(selectedAssembly()!),
  },
  {
    id: "leave-assembly",
    group: "Select and change",
    name: "Go back out of the open assembly",
    words: "close leave up nested",
    keys: "shift+enter",
    possible: () => store().opened.length > 0,
    run: () => leaveAssembly(store().opened.length - 1),
  },
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
    id: "between",
    name: "Lines between: divisions of the line, or snap points of the dressing",
    words: "struts planks beams festoons connect join pairs members span net web rungs ladder between",
    run: () => {
      const { focus, dressing } = session();
      addFamily(
        suitingPairs({
          line: focus.kind === "line" ? focus.id : null,
          dressing: focus.kind === "dressing" ? dressing : null,
        }),
      );
    },
  },
  {
    id: "between-picked",
    name: "Lines between places that are picked",
    words: "connect join pairs strut beam rope two points between pick",
    run: () => startPickingPairs(null),
  },
  {
    id: "rim",
    name: "Take a line from the rim of a surface",
    words: "edge boundary border outline mesh loop",
    possible: () => store().shown.surfaces.length > 0,
    run: () => drawForm("boundary"),
  },
  {
    id: "bring",
    name: "Bring in files…",
    words: "import load open add prop mesh model glb gltf obj stl ply zip svg drawing vector outline path letters",
    run: () => document.getElementById(BRING_IN)?.click(),
    possible: () => document.getElementById(BRING_IN) !== null,
  },
  ...(["bumps", "box", "revolve", "loft", "band", "tube", "shell", "solid", "smoothed"] as const).map((kind) => ({
    id: `make-${kind}`,
    name: `Make a surface: ${MADE_KINDS[kind].label.toLowerCase()}`,
    words: {
      bumps: "ground terrain floor hill",
      box: "cube room",
      revolve: "lathe vase tower",
      loft: "sail sheet hull",
      band: "belt strip ribbon road conveyor",
      tube: "pipe bar cable rope sweep thick line",
      shell: "thickness wall offset thicken",
      solid: "join cut union subtract intersect boolean print closed volume stl 3mf",
      smoothed: "subdivide round soften crease",
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
    id: "pin",
    group: "Draw",
    name: "Pin props to surfaces",
    words: "sew badge stick attach fasten bind",
    keys: "t",
    possible: () => store().shown.surfaces.length > 0 && store().shown.props.length > 0,
    run: () => (session().tool === "pin" ? stopPinning() : startPinning()),
  },
  {
    id: "sow",
    group: "Draw",
    name: "Sow props by hand",
    words: "spray brush strew gather many put grass flowers",
    keys: "s",
    possible: () => store().shown.surfaces.length > 0 && store().shown.props.length > 0,
    run: () => (session().tool === "sow" ? stopSowing() : startSowing()),
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
    run: () => saveView(cameraNow),
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
  {
    id: "sheet",
    group: "See",
    name: "Large sheet, there and back",
    words: "unrolled half screen bigger chart",
    keys: "j",
    run: () => useSession.setState(({ sheetSize }) => ({ sheetSize: sheetSize === "low" ? "half" : "low" })),
  },
  {
    id: "sheet-whole",
    group: "See",
    name: "Sheet all over the screen, there and back",
    words: "unrolled full chart",
    keys: "shift+j",
    run: () => useSession.setState(({ sheetSize }) => ({ sheetSize: sheetSize === "whole" ? "low" : "whole" })),
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
    possible: () => Boolean(sightNow(session().dressing)?.density),
    run: () => useSession.setState({ tinted: !session().tinted }),
  },
  {
    id: "play",
    group: "See",
    name: "Play, or pause",
    words: "animate time run stop",
    keys: "space",
    possible: timeShown,
    run: playOrPause,
  },
  {
    id: "frame-back",
    group: "See",
    name: "One frame back",
    keys: "bracketleft",
    possible: timeShown,
    run: () => stepFrames(-1),
  },
  {
    id: "frame-on",
    group: "See",
    name: "One frame on",
    keys: "bracketright",
    possible: timeShown,
    run: () => stepFrames(1),
  },
  {
    id: "first-frame",
    name: "Go to the beginning",
    words: "rewind start frame",
    possible: timeShown,
    run: () => goTo(0),
  },
  {
    id: "let-move",
    name: "Let it move: show time, or hide it",
    words: "animate animation keyframe time bar",
    run: toggleTime,
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
  ...(["machine", "full", "plain"] as const).map((choice) => ({
    id: `fineness-${choice}`,
    name: {
      machine: "Draw as finely as this machine does well",
      full: "Draw with soft shadows",
      plain: "Draw plainly",
    }[choice],
    words: "fast slow quality shadows graphics",
    run: () => chooseFineness(choice),
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
