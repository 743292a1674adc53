/** Assemblies by hand: whatever is kept, opened, left or taken apart, nothing that is seen moves by it. */
import fc from "fast-check";
import { lineKey, standingAt, type Placements } from "@/core/place";
import { inside, keptFrom, parseScene, type Scene } from "@/core/scene";
import { harbourScene } from "@/core/scene/testing";
import { Engine } from "@/engine/engine";
import { useSceneStore } from "@/store/scene-store";
import { useInsides, wholeOf } from "../insides";
import { useResults } from "../results";
import { useSession } from "../session";
import {
  deleteProp,
  duplicateAssembly,
  editAssembly,
  editDressing,
  editSurface,
  keepAsAssembly,
  keepPlacements,
  keepTrouble,
  leaveAssembly,
  makeSurface,
  openAssembly,
  renameProp,
  takeAllApart,
  takeApart,
  usesSaid,
} from ".";
import { laidOut, scene } from "./testing";

const undo = () => useSceneStore.getState().undo();

/** Works out what is seen, as the application does. */
function look(): Engine {
  const engine = new Engine();
  const results = engine.evaluate(useSceneStore.getState().computed).map((result) => engine.drawn(result));
  const insides = [...engine.insides].map(
    ([id, { placements }]) => [id, { count: placements.count, box: engine.boxOf(id), placements }] as const,
  );
  useResults.setState({ byDressing: new Map(results.map((result) => [result.id, result])) });
  useInsides.setState({ insides: new Map(insides) });
  useSceneStore
    .getState()
    .carry(new Map(), new Map(insides.flatMap(([id, { box }]) => (box ? [[id, box] as const] : []))));
  return engine;
}

/** Everything that stands, as texts that tell where and how, in no order. */
function seen(): string[] {
  look();
  const said = (p: Placements, i: number) => {
    const { prop, position, rotation, scale } = standingAt(p, i);
    const turn = rotation[3] < 0 ? rotation.map((x) => -x) : rotation;
    const numbers = [...position, ...turn, ...scale].map((x) => (Math.round(x * 500) / 500 + 0).toFixed(3));
    return `${prop} ${numbers.join(" ")}`;
  };
  return [...useResults.getState().byDressing.values()]
    .flatMap((result) => {
      const whole = wholeOf(result);
      return Array.from({ length: whole.count }, (_, i) => i)
        .filter((i) => whole.prop[i] < whole.props.length && !(whole.flags[i] & 2))
        .map((i) => said(whole, i));
    })
    .sort();
}

/** Of lists of texts with numbers in them whether they are as good as the same. */
const near = (a: readonly string[], b: readonly string[]): boolean => {
  const left = [...b];
  return (
    a.length === b.length &&
    a.every((one) => {
      const [prop, ...numbers] = one.split(" ");
      const k = left.findIndex((other) => {
        const [own, ...those] = other.split(" ");
        return own === prop && numbers.every((x, i) => Math.abs(Number(x) - Number(those[i])) < 0.006);
      });
      if (k >= 0) left.splice(k, 1);
      return k >= 0;
    })
  );
};

const VARIED = { turnOn: true, turnUp: [-2, 2], turnAlong: [-0.4, 0.4], sizeOn: true, size: [0.6, 1.8], mirror: 0.4 };

function start(more: object = VARIED): Scene {
  const base = harbourScene();
  const start = parseScene(
    JSON.parse(
      JSON.stringify({ ...base, dressings: base.dressings.map((one) => ({ ...one, variation: { ...one.variation, ...more } })) }), // prettier-ignore
    ),
  );
  laidOut(start);
  useSceneStore.setState({ opened: [], boxes: new Map() });
  useSession.setState({ dressing: start.dressings[0].id, focus: { kind: "dressing" }, keys: new Set() });
  look();
  return start;
}

const assemblyIn = (one: Scene) => one.props.filter(({ assembly }) => assembly !== null);

test("what is kept stands where it stood, is one prop with one use, and undo brings back what was", () => {
  const before = start();
  const was = seen();
  expect(keepTrouble(before.dressings.map(({ id }) => id))).toBeNull();
  keepAsAssembly([before.dressings[0].id], "Quay");
  expect(near(seen(), was)).toBe(true);
  const [prop] = assemblyIn(scene());
  expect(scene().dressings.map(({ where }) => where.kind)).toContain("loose");
  expect(scene().dressings).toHaveLength(before.dressings.length);
  expect(usesSaid(prop.id)).toBe("1 dressing");
  // The pivot is below the middle of it all.
  const { min, max } = prop.bounds;
  expect(prop.prepared.point[1]).toBeCloseTo(min[1], 5);
  expect(prop.prepared.point[0]).toBeCloseTo((min[0] + max[0]) / 2, 5);
  expect(parseScene(JSON.parse(JSON.stringify(scene())))).toEqual(scene());
  undo();
  expect(scene()).toEqual(before);
});

test("lines that others need stay in the scene, and are copied; names of what is left behind are taken out", () => {
  const before = start();
  const [first, second] = before.dressings;
  editDressing(second.id, "", (draft) => {
    draft.where.lines = [...first.where.lines];
    draft.fit.clearOf = [first.id];
    draft.pegs = {};
  });
  const was = seen();
  keepAsAssembly([second.id], "Row");
  const [prop] = assemblyIn(scene());
  const { lines, dressings } = prop.assembly!;
  expect(scene().lines).toEqual(before.lines);
  expect(lines.map(({ id }) => before.lines.some((line) => line.id === id))).toEqual([false]);
  expect(dressings[0].where.lines).toEqual([lines[0].id]);
  expect(dressings[0].fit.clearOf).toEqual([]);
  expect(was.length).toBeGreaterThan(0);
  undo();
  // What it stands on comes along, since it would fall otherwise; and so does what holds it.
  editDressing(second.id, "", (draft) => void Object.assign(draft.fit, { drop: "down", ontoProps: [first.id] }));
  expect(keptFrom(scene(), [second.id])).toMatchObject({
    taken: new Set([first.id, second.id, "quay"]),
    left: new Set(),
  });
  expect(keptFrom(scene(), [first.id]).taken).toEqual(new Set([first.id]));
  editDressing(second.id, "", (draft) => void Object.assign(draft.fit, { ontoProps: [] }));
  expect(keptFrom(scene(), [second.id]).left).toEqual(new Set([first.id]));
});

test("what stands upright stays so by its turn alone; only what leans hangs by its pivot", () => {
  for (const [variation, leans] of [
    [{ turnOn: true, turnUp: [-3, 3] }, false],
    [VARIED, true],
  ] as const) {
    start(variation);
    const was = seen();
    const [{ id }] = scene().dressings;
    keepPlacements(id, useResults.getState().byDressing.get(id)!.placements.key, "Row");
    expect(near(seen(), was)).toBe(true);
    const [prop] = assemblyIn(scene());
    const hangs = prop.assembly!.dressings.flatMap(({ pegs }) => Object.values(pegs)).map((peg) => peg.hangs !== undefined); // prettier-ignore
    expect([hangs.includes(true), hangs.includes(false)]).toEqual([leans, !leans]);
    const use = scene().dressings.find(({ pegs }) => Object.values(pegs).some((peg) => peg.prop === prop.id))!;
    expect(Object.values(use.pegs)).toEqual([{ on: "loose", prop: prop.id, added: true, point: prop.prepared.point }]);
  }
});

test("props that stand together are kept as they stand, mirrored ones too; taken apart they stand so again", () => {
  fc.assert(
    fc.property(fc.subarray([0, 1, 2, 3, 4, 5], { minLength: 1 }), fc.integer({ min: 1, max: 99 }), (chosen, seed) => {
      start({ ...VARIED, seed });
      const was = seen();
      const [{ id }] = scene().dressings;
      const { key, count } = useResults.getState().byDressing.get(id)!.placements;
      const keys = chosen.filter((i) => i < count).map((i) => key[i]);
      keepPlacements(id, keys, "Handful");
      expect(near(seen(), was)).toBe(true);
      const [prop] = assemblyIn(scene());
      expect(useInsides.getState().insides.get(prop.id)!.count).toBe(keys.length);
      takeAllApart(prop.id);
      expect(usesSaid(prop.id)).toBeNull();
      expect(near(seen(), was)).toBe(true);
    }),
    { numRuns: 12 },
  );
});

test("opened, its own things are edited, from the whole scene nothing else; the way back leads through what it is in", () => {
  start();
  keepAsAssembly([scene().dressings[0].id], "Quay");
  look();
  const [quay] = assemblyIn(scene());
  keepAsAssembly([scene().dressings.find(({ pegs }) => Object.values(pegs).some(({ prop }) => prop === quay.id))!.id], "Harbour"); // prettier-ignore
  look();
  const [, harbour] = assemblyIn(scene());
  openAssembly(harbour.id);
  openAssembly(quay.id);
  expect(useSceneStore.getState().opened).toEqual([harbour.id, quay.id]);
  const outer = scene();
  const [own] = useSceneStore.getState().shown.dressings;
  look();
  editDressing(own.id, "Count", (draft) => void Object.assign(draft.spacing, { by: "count", count: 3 }));
  expect({ ...scene(), props: [] }).toEqual({ ...outer, props: [] });
  expect(assemblyIn(scene())[0].assembly!.dressings[0].spacing.count).toBe(3);
  // What is used everywhere is renamed and deleted everywhere.
  const used = own.what.entries[0].prop!;
  renameProp(used, "Renamed");
  deleteProp(used);
  expect(JSON.stringify(scene())).not.toContain(`"${used}"`);
  undo();
  leaveAssembly(1);
  expect(useSceneStore.getState().opened).toEqual([harbour.id]);
  expect(useSession.getState().focus).toEqual({ kind: "prop", id: quay.id });
  leaveAssembly(0);
  expect(useSceneStore.getState().shown.dressings).toEqual(scene().dressings);
  // Undone to before it was there, nothing is open any more.
  openAssembly(harbour.id);
  for (let k = 0; k < 9; k++) undo();
  expect(useSceneStore.getState().opened).toEqual([]);
});

test("an assembly is put into none that is in it; a copy is another all through", () => {
  start();
  keepAsAssembly([scene().dressings[0].id], "Quay");
  look();
  const [quay] = assemblyIn(scene());
  openAssembly(quay.id);
  const before = scene();
  editDressing(quay.assembly!.dressings[0].id, "Swap", (draft) => void (draft.what.entries[0].prop = quay.id));
  expect(scene()).toBe(before);
  expect(useSceneStore.getState().refused?.reason).toBe(`“${quay.name}” would be in itself`);
  leaveAssembly(0);
  duplicateAssembly(quay.id);
  const [, copy] = assemblyIn(scene());
  const ids = (parts: Pick<Scene, "lines" | "dressings">) => [...parts.lines, ...parts.dressings].map(({ id }) => id);
  expect(ids(copy.assembly!).some((id) => ids(quay.assembly!).includes(id))).toBe(false);
  expect(copy.assembly!.dressings[0].where.lines).toEqual(copy.assembly!.lines.map(({ id }) => id));
  expect(inside(scene(), copy.id).dressings).toBe(copy.assembly!.dressings);
  editAssembly(copy.id, "Each use", (draft) => void (draft.each = "varied"));
  expect(assemblyIn(scene()).map(({ assembly }) => assembly!.each)).toEqual(["same", "varied"]);
});

test("a slot of a rule that is taken apart is blank from then on, and all others stay", () => {
  start({});
  keepAsAssembly([scene().dressings[0].id], "Quay");
  look();
  const [quay] = assemblyIn(scene());
  const other = scene().dressings.find(({ what }) => what.entries.length > 0)!;
  editDressing(other.id, "Swap", (draft) => void (draft.what.entries = [{ ...draft.what.entries[0], prop: quay.id }]));
  const was = seen();
  const { key } = useResults.getState().byDressing.get(other.id)!.placements;
  takeApart(other.id, [key[0], lineKey(77, 5)]);
  expect(near(seen(), was)).toBe(true);
  expect(Object.values(scene().dressings.find(({ id }) => id === other.id)!.pegs)).toMatchObject([
    { at: 1.4 },
    { removed: true },
  ]);
});

test("a surface that is part of what is kept is seen in its use where it stood; taken apart it is one by itself there again", () => {
  start({});
  const [first, second] = scene().dressings;
  makeSurface("box", [1, 2, 3]);
  const [{ id }] = scene().surfaces;
  editSurface(id, "", (draft) => Object.assign(draft, { rotation: [0, 0.6, 0, 0.8], scale: 1.5, name: "Counter" }));
  const before = scene();
  const [was] = before.surfaces;
  const others = seen();
  keepAsAssembly([first.id], "Stall", [id]);
  const [stall] = assemblyIn(scene());
  expect(scene().surfaces).toEqual([]);
  expect(stall.assembly!.surfaces).toEqual([{ ...was, part: true }]);
  expect(near(seen(), [...others, `${id} 1.000 2.000 3.000 0.000 0.600 0.000 0.800 1.500 1.500 1.500`])).toBe(true);
  takeAllApart(stall.id);
  const [back] = scene().surfaces;
  expect(back).toMatchObject({ name: "Counter", made: was.made, part: false });
  for (const [now, then] of [[back.position, was.position], [back.rotation, was.rotation], [[back.scale], [was.scale]]] as const) now.forEach((x, k) => expect(x).toBeCloseTo(then[k], 5)); // prettier-ignore
  expect(near(seen(), others)).toBe(true);
  undo();
  undo();
  expect(scene()).toEqual(before);
  // A mirrored one is no surface that there could be.
  look();
  keepAsAssembly([first.id], "Stall", [id]);
  const use = scene().dressings.find(({ where }) => where.kind === "loose")!;
  editDressing(use.id, "", (draft) => Object.assign(draft.variation, { mirror: 1 }));
  look();
  takeAllApart(assemblyIn(scene())[0].id);
  expect(scene().surfaces).toEqual([]);
  for (let k = 0; k < 3; k++) undo();
  expect(scene()).toEqual(before);
  // What something else lies on stays, and is copied; what is made of what stays in the assembly stays there as well.
  editDressing(second.id, "", (draft) => Object.assign(draft.fit, { drop: "down", onto: [id] }));
  look();
  keepAsAssembly([first.id], "Stall", [id]);
  expect(scene().surfaces.map((one) => one.id)).toEqual([id]);
  const [copy] = assemblyIn(scene())[0].assembly!.surfaces;
  expect([copy.id === id, copy.part]).toEqual([false, true]);
  openAssembly(assemblyIn(scene())[0].id);
  makeSurface("bumps", [0, 0, 0]);
  expect(assemblyIn(scene())[0].assembly!.surfaces.map(({ part }) => part)).toEqual([true, true]);
  leaveAssembly(0);
  makeSurface("bumps", [0, 0, 0]);
  expect(scene().surfaces.map(({ part }) => part)).toEqual([false, false]);
});

test("taken apart, an assembly is dressings with their rules again where it stands; what would be dealt anew is loose", () => {
  for (const [more, ruled] of [
    [{}, 2],
    [VARIED, 1],
  ] as const) {
    start(more);
    const [{ id, name }, { id: oars }] = scene().dressings;
    editDressing(oars, "", ({ where }) => void (where.lines = ["jetty"]));
    keepAsAssembly([id], name);
    look();
    const [prop] = assemblyIn(scene());
    const use = scene().dressings.find(({ where }) => where.kind === "loose")!;
    // Once more, turned and elsewhere.
    editDressing(use.id, "", ({ pegs }) => {
      const [[key, peg]] = Object.entries(pegs);
      pegs[key.replace(/.$/, "7")] = { ...peg, point: [20, 1, -3], turn: 1.2 };
    });
    const was = seen();
    takeAllApart(prop.id);
    expect(usesSaid(prop.id)).toBeNull();
    expect(near(seen(), was)).toBe(true);
    const now = scene().dressings.filter(({ id }) => id !== "oars");
    expect(now.map(({ where }) => where.kind).slice(0, 2)).toEqual(["along", ruled === 2 ? "along" : "loose"]);
    expect(new Set(scene().dressings.map((one) => one.name)).size).toBe(now.length + 1);
    expect(
      scene()
        .lines.slice(1)
        .map(({ number }) => number),
    ).toEqual(ruled === 2 ? [1, 3] : [1]);
    expect(parseScene(JSON.parse(JSON.stringify(scene())))).toEqual(scene());
    expect(useSession.getState().dressing).toBe(now[0].id);
    undo();
    expect(near(seen(), was)).toBe(true);
  }
  // One that is larger than it was made has no rules that say so.
  start({});
  keepAsAssembly([scene().dressings[0].id], "Quay");
  const large = scene().dressings.find(({ where }) => where.kind === "loose")!;
  editDressing(large.id, "", ({ pegs }) => void (Object.values(pegs)[0].size = 1.5));
  const was = seen();
  takeAllApart(assemblyIn(scene())[0].id);
  expect(near(seen(), was)).toBe(true);
  expect(scene().dressings.map(({ where }) => where.kind)).toContain("loose");
  // A number that is taken is exchanged for none that another of its lines has.
  const { lines } = start({});
  keepAsAssembly([scene().dressings[0].id, scene().dressings[1].id], "Both");
  look();
  useSceneStore.getState().change("Draw", (draft) => void draft.lines.push({ ...lines[0], id: "new" } as never));
  editAssembly(assemblyIn(scene())[0].id, "", ({ dressings }) => void dressings.splice(1));
  look();
  takeAllApart(assemblyIn(scene())[0].id);
  expect(scene().lines.map(({ number }) => number)).toEqual([1, 3, 2]);
  expect(scene().dressings.map(({ where }) => where.kind)).toEqual(["along"]);
});
