/**
 * `join-tubes`: a net of tubes of 2,556 triangles, 16 sides each, in two layers that cross, against the library's own union of
 * the whole list in one call. Run as a script with a number of tubes; tells as JSON how long both took, and what else was asked.
 */
import { cpus } from "node:os";
import { Worker } from "node:worker_threads";
import { inCell, Joiner, solidLibrary, volumeOf, type CellStep, type ClosedMesh } from "../src/core/solid";

const [LENGTH, RADIUS, SIDES, PIECES] = [2, 0.03, 16, 79];
/** The net lies round a cylinder. */
const ROUND = 3;

/** A tube that climbs at 45 degrees to either side. */
function climbing(angle: number, height: number, way: 1 | -1): ClosedMesh {
  const position: number[] = [];
  const index: number[] = [];
  const slope = Math.SQRT1_2;
  for (let i = 0; i <= PIECES; i++) {
    const far = (LENGTH * i) / PIECES;
    const a = angle + (way * far * slope) / ROUND;
    const [c, s] = [Math.cos(a), Math.sin(a)];
    const tangent = [-s * way * slope, slope, c * way * slope];
    const beside = [tangent[1] * s, tangent[2] * c - tangent[0] * s, -tangent[1] * c];
    for (let k = 0; k < SIDES; k++) {
      const turn = (2 * Math.PI * k) / SIDES;
      const [out, side] = [RADIUS * Math.cos(turn), RADIUS * Math.sin(turn)];
      position.push(
        (ROUND + out) * c + side * beside[0],
        height + far * slope + side * beside[1],
        (ROUND + out) * s + side * beside[2],
      );
    }
  }
  for (let i = 0; i < PIECES; i++)
    for (let k = 0; k < SIDES; k++) {
      const [a, b] = [i * SIDES + k, i * SIDES + ((k + 1) % SIDES)];
      index.push(a, b, b + SIDES, a, b + SIDES, a + SIDES);
    }
  const last = PIECES * SIDES;
  for (let k = 1; k < SIDES - 1; k++) index.push(0, k + 1, k, last, last + k, last + k + 1);
  return { position: Float32Array.from(position), index: Uint32Array.from(index) };
}

/** The n-th tube of the net: rows of fifty, of either way in turn, none on another of its own way. */
function tube(n: number, aside = 0): ClosedMesh {
  const [way, k, row] = [n % 2 === 0 ? -1 : 1, (n >> 1) % 25, Math.floor(n / 50)] as const;
  return climbing((0.754 * k + way * 0.6 * row + 0.226 * row) / ROUND + aside, 0.6 * row, way);
}

/** A closed shell of 50,000 triangles within the net, which all tubes reach into. */
function shell(): ClosedMesh {
  const [rows, columns] = [62, 200];
  const position: number[] = [];
  const index: number[] = [];
  for (const radius of [ROUND - 0.02, ROUND - 0.05])
    for (let i = 0; i <= rows; i++)
      for (let k = 0; k < columns; k++) {
        const a = (2 * Math.PI * k) / columns;
        position.push(radius * Math.cos(a), (7.2 * i) / rows, radius * Math.sin(a));
      }
  const inner = (rows + 1) * columns;
  const quad = (a: number, b: number, c: number, d: number) => index.push(a, b, c, a, c, d);
  for (let i = 0; i < rows; i++)
    for (let k = 0; k < columns; k++) {
      const [a, b] = [i * columns + k, i * columns + ((k + 1) % columns)];
      quad(a, a + columns, b + columns, b);
      quad(inner + a, inner + b, inner + b + columns, inner + a + columns);
    }
  for (let k = 0; k < columns; k++) {
    const [a, b] = [k, (k + 1) % columns];
    const top = rows * columns;
    quad(a, b, inner + b, inner + a);
    quad(top + a, inner + top + a, inner + top + b, top + b);
  }
  return { position: Float32Array.from(position), index: Uint32Array.from(index) };
}

const threads = cpus()
  .slice(0, 4)
  .map(() => {
    const thread = new Worker(new URL("./cell-thread.mjs", import.meta.url));
    return {
      solve: (steps: readonly CellStep[]) =>
        new Promise<ClosedMesh>((resolve) => {
          thread.once("message", resolve);
          thread.postMessage(steps);
        }),
      end: () => thread.terminate(),
    };
  });

const library = await solidLibrary();
const alone = (steps: readonly CellStep[]) => Promise.resolve(inCell(library, steps));
const net = (count: number) => Array.from({ length: count }, (_, n) => ({ name: `tube ${n}`, mesh: tube(n) }));

async function timed<T>(work: () => Promise<T> | T): Promise<{ ms: number; result: T }> {
  const start = performance.now();
  const result = await work();
  return { ms: performance.now() - start, result };
}

/** The first join, and one after one tube has changed. */
async function joined(bodies: { name: string; mesh: ClosedMesh }[]) {
  const joiner = new Joiner(
    library,
    alone,
    threads.map(({ solve }) => solve),
  );
  const first = await timed(() => joiner.join([{ how: "join", bodies }]));
  const other = bodies.map((one, n) => (n === 7 ? { name: "another", mesh: tube(7, 0.01) } : one));
  const again = await timed(() => joiner.join([{ how: "join", bodies: other }]));
  const { mesh, open } = first.result!;
  return { ms: first.ms, again: again.ms, open, volume: volumeOf(mesh), triangles: mesh.index.length / 3 };
}

const count = Number(process.argv[2] ?? 200);
// Threads and compilers warm up on a few.
await joined(net(40));
const ours = await joined(net(count));
const theirs = await timed(() => {
  const { Manifold, Mesh } = library;
  const all = net(count).map(
    ({ mesh }) => new Manifold(new Mesh({ numProp: 3, vertProperties: mesh.position, triVerts: mesh.index })),
  );
  const union = Manifold.union(all);
  const volume = union.volume();
  for (const one of [...all, union]) one.delete();
  return volume;
});
const hundred = await joined(net(100));
const whole = await joined([...net(500), { name: "shell", mesh: shell() }]);
await Promise.all(threads.map(({ end }) => end()));
console.log(JSON.stringify({ ours, theirs: { ms: theirs.ms, volume: theirs.result }, hundred, whole }));
