/** Sparse systems: what is solved fulfils its equations, whatever the order; what is not positive definite is refused. */
import fc from "fast-check";
import { hermitian, Ldl, minimumDegree, solveHermitian, symmetric } from ".";

/** A grid of unknowns joined to their neighbours by springs, held by a little everywhere. */
function springs(wide: number, high: number, stiff: (k: number) => number) {
  const [rows, columns, values]: number[][] = [[], [], []];
  const put = (i: number, j: number, x: number) => {
    rows.push(i);
    columns.push(j);
    values.push(x);
  };
  const neighbours: number[][] = Array.from({ length: wide * high }, () => []);
  let k = 0;
  const join = (i: number, j: number) => {
    const s = stiff(k++);
    put(i, i, s);
    put(j, j, s);
    put(Math.max(i, j), Math.min(i, j), -s);
    neighbours[i].push(j);
    neighbours[j].push(i);
  };
  for (let i = 0; i < wide * high; i++) {
    put(i, i, 1e-3);
    if (i % wide > 0) join(i, i - 1);
    if (i >= wide) join(i, i - wide);
  }
  const start = [0];
  for (const list of neighbours) start.push(start[start.length - 1] + list.length);
  return { matrix: symmetric(wide * high, rows, columns, values), start, neighbour: neighbours.flat() };
}

test("complex systems fulfil their equations in any order, and are refused where they are not positive definite", () => {
  const number = fc.double({ min: -1, max: 1, noNaN: true });
  const entry = fc.tuple(fc.nat(9), fc.nat(9), number, number).filter(([i, j]) => i > j);
  fc.assert(
    fc.property(
      fc.array(entry, { maxLength: 30 }),
      fc.array(number, { minLength: 20, maxLength: 20 }),
      (entries, wanted) => {
        // Its diagonal outweighs all the rest.
        const all = [
          ...entries,
          ...Array.from({ length: 10 }, (_, i): [number, number, number, number] => [i, i, 50, 0]),
        ];
        const [rows, columns, re, im] = [0, 1, 2, 3].map((k) => all.map((one) => one[k]));
        const b = new Float64Array(20);
        const add = (i: number, j: number, x: number, y: number) => {
          b[2 * i] += x * wanted[2 * j] - y * wanted[2 * j + 1];
          b[2 * i + 1] += x * wanted[2 * j + 1] + y * wanted[2 * j];
        };
        for (const [i, j, x, y] of all) {
          add(i, j, x, y);
          if (i !== j) add(j, i, x, -y);
        }
        const order = Uint32Array.from({ length: 10 }, (_, k) => (7 * k + 3) % 10);
        expect(solveHermitian(hermitian(10, rows, columns, re, im), order, b)).toBe(true);
        b.forEach((x, k) => expect(x).toBeCloseTo(wanted[k], 9));
      },
    ),
    { numRuns: 60 },
  );
  const both = Uint32Array.of(0, 1);
  expect(solveHermitian(hermitian(2, [0, 1, 1], [0, 1, 0], [1, 1, 0], [0, 0, 2]), both, new Float64Array(4))).toBe(
    false,
  );
});

test("solved in any order it fulfils its equations; by least degree a grid keeps most of its zeros", () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 12 }), fc.integer({ min: 1, max: 12 }), fc.nat(), (wide, high, seed) => {
      const random = (k: number) => 0.5 + (((k + 1) * (seed + 7919) * 2654435761) % 1000) / 1000;
      const { matrix, start, neighbour } = springs(wide, high, random);
      const { n } = matrix;
      const wanted = Float64Array.from({ length: n }, (_, i) => random(i) - 1);
      const orders: Uint32Array[] = [
        Uint32Array.from({ length: n }, (_, i) => i),
        Uint32Array.from({ length: n }, (_, i) => n - 1 - i),
      ];
      orders.push(minimumDegree(start, neighbour));
      for (const order of orders) {
        expect([...order].sort((a, b) => a - b)).toEqual(Array.from({ length: n }, (_, i) => i));
        const b = new Float64Array(n);
        for (let j = 0; j < n; j++)
          for (let p = matrix.start[j]; p < matrix.start[j + 1]; p++) b[matrix.row[p]] += matrix.value[p] * wanted[j];
        const twice = b.map((x) => -2 * x);
        Ldl.of(matrix, order)!.solveBoth(b, twice);
        b.forEach((x, i) => expect(x).toBeCloseTo(wanted[i], 8));
        twice.forEach((x, i) => expect(x).toBeCloseTo(-2 * wanted[i], 8));
      }
    }),
    { numRuns: 60 },
  );
  const { matrix, start, neighbour } = springs(60, 60, () => 1);
  const plain = Ldl.of(
    matrix,
    Uint32Array.from({ length: 3600 }, (_, i) => i),
  )!;
  const least = Ldl.of(matrix, minimumDegree(start, neighbour))!;
  expect(least.entries).toBeLessThan(plain.entries / 3);
});

test("what is not positive definite is refused", () => {
  const order = Uint32Array.of(0, 1);
  expect(Ldl.of(symmetric(2, [0, 1, 1], [0, 1, 0], [1, 1, 2]), order)).toBeNull();
  expect(Ldl.of(symmetric(2, [0, 1, 1], [0, 1, 0], [1, 1, 1]), order)).toBeNull();
  expect(Ldl.of(symmetric(2, [0, 1, 1, 0], [0, 1, 0, 0], [1, 2, 1, 1]), order)).not.toBeNull();
});
