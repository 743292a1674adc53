/**
 * `edit-small` and `growth`: one number of one of a thousand dressings, from the difference between two scenes to the result
 * as it is handed over; and the time a placement takes along one line and along a thousand, once all is warm.
 */
import { emptyScene, sceneSchema, type Scene } from "../src/core/scene";
import { copyOf, type Placements } from "../src/core/place";
import { Engine } from "../src/engine/engine";
import { changeBetween } from "../src/core/scene";
import { manyLines } from "./many-lines";
import type { Row } from "./row";

const THOUSAND = 1000;
const BEST_OF = 50;

function sceneOf(lines: number, dressings: object[]): Scene {
  const bounds = { min: [-0.04, 0, -0.04], max: [0.04, 0.3, 0.04] };
  return sceneSchema.parse({
    ...emptyScene("Many"),
    props: [{ id: "a", name: "A", asset: "0".repeat(64), bounds, triangles: 100 }],
    lines: manyLines(lines),
    dressings: dressings.map((one) => ({
      what: { entries: [{ prop: "a" }] },
      variation: { turnOn: true, sizeOn: true },
      ...one,
    })),
  });
}

/** Whatever is handed over is looked at, so that none of the work can be left out. */
const taken = (placements: Placements): number => copyOf(placements).position.length;

function editSmall(): number {
  let scene = sceneOf(
    THOUSAND,
    Array.from({ length: THOUSAND }, (_, i) => ({
      id: `dressing ${i}`,
      name: `Dressing ${i}`,
      where: { lines: [`line ${i}`] },
      spacing: { by: "count", count: 100 },
    })),
  );
  const engine = new Engine();
  engine.update(changeBetween(null, scene, 1));
  engine.results();
  let best = Infinity;
  for (let run = 0; run < BEST_OF; run++) {
    const at = (37 * run) % THOUSAND;
    const dressings = scene.dressings.map((one, i) =>
      i === at ? { ...one, fit: { ...one.fit, across: 0.01 * (run + 1) } } : one,
    );
    const next = { ...scene, dressings };
    const start = performance.now();
    engine.update(changeBetween(scene, next, run + 2));
    const results = engine.results();
    const size = results.reduce((sum, { placements }) => sum + taken(placements), 0);
    best = Math.min(best, performance.now() - start);
    if (results.length !== 1 || size !== 300) throw new Error("An edit of one dressing comes to that one.");
    scene = next;
  }
  return best;
}

/** Milliseconds for all placements of so many lines with a thousand on each, at another offset each time. */
function warm(lines: number, runs: number): number {
  const of = (across: number) =>
    sceneOf(lines, [
      {
        id: "all",
        name: "All",
        where: { lines: manyLines(lines).map(({ id }) => id) },
        spacing: { by: "count", count: THOUSAND },
        fit: { across },
      },
    ]);
  const [one, other] = [of(0), of(0.1)];
  const engine = new Engine();
  engine.take(one);
  engine.results();
  let best = Infinity;
  for (let run = 0; run < runs; run++) {
    const next = { ...one, dressings: run % 2 === 0 ? other.dressings : one.dressings };
    const start = performance.now();
    engine.take(next);
    for (const { placements } of engine.results()) taken(placements);
    best = Math.min(best, performance.now() - start);
  }
  return best;
}

export function engineRows(): Row[] {
  const alone = { peer: null, peer_ms: null, ratio: null };
  const [one, many] = [warm(1, 400), warm(THOUSAND, 12)];
  const times = many / THOUSAND / one;
  return [
    {
      name: "edit-small",
      n: THOUSAND,
      ours_ms: editSmall(),
      ...alone,
      note: "one of 1,000 dressings, asked under 5 ms",
    },
    {
      name: "growth",
      n: THOUSAND * THOUSAND,
      ours_ms: many,
      ...alone,
      note: `${times.toFixed(2)} times as long a placement as along one line, asked within 1.3`,
    },
  ];
}
