import { dressingSchema } from "@/core/place";
import { emptyScene, type Scene } from "@/core/scene";
import { useSceneStore } from "@/store";
import { findingsOf, placeAgain, showMoment, sightNow, startEvaluating, stopPlacing, useResults } from "./results";
import { selectDressing, useSession } from "./session";
import { laidOut } from "./edits/testing";

/** What the pretended client was asked, which scene last and whether with what is wrong, and whom it tells. */
const asked: string[] = [];
let last: { scene: Scene; looks: boolean };
let listener: {
  results: (results: unknown[], scene: unknown, sight?: { of: string | null; now: unknown }) => void;
  poking: (found: ReadonlyMap<string, unknown[]>, scene: unknown) => void;
  failed: (reason: string) => void;
  progress: (progress: unknown) => void;
};

const start = () =>
  startEvaluating((given) => {
    const none = { of: null, now: null };
    const results = given.results as typeof listener.results;
    listener = { ...given, results: (all, of, sight = none) => results(all, of, sight) } as typeof listener;
    return {
      request(scene: Scene, looked: { dressing: string; flat: boolean } | null, looks = true) {
        last = { scene, looks };
        asked.push(looked ? `${scene.name} of ${looked.dressing}${looked.flat ? " flat" : ""}` : scene.name);
      },
      cancel: () => void asked.push("cancel"),
      close: () => void asked.push("close"),
    } as never;
  });

const scene = (name: string, ...dressings: string[]) => ({
  ...emptyScene(name),
  dressings: dressings.map((id) => ({ id }) as never),
});
const shown = () => [...useResults.getState().byDressing.keys()];

beforeEach(() => void asked.splice(0));

test("results replace each other dressing by dressing, and those of dressings that are gone go with them", () => {
  start();
  listener.results([{ id: "a" }, { id: "b" }], scene("one", "a", "b"));
  expect(shown()).toEqual(["a", "b"]);
  const kept = useResults.getState().byDressing.get("a");
  listener.results([{ id: "c" }], scene("two", "a", "c"));
  expect(shown()).toEqual(["a", "c"]);
  expect(useResults.getState().byDressing.get("a")).toBe(kept);
});

test("placing that is stopped leaves what was there on show, until it is asked for again or something else is changed", () => {
  const { request, stop } = start();
  listener.results([{ id: "a" }], scene("light", "a"));
  request(scene("heavy", "a"));
  listener.progress({ placing: "a", share: 0.5 });
  expect(useResults.getState().progress).toEqual({ placing: "a", share: 0.5 });
  stopPlacing();
  expect(useResults.getState()).toMatchObject({ stopped: true, progress: null });
  expect(shown()).toEqual(["a"]);
  placeAgain();
  expect(useResults.getState().stopped).toBe(false);
  stopPlacing();
  request(scene("lighter", "a"));
  expect(useResults.getState().stopped).toBe(false);
  stop();
  expect(asked).toEqual(["heavy", "cancel", "heavy", "cancel", "lighter", "close"]);
});

test("a scene is asked for anew when the sheet shows another dressing, or the same one laid flat", () => {
  const where = { over: { kind: "over", surfaces: ["hill"] }, along: { lines: ["quay"] } } as const;
  const made = (id: string, on: keyof typeof where) => dressingSchema.parse({ id, name: id, where: where[on] });
  laidOut({ ...emptyScene("hill"), dressings: [made("a", "over"), made("b", "over"), made("c", "along")] });
  const { request, stop } = start();
  request(scene("hill"));
  selectDressing("a");
  useSession.setState({ sheetBy: "uv" });
  useSession.setState({ tool: "paint" });
  selectDressing("b");
  // Of what runs along lines there is nothing to see besides.
  selectDressing("c");
  selectDressing("b");
  useSession.setState({ sheetBy: "above" });
  stop();
  useSession.setState({ sheetBy: "uv" });
  useSession.setState({ sheetBy: "above" });
  expect(asked).toEqual(["hill", "hill of a", "hill of a flat", "hill of b flat", "hill of b flat", "hill of b", "close"]); // prettier-ignore
});

test("what there is to see of a dressing stays until it is another, or another dressing is looked at", () => {
  start();
  const sights = ["first", "second"].map((name) => ({ name }) as never);
  const told = (of: string | null, now: unknown) => listener.results([], scene("one", "a", "b"), { of, now });
  told("a", sights[0]);
  expect([sightNow("a"), sightNow("b"), sightNow(null)]).toEqual([sights[0], null, null]);
  told("a", null);
  expect(sightNow("a")).toBe(sights[0]);
  told("b", sights[1]);
  expect([sightNow("a"), sightNow("b")]).toEqual([null, sights[1]]);
  told(null, null);
  expect(sightNow("b")).toBeNull();
});

test("why placing failed is kept until it goes well again", () => {
  start();
  listener.failed("out of memory");
  expect(useResults.getState().failure).toBe("out of memory");
  listener.results([], scene("fine"));
  expect(useResults.getState().failure).toBeNull();
});

test("what pokes through is flagged and listed with the rest; what changes nothing leaves all as it was", () => {
  start();
  const one = scene("one", "a", "b");
  const placements = { key: BigUint64Array.of(4n, 7n), flags: new Uint16Array(2) };
  listener.results([{ id: "a", findings: ["sunk"], placements }, { id: "b" }], one);
  const before = useResults.getState();
  listener.poking(new Map([["a", []]]), one);
  expect(useResults.getState()).toBe(before);
  const poke = { check: "poking", keys: [7n] };
  listener.poking(new Map([["a", [poke]]]), scene("another"));
  expect(useResults.getState()).toBe(before);
  listener.poking(new Map([["a", [poke]]]), one);
  const after = useResults.getState();
  expect(findingsOf(after, "a")).toEqual(["sunk", poke]);
  expect([...placements.flags]).toEqual([0, 8]);
  expect(after.byDressing.get("b")).toBe(before.byDressing.get("b"));
  // The same again: flagged already, so what is drawn stays.
  listener.poking(new Map([["a", [poke]]]), one);
  expect(useResults.getState().byDressing).toBe(after.byDressing);
});

test("pegs of version 5 are written by their keys once, as no step to be undone, and those that found no slot stay", () => {
  start();
  const old = [1, 2].map((slot) => ({ line: "hill", slot, removed: true }));
  const opened = {
    ...emptyScene("Old"),
    dressings: [
      dressingSchema.parse({ id: "a", name: "A", where: { kind: "over", surfaces: ["hill"] }, oldPegs: old }),
    ],
  };
  laidOut(opened);
  const pegs = { "00100000000000ff": { on: "hill", removed: true } };
  const brought = { pegs, left: [{ peg: old[1], place: null }] };
  listener.results([{ id: "a", placements: { brought } }], opened);
  const { scene: written, past } = useSceneStore.getState().history;
  expect(written.dressings[0]).toMatchObject({ pegs, oldPegs: [old[1]] });
  expect(past).toEqual([]);
  // What is left is no reason to write it again, and neither is a scene that is no longer the one on the table.
  listener.results([{ id: "a", placements: { brought: { pegs, left: brought.left } } }], written);
  listener.results([{ id: "a", placements: { brought: { pegs, left: [] } } }], opened);
  expect(useSceneStore.getState().history.scene).toBe(written);
});

test("a moment that is gone to is shown with what the scene comes to then, whatever is changed or carried meanwhile", async () => {
  jest.useFakeTimers();
  const keyframes = [0, 4].map((at) => ({ at, value: at, go: "straight" as const }));
  const courses = { "fit/up": { keyframes, before: "hold", after: "hold" } };
  laidOut({
    ...emptyScene("tide"),
    dressings: [dressingSchema.parse({ id: "a", name: "A", fit: { up: 5 }, courses })],
  });
  useSceneStore.getState().seek(1);
  const store = useSceneStore.getState;
  const { request, stop } = start();
  const unsubscribe = useSceneStore.subscribe((now, was) => now.computed !== was.computed && request(now.computed));
  request(store().computed);
  const upOf = (scene: Scene) => scene.dressings[0].fit.up;
  const begun = store().computed;
  void showMoment(2);
  expect([store().moment, store().towards, upOf(last.scene), last.looks]).toEqual([1, 2, 2, false]);
  // What an earlier question comes to says how large an assembly is: nothing that is computed is another one by that.
  const there = last.scene;
  store().carry(new Map(), new Map([["cask", { min: [0, 0, 0], max: [1, 1, 1] }]]));
  listener.results([], begun);
  expect([last.scene === there, store().moment, store().computed === begun]).toEqual([true, 1, true]);
  // A change belongs to the moment that was asked for, and that moment comes all the same.
  store().change("Up", ({ dressings }) => void (dressings[0].fit.up = 7));
  expect([store().moment, upOf(last.scene), last.looks]).toEqual([1, 7, true]);
  expect(store().history.scene.dressings[0].courses["fit/up"].keyframes.map(({ at }) => at)).toEqual([0, 2, 4]);
  listener.results([], last.scene);
  expect([store().moment, store().towards, upOf(store().shown)]).toEqual([2, null, 7]);
  // What is changed beside what is computed, as around an assembly that is open, keeps nobody from it.
  void showMoment(3);
  useSceneStore.setState({ history: { ...store().history, scene: { ...store().history.scene } } });
  listener.results([], last.scene);
  listener.results([], last.scene);
  expect(store()).toMatchObject({ moment: 3, towards: null });
  void showMoment(2);
  listener.results([], last.scene);
  // Where it rests it is looked at for what is wrong, and only there.
  void showMoment(3);
  void showMoment(2);
  listener.results([], last.scene);
  expect(store()).toMatchObject({ moment: 2, towards: null });
  void showMoment(3);
  listener.results([], last.scene);
  void showMoment(4);
  jest.advanceTimersByTime(1000);
  expect([store().moment, last.looks]).toEqual([3, false]);
  listener.results([], last.scene);
  jest.advanceTimersByTime(1000);
  expect([store().moment, upOf(last.scene), last.looks]).toEqual([4, 4, true]);
  unsubscribe();
  stop();
  jest.useRealTimers();
});
