/** `line-100k` and `evaluate-100k`: 100,000 placements along a smooth line of 40 knots. */
import { evaluate } from "../src/core/place";
import { GuideLine, lineSchema, writeFrames } from "../src/core/line";
import { dressingSchema } from "../src/core/place";
import type { Vec3 } from "../src/core/math";
import { PEER, tableFor, threeFrames, unevenness } from "./three-curve";
import type { Contest } from "./row";

const COUNT = 100_000;
/** What is asked of an arc length here, as a share of the whole; the peer's table is made fine enough for the same. */
const ACCURACY = 1e-6;

/** A line that rises, falls and turns, about 170 m long. */
const knots: Vec3[] = Array.from({ length: 40 }, (_, i) => [
  4 * i + Math.sin(1.7 * i),
  2 * Math.sin(0.9 * i),
  6 * Math.sin(0.55 * i) + Math.cos(2.3 * i),
]);

const line = lineSchema.parse({
  id: "line",
  name: "Line",
  number: 1,
  kind: "smooth",
  knots: knots.map((position) => ({ position })),
});

/** Position and full frame at every place, from the knots on. */
function ourFrames() {
  const guide = new GuideLine(line);
  const at = new Float64Array(COUNT);
  for (let i = 0; i < COUNT; i++) at[i] = (i / (COUNT - 1)) * guide.curve.length;
  const position = new Float64Array(3 * COUNT);
  const rotation = new Float64Array(4 * COUNT);
  writeFrames(guide.curve, guide.stations, "line", at, COUNT, position, rotation);
  return { position, rotation };
}

const box = { min: [-0.2, 0, -0.1], max: [0.2, 0.5, 0.1] } as const;
const bounds = new Map(["a", "b", "c"].map((id) => [id, { min: [...box.min] as Vec3, max: [...box.max] as Vec3 }]));
const dressing = dressingSchema.parse({
  id: "dressing",
  name: "Dressing",
  where: { lines: ["line"] },
  what: { entries: [{ prop: "a", count: 3 }, { prop: "b", count: 2 }, { prop: "c" }] },
  spacing: { by: "count", count: COUNT },
  stance: { up: "line" },
  variation: { positionOn: true, turnOn: true, sizeOn: true },
  gaps: { chance: 0.1 },
});

const evaluateAll = () => evaluate(dressing, { guides: new Map([["line", new GuideLine(line)]]), bounds });

export function lineContests(): Contest[] {
  const ours = unevenness(ourFrames().position);
  if (ours > ACCURACY) throw new Error(`Our own points are uneven by ${ours} of the length.`);
  const table = tableFor(knots, COUNT, ACCURACY);
  const theirs = () => threeFrames(knots, COUNT, table);
  const peer = `${PEER}, table of ${table}`;
  return [
    { name: "line-100k", n: COUNT, peer, ours: ourFrames, theirs },
    { name: "evaluate-100k", n: COUNT, peer, ours: evaluateAll, theirs },
  ];
}
