/** Many smooth lines of twelve knots beside each other, for the rows that have to do with whole scenes. */
export const manyLines = (count: number) =>
  Array.from({ length: count }, (_, i) => ({
    id: `line ${i}`,
    name: `Line ${i}`,
    number: i + 1,
    kind: "smooth",
    knots: Array.from({ length: 12 }, (_, k) => ({
      position: [10 * k, Math.sin(k + i), 3 * i + 2 * Math.sin(1.7 * k)],
    })),
  }));
