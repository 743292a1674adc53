import fc from "fast-check";
import { firstly, Graph, input, part, query, same, step, task } from ".";

const number = input<number>("number");
/** Sums what stands before it in a made-up order; rounded, so that changes may end here. */
const sums = input<readonly string[]>("sums");
const coarse: ReturnType<typeof query<number>> = query("coarse", (ask, key) => {
  const from = ask(sums, key) ?? [];
  return Math.floor(from.reduce((sum, other) => sum + ask(coarse, other), ask(number, key) ?? 0) / 2);
});

test("whatever is changed in whatever order, it says what computing anew would, and runs nothing twice", () => {
  const name = (i: number) => `n${i}`;
  const edit = fc.record({ at: fc.nat(7), value: fc.nat(6), from: fc.subarray([0, 1, 2, 3, 4, 5, 6]) });
  fc.assert(
    fc.property(fc.array(edit, { minLength: 1, maxLength: 30 }), fc.nat(7), (edits, asked) => {
      const graph = new Graph();
      const values = new Array<number>(8).fill(0);
      const links = values.map((): number[] => []);
      const direct = (i: number): number =>
        Math.floor(links[i].reduce((sum, other) => sum + direct(other), values[i]) / 2);
      for (const { at, value, from } of edits) {
        values[at] = value;
        links[at] = from.filter((other) => other < at);
        graph.set(number, name(at), value);
        graph.set(sums, name(at), links[at].map(name));
        graph.ran = [];
        expect(graph.get(coarse, name(asked))).toBe(direct(asked));
        expect(graph.ran.length).toBeLessThanOrEqual(8);
        graph.ran = [];
        expect([graph.get(coarse, name(asked)), graph.ran]).toEqual([direct(asked), []]);
        if (value % 3 === 0) graph.release(coarse, name(at));
      }
      graph.ran = [];
      for (const [i] of values.entries()) expect(graph.get(coarse, name(i))).toBe(direct(i));
    }),
  );
});

test("what is looked at first lets nobody who hangs on it be looked at while it comes to the same, and fails with who asks", () => {
  const halves = firstly("half", (ask, key) => {
    const value = ask(number, key) ?? 0;
    if (value < 0) throw new Error("below nought");
    return Math.floor(value / 4);
  });
  let looks = 0;
  const seen = query("seen", (ask, key) => ask(halves, key));
  const all = query("all", (ask) => {
    looks++;
    return ["a", "b"].reduce((sum, key) => sum + ask(seen, key), 0);
  });
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.constantFrom("a", "b"), fc.integer({ min: -2, max: 9 })), { maxLength: 20 }),
      (sets) => {
        const graph = new Graph();
        const values = { a: 0, b: 0 };
        graph.get(all, "");
        for (const [key, value] of sets) {
          const before = Math.floor(values[key as "a"] / 4);
          values[key as "a"] = value;
          graph.set(number, key, value);
          if (Math.min(values.a, values.b) < 0) expect(() => graph.get(all, "")).toThrow("below nought");
          else {
            [graph.ran, looks] = [[], 0];
            expect(graph.get(all, "")).toBe(Math.floor(values.a / 4) + Math.floor(values.b / 4));
            if (before === Math.floor(value / 4))
              expect([graph.ran.filter((name) => name !== "half"), looks]).toEqual([[], 0]);
          }
        }
      },
    ),
  );
  const graph = new Graph();
  graph.get(all, "");
  graph.set(number, "gone", 5);
  graph.get(halves, "gone");
  graph.set(number, "gone", 9);
  graph.forget("gone");
  graph.ran = [];
  expect([graph.get(all, ""), graph.ran]).toEqual([0, []]);
});

const square = step("square", (x: number) => ({ area: Float32Array.of(x * x) }));
const squares = query("squares", (ask, key) => [
  ask.step(square, ask(number, key) ?? 0),
  ask.step(square, ask(number, `${key}2`) ?? 0),
]);
const area = query("area", (ask, key) => ask(squares, key).reduce((sum, one) => sum + one.area[0], 0));

test("only what reads something that came to something else runs; equal content keeps the object it was", () => {
  const graph = new Graph();
  graph.set(number, "a", 3);
  graph.set(number, "a2", 4);
  expect(graph.get(area, "a")).toBe(25);
  const [first, second] = graph.get(squares, "a");
  graph.ran = [];
  graph.set(number, "a", 3);
  expect([graph.get(area, "a"), graph.ran]).toEqual([25, []]);
  graph.set(number, "a", -3);
  expect([graph.get(area, "a"), graph.ran]).toEqual([25, ["squares", "square"]]);
  expect(graph.get(squares, "a")[0]).toBe(first);
  graph.set(number, "a2", 1);
  expect(graph.get(area, "a")).toBe(10);
  expect(graph.get(squares, "a")[0]).toBe(first);
  expect(graph.get(squares, "a")[1]).not.toBe(second);
});

test("what was given up for memory is worked out anew without anything else running; what is forgotten is gone", () => {
  const graph = new Graph();
  graph.set(number, "a", 3);
  expect(graph.get(area, "a")).toBe(9);
  expect(graph.bytes).toBeGreaterThan(0);
  graph.trim(0);
  graph.release(squares, "a");
  graph.ran = [];
  expect([graph.get(area, "a"), graph.ran]).toEqual([9, []]);
  expect(graph.get(squares, "a")).toHaveLength(2);
  expect(graph.ran).toEqual(["squares", "square", "square"]);
  graph.ran = [];
  expect([graph.get(area, "a"), graph.ran]).toEqual([9, []]);
  graph.forget("a");
  graph.forget("a2");
  expect(graph.bytes).toBe(0);
  expect(graph.get(area, "a")).toBe(0);
});

test("a query that throws or hangs on itself says so each time, and is right again once that is mended", () => {
  const picky = query("picky", (ask, key) => {
    const value = ask(number, key) ?? 0;
    if (value < 0) throw new RangeError("below zero");
    return value;
  });
  const graph = new Graph();
  graph.set(number, "a", -1);
  for (let k = 0; k < 2; k++) expect(() => graph.get(picky, "a")).toThrow("below zero");
  graph.set(number, "a", 2);
  expect(graph.get(picky, "a")).toBe(2);
  graph.set(sums, "b", ["b"]);
  for (let k = 0; k < 2; k++) expect(() => graph.get(coarse, "b")).toThrow("hangs on itself");
  graph.set(sums, "b", []);
  expect(graph.get(coarse, "b")).toBe(0);
});

describe("work that rests", () => {
  const counted = task("counted", function* (ask, key) {
    let sum = 0;
    for (let k = 0; k < 4; k++) {
      sum += ask(number, `${key}${k}`) ?? 0;
      yield (k + 1) / 4;
    }
    return sum;
  });
  const yes = () => Promise.resolve(true);

  test("comes to the same at one go and in portions, is remembered, and tells how far it is", async () => {
    const [graph, other] = [new Graph(), new Graph()];
    for (const one of [graph, other]) for (let k = 0; k < 4; k++) one.set(number, `a${k}`, k);
    const told: number[] = [];
    graph.onProgress = (_, __, share) => told.push(share);
    expect(await graph.getSlowly(counted, "a", yes)).toBe(6);
    expect(told).toEqual([0.25, 0.5, 0.75, 1]);
    graph.ran = [];
    expect([await graph.getSlowly(counted, "a", yes), graph.get(counted, "a"), graph.ran]).toEqual([6, 6, []]);
    expect(other.get(counted, "a")).toBe(6);
  });

  test("gives way when it is told to, when what it has read changes, and when it is asked for again meanwhile", async () => {
    const graph = new Graph();
    let left = 2;
    expect(await graph.getSlowly(counted, "a", () => Promise.resolve(left-- > 0))).toBeNull();
    const changing = graph.getSlowly(counted, "a", yes);
    graph.set(number, "a0", 5);
    expect(await changing).toBeNull();
    const [before, after] = [graph.getSlowly(counted, "a", yes), graph.getSlowly(counted, "a", yes)];
    expect([await before, await after]).toEqual([null, 5]);
    const overtaken = graph.getSlowly(counted, "a", yes);
    graph.set(number, "a3", 1);
    expect([await overtaken, graph.get(counted, "a")]).toEqual([5, 6]);
  });
});

test("the same is what has the same content, of data; other things are the same only as themselves", () => {
  class Thing {
    constructor(readonly value: number) {}
  }
  const data = fc.letrec((tie) => ({
    value: fc.oneof(
      fc.constantFrom(0, -0, NaN, 1, "a", null, undefined, true),
      fc.array(tie("value"), { maxLength: 3 }),
      fc.dictionary(fc.constantFrom("x", "y"), tie("value")),
      fc.array(fc.nat(3)).map((list) => Float32Array.from(list)),
      fc.array(fc.tuple(fc.nat(3), fc.nat(3))).map((list) => new Map(list)),
    ),
  })).value;
  fc.assert(fc.property(data, (value) => same(value, structuredClone(value))));
  fc.assert(
    fc.property(data, data, (a, b) => {
      expect(same({ a }, { a: b })).toBe(same(a, b));
      expect(same([a, 1], [b, 2])).toBe(false);
      expect(same(Float32Array.of(1), Float64Array.of(1))).toBe(false);
    }),
  );
  const thing = new Thing(1);
  expect([same([thing], [thing]), same(thing, new Thing(1))]).toEqual([true, false]);
  const [large, again] = [new Uint8Array(70_000), new Uint8Array(70_000)];
  expect([same(large, large), same(large, again), same(large.slice(1e4), again.slice(1e4))]).toEqual([
    true,
    false,
    true,
  ]);
  expect([same(new Map([[1, 2]]), new Map([[2, 1]])), same({ a: undefined }, { b: undefined })]).toEqual([
    false,
    false,
  ]);
});

test("an input that is told not to count leaves what hangs on it as it was", () => {
  const deaf = new Graph((node, of) => node === "squares" && of === "number");
  deaf.set(number, "a", 3);
  expect(deaf.get(area, "a")).toBe(9);
  deaf.set(number, "a", 4);
  expect(deaf.get(area, "a")).toBe(9);
});

test("what is held twice counts once, and what is a part of something else not at all", () => {
  const numbers = new Float64Array(100);
  const whole = query("whole", () => ({ left: numbers, right: { again: numbers } }));
  const half = part("half", (ask, key) => ask(whole, key).left);
  const graph = new Graph();
  expect(graph.get(half, "")).toBe(numbers);
  expect(graph.bytes).toBe(800);
});
