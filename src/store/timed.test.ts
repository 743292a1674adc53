/** What edits at a moment do to what changes over time, and to what does not. */
import { produce, type Draft } from "immer";
import fc from "fast-check";
import { withKeyframe, type Course } from "@/core/course";
import { COURSED, paramAt, parseScene, sceneAt, surfaceSchema, type Scene } from "@/core/scene";
import { harbourScene } from "@/core/scene/testing";
import { changed, dragBegun, dragEnded, dragged, startHistory, undone, type Recipe } from "./history";
import { atMoment } from "./timed";

const course = (...values: Course["keyframes"][number]["value"][]): Course => ({
  keyframes: values.map((value, at) => ({ at, value, go: "straight" })),
  before: "hold",
  after: "hold",
});

/** The harbour, of whose first line the first knot moves, and of whose first dressing the offset. */
const scene: Scene = produce(parseScene(JSON.parse(JSON.stringify(harbourScene()))), (draft) => {
  const [line, dressing] = [draft.lines[0], draft.dressings[0]] as { courses: Record<string, Course> }[];
  line.courses = { "knots/0/position": course([0, 0, 0], [4, 2, 0]) };
  dressing.courses = { "fit/up": course(0, 3), "gaps/chance": course(0.1, 0.2) };
});
const edited = (recipe: Recipe, t: number, from = scene) => produce(from, atMoment(recipe, t));
const moment = fc.integer({ min: -8, max: 24 }).map((eighths) => eighths / 8);

test("what is set at a moment is there at that moment: as a keyframe where there are some, else for all time", () => {
  const values = { "fit/up": 7.5, "fit/across": -2, "gaps/chance": 0.9, "spacing/distance": 0.8 } as const;
  fc.assert(
    fc.property(moment, fc.constantFrom(...(Object.keys(values) as (keyof typeof values)[])), (t, path) => {
      const [step, name] = path.split("/") as ["fit", "up"];
      const now = edited((draft) => void (draft.dressings[0][step][name] = values[path]), t);
      const at = (scene: Scene, t: number) => paramAt("dressings", sceneAt(scene, t).dressings[0], path)!.value;
      expect(at(now, t)).toBe(values[path]);
      const had = scene.dressings[0].courses[path];
      for (const other of [-1, 0, 1, 3]) {
        const apart = Math.abs(other - t) > 1e-9;
        if (!had) expect(at(now, other)).toBe(values[path]);
        // Keyframes elsewhere are what they were.
        else if (apart && had.keyframes.some(({ at }) => at === other)) expect(at(now, other)).toBe(at(scene, other));
      }
      // Under the courses nothing changes, and of nothing else is there anything new.
      for (const list of COURSED) if (list !== "dressings") expect(now[list]).toBe(scene[list]);
      if (had) expect(now.dressings[0][step]).toEqual(scene.dressings[0][step]);
      expect(Object.keys(now.dressings[0].courses)).toEqual(Object.keys(scene.dressings[0].courses));
    }),
  );
});

test("an edit that changes nothing of what is seen changes nothing at all; looking at other moments writes nothing", () => {
  fc.assert(
    fc.property(moment, (t) => {
      const history = startHistory(scene);
      expect(
        changed(
          history,
          "Nothing",
          atMoment(() => undefined, t),
        ),
      ).toBe(history);
      const same = (draft: Draft<Scene>) =>
        void (draft.lines[0].knots[0].position = [...draft.lines[0].knots[0].position]);
      expect(edited(same, t).lines[0].courses).toEqual(scene.lines[0].courses);
    }),
  );
});

test("a drag at a moment is one keyframe, and undone in one step", () => {
  const move = (x: number) => atMoment((draft) => void (draft.lines[0].knots[0].position = [x, 0, 1]), 0.5);
  let history = dragBegun(startHistory(scene), "Move");
  for (const x of [1, 2, 3]) history = dragged(history, move(x));
  history = dragEnded(history);
  const { keyframes } = history.scene.lines[0].courses["knots/0/position"];
  expect(keyframes.map(({ at, value }) => [at, value])).toEqual([[0, [0, 0, 0]], [0.5, [3, 0, 1]], [1, [4, 2, 0]]]); // prettier-ignore
  expect(undone(history).scene).toEqual(scene);
});

test("what becomes something else keeps those courses that mean something for it, so that it can be read again", () => {
  const bumps = { kind: "bumps", width: 9, depth: 9, height: 1, size: 3, rough: 1, seed: 1 };
  const ground = surfaceSchema.parse({ id: "ground", name: "Ground", made: bumps });
  const courses = { "made/width": course(9, 12), "made/height": course(0, 2), "made/size": course(3, 4) };
  const before = { ...scene, surfaces: [...scene.surfaces, { ...ground, courses }] };
  const now = edited((draft) => {
    draft.surfaces.at(-1)!.made = { kind: "box", width: 9, height: 2, depth: 9 };
  }, 1, before); // prettier-ignore
  expect(Object.keys(now.surfaces.at(-1)!.courses)).toEqual(["made/width"]);
  expect(parseScene(JSON.parse(JSON.stringify(now))).surfaces.at(-1)).toEqual(now.surfaces.at(-1));
});

test("what is deleted takes its course along, what is duplicated brings it, and without its course a value stays as it is seen", () => {
  const gone = edited((draft) => void draft.lines[0].knots.shift(), 0.5);
  expect(gone.lines[0].courses).toEqual({});
  const fewer = edited((draft) => void draft.dressings.pop(), 0.5);
  expect(fewer.dressings).toEqual(scene.dressings.slice(0, -1));
  const copied = edited((draft) => {
    draft.dressings.push({ ...draft.dressings[0], id: "copy", name: "Copy" });
    draft.dressings.splice(0, 1);
  }, 0.5);
  const copy = copied.dressings.at(-1)!;
  expect(copy.courses).toEqual(scene.dressings[0].courses);
  expect(sceneAt(copied, 1).dressings.at(-1)!.fit.up).toBe(3);
  const still = edited((draft) => void delete draft.dressings[0].courses["fit/up"], 0.5);
  expect([still.dressings[0].fit.up, Object.keys(still.dressings[0].courses)]).toEqual([1.5, ["gaps/chance"]]);
  const begun = edited((draft) => {
    (draft.dressings[0].courses as Record<string, Course>)["fit/along"] = withKeyframe(undefined, 0.5, 2);
  }, 0.5);
  expect(sceneAt(begun, 9).dressings[0].fit.along).toBe(2);
});

test("what is held is edited where it is seen: under it is where it stood, and what nobody touched is the same object", () => {
  const box = (id: string) => surfaceSchema.parse({ id, name: id, made: { kind: "box" } });
  const tie = { kind: "surface" as const, surface: "boat", at: [0, 0, 0] as const, stood: { position: [0, 0, 0] as const, rotation: [0, 0, 0, 1] as const, scale: 1 } }; // prettier-ignore
  const scene = {
    ...harbourScene(),
    surfaces: [box("boat"), { ...box("deck"), position: [1, 0, 0] as const, held: tie }],
  };
  const carries = new Map([["surface/deck", { turn: [0, 0, 0, 1] as const, from: [0, 0, 0] as const, to: [0, 5, 0] as const }]]); // prettier-ignore
  const after = (recipe: Recipe) => produce(scene, atMoment(recipe, 0, carries));
  const seen: number[] = [];
  const moved = after((draft) => {
    seen.push(...draft.surfaces[1].position);
    draft.surfaces[1].position = [1, 7, 0];
  });
  expect([seen, moved.surfaces[1].position]).toEqual([[1, 5, 0], [1, 2, 0]]); // prettier-ignore
  expect(moved.surfaces[0]).toBe(scene.surfaces[0]);
  const named = after((draft) => void (draft.surfaces[0].name = "Hull"));
  expect(named.surfaces[1]).toBe(scene.surfaces[1]);
});
