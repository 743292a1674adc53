import fc from "fast-check";
import { applyChange, changeBetween, EMPTY_SCENE, LISTS } from "./change";
import { harbourScene } from "./testing";
import { surfaceSchema } from "./surface-schema";
import type { Scene } from ".";

/** Edits in the way of the store: what is not edited stays the same object. */
const EDITS: readonly ((scene: Scene) => Scene)[] = [
  (scene) => ({ ...scene, lines: scene.lines.toReversed() }),
  (scene) => ({ ...scene, lines: scene.lines.slice(1) }),
  (scene) => ({ ...scene, props: scene.props.map((prop, i) => (i === 0 ? { ...prop, name: `${prop.name}'` } : prop)) }),
  (scene) => ({
    ...scene,
    dressings: scene.dressings.map((one) => ({ ...one, fit: { ...one.fit, across: one.fit.across + 1 } })),
  }),
  (scene) => ({
    ...scene,
    dressings: [...scene.dressings, { ...scene.dressings[0], id: `${scene.dressings.length}` }],
  }),
  (scene) => ({ ...scene, dressings: [] }),
  // What a surface has only while it moves comes and goes.
  ({ surfaces: [old], ...scene }) => {
    const stand = { position: [0, 1, 0], rotation: [0, 0, 0, 1], scale: 1 } as const;
    const water = surfaceSchema.parse({ id: "water", name: "Water", made: { kind: "bumps" } });
    return { ...scene, surfaces: [old?.rest ? water : { ...water, rest: stand }] };
  },
  (scene) => ({ ...scene, name: `${scene.name}'`, views: [...scene.views] }),
  () => harbourScene(),
];

test("a change brings one scene to the next; all that it does not speak of stays the same object", () => {
  fc.assert(
    fc.property(fc.array(fc.constantFrom(...EDITS), { minLength: 1, maxLength: 8 }), (edits) => {
      let [scene, held] = [harbourScene(), applyChange(EMPTY_SCENE as Scene, changeBetween(null, harbourScene(), 0))];
      held = applyChange(held, changeBetween(null, scene, 1));
      edits.forEach((edit, k) => {
        const next = scene.dressings.length > 0 ? edit(scene) : harbourScene();
        const change = structuredClone(changeBetween(scene, next, k + 2));
        const now = applyChange(held, change);
        for (const list of LISTS) {
          expect(now[list]).toEqual(next[list]);
          expect([now.name, now.views]).toEqual([next.name, next.views]);
          if (next[list] === scene[list]) expect(now[list]).toBe(held[list]);
          next[list].forEach((thing, i) => {
            const before = scene[list].findIndex(({ id }) => id === thing.id);
            if (scene[list][before] === thing) expect(now[list][i]).toBe(held[list][before]);
          });
        }
        [scene, held] = [next, now];
      });
    }),
    { numRuns: 60 },
  );
});

test("of a dressing only the steps go over that are others; with no change nothing does; anew forgets what was there", () => {
  const scene = harbourScene();
  const [buoys, oars] = scene.dressings;
  const edited = { ...scene, dressings: [buoys, { ...oars, gaps: { ...oars.gaps, chance: 0.7 } }] };
  const { lists } = changeBetween(scene, edited, 2);
  expect(lists).toEqual({ dressings: { set: [{ id: "oars", gaps: edited.dressings[1].gaps }] } });
  expect(changeBetween(scene, scene, 3).lists).toEqual({});
  const empty = applyChange(scene, { revision: 4, anew: true, lists: {} });
  for (const list of LISTS) expect(empty[list]).toEqual([]);
});
