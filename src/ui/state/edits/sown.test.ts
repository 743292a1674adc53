/** What is sown by hand stays where it was put, whatever becomes of its surface, and goes when it is gathered. */
import fc from "fast-check";
import { evenly } from "@/core/math/testing";
import { distance, type Vec3 } from "@/core/math";
import { MAX_LINE_NUMBER } from "@/core/line";
import { countThere, hexOf, MOST_STROKES, packed, sownKey, type Key } from "@/core/place";
import { parseScene } from "@/core/scene";
import { Engine } from "@/engine/engine";
import { useSceneStore } from "@/store/scene-store";
import {
  deleteSurface,
  duplicateSurface,
  gatherAll,
  makeSurface,
  mendFinding,
  pinsOf,
  removePlacements,
  SownStroke,
  turnPlacements,
  writeSown,
} from ".";
import { smoothFor } from "./smooth";
import { scene, startInHarbour } from "./testing";

const { change, undo } = useSceneStore.getState();
const last = () => scene().dressings.at(-1)!;
const counts = () => last().sown.map(({ places }) => countThere(places));

/** A box, and things sown on its upper side in so many strokes. */
function sownOnBox(strokes: readonly (readonly Vec3[])[]): string {
  startInHarbour();
  makeSurface("box", [4, 1, 2]);
  const { id } = scene().surfaces.at(-1)!;
  change("Dress", (draft) => void draft.dressings.push(pinsOf("buoy") as never));
  for (const places of strokes) {
    const stroke = new SownStroke(last());
    for (const point of places) stroke.add(scene(), [{ on: id, point }]);
    change("Sow", (draft) => writeSown(draft.dressings.at(-1)!, stroke));
  }
  return id;
}

function standing(): Map<Key, Vec3> {
  const result = new Engine().evaluate(scene()).find(({ id }) => id === last().id)!;
  const { key, origin, position } = result.placements;
  return new Map(Array.from(key, (one, i) => [one, [0, 1, 2].map((k) => origin[k] + position[3 * i + k]) as unknown as Vec3])); // prettier-ignore
}
const findings = () => new Engine().evaluate(scene()).find(({ id }) => id === last().id)!.findings;
const same = (a: Map<Key, Vec3>, b: Map<Key, Vec3>) => a.size === b.size && [...a].every(([key, at]) => distance(at, b.get(key)!) < 2e-3); // prettier-ignore

const place = fc.tuple(evenly(3.1, 4.9), fc.constant(4), evenly(1.1, 2.9));
const strokes = fc.array(fc.array(place, { minLength: 1, maxLength: 12 }), { minLength: 1, maxLength: 4 });

test("it stands where it was put; written and read it is the same; its surface gone, it stays there loose", () => {
  fc.assert(
    fc.property(strokes, (all) => {
      const box = sownOnBox(all);
      const was = standing();
      all.forEach((places, n) =>
        places.forEach(([x, , z], i) => {
          const [px, , pz] = was.get(sownKey(n + 1, i))!;
          expect(Math.hypot(px - x, pz - z)).toBeLessThan(2e-3);
        }),
      );
      expect(last().where.surfaces).toEqual([box]);
      expect(parseScene(JSON.parse(JSON.stringify(scene())))).toEqual(scene());
      deleteSurface(box);
      expect(same(standing(), was)).toBe(true);
      undo();
      expect(same(standing(), was)).toBe(true);
      duplicateSurface(box);
      expect(standing().size).toBe(2 * was.size);
      expect(new Set(last().sown.map(({ number }) => number)).size).toBe(2 * all.length);
    }),
    { numRuns: 12 },
  );
});

test("what is gathered goes with its pegs, the rest keeps its key; a dressing that has left its surface says what it lacks", () => {
  fc.assert(
    fc.property(strokes, fc.nat(3), fc.nat(11), (all, n, i) => {
      const box = sownOnBox(all);
      const was = standing();
      const key = [...was.keys()][(5 * n + i) % was.size];
      turnPlacements(last().id, [key], 1);
      expect(last().pegs[hexOf(key)]).toMatchObject({ on: box, turn: expect.closeTo(1, 3) as number });
      removePlacements(last().id, [key]);
      const left = new Map([...was].filter(([one]) => one !== key));
      expect([same(standing(), left), last().pegs, counts().every((count) => count > 0)]).toEqual([true, {}, true]);
      smoothFor(last().id);
      expect(standing().size).toBe(left.size);
      undo();
      change("Leave", (draft) => void (draft.dressings.at(-1)!.where.surfaces = []));
      const [finding] = findings().filter(({ check }) => check === "sown-astray");
      expect(finding?.count ?? 0).toBe(left.size);
      if (finding) mendFinding(finding, finding.mend!);
      expect(last().sown).toEqual([]);
      undo();
      if (left.size > 0) undo();
      gatherAll(last().id, "Gather it all");
      expect([last().sown, standing().size]).toEqual([[], 0]);
    }),
    { numRuns: 12 },
  );
});

test("a stroke too many is none, and a stroke beside all surfaces writes nothing", () => {
  const box = sownOnBox([]);
  const one = { number: 1, on: box, from: [0, 0, 0] as const, places: "" };
  const full = new SownStroke({ sown: Array.from({ length: MOST_STROKES }, (_, n) => ({ ...one, number: n + 1 })) });
  full.add(scene(), [{ on: box, point: [4, 4, 2] }]);
  expect([full.isFull, full.blocks]).toEqual([true, []]);
  // Numbers that a file has used up are looked for from the first on; copies stop where there is no more room.
  change("Lie", (draft) => void draft.dressings.at(-1)!.where.surfaces.push(box));
  change("Sow", (draft) => void draft.dressings.at(-1)!.sown.push({ ...one, from: [0, 3, 0], number: MAX_LINE_NUMBER, places: packed([0, 0, 0]) })); // prettier-ignore
  duplicateSurface(box);
  expect(last().sown.map(({ number }) => number)).toEqual([MAX_LINE_NUMBER, 1]);
  change("Fill", (draft) => void (draft.dressings.at(-1)!.sown = Array.from({ length: MOST_STROKES }, (_, n) => ({ ...one, from: [0, 0, 0], number: n + 1 })))); // prettier-ignore
  duplicateSurface(box);
  expect(last().sown).toHaveLength(MOST_STROKES);
  for (let k = 0; k < 5; k++) undo();
  change("Sow", (draft) => writeSown(draft.dressings.at(-1)!, new SownStroke(null)));
  expect([last().sown, last().where.surfaces]).toEqual([[], []]);
});
