import { makeLine } from "../line/testing";
import { Volume } from "../host";
import { WorldMesh } from "../mesh";
import { boxMesh, evaluate, dressing, pegsOn, STAND, straight, surroundings } from "../place/testing";
import { FLAG, hexOf, lineKey, placeOfKey } from "../place";
import { flagged, keysNamed } from ".";
import { MAX_KEYS } from "./finding";
import { rowsOf, standingRows } from "./rows";
import { foundOn, type Told } from "./testing";
import type { Line } from "../line";
import type { Vec3 } from "../math";

type Input = Parameters<typeof dressing>[0];

function found(input: Input, lines: Line[] = [straight(10)]): Told[] {
  const dressed = dressing(input, lines);
  const around = surroundings(lines);
  return foundOn(dressed, evaluate(dressed, around), around, { nameOf: () => "Quay" });
}

/** What one check finds. */
const of = (check: string, input: Input, lines?: Line[]) =>
  found(input, lines).filter((finding) => finding.check === check);

const oars = { what: { entries: [{ prop: "oar" }] } };
const two = { what: { entries: [{ prop: "oar" }, { prop: "buoy" }] } };
const end = "end" as const;
const ring = makeLine({
  kind: "polyline",
  knots: [
    [0, 0, 0],
    [1, 0, 0],
    [1, 0, 1],
    [0, 0, 1],
  ],
  closed: true,
});

describe("too close", () => {
  test("props with room between them are not; props nearer than their footprint are, by the right amount", () => {
    expect(found({ spacing: { distance: 0.5, remainder: end } })).toEqual([]);
    expect(found({ spacing: { distance: 0.4, remainder: end } })).toEqual([]);
    const [finding, ...none] = found({ spacing: { distance: 0.3, remainder: end } });
    expect(none).toEqual([]);
    expect(finding.check).toBe("too-close");
    expect(finding.worst).toBeCloseTo(0.1, 4);
    expect(finding.count).toBe(34);
    expect(finding.message).toContain("Quay");
  });

  test("the footprint follows the prop's turn and is not symmetric where the prop is not", () => {
    const spacing = { distance: 1, remainder: end };
    expect(of("too-close", { ...oars, spacing })).toHaveLength(1);
    expect(of("too-close", { ...oars, spacing, stance: { turnUp: Math.PI / 2 } })).toEqual([]);
  });

  test("one pair pushed together by hand is one finding that names both, and a blank between them hides nothing", () => {
    const [one, ...none] = of("too-close", { spacing: { distance: 1 }, pegs: pegsOn({ slot: 3, at: 4.2 }) });
    expect(none).toEqual([]);
    expect(one.keys).toHaveLength(2);
    const removed = pegsOn({ slot: 4, removed: true }, { slot: 3, at: 4.9 });
    expect(of("too-close", { spacing: { distance: 1 }, pegs: removed })[0].count).toBe(2);
  });

  test("on a closed line the last is a neighbour of the first; rows beside each other are none", () => {
    expect(found({ spacing: { by: "count", count: 8 } }, [ring])).toEqual([]);
    expect(found({ spacing: { distance: 0.95, remainder: end } }, [ring])).toEqual([]);
    const pegs = pegsOn({ slot: 0, at: 3.3 });
    expect(of("too-close", { spacing: { by: "count", count: 4 }, pegs }, [ring])[0].count).toBe(2);
    expect(found({ spacing: { distance: 1 }, fit: { rows: 3, rowDistance: 0.5 } })).toEqual([]);
  });

  test("a gap below zero asks for overlaps of just that much", () => {
    expect(of("too-close", { spacing: { by: "end", gap: -0.1 } })).toEqual([]);
    expect(of("too-close", { spacing: { by: "end", gap: -0.1 }, pegs: pegsOn({ slot: 2, at: 1 }) })).toHaveLength(1);
  });
});

test("what stands behind and on each other in a rack is not too close; where nothing goes in that is told", () => {
  const where = { lines: ["line"], stacked: true, levels: 2, levelRise: 3 };
  expect(found({ where, spacing: { distance: 0.5, remainder: end } })).toEqual([]);
  expect(of("too-close", { where, spacing: { distance: 0.3, remainder: end } })[0].count).toBe(34);
  const tight = of("tight-rack", { where: { ...where, deepBy: "metres", deepInto: [0.3, 0.3] }, spacing: { distance: 5 } }); // prettier-ignore
  expect(tight.map(({ count, message }) => [count, message])).toEqual([
    [6, "Not a single thing goes into the depth of 6 columns of the rack. A greater depth under Where lets it in."],
  ]);
});

describe("overlapping", () => {
  test("rows nearer than the props are broad run into each other, with real boxes; higher ones pass over", () => {
    const rows = { spacing: { distance: 1 }, fit: { rows: 2, rowDistance: 0.3 } };
    const [finding] = of("overlapping", rows);
    expect(finding).toMatchObject({ count: 22, mend: "keep-clear" });
    expect(finding.worst).toBeCloseTo(0.1, 4);
    expect(of("overlapping", { ...rows, fit: { ...rows.fit, rowDistance: 0.41 } })).toEqual([]);
    const crossing = makeLine({
      kind: "polyline",
      id: "over",
      number: 2,
      knots: [
        [5, 1.5, -3],
        [5, 1.5, 3],
      ],
    });
    const both = [straight(10), crossing];
    expect(of("overlapping", { spacing: { distance: 1 } }, both)).toEqual([]);
    const low: Line = {
      ...crossing,
      knots: crossing.knots.map(({ id, position: [x, , z] }) => ({ id, position: [x, 0.5, z] })),
    };
    expect(of("overlapping", { spacing: { distance: 1 } }, [both[0], low])[0].count).toBe(2);
  });

  test("keeping clear leaves nothing to be found", () => {
    const fit = { rows: 4, rowDistance: 0.25, clear: "box" as const };
    expect(of("overlapping", { spacing: { distance: 0.3 }, fit })).toEqual([]);
  });
});

test("a prop that stands with its middle on an end is let be; one that reaches farther out is told, unless it is clipped", () => {
  expect(found({})).toEqual([]);
  expect(of("past-end", { ...oars, spacing: { distance: 2 } })).toHaveLength(1);
  const [finding] = of("past-end", { fit: { along: 0.3 } });
  expect(finding).toMatchObject({ count: 1, mend: "keep-inside" });
  expect(finding.worst).toBeCloseTo(0.5, 4);
  expect(of("past-end", { ...oars, spacing: { distance: 2, inside: true } })).toEqual([]);
  expect(of("past-end", { fit: { along: 0.3, clip: true } })).toEqual([]);
});

test("a gap half as wide again as the others is uneven; blanks, and slots at places of their own, are not", () => {
  const moved = { spacing: { distance: 1 }, pegs: pegsOn({ slot: 4, at: 4.6 }) };
  const [finding] = of("uneven", moved);
  expect(finding).toMatchObject({ mend: "unpeg" });
  expect(finding.worst).toBeCloseTo(1.6, 4);
  expect(of("uneven", { ...moved, pegs: pegsOn({ slot: 4, at: 4.4 }) })).toEqual([]);
  // The last one, behind which none is nearer.
  const last = { spacing: { distance: 1 }, pegs: pegsOn({ slot: 10, at: 10.6 }) };
  expect(of("uneven", last, [straight(10.7)])[0].worst).toBeCloseTo(1.6, 4);
  expect(of("uneven", { spacing: { distance: 1 }, gaps: { chance: 0.5 } })).toEqual([]);
  expect(of("uneven", { spacing: { by: "list", list: [0, 1, 2, 3, 4, 5, 9] } })).toEqual([]);
});

test("where a line goes over the top, what takes its up from the line turns over against its neighbours, and is told", () => {
  const over = makeLine({ kind: "arc", knots: [[0, 0, 0]], radius: 2, sweep: Math.PI, lean: Math.PI / 2 });
  const sharp = makeLine({
    kind: "polyline",
    knots: [
      [0, 0, 0],
      [1, 4, 0],
      [2, 0, 0],
    ],
  });
  const spacing = { distance: 0.7 };
  expect(of("flipped", { spacing, stance: { up: "world" } }, [over])).toEqual([]);
  const [finding] = of("flipped", { spacing, stance: { up: "world" } }, [sharp]);
  expect(finding).toMatchObject({ count: 2, mend: "up-from-line" });
  expect(of("flipped", { spacing, stance: { up: "plumb" } }, [sharp])).toEqual([]);
});

test("rows on the inside of a bend tighter than they lie beside the line fold, and so do broad props that are bent", () => {
  const circle = (radius: number) => makeLine({ kind: "circle", knots: [[0, 0, 0]], radius });
  const rows = (rowDistance: number) => ({ spacing: { distance: 0.5 }, fit: { rows: 2, rowDistance } });
  // Two rows lie half their distance to either side.
  expect(of("folded", rows(1.9), [circle(1)])).toEqual([]);
  expect(of("folded", rows(2.1), [circle(1)])[0].check).toBe("folded");
  const bent = { spacing: { distance: 0.5 }, fit: { bend: true } };
  expect(of("folded", bent, [circle(0.25)])).toEqual([]);
  expect(of("folded", bent, [circle(0.15)])[0]).toMatchObject({ mend: "stiff" });
});

test("a peg whose slot has gone is told, with the pegs it is about, and is gone from the list when the slot is back", () => {
  const pegs = pegsOn({ slot: 2, at: 2.1 }, { slot: 9, removed: true });
  const [finding] = of("orphan-peg", { spacing: { by: "count", count: 5 }, pegs });
  expect(finding).toMatchObject({ pegs: [hexOf(lineKey(1, 9))], count: 1, line: "line", mend: "drop-pegs" });
  expect(of("orphan-peg", { spacing: { by: "count", count: 12 }, pegs })).toEqual([]);
});

test("a line on which nothing fits is told, with its length; so is one that asks for too many", () => {
  const short = found({ spacing: { fromStart: 0.7, fromEnd: 0.6 } }, [straight(1.2)]);
  expect(short.map((finding) => finding.check)).toEqual(["line-too-short"]);
  expect(short[0].message).toBe("No slot fits on Quay: it is 1.20 m long and 1.30 m of it stay free.");
  expect(found({}, [straight(0)])[0].check).toBe("line-too-short");
  const many = found({ what: { entries: [] }, spacing: { distance: 0.0001 } }, [straight(100)]);
  expect(many.map((finding) => finding.check)).toEqual(["too-many"]);
});

test("placements that a finding names carry its flag, and only they", () => {
  const lines = [straight(10)];
  const pegs = pegsOn(...[3, 700].map((slot) => ({ slot, at: 0.01 * slot + 0.004 })));
  const dressed = dressing({ ...oars, stance: { turnUp: Math.PI / 2 }, spacing: { distance: 0.01 }, pegs }, lines);
  const around = surroundings(lines);
  const placements = evaluate(dressed, around);
  const all = foundOn(dressed, placements, around);
  const named = new Set(all.flatMap(({ keys }) => [...keys]));
  const flags = flagged(placements, all);
  const slots = Array.from(named, placeOfKey);
  expect(Math.max(...slots) - Math.min(...slots)).toBeGreaterThan(600);
  expect(all.length).toBeGreaterThan(1);
  placements.key.forEach((key, i) => expect((flags[i] & FLAG.finding) !== 0).toBe(named.has(key)));
});

const zigzag: Vec3[] = [0, 1, 2, 3].map((i) => [3 * i, 0, i % 2]);

test("findings on a line of any shape name only placements that stand", () => {
  const line = makeLine({ kind: "polyline", knots: zigzag });
  for (const finding of found({ spacing: { distance: 0.25 }, gaps: { chance: 0.5 } }, [line])) {
    expect(finding.keys.length).toBeGreaterThan(0);
    expect(finding.count).toBeGreaterThanOrEqual(finding.keys.length);
  }
});

test("a dressing of which keeping clear leaves nothing is told of, and one of which some stay is not", () => {
  const lines = [straight(4)];
  const { guides, bounds } = surroundings(lines);
  // Buoys all along the line, to which the oars give way.
  const placed = new Map([["all", evaluate(dressing({ spacing: { distance: 0.3 } }, lines), { guides, bounds })]]);
  const gone = (clear: "off" | "box", across: number) => {
    const oars = { what: { entries: [{ prop: "oar" }] }, stance: { meetsUp: "pivot" as const } };
    const dressed = dressing(
      { ...oars, spacing: { distance: 1 }, fit: { clear, clearOf: ["all"], across, up: 0.5 } },
      lines,
    );
    const placements = evaluate(dressed, { guides, bounds, placed });
    return foundOn(dressed, placements, { guides, bounds }).filter(({ check }) => check === "all-give-way");
  };
  expect(gone("box", 0)).toMatchObject([
    { count: 5, message: expect.stringContaining("5 props would run into others") },
  ]);
  expect(gone("box", 3)).toEqual([]);
  expect(gone("off", 0)).toEqual([]);
});

test("neighbours of a ring are no props that run into each other elsewhere, not even over its seam", () => {
  const circle = makeLine({ kind: "circle", radius: 0.5, knots: [[0, 0, 0]] });
  const crowded = { spacing: { by: "count" as const, count: 10 } };
  expect(of("overlapping", crowded, [circle])).toEqual([]);
  expect(of("too-close", crowded, [circle]).length).toBeGreaterThan(0);
});

test("rows are gone through as they stand, also where a peg has brought one past others", () => {
  const pegs = pegsOn({ slot: 2, at: 7.1 });
  const [close, ...more] = of("too-close", { spacing: { distance: 1 }, pegs });
  expect(more).toEqual([]);
  expect(Array.from(close.keys, placeOfKey)).toEqual([7, 2]);
});

test("rows are told apart however many there are: none is another line's", () => {
  const lines = [
    straight(3),
    makeLine({
      kind: "polyline",
      id: "other",
      number: 2,
      knots: [
        [0, 0, 900],
        [3, 0, 900],
      ],
    }),
  ];
  const input = {
    where: { lines: lines.map(({ id }) => id) },
    spacing: { distance: 1 },
    fit: { rows: 70, rowDistance: 2 },
  };
  const placements = evaluate(dressing(input, lines), surroundings(lines));
  const rows = rowsOf(placements);
  expect(rows).toHaveLength(140);
  for (const { line, order } of rows) {
    expect([...order].map((i) => placements.line[i])).toEqual([line, line, line, line]);
    expect(new Set([...order].map((i) => placements.row[i])).size).toBe(1);
  }
  expect(
    standingRows({ ...placements, flags: placements.flags.map((_, i) => (i % 8 < 4 ? FLAG.blank : 0)) }, rows),
  ).toHaveLength(70);
});

test("a finding names so many at most and counts all; what several name is named together", () => {
  const [crowd] = of("too-close", { spacing: { distance: 0.004 } });
  expect([crowd.keys.length, crowd.count]).toEqual([MAX_KEYS, 2501]);
  const keys = [[1n, 2n], [], [7n]].map((some) => ({ keys: BigUint64Array.from(some) }));
  expect([...keysNamed(keys)]).toEqual([1n, 2n, 7n]);
});

describe("props that are odd", () => {
  test("are told with their size beside the others', what would mend it, and once for all that stand", () => {
    const dressed = dressing({ spacing: { by: "count", count: 4 }, pegs: pegsOn({ slot: 1, removed: true }) });
    const around = surroundings([straight(10)]);
    const odd = { kind: "large", size: 90, beside: 0.8, factor: 0.01 } as const;
    const told = (oddity: typeof odd | { kind: "lies"; size: number; beside: null; factor: number } | null) =>
      foundOn(dressed, evaluate(dressed, around), around, { oddity: () => oddity }).filter(
        (f) => f.check === "odd-prop",
      );
    expect(told(null)).toEqual([]);
    const [finding, ...none] = told(odd);
    expect(none).toEqual([]);
    expect(finding).toMatchObject({ prop: "buoy", count: 3, mend: "hundredth", orElse: "as-meant", worst: 90 });
    expect(finding.message).toBe("“buoy” is 90.00 m large; the others are about 0.80 m.");
    const lies = { kind: "lies", size: 4, beside: null, factor: 1 } as const;
    expect(told(lies)[0].mend).toBe("stand-up");
    const mixed = dressing({ ...two, spacing: { by: "count", count: 9 } });
    const placements = evaluate(mixed, around);
    const oars = placements.props.indexOf("oar");
    const of = (prop: string) => (prop === "oar" ? lies : null);
    const [one, ...others] = foundOn(mixed, placements, around, { oddity: of }).filter((f) => f.check === "odd-prop");
    expect(others).toEqual([]);
    expect(one.count).toBe(placements.prop.reduce((sum, prop) => sum + Number(prop === oars), 0));
    expect([one.count > 0, one.count < 9]).toEqual([true, true]);
  });
});

test("what fills a box reaches through its walls where they are nearer than it is wide; kept from them it does not", () => {
  const box = WorldMesh.of("box", boxMesh([-2, 0, -2], [2, 3, 2]), STAND);
  const around = { ...surroundings([]), surfaces: new Map([["box", { mesh: box, ground: false }]]) };
  const through = (walls: number, more: Input = {}, taken = evaluate) => {
    const dressed = dressing({
      where: { kind: "inside", volumes: ["box"] },
      spacing: { pattern: "random", amount: "count", count: 200 },
      stance: { meetsUp: "centre" },
      gaps: { walls },
      ...more,
    });
    const volume = new Volume(box);
    const found = foundOn(dressed, taken(dressed, around), around, { volume: () => volume });
    return found.filter((finding) => finding.check === "through-walls");
  };
  const [finding] = through(0);
  expect(finding).toMatchObject({ mend: "keep-from-walls", dressing: "dressing" });
  // A buoy is 0.4 m wide and 1 m high.
  expect(finding.worst).toBeGreaterThan(0.2);
  expect(finding.worst).toBeLessThanOrEqual(0.5);
  expect(finding.count).toBeLessThan(200);
  expect(through(0.6)).toEqual([]);
  // Half as large it reaches half as far; twice as large, farther than one as it is ever could.
  const sized = (by: number) => through(0, { variation: { sizeOn: true, size: [by, by] } })[0];
  expect(sized(0.5).worst).toBeLessThanOrEqual(0.25);
  expect(sized(2).worst).toBeGreaterThan(0.5);
  expect(sized(2).worst).toBeLessThanOrEqual(1);
  // Moved out by less than its size, which counts as hanging there, it is through the wall; by more it is outside.
  const moved = (x: number, y = 1.5, more: Input = {}) => {
    const all = (...[dressed, around]: Parameters<typeof evaluate>) => {
      const p = evaluate(dressed, around);
      for (let i = 0; i < p.count; i++) p.position.set([x - p.origin[0], y - p.origin[1], -p.origin[2]], 3 * i);
      return p;
    };
    return through(0, more, all)[0]?.worst ?? 0;
  };
  // Its top is farther from its origin, twice as large, than it would be as it is.
  expect(moved(0, 1.2, { variation: { sizeOn: true, size: [2, 2] } })).toBeCloseTo(0.2, 4);
  expect([moved(0), moved(1.9), moved(2.5), moved(9)]).toEqual([0, 0.1, 0.7, 0].map((x) => expect.closeTo(x, 4)));
});
