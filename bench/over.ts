/**
 * `mask-slope-100k`: a full dressing over the terrain, with masks by a picture and by painting, slope limits, distance to a path, a fade at the
 * edge, and props kept clear of each other. `over-20k-turns` and `over-20k-spacing`: what one edit to 20,000 placements
 * takes while dragging, everything else remembered. `inside-20k-spacing`: the same of a volume, a ball of 12,000 triangles.
 */
import { evaluate, Placing, type Around } from "../src/core/place/testing";
import { GuideLine, lineSchema } from "../src/core/line";
import { madeMesh, madeSchema } from "../src/core/made";
import { WorldMesh } from "../src/core/mesh";
import type { Raster } from "../src/core/image";
import { dressingSchema, type Dressing } from "../src/core/place";
import { ground, METRES } from "./terrain";
import type { Row } from "./row";

const lineOf = (line: Record<string, unknown>): GuideLine =>
  new GuideLine(lineSchema.parse({ name: "Line", kind: "smooth", ...line }));

const around = (): Around => {
  const half = 0.49 * METRES;
  const knots = (...places: [number, number][]) => places.map(([x, z]) => ({ position: [x, 0, z] }));
  const path = knots([-half, -60], [-90, 20], [0, -30], [110, 70], [half, 40]);
  const area = knots([-half, -half], [half, -half], [half, half], [-half, half]);
  return {
    guides: new Map([
      ["path", lineOf({ id: "path", number: 1, knots: path })],
      ["area", lineOf({ id: "area", number: 2, closed: true, knots: area })],
    ]),
    bounds: new Map([
      ["tuft", { min: [-0.15, 0, -0.15], max: [0.15, 0.4, 0.15] }],
      ["stone", { min: [-0.25, 0, -0.2], max: [0.25, 0.3, 0.2] }],
    ]),
    surfaces: new Map([["terrain", { mesh: ground(), ground: true }]]),
    images: new Map([[PICTURE, clouds(256)]]),
  };
};

/** Stands for the hash of the picture. */
const PICTURE = "0".repeat(64);

/** A picture of soft spots, bright all over but for them. */
function clouds(side: number): Raster {
  const share = Float32Array.from({ length: side * side }, (_, pixel) => {
    const [x, y] = [(pixel % side) / side, Math.floor(pixel / side) / side];
    return Math.min(1, 0.85 + 0.5 * Math.sin(9 * x + 3 * y) * Math.cos(11 * y));
  });
  return { width: side, height: side, share };
}

/** @param distance between neighbours, metres */
const meadow = (distance: number, seed: number): Dressing =>
  dressingSchema.parse({
    id: "meadow",
    name: "Meadow",
    where: { kind: "over", surfaces: ["terrain"], areas: ["area"] },
    what: { order: "mixed", entries: [{ prop: "tuft", weight: 5 }, { prop: "stone" }] },
    spacing: { distance },
    stance: { up: "normal", upBy: 0.5, forward: "downhill" },
    fit: { clear: "footprint" },
    variation: { seed, turnOn: true, turnUp: [-1, 1], sizeOn: true, size: [0.7, 1.4] },
    gaps: {
      slopeOn: true,
      slope: [0, 0.5],
      slopeSoft: 0.15,
      distances: [{ to: "path", none: 1, full: 4 }],
      images: [{ asset: PICTURE, least: [-METRES / 2, -METRES / 2], most: [METRES / 2, METRES / 2] }],
      edge: 20,
      edgeSize: 0.5,
      paint: {
        strokes: Array.from({ length: 12 }, (_, k) => ({
          on: "terrain",
          points: [
            [30 * (k % 4) - 60, 0, 40 * Math.floor(k / 4) - 50],
            [30 * (k % 4) - 45, 0, 40 * Math.floor(k / 4) - 30],
          ],
          radius: 14,
          puts: false,
        })),
      },
    },
  });

/** A revolved half circle of 10 m. */
const ball = (): WorldMesh => {
  const knots = Array.from({ length: 60 }, (_, k) => {
    const angle = (Math.PI * k) / 59;
    return { position: [10 * Math.sin(angle), -10 * Math.cos(angle), 0] };
  });
  const bow = lineOf({ id: "bow", number: 1, kind: "polyline", knots });
  const mesh = madeMesh(madeSchema.parse({ kind: "revolve", line: "bow", pieces: 104 }), new Map([["bow", bow]]))!;
  return WorldMesh.of("ball", mesh, { position: [0, 20, 0], rotation: [0, 0, 0, 1], scale: 1 });
};

/** @param distance between neighbours, metres */
const swarm = (distance: number): Dressing =>
  dressingSchema.parse({
    id: "swarm",
    name: "Swarm",
    where: { kind: "inside", volumes: ["ball"] },
    what: { entries: [{ prop: "tuft" }] },
    spacing: { distance },
  });

/** The least of several runs, each of which is told its number. */
function least(runs: number, work: (run: number) => void): number {
  let best = Infinity;
  for (let run = 0; run < runs; run++) {
    const start = performance.now();
    work(run);
    best = Math.min(best, performance.now() - start);
  }
  return best;
}

const alone = { peer: null, peer_ms: null, ratio: null };

export function overRows(): Row[] {
  const scene = around();
  const many = (seed: number) => evaluate(meadow(1.028, seed), scene);
  const n = many(0).count;
  const whole = least(4, (run) => many(run + 1));

  const placing = new Placing();
  const few = placing.evaluate(meadow(2.3, 1), scene).count;
  const turned = (run: number): Dressing => {
    const made = meadow(2.3, 1);
    made.variation.turnUp = [-1 - 0.01 * run, 1];
    return made;
  };
  const turns = least(8, (run) => placing.evaluate(turned(run + 1), scene));
  const spacing = least(8, (run) => placing.evaluate(meadow(2.3 + 1e-4 * (run + 1), 1), scene));
  const filled = { ...scene, surfaces: new Map([["ball", { mesh: ball(), ground: false }]]) };
  const held = new Placing();
  const inside = held.evaluate(swarm(0.54), filled).count;
  const filling = least(8, (run) => held.evaluate(swarm(0.54 + 1e-4 * (run + 1)), filled));
  return [
    { name: "mask-slope-100k", n, ours_ms: whole, ...alone, note: "all limits and keeping clear, from nothing" },
    { name: "over-20k-turns", n: few, ours_ms: turns, ...alone, note: "one range of Variation, asked under 100 ms" },
    { name: "over-20k-spacing", n: few, ours_ms: spacing, ...alone, note: "another distance, asked under 300 ms" },
    { name: "inside-20k-spacing", n: inside, ours_ms: filling, ...alone, note: "in a ball, asked under 300 ms" },
  ];
}
