import { FLAG } from "@/core/place";
import { harbourScene } from "@/core/scene/testing";
import type { Scene } from "@/core/scene";
import { Engine } from "./engine";
import { evaluateScene, LimitError } from "./jobs";

/** What a worker gets: the same content, nothing of it the same object. */
const sent = (scene: Scene): Scene => structuredClone(scene);

const changed = (engine: Engine, edit: (scene: Scene) => void): string[] => {
  const scene = sent(harbourScene());
  edit(scene);
  return engine.evaluate(scene).map(({ id }) => id);
};

function warm(): Engine {
  const engine = new Engine();
  expect(engine.evaluate(sent(harbourScene())).map(({ id }) => id)).toEqual(["buoys", "oars"]);
  return engine;
}

describe("between two scenes only what differs is computed:", () => {
  test.each<[string, (scene: Scene) => void, string[]]>([
    ["nothing", () => undefined, []],
    ["the scene's name", (scene) => (scene.name = "Elsewhere"), []],
    ["one dressing's spacing", (scene) => (scene.dressings[0].spacing.distance = 2), ["buoys"]],
    ["a line that one dressing follows", (scene) => (scene.lines[1].name = "Pier"), ["oars"]],
    ["a prop's size", (scene) => (scene.props[1].bounds = { min: [-1, 0, -1], max: [1, 1, 1] }), ["oars"]],
    ["a peg", (scene) => scene.dressings[1].pegs.push({ line: "quay", slot: 0, removed: true }), ["oars"]],
    ["the order of the dressings", (scene) => scene.dressings.reverse(), []],
    ["one dressing gone", (scene) => scene.dressings.pop(), []],
  ])("%s", (_, edit, expected) => {
    expect(changed(warm(), edit)).toEqual(expected);
  });

  test("a knot of a line that both follow", () => {
    const moved = (scene: Scene) => (scene.lines[0].knots[1] = { position: [12, 0, 3] });
    expect(changed(warm(), moved)).toEqual(["buoys", "oars"]);
  });
});

test("what was remembered gives the same placements as computing anew", () => {
  const edits: ((scene: Scene) => void)[] = [
    (scene) => (scene.dressings[1].gaps.chance = 0.5),
    (scene) => (scene.dressings[1].variation.seed = 9),
    (scene) => (scene.dressings[1].stance.up = "line"),
    (scene) => (scene.dressings[1].fit.across = 0.3),
    (scene) => (scene.dressings[1].what.order = "sequence"),
    (scene) => (scene.lines[1].knots[1] = { position: [3, 1, 1] }),
    (scene) => (scene.dressings[1].pegs = []),
  ];
  const engine = warm();
  const scene = harbourScene();
  for (const edit of edits) {
    edit(scene);
    const fresh = new Engine().evaluate(sent(scene)).find(({ id }) => id === "oars");
    expect(engine.evaluate(sent(scene)).find(({ id }) => id === "oars")).toEqual(fresh);
  }
});

test("placements that a finding names carry its flag, and only they", () => {
  const scene = harbourScene();
  scene.dressings[0].pegs = [{ line: "quay", slot: 3, at: 4.1 }];
  const [{ placements, findings }] = new Engine().evaluate(scene);
  expect(findings).toHaveLength(1);
  const flagged = Array.from(placements.key).filter((_, i) => placements.flags[i] & FLAG.finding);
  expect(flagged.sort()).toEqual([...findings[0].keys].sort());
});

describe("whole jobs", () => {
  test("one dressing can be asked for by name; an unknown one is answered with those there are", () => {
    expect(evaluateScene(harbourScene(), { dressing: "Oars" }).dressings.map((d) => d.dressing.id)).toEqual(["oars"]);
    expect(() => evaluateScene(harbourScene(), { dressing: "Sails" })).toThrow("the scene has “Buoys”, “Oars”");
  });

  test("more than is allowed is refused, by number and by time; just as much is not", () => {
    const { placements } = new Engine().evaluate(harbourScene())[0];
    const only = { dressing: "Buoys" };
    expect(() => evaluateScene(harbourScene(), { ...only, maxPlacements: placements.count - 1 })).toThrow(LimitError);
    expect(evaluateScene(harbourScene(), { ...only, maxPlacements: placements.count }).dressings).toHaveLength(1);
    expect(() => evaluateScene(harbourScene(), { deadline: performance.now() - 1 })).toThrow("takes too long");
  });
});
