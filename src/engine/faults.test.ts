/** What was once found wrong where dressings hang on each other and on meshes, each kept from coming back. */
import { Volume } from "@/core/host";
import { spoken, type Finding } from "@/core/check";
import { makeLine } from "@/core/line/testing";
import { WorldMesh } from "@/core/mesh";
import { dressingSchema, type Dressing, hexOf, lineKey } from "@/core/place";
import { boxMesh, mesh, STAND } from "@/core/place/testing";
import { emptyScene, namesIn, sceneSchema, type Scene } from "@/core/scene";
import { Engine } from "./engine";
import { evaluateScene } from "./jobs";

const hash = (digit: string) => digit.repeat(64);
const [BOX, HOLLOW, WEDGE] = ["1", "2", "3"].map(hash);
const bounds = { min: [-0.2, 0, -0.2], max: [0.2, 0.6, 0.2] } as const;

/** A box, one of as large a box whose top lies half as high but for a corner, and one that is no longer the same turned about. */
const MESHES = {
  [BOX]: boxMesh([-0.2, 0, -0.2], [0.2, 0.6, 0.2]),
  [HOLLOW]: mesh(
    [-0.2, 0, -0.2, 0.2, 0, -0.2, 0.2, 0.3, 0.2, -0.2, 0.3, 0.2, 0.2, 0.3, -0.2, -0.2, 0.3, -0.2, 0.2, 0.6, 0.2],
    [3, 2, 4, 3, 4, 5, 6, 4, 2],
  ),
  [WEDGE]: mesh([-0.2, 0.1, -0.2, 0.2, 0.1, -0.2, 0, 0.6, 0.2], [0, 2, 1]),
};

const straight = (id: string, number: number, height: number, z = 0) =>
  makeLine({
    id,
    name: id,
    number,
    kind: "polyline",
    knots: [
      [0, height, z],
      [6, height, z],
    ],
  });

const IDS = ["a", "b", "c"];

const sceneOf = (dressings: object[], props: object[] = []): Scene =>
  sceneSchema.parse({
    ...emptyScene("Faults"),
    props: [{ id: "crate", name: "Crate", asset: BOX, bounds, triangles: 12 }, ...props],
    lines: IDS.map((id, i) => straight(`line ${id}`, i + 1, 2 * i)),
    dressings: dressings.map((one) =>
      dressingSchema.parse({ what: { entries: [{ prop: "crate" }] }, spacing: { distance: 0.5 }, ...one }),
    ),
  });

function taught(): Engine {
  const engine = new Engine();
  for (const [asset, shape] of Object.entries(MESHES)) engine.learn(asset, shape);
  return engine;
}

const heights = (engine: Engine, id: string): number[] => {
  const { count, origin, position } = engine.result(id)!.placements;
  return Array.from({ length: count }, (_, i) => origin[1] + position[3 * i + 1]);
};

const others = (id: string) => IDS.filter((other) => other !== id);
const circles: [string, (id: string) => object][] = [
  ["dropped onto each other", (id) => ({ fit: { drop: "down", dropBy: "pivot", ontoProps: others(id) } })],
  ["clear of each other", (id) => ({ fit: { clear: "box", clearOf: others(id) }, spacing: { distance: 0.3 } })],
  [
    "at a distance to each other",
    (id) => ({
      where: { kind: "over", areas: ["ring"] },
      spacing: { distance: 0.5 },
      gaps: { distances: others(id).map((to) => ({ to, within: false, none: 0.3, full: 0.6 })) },
    }),
  ],
];

test.each(circles)(
  "three %s stay as they are without an edit, come to the same in an export, and are told of",
  async (how, of) => {
    const scene = sceneOf(
      IDS.map((id) => ({ id, name: id.toUpperCase(), where: { lines: [`line ${id}`] }, ...of(id) })),
    );
    scene.lines.push(makeLine({ id: "ring", number: 9, kind: "circle", radius: 3, knots: [[0, 0, 0]] }));
    const engine = taught();
    engine.evaluate(scene);
    const before = IDS.map((id) => engine.result(id)!.placements);
    for (let k = 0; k < 3; k++) expect(engine.evaluate(structuredClone(scene))).toEqual([]);
    const { dressings } = await evaluateScene(scene, new Map());
    const fresh = taught();
    fresh.evaluate(scene);
    IDS.forEach((id, i) => {
      expect(fresh.result(id)!.placements.position).toEqual(before[i].position);
      expect(dressings[i].placements.count).toBe(before[i].count);
    });
    // For the first of the rail none of the others counts, in what is found no more than in where it stands.
    const [first, ...rest] = scene.dressings;
    const { fit, gaps } = first;
    const alone = taught();
    const free = {
      ...first,
      fit: { ...fit, ontoProps: [], onto: ["none"], clearOf: [] },
      gaps: { ...gaps, distances: [] },
    };
    alone.evaluate({ ...scene, dressings: [free, ...rest] });
    const besides = (one: Engine) => one.result("a")!.findings.filter(({ check }) => check !== "in-circle");
    expect(besides(engine)).toEqual(besides(alone));
    const found = IDS.flatMap((id) => engine.result(id)!.findings).filter(({ check }) => check === "in-circle");
    const told = found.map(({ message }) => spoken(message, namesIn(scene)));
    // Of those that only give way to each other the later one does, and that is no circle.
    if (how === "clear of each other") expect(told).toEqual([]);
    else {
      expect(told).toEqual([
        "“A”, “B” and “C” hang on each other in a circle; so “B” and “C” do not count for “A”.",
        "“A”, “B” and “C” hang on each other in a circle; so “C” does not count for “B”.",
      ]);
    }
  },
);

describe("what stands on props", () => {
  const stacked = (prop: object): Scene =>
    sceneOf(
      [
        { id: "below", name: "Below", where: { lines: ["line a"] }, what: { entries: [{ prop: "own" }] } },
        {
          id: "above",
          name: "Above",
          where: { lines: ["line b"] },
          fit: { along: 0.13, drop: "down", dropBy: "pivot", ontoProps: ["below"] },
        },
      ],
      [{ id: "own", name: "Own", asset: BOX, bounds, triangles: 12, ...prop }],
    );

  test.each<[string, object, object]>([
    ["has its file replaced by one of the same box", {}, { asset: HOLLOW }],
    ["is turned about in its preparation", { asset: WEDGE }, { asset: WEDGE, prepared: { front: "-z" } }],
  ])("stands on them at once when one of them %s", (_, before, after) => {
    const engine = taught();
    engine.evaluate(stacked(before));
    const first = heights(engine, "above");
    engine.evaluate(stacked(after));
    const fresh = taught();
    fresh.evaluate(stacked(after));
    expect(heights(engine, "above")).toEqual(heights(fresh, "above"));
    expect(heights(engine, "above")).not.toEqual(first);
  });
});

describe("findings go with what they read, also where no placement changes", () => {
  const foundIn = (engine: Engine, id: string, check: string): Finding[] =>
    engine.result(id)!.findings.filter((one) => one.check === check);

  test("another name is in the sentence, and nothing has to run for it", () => {
    const scene = sceneOf(
      ["a", "b"].map((id, i) => ({
        id,
        name: id,
        where: { lines: [`line ${id}`] },
        fit: { drop: "down", ontoProps: [i === 0 ? "b" : "a"] },
      })),
    );
    const engine = taught();
    engine.evaluate(scene);
    const renamed = {
      ...scene,
      dressings: scene.dressings.map((one): Dressing => ({ ...one, name: `New ${one.id}` })),
    };
    expect(engine.evaluate(renamed)).toEqual([]);
    expect([...new Set(engine.ran)]).toEqual(["own dressing", "rules"]);
    const [finding] = foundIn(engine, "a", "in-circle");
    expect(spoken(finding.message, namesIn(renamed))).toContain("“New a” and “New b”");
  });

  test("a line that is deleted is no longer the one behind a peg without a slot", () => {
    const scene = sceneOf([
      {
        id: "row",
        name: "Row",
        where: { lines: ["line a", "line b"] },
        pegs: { [hexOf(lineKey(2, 5000))]: { on: "line b", turn: 1 } },
      },
    ]);
    const engine = taught();
    engine.evaluate(scene);
    expect(foundIn(engine, "row", "orphan-peg")).toMatchObject([{ line: "line b", count: 1 }]);
    const without = { ...scene, lines: scene.lines.filter(({ id }) => id !== "line b") };
    engine.evaluate(without);
    const [finding] = foundIn(engine, "row", "orphan-peg");
    expect([finding.line, ...finding.keys]).toEqual([undefined, lineKey(2, 5000)]);
  });
});

test("a mesh with the triangles of another in other places has its own volume, edges, chart and body", () => {
  const made = (asset: string): Scene => {
    const scene = sceneOf([
      {
        id: "fill",
        name: "Fill",
        where: { kind: "inside", volumes: ["box"] },
        spacing: { pattern: "square", distance: 1 },
      },
    ]);
    const [box] = sceneSchema.parse({ ...scene, surfaces: [{ id: "box", name: "Box", asset }] }).surfaces;
    return { ...scene, surfaces: [box] };
  };
  const engine = new Engine();
  const small = boxMesh([0, 0, 0], [2, 2, 2]);
  engine.learn(BOX, small);
  engine.learn(HOLLOW, { ...small, position: small.position.map((x) => 2 * x) });
  engine.evaluate(made(BOX));
  engine.evaluate(made(HOLLOW));
  const fresh = new Engine();
  fresh.learn(HOLLOW, { position: small.position.map((x) => 2 * x), index: small.index.slice(), attributes: [] });
  fresh.evaluate(made(HOLLOW));
  expect(engine.result("fill")!.placements.position).toEqual(fresh.result("fill")!.placements.position);
  const volumeOf = (by: number) => {
    const shape = { position: small.position.map((x) => by * x), index: small.index, attributes: [] };
    return new Volume(WorldMesh.of("box", shape, STAND)).cubic;
  };
  expect([volumeOf(1), volumeOf(2)]).toEqual([8, 64]);
});
