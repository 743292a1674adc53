import type { Scene } from "@/core/scene";
import { dressing } from "@/core/place/testing";
import { emptyScene, surfaceSchema } from "@/core/scene";
import { EvaluationClient } from "./client";
import { EvaluationWorker } from "./evaluating";
import { unrollingsOf } from "./unrollings";
import { applyChange, EMPTY_SCENE, type PlacedScene, type SceneChange } from "@/core/scene";
import type { Evaluation } from "./evaluation.worker";

/** Requests that a pretended worker has got and not answered yet. */
const NOTHING = { changed: [], gone: [] };
let open: { name: string; answer: () => void; die: () => void }[] = [];
let workers = 0;
/** What pretended workers tell of solids, and what they are taught. */
let solids: Evaluation["solids"] = new Map();
const taught: string[] = [];

class PretendedWorker {
  onerror: ((event: { message: string }) => void) | null = null;
  constructor() {
    workers++;
  }
  #scene: PlacedScene = EMPTY_SCENE;
  evaluate(change: SceneChange): Promise<Evaluation> {
    const scene = (this.#scene = applyChange(this.#scene, change));
    return new Promise((resolve) =>
      open.push({
        name: scene.mixes[0].id,
        answer: () =>
          resolve({
            results: [],
            laid: NOTHING,
            families: NOTHING,
            made: NOTHING,
            movable: NOTHING,
            moved: NOTHING,
            carries: new Map(),
            stills: { changed: [], gone: [] },
            insides: NOTHING,
            inner: [],
            charts: [],
            sight: { of: null, now: null },
            solids,
            unrolled: [],
          }),
        die: () => this.onerror?.({ message: "out of memory" }),
      }),
    );
  }
  forget() {
    this.#scene = EMPTY_SCENE;
    taught.push("nothing");
  }
  learn(asset: string) {
    taught.push(asset);
  }
  learnSolid(id: string) {
    taught.push(`solid ${id}`);
  }
  learnUnrolling(name: string) {
    taught.push(name);
  }
  poking(revision: number) {
    return Promise.resolve(new Map([[`revision ${revision}`, []]]));
  }
  #port: MessagePort | null = null;
  postMessage({ pulse }: { pulse: MessagePort }) {
    this.#port = pulse;
    beats.push(() => pulse.postMessage(0));
  }
  addEventListener(_: string, hear: (event: { data: unknown }) => void) {
    hears.push(hear);
  }
  terminate() {
    this.#port?.close();
  }
}
/** Who listens for what pretended workers say. */
let hears: ((event: { data: unknown }) => void)[] = [];
/** Lets pretended workers' pulses beat once. */
let beats: (() => void)[] = [];
afterEach(() => {
  client.close();
  EvaluationWorker.endWaiting();
});
afterAll(() => Reflect.deleteProperty(globalThis, "Worker"));

const settle = () => new Promise((resolve) => setTimeout(resolve, 0));
const named = (name: string): Scene => ({
  ...emptyScene(name),
  // A change does not tell a scene's name, so it is known by something in it.
  mixes: [{ id: name, name, props: [{ prop: "buoy", weight: 1 }] }],
});

let heard: string[];
let client: EvaluationClient;
beforeEach(() => {
  Object.assign(globalThis, { Worker: PretendedWorker });
  open = [];
  heard = [];
  taught.length = 0;
  workers = 0;
  client = new EvaluationClient({
    results: (_, scene) => heard.push(scene.name),
    failed: (reason) => heard.push(`failed: ${reason}`),
  });
});

test("the newest request wins: those that came while the worker was busy are dropped but for the last", async () => {
  for (const name of ["one", "two", "three", "four"]) client.request(named(name));
  expect(open.map(({ name }) => name)).toEqual(["one"]);
  open[0].answer();
  await settle();
  expect(open.map(({ name }) => name)).toEqual(["one", "four"]);
  open[1].answer();
  await settle();
  expect(heard).toEqual(["one", "four"]);
  expect(workers).toBe(1);
});

test("what pokes through is told of the last scene alone, after its results", async () => {
  const told: string[] = [];
  client = new EvaluationClient({
    results: (_, scene) => told.push(scene.name),
    poking: (found) => told.push(`poking in ${[...found.keys()].join()}`),
    failed: (reason) => told.push(reason),
  });
  const dressed = (name: string) => ({ ...named(name), dressings: [dressing()] });
  client.request({ ...dressed("one"), surfaces: [] });
  client.request({ ...dressed("two"), surfaces: [] });
  open[0].answer();
  await settle();
  open[1].answer();
  await settle();
  expect(told).toEqual(["one", "two", "poking in revision 2"]);
});

test("a worker that dies is told of and started again with the same scene, but not for ever", async () => {
  client.request(named("heavy"));
  for (let i = 0; i < 3; i++) {
    open[i].die();
    await settle();
  }
  expect(heard).toEqual(Array(3).fill("failed: out of memory"));
  expect(workers).toBe(3);
  expect(open).toHaveLength(3);
  client.request(named("light"));
  open[3].answer();
  await settle();
  expect(heard.at(-1)).toBe("light");
});

test("a newer scene takes the place of the one that killed the worker", async () => {
  client.request(named("heavy"));
  client.request(named("light"));
  open[0].die();
  await settle();
  expect(open.map(({ name }) => name)).toEqual(["heavy", "light"]);
});

test("a worker that is left at rest forgets its scene and takes the next one; one that was at work is ended", async () => {
  client.request(named("one"));
  open[0].answer();
  await settle();
  const next = (name: string) => {
    client.close();
    client = new EvaluationClient({ results: (_, scene) => heard.push(scene.name), failed: (why) => heard.push(why) });
    client.request(named(name));
  };
  next("two");
  expect([workers, taught]).toEqual([1, ["nothing"]]);
  // What it says of its end is heard by whom it works for now.
  open[1].die();
  await settle();
  expect([workers, heard]).toEqual([2, ["one", "out of memory"]]);
  next("three");
  expect(workers).toBe(3);
  open.at(-1)!.answer();
  await settle();
  expect([heard.at(-1), taught]).toEqual(["three", ["nothing"]]);
  // One that ends while nobody needs it is not handed on.
  client.close();
  open.at(-1)!.die();
  next("four");
  expect(workers).toBe(4);
});

test("what was on its way to a worker when its scene was left is not taught to it any more", async () => {
  let come: (bytes: Uint8Array) => void = () => undefined;
  client = new EvaluationClient({
    results: () => undefined,
    failed: (reason) => heard.push(reason),
    poking: () => undefined,
    asset: () => new Promise((resolve) => (come = resolve)),
  });
  const wall = surfaceSchema.parse({ id: "wall", name: "Wall", asset: "a".repeat(64) });
  client.request({ ...named("one"), dressings: [dressing()], surfaces: [wall] });
  open[0].answer();
  await settle();
  client.close();
  come(new Uint8Array(1));
  await settle();
  expect(taught).toEqual(["nothing"]);
});

test("after it is closed nothing is heard any more", async () => {
  client.request(named("one"));
  client.close();
  open[0].answer();
  await settle();
  client.request(named("two"));
  await settle();
  expect(heard).toEqual([]);
});

test("work that is given up leaves nothing behind, and the next request begins with another worker", async () => {
  client.request(named("heavy"));
  client.cancel();
  await settle();
  open[0].answer();
  await settle();
  expect(heard).toEqual([]);
  client.request(named("light"));
  open[1].answer();
  await settle();
  expect(heard).toEqual(["light"]);
  expect(workers).toBe(2);
});

test("a worker that ends without a word is found out by its pulse, told of and begun anew; one that is only busy is not", async () => {
  const clock = jest.spyOn(performance, "now").mockReturnValue(0);
  const at = async (ms: number, beating: boolean) => {
    clock.mockReturnValue(ms);
    if (beating) for (const beat of beats) beat();
    await new Promise((resolve) => setTimeout(resolve, 1050));
  };
  beats = [];
  client.request(named("busy"));
  for (const ms of [0, 6000, 12_000]) await at(ms, true);
  expect(heard).toEqual([]);
  await at(18_000, false);
  await at(18_000, false);
  expect(heard).toEqual(["failed: the work ended without a word; it has been begun anew"]);
  expect(workers).toBe(2);
  open[1].answer();
  await settle();
  expect(heard.at(-1)).toBe("busy");
  clock.mockRestore();
});

test("work that says nothing of how far it is can be stopped all the same", async () => {
  const told: (string | null)[] = [];
  client = new EvaluationClient({
    results: () => undefined,
    failed: () => undefined,
    progress: (progress) => told.push(progress && progress.placing),
  });
  hears = [];
  client.request({ ...named("quiet"), dressings: [dressing()] });
  // What it answers besides, such as that it has learnt a mesh, says nothing of how far it is.
  for (const hear of hears) hear({ data: { id: "1", type: "RAW" } });
  await new Promise((resolve) => setTimeout(resolve, 900));
  expect(told).toEqual([dressing().name]);
  open[0].answer();
  await settle();
  expect(told.at(-1)).toBeNull();
});

test("work that lasts too long gives way to a newer scene, but not where beginning anew would take as long", async () => {
  const clock = jest.spyOn(performance, "now").mockReturnValue(0);
  const begun = () => open.map(({ name }) => name).join();
  client.request(named("heavy"));
  clock.mockReturnValue(1400);
  client.request(named("light"));
  await settle();
  expect(begun()).toBe("heavy");
  // What waits does not wait for another one to come.
  await new Promise((resolve) => setTimeout(resolve, 200));
  expect(begun()).toBe("heavy,light");
  clock.mockReturnValue(1400 + 5000);
  open[1].answer();
  await settle();
  expect(heard).toEqual(["light"]);
  client.request(named("next"));
  clock.mockReturnValue(1400 + 5000 + 4900);
  client.request(named("over"));
  await settle();
  expect([begun(), workers]).toEqual(["heavy,light,next", 2]);
  await new Promise((resolve) => setTimeout(resolve, 200));
  expect([begun(), workers]).toEqual(["heavy,light,next,over", 3]);
  clock.mockRestore();
});

test("how a solid was unrolled at another time is taught before the solid", async () => {
  const tube = surfaceSchema.parse({ id: "hull", name: "Hull", made: { kind: "tube" } });
  const scene = { ...named("one"), surfaces: [tube] };
  const wanted = unrollingsOf(scene, () => "job").get("hull")!;
  solids = new Map([["hull", { job: "job", troubles: [], solved: null }]]) as never;
  const unrolled = { index: new Uint32Array(0), places: new Float64Array(0) };
  client = new EvaluationClient({
    results: () => undefined,
    failed: () => undefined,
    keptSolid: () => Promise.resolve({ name: "job" } as never),
    keptUnrolling: (name) => Promise.resolve(name === wanted ? (unrolled as never) : undefined),
  });
  client.request(scene);
  await settle();
  open[0].answer();
  await settle();
  expect(taught).toEqual([wanted, "solid hull"]);
  solids = new Map();
});
