import type { Solved, SolidState } from "./solids";
import { SolidsClient, type SolidsListener } from "./solids-client";

/** Jobs that wait for an answer, by their names, in a worker that is none. */
const open = new Map<string, (answer: Solved | string | null) => void>();
let stops = 0;
let ended = 0;
const workers: FakeWorker[] = [];
class FakeWorker {
  onerror: (() => void) | null = null;
  constructor() {
    workers.push(this);
  }
  addEventListener(): void {}
  terminate(): void {
    ended++;
  }
  known = () => Promise.resolve([]);
  solve = ({ name }: { name: string }) => new Promise((resolve) => open.set(name, resolve as never));
  stop = () => void stops++;
}
Object.assign(globalThis, { Worker: FakeWorker });
afterAll(() => Reflect.deleteProperty(globalThis, "Worker"));

const solved = (name: string) => ({ name }) as Solved;
const states = (wanted: Record<string, string>, known: Record<string, string> = {}) =>
  new Map(
    Object.entries(wanted).map(([id, job]): [string, SolidState] => [
      id,
      { job, troubles: [], solved: known[id] ? ({ name: known[id] } as SolidState["solved"]) : null },
    ]),
  );
const rest = () => new Promise((resolve) => setTimeout(resolve, 5));

function client(more: Partial<SolidsListener> = {}) {
  const told: string[] = [];
  const own = new SolidsClient({
    job: () => Promise.resolve({ name: jobs.current, steps: [] }),
    solved: (id, { name }) => Promise.resolve(void told.push(`${id} ${name}`)),
    failed: (id, reason) => void told.push(`${id} failed: ${reason}`),
    ...more,
  });
  return { own, told };
}
const jobs = { current: "one" };

beforeEach(() => {
  open.clear();
  stops = 0;
  jobs.current = "one";
});

it("joins what is wanted once, gives up what nothing wants any more, and takes what is kept", async () => {
  const kept = jest.fn((job: string) => Promise.resolve(job === "kept" ? solved("kept") : undefined));
  const { own, told } = client({ kept });
  own.want(states({ pot: "one" }));
  await rest();
  own.want(states({ pot: "one" }));
  await rest();
  expect([...open.keys()]).toEqual(["one"]);
  jobs.current = "two";
  own.want(states({ pot: "two" }));
  await rest();
  expect([stops, [...open.keys()]]).toEqual([1, ["one", "two"]]);
  open.get("two")!(solved("two"));
  await rest();
  expect(told).toEqual(["pot two"]);
  expect([...own.solved.keys()]).toEqual(["two"]);
  own.want(states({ pot: "kept" }, { pot: "two" }));
  await rest();
  expect([told.at(-1), open.size]).toEqual(["pot kept", 2]);
  own.want(states({}));
  expect(own.solved.size).toBe(0);
});

it("leaves what was stopped or failed until it is asked for again", async () => {
  const left: string[][] = [];
  const { own, told } = client({ left: (jobs) => void left.push([...jobs]) });
  const wanted = states({ pot: "one" });
  own.want(wanted);
  await rest();
  own.stop();
  await rest();
  own.want(wanted);
  await rest();
  expect([stops, open.size, left.at(-1)]).toEqual([1, 1, ["one"]]);
  own.again(wanted);
  await rest();
  open.get("one")!("The bodies could not be joined.");
  await rest();
  expect(told).toEqual(["pot failed: The bodies could not be joined."]);
  own.want(wanted);
  await rest();
  expect(told).toHaveLength(1);
  jobs.current = "two";
  own.want(states({ pot: "two" }));
  await rest();
  open.get("two")!(Promise.reject(new Error("gone")) as never);
  await rest();
  open.clear();
  own.want(states({ pot: "two" }));
  await rest();
  expect([told.slice(1), open.size]).toEqual([["pot failed: gone"], 0]);
});

it("tells of a worker that dies, and ends one that does not come to rest when it is stopped", async () => {
  const { own, told } = client();
  own.want(states({ pot: "one" }));
  await rest();
  workers.at(-1)!.onerror!();
  await rest();
  expect(told).toEqual(["pot failed: The joining stopped unexpectedly."]);
  own.again(states({ pot: "one" }));
  await rest();
  const before = ended;
  own.stop();
  await new Promise((resolve) => setTimeout(resolve, 1600));
  expect(ended).toBe(before + 1);
  own.again(states({ pot: "one" }));
  await rest();
  open.get("one")!(solved("one"));
  await rest();
  own.stop();
  expect([told.at(-1), ended]).toEqual(["pot one", before + 1]);
});
