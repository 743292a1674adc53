/**
 * `drop-100k`, `random-over-1m` and `even-over-100k`: 100,000 placements straight down onto a terrain of 200,000 triangles,
 * a million random positions on it, and as many evenly spread ones as a public library spreads over a flat square.
 */
import FastPoisson from "fast-2d-poisson-disk-sampling";
import { Mesh, Ray, Vector3 } from "three";
import { MeshSurfaceSampler } from "three/examples/jsm/math/MeshSurfaceSampler.js";
import { MeshBVH } from "three-mesh-bvh";
import { areasOf, distanceFor, evenOver, facetsOf, normalsAt, randomOver, spreadable } from "../src/core/mesh";
import { dressingSchema, dropInto, FLAG, Slots } from "../src/core/place";
import { geometry, ground, METRES, placesAlongLines, TRIANGLES } from "./terrain";
import type { Contest, Row } from "./row";

const COUNT = 100_000;

const timed = <T>(work: () => T): [made: T, ms: number] => {
  const start = performance.now();
  const made = work();
  return [made, performance.now() - start];
};

const places = placesAlongLines(COUNT);

/** Props of no size, so that what is measured is where the ground is, and what follows from it. */
function ourDrop(field: ReturnType<typeof ground>) {
  const slots = new Slots(COUNT);
  const { fit } = dressingSchema.parse({ id: "d", name: "D", fit: { drop: "down", dropBy: "pivot" } });
  const rotation = new Float32Array(4 * COUNT);
  for (let i = 0; i < COUNT; i++) rotation[4 * i + 3] = 1;
  const hold = { contact: new Float64Array(3), boxes: new Float64Array(6) };
  const start = Float32Array.from(places);
  const placed = {
    origin: [0, 0, 0] as [number, number, number],
    position: start.slice(),
    rotation,
    scale: new Float32Array(3 * COUNT).fill(1),
    reach: new Float32Array(2 * COUNT),
    at: new Float32Array(COUNT),
  };
  const flags = new Uint16Array(COUNT);
  const beneath = { grounds: [field], hulls: [null] };
  return () => {
    placed.position.set(start);
    dropInto(placed, 0, COUNT, slots, { frames: { rotation }, hold }, fit, beneath, flags);
    for (let i = 0; i < COUNT; i++) if (flags[i] & FLAG.groundless) throw new Error("There is ground everywhere.");
    return placed.position;
  };
}

function theirDrop(tree: MeshBVH) {
  const ray = new Ray(new Vector3(), new Vector3(0, -1, 0));
  const position = new Float32Array(3 * COUNT);
  return () => {
    for (let i = 0; i < COUNT; i++) {
      ray.origin.set(places[3 * i], places[3 * i + 1], places[3 * i + 2]);
      const hit = tree.raycastFirst(ray);
      if (!hit) throw new Error("There is ground everywhere.");
      position[3 * i] = hit.point.x;
      position[3 * i + 1] = hit.point.y;
      position[3 * i + 2] = hit.point.z;
    }
    return position;
  };
}

const MILLION = 1_000_000;

/** A million positions and normals; all that is needed for them is made anew each time. */
function ourRandom(field: ReturnType<typeof ground>) {
  const facets = facetsOf(field);
  const { position, triangle } = randomOver(field, { count: MILLION }, { seed: 1 }, facets);
  return { position, normal: normalsAt(facets, triangle) };
}

function theirRandom(shape: ReturnType<typeof geometry>) {
  const mesh = new Mesh(shape);
  const [place, normal] = [new Vector3(), new Vector3()];
  return () => {
    const position = new Float64Array(3 * MILLION);
    const normals = new Float32Array(3 * MILLION);
    const sampler = new MeshSurfaceSampler(mesh).build();
    for (let i = 0; i < MILLION; i++) {
      sampler.sample(place, normal);
      place.toArray(position, 3 * i);
      normal.toArray(normals, 3 * i);
    }
    return { position, normals };
  };
}

/** The distance at which a spread comes to {@link COUNT} positions, to within a hundredth. */
function distanceToCount(first: number, spread: (distance: number) => number): number {
  let distance = first;
  for (let k = 0; k < 8; k++) {
    const count = spread(distance);
    if (Math.abs(count / COUNT - 1) < 0.01) return distance;
    distance *= Math.sqrt(count / COUNT);
  }
  throw new Error("No distance gives the number of positions that is asked for.");
}

function evenContest(field: ReturnType<typeof ground>): Contest {
  const area = areasOf(field).reduce((sum, one) => sum + one);
  const mine = distanceToCount(
    distanceFor(COUNT, area),
    (distance) => evenOver(field, spreadable(field), distance, { seed: 1 }).count,
  );
  const fill = (radius: number) => new FastPoisson({ shape: [METRES, METRES], radius }).fill();
  const theirs = distanceToCount(distanceFor(COUNT, METRES * METRES), (distance) => fill(distance).length);
  return {
    name: "even-over-100k",
    n: COUNT,
    peer: "fast-2d-poisson-disk-sampling on a flat square",
    ours: () => evenOver(field, spreadable(field), mine, { seed: 1 }),
    theirs: () => fill(theirs),
  };
}

export function surfaceContests(): { contests: Contest[]; reports: Row[] } {
  const field = ground();
  const [, oursBuilt] = timed(() => field.heights);
  const [tree, theirsBuilt] = timed(() => new MeshBVH(geometry()));
  const [ours, theirs] = [ourDrop(field), theirDrop(tree)];
  const [a, b] = [ours(), theirs()];
  for (let k = 0; k < a.length; k++) if (Math.abs(a[k] - b[k]) > 1e-3) throw new Error("Both sides differ.");
  const peer = "three-mesh-bvh raycastFirst";
  return {
    contests: [
      { name: "drop-100k", n: COUNT, peer, ours, theirs },
      {
        name: "random-over-1m",
        n: MILLION,
        peer: "three MeshSurfaceSampler, building included",
        ours: () => ourRandom(field),
        theirs: theirRandom(geometry()),
      },
      evenContest(field),
    ],
    reports: [
      {
        name: "drop-building",
        n: TRIANGLES,
        ours_ms: oursBuilt,
        peer: "three-mesh-bvh MeshBVH",
        peer_ms: theirsBuilt,
        ratio: theirsBuilt / oursBuilt,
      },
    ],
  };
}
