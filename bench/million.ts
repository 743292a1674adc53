/**
 * A million placements along 1,000 lines in one go, with all checks, in a process of its own; prints how long it took, what
 * memory the process came to at most, the runtime included, and how often it told how far it was.
 */
import { emptyScene, sceneSchema, type Scene } from "../src/core/scene";
import { Engine } from "../src/engine/engine";
import { manyLines } from "./many-lines";

const LINES = 1000;
const EACH = 1000;

function millionScene(): Scene {
  const lines = manyLines(LINES);
  const prop = (id: string) => ({
    id,
    name: id,
    asset: "0".repeat(64),
    bounds: { min: [-0.04, 0, -0.04], max: [0.04, 0.3, 0.04] },
    triangles: 100,
  });
  return sceneSchema.parse({
    ...emptyScene("A million"),
    props: [prop("a"), prop("b")],
    lines,
    dressings: [
      {
        id: "all",
        name: "All of it",
        where: { lines: lines.map(({ id }) => id) },
        what: { entries: [{ prop: "a", count: 2 }, { prop: "b" }] },
        spacing: { by: "count", count: EACH },
        variation: { turnOn: true, sizeOn: true },
        gaps: { chance: 0.02 },
      },
    ],
  });
}

let told = 0;
const scene = millionScene();
const start = performance.now();
const engine = new Engine();
engine.take(scene);
// What the view gets, matrices in chunks included; the worker goes on remembering its own.
const [{ placements: held }] = engine.shown(() => told++);
const ms = performance.now() - start;
const megabytes = process.resourceUsage().maxRSS / 1024;
console.log(JSON.stringify({ count: held.count, ms, megabytes, told }));
