/** An order of elimination: of all unknowns, filling in as little as by true degrees, and nothing where nothing has to be. */
import fc from "fast-check";
import { minimumDegree } from ".";
import { eliminationTree } from "./ldl";

/** Neighbours of each of n, from pairs. */
function listsOf(n: number, pairs: readonly (readonly [number, number])[]) {
  const lists: number[][] = Array.from({ length: n }, () => []);
  for (const [a, b] of pairs) {
    lists[a].push(b);
    lists[b].push(a);
  }
  const start = [0];
  for (const list of lists) start.push(start[start.length - 1] + list.length);
  return { start: Int32Array.from(start), neighbour: Int32Array.from(lists.flat()) };
}

function entriesOf(n: number, { start, neighbour }: ReturnType<typeof listsOf>, order: Uint32Array): number {
  expect([...order].sort((a, b) => a - b)).toEqual(Array.from({ length: n }, (_, i) => i));
  const place = new Int32Array(n);
  order.forEach((i, k) => (place[i] = k));
  return eliminationTree({ n, start, row: neighbour, value: new Float64Array(0) }, order, place).start[n];
}

/** What comes by true degrees, each graph in turn made anew. */
function plainly(n: number, pairs: readonly (readonly [number, number])[]): number {
  const beside = Array.from({ length: n }, () => new Set<number>());
  const join = (a: number, b: number) => a !== b && beside[a].add(b) && beside[b].add(a);
  for (const [a, b] of pairs) join(a, b);
  let entries = 0;
  const left = new Set(beside.keys());
  while (left.size > 0) {
    const k = [...left].reduce((best, i) => (beside[i].size < beside[best].size ? i : best));
    left.delete(k);
    entries += beside[k].size;
    for (const a of beside[k]) beside[a].delete(k);
    for (const a of beside[k]) for (const b of beside[k]) join(a, b);
  }
  return entries;
}

test("it fills in no more than by true degrees, but for a little, whatever is joined to whatever", () => {
  let [ours, plain] = [0, 0];
  const graph = fc.integer({ min: 1, max: 60 }).chain((n) => {
    const node = fc.nat(n - 1);
    return fc.tuple(fc.constant(n), fc.array(fc.tuple(node, node), { maxLength: 3 * n }));
  });
  fc.assert(
    fc.property(graph, ([n, pairs]) => {
      const lists = listsOf(n, pairs);
      const [mine, theirs] = [entriesOf(n, lists, minimumDegree(lists.start, lists.neighbour)), plainly(n, pairs)];
      ours += mine;
      plain += theirs;
      expect(mine).toBeLessThanOrEqual(1.3 * theirs + 8);
    }),
    { numRuns: 300 },
  );
  expect(ours).toBeLessThan(1.02 * plain);
});

test("what branches and never closes fills in nothing; what all are joined to comes last", () => {
  fc.assert(
    fc.property(fc.array(fc.nat(), { maxLength: 200 }), (draws) => {
      const n = draws.length + 1;
      const lists = listsOf(n, draws.map((draw, i) => [i + 1, i - (draw % Math.min(i + 1, 5))] as const)); // prettier-ignore
      expect(entriesOf(n, lists, minimumDegree(lists.start, lists.neighbour))).toBe(n - 1);
    }),
  );
  const wheel = listsOf(4000, Array.from({ length: 3999 }, (_, i) => [[i + 1, 0], [i + 1, ((i + 1) % 3999) + 1]] as const).flat()); // prettier-ignore
  const order = minimumDegree(wheel.start, wheel.neighbour);
  expect(order[3999]).toBe(0);
  expect(entriesOf(4000, wheel, order)).toBeLessThan(3 * 4000);
});

test("a square of triangles keeps all but a few of its zeros", () => {
  const wide = 60;
  const pairs = Array.from({ length: wide * wide }, (_, i) => {
    const [left, above] = [i % wide > 0, i >= wide];
    return [...(left ? [i - 1] : []), ...(above ? [i - wide] : []), ...(left && above ? [i - wide - 1] : [])].map((j) => [i, j] as const); // prettier-ignore
  }).flat();
  const lists = listsOf(wide * wide, pairs);
  // Some 8 % more where what is joined is counted too high or what is alike is not found.
  expect(entriesOf(wide * wide, lists, minimumDegree(lists.start, lists.neighbour))).toBeLessThan(79_000);
});
