import {
  beginScene,
  currentKnot,
  openStep,
  pinStep,
  selectLine,
  selectMix,
  selectNothing,
  selectPlacements,
  selectProp,
  toggleStep,
  useSession,
} from "./session";

const { getState } = useSession;

beforeEach(() => {
  useSession.setState({ dressing: "a", focus: { kind: "dressing" }, keys: new Set(), knots: [] });
});

test("knots are selected one by one, or one more and one less with Shift; the current one is the last", () => {
  selectLine("rope", 3);
  selectLine("rope", 1, true);
  selectLine("rope", 5, true);
  expect([getState().knots, currentKnot(getState())]).toEqual([[3, 1, 5], 5]);
  selectLine("rope", 1, true);
  expect(getState().knots).toEqual([3, 5]);
  selectLine("rope", 5);
  expect(getState().knots).toEqual([5]);
  selectLine("rail", 2, true);
  expect(getState()).toMatchObject({ focus: { kind: "line", id: "rail" }, knots: [2] });
  selectLine("rail");
  expect(currentKnot(getState())).toBeNull();
});

test("one thing is in focus at a time, and what belongs to another is let go", () => {
  selectPlacements("a", [1n, 2n]);
  selectLine("rope", 0);
  expect(getState().keys.size).toBe(0);
  for (const [select, kind] of [
    [selectProp, "prop"],
    [selectMix, "mix"],
  ] as const) {
    selectLine("rope", 0);
    select("x");
    expect(getState()).toMatchObject({ focus: { kind, id: "x" }, knots: [] });
  }
  selectPlacements("b", [7n]);
  expect(getState()).toMatchObject({ dressing: "b", focus: { kind: "dressing" }, knots: [] });
  selectNothing();
  expect([getState().dressing, getState().keys.size]).toEqual(["b", 0]);
});

test("a step that is opened closes the others, but for those that are pinned open", () => {
  useSession.setState({ openSteps: new Set(["spacing"]), pinnedSteps: new Set() });
  const open = () => [...useSession.getState().openSteps].sort();
  toggleStep("fit");
  expect(open()).toEqual(["fit"]);
  pinStep("fit");
  openStep("gaps");
  toggleStep("what");
  expect(open()).toEqual(["fit", "what"]);
  // Closed by hand it is pinned no more.
  toggleStep("fit");
  openStep("where");
  expect(open()).toEqual(["where"]);
});

test("another scene begins as the first one did, whatever was held and open before", () => {
  const first = useSession.getInitialState();
  useSession.setState({
    tool: "draw",

    moments: [1],
    sheetSize: "whole",
    basketShows: "surfaces",
  });
  selectLine("rope", 2);
  pinStep("fit");
  beginScene("b", "buoy");
  expect(useSession.getState()).toEqual({ ...first, dressing: "b", drawProp: "buoy" });
});
