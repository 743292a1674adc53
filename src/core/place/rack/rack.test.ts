/** Racks: columns, stacks and levels; what is taken from them; and that nothing overlaps, floats or is dealt anew. */
import fc from "fast-check";
import { evenly } from "../../math/testing";
import { quatAt, rotate, type Vec3 } from "../../math";
import { ADDED, hasColumn, hexOf, inColumn, lineKey, MOST_DEEP } from "../keys";
import { FLAG } from "../slots";
import { BOUNDS, dressing, evaluate, field, place, straight, surroundings } from "../testing";
import type { Placements } from "../placements";
import type { z } from "zod";
import type { dressingSchema } from "../schema";

type Input = Partial<z.input<typeof dressingSchema>>;
type Where = NonNullable<Input["where"]>;

/** Jars of several props along ten metres from west to east; the back lies to the north. */
const rack = (where: Where, more: Input = {}): Placements =>
  place({
    what: { order: "mixed", entries: [{ prop: "buoy" }, { prop: "oar" }] },
    spacing: { distance: 2.5, ...more.spacing },
    ...Object.fromEntries(Object.entries(more).filter(([name]) => name !== "spacing")),
    where: { lines: ["line"], stacked: true, ...where },
  });

/** The lower and upper end of a placement, upwards (1) or to the left of its line (0), in the world: of its box's corners. */
function ends(p: Placements, i: number, axis: 0 | 1): [number, number] {
  const { min, max } = BOUNDS.get(p.props[p.prop[i]])!;
  const [turn, mirror] = [quatAt(p.rotation, i), p.flags[i] & FLAG.mirrored ? -1 : 1];
  // The line runs along x: left is north.
  const all = Array.from({ length: 8 }, (_, corner) => {
    const [x, y, z] = [0, 1, 2].map((k) => p.scale[3 * i + k] * (corner & (1 << k) ? max : min)[k]);
    const [, up, south] = rotate(turn, [mirror * x, y, z]);
    return axis === 1 ? p.origin[1] + p.position[3 * i + 1] + up : -(p.origin[2] + p.position[3 * i + 2] + south);
  });
  return [Math.min(...all), Math.max(...all)];
}

/** Indices of placements, column by column and in these stack by stack. */
function columnsOf({ count, stacked }: Placements): number[][][] {
  const columns: number[][][] = [];
  for (let i = 0; i < count; i++) {
    if (stacked!.high[i] > 0) columns.at(-1)!.at(-1)!.push(i);
    else if (stacked!.deep[i] > 0) columns.at(-1)!.push([i]);
    else columns.push([[i]]);
  }
  return columns;
}

const most = (p: Placements, of: "deep" | "high") =>
  columnsOf(p).map((column) => 1 + Math.max(...column.flat().map((i) => p.stacked![of][i])));

test("whichever way its line runs, a rack is the same, turned", () => {
  fc.assert(
    fc.property(evenly(-Math.PI, Math.PI), fc.boolean(), (angle, tilted) => {
      const input: Input = {
        what: { order: "mixed", entries: [{ prop: "buoy" }, { prop: "oar" }] },
        where: { lines: ["line"], stacked: true, deep: [2, 3], high: [1, 3] },
        spacing: { distance: 2.5, roomBehind: 0.1 },
        variation: { turnOn: true, turnAcross: tilted ? [-0.3, 0.3] : [0, 0] },
      };
      const ahead = ([x, y, z]: readonly number[]): Vec3 =>
        [x * Math.cos(angle) + z * Math.sin(angle), y, z * Math.cos(angle) - x * Math.sin(angle)]; // prettier-ignore
      const placeOf = (p: Placements, i: number): Vec3 =>
        [0, 1, 2].map((k) => p.origin[k] + p.position[3 * i + k]) as unknown as Vec3; // prettier-ignore
      const p = place(input);
      const turned = place(input, [straight(10, { knots: [[0, 0, 0], ahead([10, 0, 0])] })]); // prettier-ignore
      expect(turned.count).toBe(p.count);
      for (let i = 0; i < p.count; i++) {
        const [want, is] = [ahead(placeOf(p, i)), placeOf(turned, i)];
        for (let k = 0; k < 3; k++) expect(is[k]).toBeCloseTo(want[k], 3);
      }
    }),
    { numRuns: 25 },
  );
});

test("each stands on the one below it and behind those before it, with the room asked for, whatever their sizes and turns", () => {
  const range = fc.tuple(fc.integer({ min: 1, max: 4 }), fc.integer({ min: 0, max: 3 })).map(([low, more]): [number, number] => [low, low + more]); // prettier-ignore
  const room = evenly(0, 0.2);
  fc.assert(
    fc.property(
      range,
      range,
      room,
      room,
      fc.constantFrom("one", "mixed"),
      fc.constantFrom("left", "right"),
      fc.boolean(),
      fc.boolean(),
      (deep, high, roomBehind, roomAbove, columnOf, backLies, hangs, tilted) => {
        const p = rack({ deep, high, columnOf, backLies }, {
          spacing: { roomBehind, roomAbove },
          stance: { meetsUp: hangs ? "top" : "bottom" },
          variation: { sizeOn: true, size: [0.7, 1.3], turnOn: true, turnUp: [-0.5, 0.5], turnAlong: tilted ? [-0.4, 0.4] : [0, 0], turnAcross: tilted ? [-0.3, 0.3] : [0, 0], mirror: 0.3 },
        }); // prettier-ignore
        const side = backLies === "left" ? 1 : -1;
        for (const column of columnsOf(p)) {
          let rear = 0;
          column.forEach((stack, j) => {
            stack.forEach((i, k) => {
              const [low, top] = ends(p, i, 1);
              // What is tilted is so about where it meets the line.
              if (k === 0 && !tilted) expect(hangs ? top : low).toBeCloseTo(0, 4);
              if (k > 0 && hangs) expect(top).toBeCloseTo(ends(p, stack[k - 1], 1)[0] - roomAbove, 4);
              if (k > 0 && !hangs) expect(low).toBeCloseTo(ends(p, stack[k - 1], 1)[1] + roomAbove, 4);
              const [a, b] = ends(p, i, 0);
              expect(side > 0 ? a : -b).toBeCloseTo(j === 0 ? 0 : rear + roomBehind, 4);
            });
            rear = Math.max(...stack.map((i) => (side > 0 ? ends(p, i, 0)[1] : -ends(p, i, 0)[0])));
          });
        }
        for (const [counts, [low, upper]] of [
          [most(p, "deep"), deep],
          [most(p, "high"), high],
        ] as const)
          // prettier-ignore
          for (const count of counts) expect(count >= low && count <= upper).toBe(true);
      },
    ),
    { numRuns: 60 },
  );
});

test("each of a column draws its own prop of a mix", () => {
  const mixes = new Map([["pair", ["buoy", "oar"].map((prop) => ({ prop, weight: 1 }))]]);
  const where = { lines: ["line"], stacked: true, columnOf: "mixed" as const, deep: [2, 2] as [number, number], high: [3, 3] as [number, number] }; // prettier-ignore
  const asked = dressing({ what: { entries: [{ prop: "pair" }] }, spacing: { distance: 1 }, where });
  const p = evaluate(asked, { ...surroundings([straight(20)]), mixes });
  const above = columnsOf(p).map((column) => column.flat().slice(1).map((i) => p.props[p.prop[i]])); // prettier-ignore
  expect(new Set(above.flat())).toEqual(new Set(["buoy", "oar"]));
  expect(above.some((column) => new Set(column).size > 1)).toBe(true);
});

test("another depth deals no product, size or key anew, and what was there before it was stacked keeps its key", () => {
  const more = { variation: { sizeOn: true, size: [0.7, 1.3] as [number, number] } };
  const facts = (p: Placements) =>
    new Map(Array.from({ length: p.count }, (_, i) => [p.key[i], `${p.props[p.prop[i]]} ${p.scale[3 * i].toFixed(6)} ${p.stacked?.bottom[i]}`])); // prettier-ignore
  for (const columnOf of ["one", "mixed"] as const) {
    const [few, many] = [[1, 3], [2, 6]].map((deep) => facts(rack({ deep: deep as [number, number], high: [1, 4], columnOf }, more))); // prettier-ignore
    const both = [...few.keys()].filter((key) => many.has(key));
    expect(both.length).toBeGreaterThan(0.5 * few.size);
    for (const key of both) expect(many.get(key)).toBe(few.get(key));
    expect(new Set(many.keys()).size).toBe(rack({ deep: [2, 6], high: [1, 4], columnOf }, more).count);
  }
  const plain = rack({ stacked: false }, more);
  const stacked = facts(rack({}, more));
  for (const key of plain.key) expect(stacked.has(key)).toBe(true);
});

test("places in columns are keys of their own, apart from all other slots of a line", () => {
  const seen = new Set<number>();
  for (const slot of [-(2 ** 17), -1, 0, 1, 3 * 2 ** 17 - 33])
    for (const [deep, high] of [[0, 0], [0, 1], [1, 0], [MOST_DEEP - 1, MOST_DEEP - 1]]) seen.add(inColumn(slot, deep, high)); // prettier-ignore
  expect(seen.size).toBe(20);
  for (const place of seen) expect(place < -(2 ** 17) || hasColumn(place)).toBe(true);
  expect(hasColumn(3 * 2 ** 17 - 32)).toBe(false);
});

test("into a depth and a height go as many as fit, and one more would not; where none fits that is told", () => {
  fc.assert(
    fc.property(evenly(0.05, 3), evenly(0.05, 3), evenly(0, 0.2), (deep, high, room) => {
      const p = rack(
        { deepBy: "metres", deepInto: [deep, deep], highBy: "metres", highInto: [high, high] },
        { spacing: { roomBehind: room, roomAbove: room } },
      );
      for (const column of columnsOf(p)) {
        const [[front], rear] = [column[0], column.at(-1)!];
        const [depth, height] = [ends(p, rear[0], 0)[1] - ends(p, front, 0)[0], ends(p, column[0].at(-1)!, 1)[1] - ends(p, front, 1)[0]]; // prettier-ignore
        const [a, b] = [0, 1].map((axis) => ends(p, front, axis as 0 | 1)).map(([low, upper]) => upper - low);
        expect(depth <= deep + 1e-4 && depth + a + room > deep - 1e-4).toBe(true);
        expect(height <= high + 1e-4 && height + b + room > high - 1e-4).toBe(true);
      }
      expect(columnsOf(p).length + p.tight).toBe(rack({ stacked: false }).count);
    }),
    { numRuns: 40 },
  );
});

test("less at the back and on top leaves from one to all; what is as high as no line is so by number", () => {
  const p = rack({ deep: [4, 4], high: [4, 4] }, { spacing: { distance: 0.1 }, gaps: { lessBack: 2, lessTop: 3 } });
  expect(new Set(most(p, "deep"))).toEqual(new Set([2, 3, 4]));
  expect(new Set(columnsOf(p).flatMap((column) => column.map((stack) => stack.length)))).toEqual(new Set([1, 2, 3, 4]));
  expect(rack({ highBy: "line", highLine: "gone", high: [5, 5] }).count).toBe(rack({ high: [5, 5] }).count);
});

test("what is moved or added by hand leaves all others of the rack where they are", () => {
  const plain = rack({ high: [3, 3] });
  const [moved, added] = [plain.key[columnsOf(plain)[1][0][0]], lineKey(1, ADDED.min)];
  const p = rack({ high: [3, 3] }, { pegs: { [hexOf(moved)]: { on: "line", at: 3.3 }, [hexOf(added)]: { on: "line", at: 1.1, added: true, prop: "buoy" } } }); // prettier-ignore
  const placeOf = (q: Placements, i: number) => [0, 1, 2].map((k) => q.origin[k] + q.position[3 * i + k]);
  expect(p.count).toBe(plain.count + 1);
  for (let i = 0; i < plain.count; i++) {
    const [before, now] = [placeOf(plain, i), placeOf(p, i)];
    expect(now).toEqual(plain.key[i] === moved ? [expect.closeTo(3.3, 5), before[1], before[2]] : before.map((x) => expect.closeTo(x, 5))); // prettier-ignore
  }
  expect(placeOf(p, plain.count)[0]).toBeCloseTo(1.1, 5);
});

test("where the lowest gives way to others all on it are gone, unless they may stand on gaps", () => {
  const low = place({ what: { entries: [{ prop: "buoy" }], own: [{ prop: "buoy", size: 0.3 }] }, spacing: { distance: 2.5 } }); // prettier-ignore
  for (const onGaps of [false, true]) {
    const where = {
      lines: ["line"],
      stacked: true,
      deep: [1, 1] as [number, number],
      high: [3, 3] as [number, number],
    };
    const one = dressing({ where, spacing: { distance: 2.5 }, fit: { clear: "box", clearOf: ["low"] }, gaps: { onGaps } }); // prettier-ignore
    const p = evaluate(one, { ...surroundings([straight(10)]), placed: new Map([["low", low]]) });
    expect(p.blanks).toBe(onGaps ? p.count / 3 : p.count);
  }
});

test("levels go on with the sequence, or are the same, each as much higher; a line's length can be the height", () => {
  const what = { entries: [{ prop: "buoy" }, { prop: "oar" }] };
  const names = (p: Placements, level: number) => columnsOf(p).filter(([[i]]) => p.stacked!.level[i] === level).map(([[i]]) => p.props[p.prop[i]]); // prettier-ignore
  const [own, same] = (["own", "same"] as const).map((levelOf) => rack({ levels: 3, levelRise: 1.5, levelOf, deep: [2, 2] }, { what })); // prettier-ignore
  expect(names(same, 2)).toEqual(names(same, 0));
  expect([...names(own, 0), ...names(own, 1), ...names(own, 2)]).toEqual(
    Array.from({ length: 3 * names(own, 0).length }, (_, i) => what.entries[i % 2].prop),
  );
  for (const [[i]] of columnsOf(own)) expect(ends(own, i, 1)[0]).toBeCloseTo(1.5 * own.stacked!.level[i], 4);
  expect(new Set(own.key).size).toBe(own.count);
  const lines = [straight(10), straight(1.7, { id: "post", number: 2 })];
  const where = { lines: ["line"], stacked: true, highBy: "line" as const, highLine: "post" };
  const p = evaluate(dressing({ where, what: { entries: [{ prop: "buoy" }] } }, lines), surroundings(lines));
  const [low, top] = ends(p, 0, 1);
  expect(Math.max(...p.stacked!.high) + 1).toBe(Math.floor(1.7 / (top - low) + 1e-6));
});

test("levels lie at the heights that are listed, and are those that as many at one distance would be", () => {
  fc.assert(
    fc.property(fc.array(evenly(-1, 5), { maxLength: 5 }), (levelAt) => {
      const listed = rack({ levelsBy: "heights", levelAt, deep: [1, 2] });
      const heights = levelAt.length > 0 ? levelAt : [0];
      for (const [[i]] of columnsOf(listed))
        expect(ends(listed, i, 1)[0]).toBeCloseTo(heights[listed.stacked!.level[i]], 4);
      expect(new Set(listed.stacked!.level).size).toBe(heights.length);
      const even = Array.from(heights, (_, level) => 0.7 * level);
      const [one, other] = [
        rack({ levelsBy: "heights", levelAt: even }),
        rack({ levels: even.length, levelRise: 0.7 }),
      ];
      expect([one.key, one.position]).toEqual([other.key, other.position]);
    }),
    { numRuns: 25 },
  );
});

test("what is taken is the share asked for, from the front and the top, more only adding; nothing stands on a gap, pegs stay", () => {
  const at = (taken: number, seed: number, pegs = {}) =>
    place(
      { where: { lines: ["line"], stacked: true, deep: [3, 5], high: [1, 3] }, spacing: { distance: 0.5 }, gaps: { taken, clump: 2 }, variation: { seed }, pegs }, // prettier-ignore
      [straight(400)],
    );
  const isGone = (p: Placements, i: number) => (p.flags[i] & FLAG.blank) !== 0;
  for (const taken of [0.2, 0.5, 0.8]) {
    let [gone, all] = [0, 0];
    for (let seed = 1; seed <= 10; seed++) {
      const p = at(taken, seed);
      [gone, all] = [gone + p.blanks, all + p.count];
      for (const column of columnsOf(p)) {
        // In the order of taking, once one stands all behind it do.
        const order = column.flatMap((stack) => [...stack].reverse()).map((i) => isGone(p, i));
        expect(order.lastIndexOf(true)).toBe(order.filter(Boolean).length - 1);
      }
    }
    expect(Math.abs(gone / all - taken)).toBeLessThan(0.04);
  }
  const [less, more] = [at(0.3, 1), at(0.6, 1)];
  for (let i = 0; i < less.count; i++) if (isGone(less, i)) expect(isGone(more, i)).toBe(true);
  const key = hexOf(less.key[0]);
  expect(at(1, 1, { [key]: { on: "line", turn: 1 } }).blanks).toBe(less.count - 1);
  // By chance as well whatever stands on a gap is gone, unless that is asked for.
  for (const onGaps of [false, true]) {
    const p = rack({ high: [4, 4] }, { gaps: { chance: 0.3, onGaps } });
    const floats = columnsOf(p).some((column) => column.some((stack) => stack.some((i, k) => k > 0 && !isGone(p, i) && isGone(p, stack[k - 1])))); // prettier-ignore
    expect(floats).toBe(onGaps);
  }
});

test("on uneven ground all of a stack lean as its lowest one does, however broad they are", () => {
  const mesh = field(30, (x, z) => 0.5 * Math.sin(1.3 * x) + 0.3 * Math.cos(1.7 * z) - 3, "hills");
  const where = { lines: ["line"], stacked: true, columnOf: "mixed" as const, deep: [2, 2] as [number, number], high: [3, 3] as [number, number] }; // prettier-ignore
  const what = { order: "mixed" as const, entries: [{ prop: "buoy" }, { prop: "oar" }] };
  const around = { ...surroundings([straight(10)]), surfaces: new Map([["hills", { mesh, ground: true }]]) };
  const p = evaluate(dressing({ where, what, fit: { drop: "down", lean: 1, leanBy: "footprint" } }), around);
  const stacks = columnsOf(p).flat();
  expect(stacks.some((stack) => new Set(stack.map((i) => p.prop[i])).size > 1)).toBe(true);
  const turn = (i: number) => [...p.rotation.subarray(4 * i, 4 * i + 4)];
  for (const stack of stacks)
    for (const i of stack) expect(turn(i)).toEqual(turn(stack[0]).map((value) => expect.closeTo(value, 5)));
});

test("what is taken hangs on the line that it is taken from, and not on which of the lines that is", () => {
  const lines = [straight(20), straight(20, { id: "other", number: 7, knots: [[0, 0, 5], [20, 0, 5]] })]; // prettier-ignore
  const gone = (order: string[]) => {
    const where = { lines: order, stacked: true, deep: [4, 4] as [number, number] };
    const p = evaluate(dressing({ where, spacing: { distance: 0.5 }, gaps: { taken: 0.4, clump: 3 } }, lines), surroundings(lines)); // prettier-ignore
    return new Map(Array.from({ length: p.count }, (_, i) => [p.key[i], p.flags[i]]));
  };
  const [one, other] = [gone(["line", "other"]), gone(["other", "line"])];
  expect(other.size).toBe(one.size);
  for (const [key, flags] of one) expect(other.get(key)).toBe(flags);
});

test("dropped, each stack comes down with its lowest one, and leans with it", () => {
  const mesh = field(30, (x, z) => 0.4 * x + 0.1 * z - 3, "hill");
  const where = { lines: ["line"], stacked: true, deep: [2, 2] as [number, number], high: [3, 3] as [number, number] };
  for (const lean of [0, 1]) {
    const around = { ...surroundings([straight(10)]), surfaces: new Map([["hill", { mesh, ground: true }]]) };
    const p = evaluate(dressing({ where, fit: { drop: "down", dropBy: "pivot", lean } }), around);
    const up = lean === 1 ? [-0.4, 1, -0.1].map((x) => x / Math.hypot(0.4, 1, 0.1)) : [0, 1, 0];
    const [low, top] = [BOUNDS.get("buoy")!.min[1], BOUNDS.get("buoy")!.max[1]];
    for (const stack of columnsOf(p).flat()) {
      const [x, y, z] = [0, 1, 2].map((k) => p.origin[k] + p.position[3 * stack[0] + k]);
      expect(y).toBeCloseTo(0.4 * x + 0.1 * z - 3, 4);
      const turns = stack.map((i) =>
        [...p.rotation.subarray(4 * i, 4 * i + 4)].map((value) => expect.closeTo(value, 5)),
      );
      for (const turn of turns) expect([...p.rotation.subarray(4 * stack[0], 4 * stack[0] + 4)]).toEqual(turn);
      stack.forEach(
        (i, k) =>
        [x, y, z].forEach((value, axis) => expect(p.origin[axis] + p.position[3 * i + axis]).toBeCloseTo(value + k * (top - low) * up[axis], 4)), // prettier-ignore
      );
    }
  }
});
