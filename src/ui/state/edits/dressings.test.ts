/** What a dressing begins with, and what of it follows its props. */
import {
  addVolume,
  dress,
  dressBox,
  dressField,
  beginClearance,
  beginRows,
  editDressing,
  editEntries,
  makeSurface,
  renameProp,
  surfaceOf,
} from ".";
import { scene, startInHarbour } from "./testing";

beforeEach(startInHarbour);

test("a distance that came from the props' size follows them; one that was chosen stays", () => {
  const id = "buoys";
  const distance = () => scene().dressings.find((one) => one.id === id)!.spacing.distance;
  const swap = (prop: string) =>
    editEntries(id, "Swap", (what) => void (what.entries = [{ ...what.entries[0], prop }]));
  editDressing(id, "Begin", (draft) => void (draft.what.entries = []));
  editEntries(id, "Add", (what) => void what.entries.push({ id: 1, prop: "buoy", count: 1, weight: 1 }));
  const own = distance();
  swap("oar");
  expect(distance()).not.toBe(own);
  swap("buoy");
  expect(distance()).toBe(own);
  editDressing(id, "Every", (draft) => void (draft.spacing.distance = 7));
  swap("oar");
  expect(distance()).toBe(7);
});

test("rows and the room between begin from the prop's size when they are first asked for, and at no other time", () => {
  const id = "buoys";
  const fit = () => scene().dressings.find((one) => one.id === id)!.fit;
  const set = (change: Partial<ReturnType<typeof fit>>) =>
    editDressing(id, "Fit", (draft) => {
      const before = scene().dressings.find((one) => one.id === id)!;
      Object.assign(draft.fit, change);
      beginRows(draft, before);
      beginClearance(draft, before);
    });
  set({ rows: 1, rowDistance: 0.5, clear: "off", clearance: 0 });
  set({ rows: 3 });
  const apart = fit().rowDistance;
  expect(apart).not.toBe(0.5);
  set({ rows: 4 });
  expect(fit().rowDistance).toBe(apart);
  expect(fit().clearance).toBe(0);
  set({ clear: "radius" });
  expect(fit().clearance).toBeGreaterThan(0);
  set({ clearance: 0 });
  set({ clear: "box" });
  expect(fit().clearance).toBe(0);
});

test("a dressing that is called after its prop is renamed with it, until somebody names it", () => {
  dress("quay", "oar");
  dress("quay", "oar");
  const [first, second] = scene()
    .dressings.slice(-2)
    .map(({ id }) => id);
  const name = (id: string) => scene().dressings.find((one) => one.id === id)!.name;
  editDressing(second, "Rename", (draft) => void (draft.name = "Row of oars"));
  renameProp("oar", "Paddle");
  expect([name(first), name(second)]).toEqual([expect.stringMatching(/^Paddle( \d+)?$/), "Row of oars"]);
  renameProp("oar", "Scull");
  expect(name(first)).toMatch(/^Scull/);
});

test("what fills a box shows what is in it and keeps from its walls, from the start", () => {
  dressBox("buoy", [0, 0, 0]);
  const [box, made] = [scene().surfaces.at(-1)!, scene().dressings.at(-1)!];
  expect([box.outline, made.where.volumes, made.where.kind]).toEqual([true, [box.id], "inside"]);
  expect(made.gaps.walls).toBeGreaterThan(0);
  expect(made.what.entries.map(({ prop }) => prop)).toEqual(["buoy"]);
  makeSurface("box", [5, 0, 0]);
  const solid = scene().surfaces.at(-1)!.id;
  expect(surfaceOf(scene(), solid)!.outline).toBe(false);
  dressField({ volumes: [solid] }, 30, "oar");
  expect(surfaceOf(scene(), solid)!.outline).toBe(true);
  makeSurface("box", [9, 0, 0]);
  const other = scene().surfaces.at(-1)!.id;
  addVolume(made.id, other);
  expect(scene().dressings.find(({ id }) => id === made.id)!.where.volumes).toEqual([box.id, other]);
  expect(surfaceOf(scene(), other)!.outline).toBe(true);
});
