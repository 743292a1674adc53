import { shelfOf } from "./shelf";

test("pictures are made once, so many at a time; what cannot be made yet is asked for anew, and the oldest go first", () => {
  jest.useFakeTimers();
  const made: number[][] = [];
  const { useShelf, ask } = shelfOf<number, string | null>({
    most: 4,
    atOnce: 2,
    make: (wanted) => {
      made.push([...wanted]);
      return wanted.map((n) => (n === 3 ? undefined : n === 1 ? null : `picture ${n}`));
    },
  });
  const all = () => [0, 1, 2, 3].map((n) => ask(`${n}`, n));
  expect(all()).toEqual([undefined, undefined, undefined, undefined]);
  all();
  jest.advanceTimersByTime(1e6);
  expect(made).toEqual([[0, 1], [2, 3]]); // prettier-ignore
  expect(all()).toEqual(["picture 0", null, "picture 2", undefined]);
  jest.advanceTimersByTime(1e6);
  expect(made.slice(2)).toEqual([[3]]);
  for (const n of [4, 5, 6]) ask(`${n}`, n);
  jest.advanceTimersByTime(1e6);
  expect([...useShelf.getState().pictures.keys()]).toEqual(["2", "4", "5", "6"]);
  jest.useRealTimers();
});
