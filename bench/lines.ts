/** `line-100k`, `evaluate-100k` and `re-evaluate-variation-100k`: 100,000 placements along a smooth line of 40 knots. */
import { evaluate, Placing } from "../src/core/place/testing";
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
  writeFrames(guide.curve, guide, "line", at, COUNT, position, rotation);
  return { position, rotation };
}

const box = { min: [-0.0006, 0, -0.0006], max: [0.0006, 0.001, 0.0006] } as const;
const bounds = new Map(["a", "b", "c"].map((id) => [id, { min: [...box.min] as Vec3, max: [...box.max] as Vec3 }]));

const ROWS = 3;

/** Everything at once: a sequence laid end to end in three rows, varied, with gaps, and kept clear of each other. */
const everything = dressingSchema.parse({
  id: "dressing",
  name: "Dressing",
  where: { lines: ["line"] },
  what: {
    entries: [{ prop: "a", count: 3 }, { prop: "b", count: 2 }, { prop: "c" }],
    own: [
      { prop: "b", size: 1.4 },
      { prop: "c", size: 0.8 },
    ],
  },
  spacing: { by: "end", gap: 0.002, remainder: "end" },
  stance: { up: "line" },
  fit: { rows: ROWS, rowDistance: 0.006, clear: "footprint" },
  variation: {
    positionOn: true,
    along: [-0.0002, 0.0002],
    across: [-0.0002, 0.0002],
    up: [0, 0],
    turnOn: true,
    sizeOn: true,
  },
  gaps: { chance: 0.1 },
});

/** The dressing with its gap made so that it comes to as many placements as asked for. */
function dressingOf(count: number) {
  const guide = new GuideLine(line);
  const around = { guides: new Map([["line", guide]]), bounds };
  const perSlot = guide.curve.length / (count / ROWS);
  const mean = (0.0012 * (3 + 2 * 1.4 + 0.8)) / 6;
  const dressing = { ...everything, spacing: { ...everything.spacing, gap: perSlot - mean } };
  const made = evaluate(dressing, around).count;
  if (Math.abs(made - count) > 0.01 * count)
    throw new Error(`The dressing comes to ${made} slots instead of ${count}.`);
  return dressing;
}

const dressing = dressingOf(COUNT);
const evaluateAll = () => evaluate(dressing, { guides: new Map([["line", new GuideLine(line)]]), bounds });

/** Another end of one range of Variation each time, everything else as before. */
function reevaluator() {
  const placing = new Placing();
  const around = { guides: new Map([["line", new GuideLine(line)]]), bounds };
  placing.evaluate(dressing, around);
  let run = 0;
  return () => {
    const turnUp: [number, number] = [-0.1, 0.1 + 0.001 * ++run];
    return placing.evaluate({ ...dressing, variation: { ...dressing.variation, turnUp } }, around);
  };
}

export function lineContests(): Contest[] {
  const ours = unevenness(ourFrames().position);
  if (ours > ACCURACY) throw new Error(`Our own points are uneven by ${ours} of the length.`);
  const table = tableFor(knots, COUNT, ACCURACY);
  const theirs = () => threeFrames(knots, COUNT, table);
  const peer = `${PEER}, table of ${table}`;
  return [
    { name: "line-100k", n: COUNT, peer, ours: ourFrames, theirs },
    { name: "evaluate-100k", n: COUNT, peer, ours: evaluateAll, theirs },
    {
      name: "re-evaluate-variation-100k",
      n: COUNT,
      peer: "our own full evaluation",
      ours: reevaluator(),
      theirs: evaluateAll,
    },
  ];
}
