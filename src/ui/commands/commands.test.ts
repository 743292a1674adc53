import { lineKey } from "@/core/place";
import { harbourScene } from "@/core/scene/testing";
import { useSceneStore } from "@/store/scene-store";
import { useSession } from "../state/session";
import { COMMANDS, shownKeys } from "./commands";
import { commandsNow, found } from "./search";
import { laidOut } from "../state/edits/testing";

const command = (id: string) => COMMANDS.find((c) => c.id === id)!;
const run = (id: string) => {
  const { possible, run } = command(id);
  if (!possible || possible()) run();
};
const scene = () => useSceneStore.getState().history.scene;
const store = useSceneStore.getState();

beforeEach(() => {
  laidOut(harbourScene());
  useSession.setState({ dressing: "buoys", focus: { kind: "dressing" }, keys: new Set(), knots: [], dialog: null });
});

test("every command has a name and an id of its own, and no two share a key", () => {
  const keys = COMMANDS.flatMap(({ keys }) => keys?.split(",").map((key) => key.trim()) ?? []);
  expect(new Set(keys).size).toBe(keys.length);
  expect(new Set(COMMANDS.map(({ id }) => id)).size).toBe(COMMANDS.length);
  expect(new Set(COMMANDS.map(({ name }) => name)).size).toBe(COMMANDS.length);
});

test("keys are shown as they are written on a keyboard", () => {
  expect(shownKeys("mod+shift+z, mod+y")).toBe("Ctrl Shift Z");
  expect(shownKeys("shift+slash")).toBe("?");
  expect(shownKeys("delete, backspace")).toBe("Delete");
  expect(shownKeys("l")).toBe("L");
});

test("Delete takes what is in focus: placements, a knot, a line, a prop; and nothing where nothing is selected", () => {
  run("delete");
  expect(scene()).toEqual(harbourScene());
  useSession.setState({ keys: new Set([lineKey(1, 0)]) });
  run("delete");
  expect(scene().dressings[0].pegs).toEqual({ "0000000100000000": { on: "quay", removed: true } });
  useSession.setState({ focus: { kind: "line", id: "jetty" } });
  run("insert-knot");
  expect(scene().lines[1].knots).toHaveLength(3);
  run("delete");
  expect(scene().lines[1].knots).toHaveLength(2);
  useSession.setState({ focus: { kind: "line", id: "jetty" }, knots: [] });
  run("delete");
  expect(scene().lines.map(({ id }) => id)).toEqual(["quay"]);
  useSession.setState({ focus: { kind: "prop", id: "oar" } });
  run("delete");
  expect(scene().props.map(({ id }) => id)).toEqual(["buoy"]);
});

test("undo and redo can be commanded just when there is something to undo or redo", () => {
  expect(command("undo").possible!()).toBe(false);
  run("duplicate");
  expect(scene().dressings).toHaveLength(3);
  expect([command("undo").possible!(), command("redo").possible!()]).toEqual([true, false]);
  run("undo");
  expect(scene()).toEqual(harbourScene());
  expect([command("undo").possible!(), command("redo").possible!()]).toEqual([false, true]);
});

test("a line is run the other way, and split at its selected knot, and neither can be commanded where there is none", () => {
  expect([command("reverse").possible!(), command("split").possible!()]).toEqual([false, false]);
  useSession.setState({ focus: { kind: "line", id: "jetty" } });
  const knots = scene().lines[1].knots;
  run("reverse");
  expect(scene().lines[1].knots.map(({ position }) => position)).toEqual([...knots].reverse().map((k) => k.position));
  expect(command("split").possible!()).toBe(false);
  run("insert-knot");
  expect(command("split").possible!()).toBe(true);
  run("split");
  expect(scene().lines).toHaveLength(3);
});

test("pegs come off what is selected, and all knots of a line in focus can be selected", () => {
  const keys = new Set([lineKey(1, 0), lineKey(1, 1)]);
  useSession.setState({ keys });
  run("delete");
  expect(Object.keys(scene().dressings[0].pegs)).toHaveLength(2);
  run("unpeg");
  expect(scene().dressings[0].pegs).toEqual({});
  useSession.setState({ focus: { kind: "line", id: "jetty" } });
  run("all");
  expect(useSession.getState().knots).toEqual([0, 1]);
});

test("what is looked for by what it is good for is found, first of all what is called that, and all that is found does something", () => {
  store.change("View", (draft) => {
    draft.views.push({ id: "v", name: "From the pier", position: [1, 2, 3], target: [0, 0, 0] });
  });
  const first = (query: string) => found(commandsNow(), query)[0]?.name;
  expect(["circle", "pile", "hang", "view", "import", "fence", "scatter", "pivot", "top", "spiral"].map(first)).toEqual(
    [
      "Draw a circle",
      "Put props down by hand…",
      "Draw a hanging rope",
      "Save this view",
      "Bring in files…",
      "Dress…",
      "Dress a surface…",
      expect.stringMatching(/pivot|stand/i),
      expect.stringMatching(/top/),
      "Draw a coil",
    ],
  );
  const made = (id: string, name: string, words: string) => ({ id, name, words, run: () => undefined });
  const [about, of] = [made("about", "Turn", "rope"), made("of", "Rope", "")];
  const ranked = found([about, { ...of, id: "deep", deep: true }, of], "rope").map(({ id }) => id);
  expect(ranked).toEqual(["of", "deep", "about"]);
  expect(found(commandsNow(), "pier")[0].name).toBe("See “From the pier”");
  // Every option of every step is found by its own name, and opens its step.
  const option = found(commandsNow(), "take every")[0];
  useSession.setState({ openSteps: new Set() });
  option.run();
  expect([...useSession.getState().openSteps]).toEqual(["spacing"]);
  useSession.setState({ dressing: null });
  expect(found(commandsNow(), "take every")).toEqual([]);
});

test("a line by numbers is there at once, dressed, with its first knot selected", () => {
  const before = scene().lines.length;
  useSession.setState({ drawProp: "oar" });
  jest.useFakeTimers();
  run("line-by-numbers");
  jest.useRealTimers();
  expect(scene().lines).toHaveLength(before + 1);
  const line = scene().lines.at(-1)!;
  expect(useSession.getState()).toMatchObject({ focus: { kind: "line", id: line.id }, knots: [0] });
  expect(scene().dressings.at(-1)!.where.lines).toEqual([line.id]);
});

test("Escape goes out of one thing at a time: what is moved by hand, the selection, the focus", () => {
  useSession.setState({ focus: { kind: "line", id: "quay" }, knots: [0], moving: "x" });
  const state = () => {
    const { moving, knots, focus } = useSession.getState();
    return [moving, knots.length, focus.kind];
  };
  run("escape");
  expect(state()).toEqual([null, 1, "line"]);
  run("escape");
  expect(state()).toEqual([null, 0, "line"]);
  run("escape");
  expect(state()).toEqual([null, 0, "dressing"]);
});
