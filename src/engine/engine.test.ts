import { harbourScene } from "@/core/scene/testing";
import { spoken } from "@/core/check";
import { namesIn, sceneSchema, type Scene } from "@/core/scene";
import { makeLine } from "@/core/line/testing";
import { dressingSchema, type Dressing } from "@/core/place";
import { BOUNDS, boxMesh, mesh as fieldMesh } from "@/core/place/testing";
import { HASHES } from "@/core/scene/testing";
import { Engine } from "./engine";
import { orderOf, wishesOf } from "./needs";
import { meshesCompared, meshesWanted } from "./wanted";
import { evaluateScene, LimitError, placeWithSeed, writeFrames } from "./jobs";

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
    ["a line's name", (scene) => (scene.lines[1].name = "Pier"), []],
    ["a dressing's name", (scene) => (scene.dressings[1].name = "Sweeps"), []],
    ["a prop's size", (scene) => (scene.props[1].bounds = { min: [-1, 0, -1], max: [1, 1, 1] }), ["oars"]],
    ["a peg", (scene) => (scene.dressings[1].pegs["0000000100000000"] = { on: "quay", removed: true }), ["oars"]],
    ["the order of the dressings", (scene) => scene.dressings.reverse(), []],
    ["one dressing gone", (scene) => scene.dressings.pop(), []],
  ])("%s", (_, edit, expected) => {
    expect(changed(warm(), edit)).toEqual(expected);
  });

  test("a knot of a line that both follow", () => {
    const moved = (scene: Scene) => (scene.lines[0].knots[1] = { id: 1, position: [12, 0, 3] });
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
    (scene) => (scene.lines[1].knots[1] = { id: 1, position: [3, 1, 1] }),
    (scene) => (scene.dressings[1].pegs = {}),
  ];
  const engine = warm();
  const scene = harbourScene();
  for (const edit of edits) {
    edit(scene);
    const fresh = new Engine().evaluate(sent(scene)).find(({ id }) => id === "oars");
    expect(engine.evaluate(sent(scene)).find(({ id }) => id === "oars")).toEqual(fresh);
  }
});

test("surfaces are laid out by their UVs for the dressing that asks, once for all; moving one works nothing out anew", () => {
  const scene = harbourScene();
  const hill = { id: "hill", name: "Hill", asset: HASHES.buoy, ground: true };
  scene.surfaces = sceneSchema.parse({ ...scene, surfaces: [hill] }).surfaces;
  scene.dressings[0].where = { ...scene.dressings[0].where, kind: "over", surfaces: ["hill"] };
  const engine = new Engine();
  const uv = { name: "TEXCOORD_0", width: 2, array: Float32Array.of(0, 0, 0, 1, 1, 0) };
  engine.learn(HASHES.buoy, { ...fieldMesh([0, 0, 0, 0, 0, 5, 5, 0, 0], [0, 1, 2]), attributes: [uv] });
  engine.evaluate(sent(scene));
  const asked = { dressing: "buoys", flat: true };
  expect(engine.chartsUnder({ ...asked, flat: false })).toEqual([]);
  const { charted } = engine.sight(asked)!;
  expect(charted!.footprints).toHaveLength(8 * engine.placements("buoys")!.count);
  const [[id, { table }]] = engine.chartsUnder(asked);
  expect(id).toBe("hill");
  expect(table.by).toBe("uv");
  // Being looked at is nothing that a dressing hangs on.
  expect(engine.results()).toEqual([]);
  expect(engine.sight(asked)!.charted).toBe(charted);
  scene.surfaces[0].position = [3, 1, 4];
  engine.evaluate(sent(scene));
  expect(engine.chartsUnder(asked)[0][1].table).toBe(table);
  // Of what runs along lines there is nothing to see besides.
  expect(engine.sight({ dressing: "oars", flat: true })).toBeNull();
  expect(engine.sight({ dressing: "gone", flat: true })).toBeNull();
});

test("what pokes through is looked for in the files of solid surfaces and of all props in use, and in none where no wall is", () => {
  const scene = harbourScene();
  expect(meshesCompared(scene)).toEqual(new Set());
  const wall = { id: "wall", name: "Wall", asset: "9".repeat(64), solid: true };
  scene.surfaces = sceneSchema.parse({ ...scene, surfaces: [wall] }).surfaces;
  const used = new Set(scene.dressings.flatMap(({ what }) => what.entries.map(({ prop }) => prop)));
  const files = scene.props.flatMap(({ id, asset }) => (used.has(id) ? [asset] : []));
  expect(files.length).toBeGreaterThan(0);
  expect(meshesCompared(scene)).toEqual(new Set([wall.asset, ...files]));
  scene.surfaces[0].hidden = true;
  expect(meshesCompared(scene)).toEqual(new Set());
});

describe("whole jobs", () => {
  const none = new Map<string, Uint8Array>();

  test("one dressing can be asked for by name; an unknown one is answered with those there are", async () => {
    const { dressings } = await evaluateScene(harbourScene(), none, { dressing: "Oars" });
    expect(dressings.map((d) => d.dressing.id)).toEqual(["oars"]);
    await expect(evaluateScene(harbourScene(), none, { dressing: "Sails" })).rejects.toThrow("has “Buoys”, “Oars”");
  });

  test("more than is allowed is refused, just as much is not", async () => {
    const { placements } = new Engine().evaluate(harbourScene())[0];
    const most = (maxPlacements: number) => evaluateScene(harbourScene(), none, { dressing: "Buoys", maxPlacements });
    await expect(most(placements.count - 1)).rejects.toThrow(LimitError);
    expect((await most(placements.count)).dressings).toHaveLength(1);
    // Several frames count together.
    const frames = async (maxPlacements: number) => {
      let pieces = 0;
      const options = { dressing: "Buoys", maxPlacements };
      for await (const piece of writeFrames(harbourScene(), none, "csv", [0, 2], options)) pieces += piece.length > 0 ? 1 : 0; // prettier-ignore
      return pieces;
    };
    expect(await frames(3 * placements.count)).toBe(3);
    await expect(frames(3 * placements.count - 1)).rejects.toThrow(LimitError);
  });
});

test("while it works the engine tells which dressing it is at and how far it is, never going back", () => {
  const told: [string, number][] = [];
  new Engine().evaluate(sent(harbourScene()), (name, share) => told.push([name, share]));
  expect([...new Set(told.map(([name]) => name))]).toEqual(harbourScene().dressings.map(({ name }) => name));
  told.forEach(([, share], i) => {
    expect(share).toBeGreaterThanOrEqual(i > 0 ? told[i - 1][1] : 0);
    expect(share).toBeLessThanOrEqual(1);
  });
  expect(told.at(-1)![1]).toBeGreaterThan(0.9);
});

test("a dressing with another seed is what the scene with that seed comes to, and the scene stays as it is", async () => {
  const scene = sent(harbourScene());
  scene.dressings[0].variation.turnOn = true;
  for (const seed of [1, 2, 77]) {
    const other = sent(scene);
    other.dressings[0].variation.seed = seed;
    const [{ placements }] = new Engine().evaluate(other);
    expect((await placeWithSeed(scene, new Map(), "buoys", seed))!.placements).toEqual(placements);
  }
  expect(scene.dressings[0].variation.seed).toBe(1);
  expect(await placeWithSeed(scene, new Map(), "nobody", 1)).toBeNull();
});

describe("props that stand on props of another dressing", () => {
  /** Oars dropped onto buoys, which stand along the quay; their dressing comes first in the scene. */
  function heaped(): Scene {
    const scene = harbourScene();
    const over = makeLine({
      kind: "polyline",
      id: "over",
      number: 3,
      knots: [
        [0, 6, 0],
        [10, 6, 0],
      ],
    });
    const lanterns = dressingSchema.parse({
      id: "lanterns",
      name: "Lanterns",
      where: { lines: ["over"] },
      what: { entries: [{ prop: "oar" }] },
      spacing: { distance: 0.5, remainder: "end" },
      fit: { drop: "down", dropBy: "pivot", ontoProps: ["buoys"] },
    });
    return { ...scene, lines: [...scene.lines, over], dressings: [lanterns, scene.dressings[0]] };
  }
  const heights = (scene: Scene, engine = new Engine()) => {
    const placements = engine.evaluate(scene).find(({ id }) => id === "lanterns")?.placements;
    return (
      placements &&
      Array.from({ length: placements.count }, (_, i) => placements.origin[1] + placements.position[3 * i + 1])
    );
  };

  test("stand on them, and follow when those move; without their meshes on their boxes", () => {
    const scene = heaped();
    // Buoys stand every half metre, each 0.4 m broad and a metre high.
    const on = heights(scene)!;
    expect(on.filter((y) => Math.abs(y - 1) < 1e-5).length).toBeGreaterThan(5);
    const engine = new Engine();
    heights(scene, engine);
    const moved = {
      ...scene,
      dressings: [scene.dressings[0], { ...scene.dressings[1], fit: { ...scene.dressings[1].fit, up: 0.25 } }],
    };
    expect(heights(moved, engine)).toEqual(on.map((y) => (Math.abs(y - 1) < 1e-5 ? expect.closeTo(1.25, 5) : y)));
    expect(meshesWanted(scene)).toEqual(new Set([HASHES.buoy]));
  });

  test("every number about the ground counts: with another one it comes to what it would afresh; with the same one nothing runs", () => {
    const scene = heaped();
    const engine = new Engine();
    engine.evaluate(scene);
    const fit = { ...scene.dressings[0].fit };
    const again = () =>
      engine.evaluate({ ...scene, dressings: [{ ...scene.dressings[0], fit: { ...fit } }, scene.dressings[1]] });
    expect(again()).toEqual([]);
    const changes: Partial<typeof fit>[] = [
      { lean: 0.5 },
      { sink: 0.1 },
      { without: "floor" },
      { floor: -3 },
      { dropBy: "footprint" },
      { dropRest: "mean" },
      { play: 0.3 },
      { drop: "nearest" },
      { ontoProps: [] },
      { drop: "off" },
    ];
    for (const change of changes) {
      Object.assign(fit, change);
      again();
      const changed = { ...scene, dressings: [{ ...scene.dressings[0], fit: { ...fit } }, scene.dressings[1]] };
      const [fresh] = new Engine().evaluate(changed);
      expect(engine.result("lanterns")!.placements.position).toEqual(fresh.placements.position);
      expect(again()).toEqual([]);
    }
  });

  test("in a circle one of the two gives way, and a finding names both; a job for one takes along what it stands on", () => {
    const scene = heaped();
    const [lanterns, buoys] = scene.dressings;
    const turned = { ...buoys, fit: { ...buoys.fit, drop: "down" as const, ontoProps: ["lanterns"] } };
    const all = new Engine().evaluate({ ...scene, dressings: [lanterns, turned] }).flatMap(({ findings }) => findings);
    const [found, ...more] = all.filter(({ check }) => check === "in-circle");
    expect(more).toEqual([]);
    const message = spoken(found.message, namesIn(scene));
    expect(message).toContain(
      "“Lanterns” and “Buoys” hang on each other in a circle; so “Buoys” does not count for “Lanterns”",
    );
    const sequence = (rail: Dressing[]) =>
      orderOf(
        rail.map(({ id }) => id),
        (id) => wishesOf(rail.find((one) => one.id === id)!),
      ).sequence;
    expect(sequence([lanterns, buoys])).toEqual(["buoys", "lanterns"]);
  });
});

describe("dressings that keep clear of others", () => {
  /** Buoys every metre, and oars on the same line, each giving way to whichever are named. */
  const crossed = (gives: { buoys?: string[]; oars?: string[] }): Scene => {
    const scene = sent(harbourScene());
    const [buoys, oars] = scene.dressings;
    oars.where = { ...buoys.where };
    for (const [dressing, clearOf] of [
      [buoys, gives.buoys ?? []],
      [oars, gives.oars ?? []],
    ] as const) {
      Object.assign(dressing.fit, { clear: clearOf.length > 0 ? "footprint" : "off", clearOf });
      dressing.spacing.distance = 2;
      dressing.gaps.chance = 0;
      dressing.pegs = {};
      dressing.stance.turnUp = 0;
      dressing.variation.turnOn = false;
    }
    return scene;
  };
  const blanks = (scene: Scene, engine = new Engine()) =>
    new Map(engine.evaluate(scene).map(({ id, placements }) => [id, placements.blanks]));

  test("whoever names the other gives way; of two that name each other it is the later on the rail, and nothing is in a circle", () => {
    expect(blanks(crossed({}))).toEqual(
      new Map([
        ["buoys", 0],
        ["oars", 0],
      ]),
    );
    expect(blanks(crossed({ oars: ["buoys"] })).get("buoys")).toBe(0);
    expect(blanks(crossed({ oars: ["buoys"] })).get("oars")).toBeGreaterThan(0);
    expect(blanks(crossed({ buoys: ["oars"] })).get("oars")).toBe(0);
    expect(blanks(crossed({ buoys: ["oars"] })).get("buoys")).toBeGreaterThan(0);
    const both = crossed({ buoys: ["oars"], oars: ["buoys"] });
    const found = new Engine().evaluate(both).flatMap(({ findings }) => findings);
    expect(found.filter(({ check }) => check === "in-circle")).toEqual([]);
    expect(blanks(both).get("buoys")).toBe(0);
    both.dressings.reverse();
    expect(blanks(both).get("oars")).toBe(0);
    expect(blanks(both).get("buoys")).toBeGreaterThan(0);
  });

  test("when what they give way to moves, they are placed anew, and only then", () => {
    const engine = new Engine();
    const scene = crossed({ oars: ["buoys"] });
    engine.evaluate(sent(scene));
    expect(engine.evaluate(sent(scene))).toEqual([]);
    scene.dressings[0].fit.across = 5;
    expect(blanks(sent(scene), engine)).toEqual(
      new Map([
        ["buoys", 0],
        ["oars", 0],
      ]),
    );
  });
});

describe("lines on surfaces that are made of lines", () => {
  const scene = (): Scene => {
    const rail = (id: string, number: number, z: number) =>
      makeLine({
        id,
        number,
        kind: "polyline",
        knots: [
          [-5, 1, z],
          [5, 3, z],
        ],
      });
    const laid = { kind: "surface", on: ["roof"], way: "down", axis: [0, -1, 0], how: "densely" } as const;
    const path = makeLine({
      id: "path",
      number: 90,
      kind: "polyline",
      knots: [
        [-4, 9, 1],
        [4, 9, 2],
      ],
    });
    return sceneSchema.parse({
      ...harbourScene(),
      lines: [rail("front", 80, 0), rail("back", 81, 4), { ...path, laid }],
      surfaces: [{ id: "roof", name: "Roof", made: { kind: "loft", lines: ["front", "back"], rounded: false } }],
      dressings: [{ id: "row", name: "Row", where: { lines: ["path"] }, what: { entries: [{ prop: "buoy" }] } }],
    });
  };
  const heights = ([{ placements: p }]: ReturnType<Engine["evaluate"]>) =>
    Array.from({ length: p.count }, (_, i) => p.origin[1] + p.position[3 * i + 1]);

  test("a line lies on them and follows when they are moved, or when a line is that they are made of", () => {
    const engine = new Engine();
    const first = heights(engine.evaluate(scene()));
    expect(Math.min(...first)).toBeGreaterThan(1);
    expect(Math.max(...first)).toBeLessThan(3);
    expect(engine.tracks.get("path")!.points.length).toBeGreaterThan(3);
    expect(engine.evaluate(scene())).toEqual([]);
    const raised = scene();
    raised.surfaces[0].position = [0, 2, 0];
    expect(heights(engine.evaluate(raised))).toEqual(first.map((y) => expect.closeTo(y + 2, 4)));
    const lifted = scene();
    for (const line of lifted.lines.slice(0, 2))
      for (const knot of line.knots) knot.position = [knot.position[0], 4, knot.position[2]];
    expect(heights(engine.evaluate(lifted))).toEqual(first.map(() => expect.closeTo(4, 4)));
    const free = scene();
    free.lines[2].laid = null;
    expect(heights(engine.evaluate(free))[0]).toBeCloseTo(9, 4);
    expect(engine.tracks.size).toBe(0);
  });

  test("a line laid onto no surface by name lies on all that are ground, and on those that come to be it", () => {
    const onAny = scene();
    onAny.lines[2].laid = { ...onAny.lines[2].laid!, on: [] } as never;
    const engine = new Engine();
    const on = heights(engine.evaluate(onAny));
    expect(on).toEqual(heights(new Engine().evaluate(scene())));
    const off = { ...onAny, surfaces: onAny.surfaces.map((one) => ({ ...one, ground: false })) };
    expect(heights(engine.evaluate(off))[0]).toBeCloseTo(9, 4);
    expect(heights(engine.evaluate(onAny))).toEqual(on);
  });

  test("files that surfaces and masks need are asked for: stand-ins instead of what they stand in for", () => {
    const wanted = scene();
    const [heavy, light, mask] = ["a", "b", "c"].map((digit) => digit.repeat(64));
    wanted.surfaces.push({ ...wanted.surfaces[0], id: "rock", made: null, asset: heavy, standIn: light });
    wanted.lines[2].laid = {
      kind: "edges",
      on: "rock",
      follow: "boundary",
      at: [0, 0, 0],
      bend: 1,
      value: 0,
      reverse: false,
    };
    expect([...meshesWanted(wanted)]).toEqual([light]);
    const piled = dressingSchema.parse({
      id: "pile",
      name: "Pile",
      where: { kind: "loose" },
      what: { entries: [{ prop: "buoy" }] },
      fit: { drop: "down", dropBy: "pivot", dropAs: "turn" },
    });
    expect(meshesWanted({ ...wanted, dressings: [piled] })).toContain(HASHES.buoy);
    const over = dressingSchema.parse({
      id: "over",
      name: "Over",
      where: { kind: "over", surfaces: ["roof"] },
      gaps: { images: [{ asset: mask }] },
    });
    expect([...meshesWanted({ ...wanted, dressings: [over] })].sort()).toEqual([light, mask]);
  });
});

test("what pokes through is found anew when a wall comes or goes, or the play is changed, though nothing is placed anew for it", async () => {
  const engine = new Engine();
  const [low, high] = [BOUNDS.get("buoy")!.min, BOUNDS.get("buoy")!.max];
  engine.learn(HASHES.buoy, boxMesh(low, high));
  const scene = harbourScene();
  scene.dressings = scene.dressings.slice(0, 1);
  const count = async () => {
    engine.evaluate(sent(scene));
    const found = await engine.poking(() => Promise.resolve(true));
    return found!.get("buoys")?.[0]?.count ?? 0;
  };
  expect(await count()).toBe(0);
  // A slab, whose upper side the feet of all buoys stand in by a tenth of a metre.
  const made = { kind: "box", width: 40, height: 1, depth: 4 };
  const [slab] = sceneSchema.parse({
    ...scene,
    surfaces: [{ id: "slab", name: "Slab", made, position: [5, -0.9, 0], ground: true }],
  }).surfaces;
  scene.surfaces = [slab];
  const all = await count();
  expect(all).toBeGreaterThan(5);
  scene.dressings[0].fit.play = 0.2;
  expect(await count()).toBe(0);
  scene.dressings[0].fit.play = 0.01;
  expect(await count()).toBe(all);
  scene.surfaces = [{ ...slab, solid: false }];
  expect(await count()).toBe(0);
});
