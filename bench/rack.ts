/** `rack-100k`: 100,000 jars on a rack, eight deep and five high, against as many plain placements along a line by the same rules. */
import { evaluate } from "../src/core/place/testing";
import { GuideLine, lineSchema } from "../src/core/line";
import { dressingSchema } from "../src/core/place";
import type { Contest } from "./row";

const COUNT = 100_000;
const [DEEP, HIGH] = [8, 5];
const LENGTH = 500;

const line = lineSchema.parse({
  id: "line",
  name: "Line",
  number: 1,
  kind: "smooth",
  knots: Array.from({ length: 30 }, (_, i) => ({ position: [(i * LENGTH) / 29, 0, 3 * Math.sin(i)] })),
});
const jar = { min: [-0.04, 0, -0.04] as const, max: [0.04, 0.15, 0.04] as const };
const around = () => ({
  guides: new Map([["line", new GuideLine(line)]]),
  bounds: new Map(["a", "b", "c"].map((id) => [id, { min: [...jar.min], max: [...jar.max] } as never])),
});

const dressing = (stacked: boolean) =>
  dressingSchema.parse({
    id: "jars",
    name: "Jars",
    where: { lines: ["line"], stacked, deep: [DEEP, DEEP], high: [HIGH, HIGH] },
    what: { entries: [{ prop: "a", count: 3 }, { prop: "b", count: 2 }, { prop: "c" }] },
    spacing: { by: "count", count: stacked ? COUNT / (DEEP * HIGH) : COUNT, roomBehind: 0.01 },
    variation: { turnOn: true, turnUp: [-0.3, 0.3], sizeOn: true, size: [0.95, 1.05] },
    gaps: { chance: 0.05, taken: 0.2 },
  });

export function rackContests(): Contest[] {
  const [rack, plain] = [dressing(true), dressing(false)];
  for (const one of [rack, plain]) {
    const { count } = evaluate(one, around());
    if (count !== COUNT) throw new Error(`It comes to ${count} placements.`);
  }
  const peer = "as many plain placements";
  return [
    {
      name: "rack-100k",
      n: COUNT,
      peer,
      ours: () => evaluate(rack, around()),
      theirs: () => evaluate(plain, around()),
    },
  ];
}
