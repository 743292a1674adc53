import fc from "fast-check";
import { evenly } from "@/core/math/testing";
import { evaluate, dressing, straight, surroundings } from "@/core/place/testing";
import { type Dressing } from "@/core/place";
import { GuideLine } from "@/core/line";
import { fromAxisAngle, rotate } from "@/core/math";
import { makeLine } from "@/core/line/testing";
import { drawStrip } from "./draw";
import { poseOf, sideFrames } from "./elevation";
import { fitted, rowBoxes, rowsOf, type StripView } from "./model";
import type { StripScene } from "./layout";

/** What a pen is asked to do: its calls, with their numbers and the colour that it has at the time. */
interface Stroke {
  call: string;
  numbers: number[];
  colour: unknown;
}

/** A pen that writes down what it is asked instead of drawing. */
function pen(strokes: Stroke[]): CanvasRenderingContext2D {
  const held: Record<string, unknown> = {};
  return new Proxy(held, {
    get: (_, call: string) =>
      call in held
        ? held[call]
        : (...given: unknown[]) => {
            const numbers = given.flat().filter((one): one is number => typeof one === "number");
            strokes.push({ call, numbers, colour: held.fillStyle });
          },
    set: (_, name: string, value) => {
      held[name] = value;
      return true;
    },
  }) as unknown as CanvasRenderingContext2D;
}

const WIDTH = 780;

function drawn(scene: Dressing, view?: StripView, more: Partial<StripScene> = {}): Stroke[] {
  const lines = [straight(8, { id: "a" }), straight(5, { id: "b", number: 2 })].slice(0, scene.where.lines.length);
  const placements = evaluate(scene, surroundings(lines));
  const rows = rowsOf(placements);
  const strokes: Stroke[] = [];
  const shown: StripScene = {
    dressing: scene,
    placements,
    aspect: "front",
    rows,
    boxes: rowBoxes(
      rows.map(() => 40),
      172,
    ),
    names: rows.map(({ line }) => line),
    colours: [],
    bounds: placements.props.map(() => ({ min: [-0.2, 0, -0.2], max: [0.2, 0.8, 0.2] })),
    frames: (row, at) => sideFrames(new GuideLine(lines.find(({ id }) => id === rows[row].line)!), scene.stance, at),
    elevation: () => null,
    heights: placements.props.map(() => 0.8),
    findings: [],
    selected: new Set(placements.key.slice(0, 2)),
    hovered: placements.key[2] ?? null,
    stretch: null,
    movable: rows.map(() => false),
    marks: rows.map(() => [1, 2, 3]),
    orphans: [],
    gap: null,
    caught: null,
    ...more,
  };
  drawStrip(pen(strokes), WIDTH, 172, shown, view ?? fitted(8, WIDTH));
  return strokes;
}

const lines = fc.constantFrom<string[][]>(["a"], ["a", "b"]);

test("whatever a dressing is and however it is looked at, every number that is drawn with is one", () => {
  const any = fc.record({
    where: fc.record({ lines }),
    spacing: fc.record({
      by: fc.constantFrom("distance", "count", "end", "divide", "list"),
      slide: evenly(-9, 9),
      fromStart: evenly(0, 20),
    }),
    stance: fc.record({ meetsUp: fc.constantFrom("top", "bottom") }),
    fit: fc.record({ rows: fc.integer({ min: 1, max: 4 }) }),
    gaps: fc.record({ chance: fc.constantFrom(0, 0.4, 1) }),
  });
  const view = fc.record({
    scale: evenly(0.01, 20_000),
    from: evenly(-50, 50),
  });
  fc.assert(
    fc.property(any, view, (input, seen) => {
      const strokes = drawn(withLines(input), seen);
      expect(strokes.length).toBeGreaterThan(3);
      for (const { call, numbers } of strokes) {
        expect([call, numbers.every((value) => Number.isFinite(value))]).toEqual([call, true]);
      }
    }),
    { numRuns: 60 },
  );
});

/** The dressing with the lines that it names. */
function withLines(input: { where: { lines: string[] } } & Record<string, unknown>): Dressing {
  const made = dressing(input as never);
  return { ...made, where: { ...made.where, ...input.where } };
}

const OCHRE = "#c98a1b";
const count = (strokes: Stroke[], colour: string) => strokes.filter((stroke) => stroke.colour === colour).length;

test("a gap held open, a peg that lost its slot and what is caught on are each drawn, and only where there are some", () => {
  const plain = withLines({ where: { lines: ["a"] } });
  const held = { ...plain, gaps: { ...plain.gaps, stretches: [{ line: "a", from: 2, to: 4 }] } };
  expect(count(drawn(held), OCHRE)).toBeGreaterThan(count(drawn(plain), OCHRE));
  expect(count(drawn(held, undefined, { gap: 0 }), "#8f6a3a")).toBeGreaterThan(count(drawn(held), "#8f6a3a"));
  const calls = (more: Partial<StripScene>) => drawn(plain, undefined, more).length;
  expect(calls({ orphans: [{ row: 0, at: 3 }] })).toBeGreaterThan(calls({}));
  expect(calls({ caught: { row: 0, at: 3 } })).toBe(calls({}) + 1);
  expect(calls({ stretch: { row: 0, from: 1, to: 2, holds: true } })).toBe(calls({}) + 1);
});

test("of 5,000 placements only those in sight are drawn", () => {
  const scene = withLines({ where: { lines: ["a"] }, spacing: { by: "count", count: 5000 } });
  const near = drawn(scene, { scale: 20_000, from: 4 });
  expect(near.length).toBeLessThan(0.2 * drawn(scene).length);
});

test("a placement is seen as it stands against its line, to the step, whichever way the line runs", () => {
  const stance = fc.record({
    turnUp: fc.constantFrom(0, 1, 2, 3).map((quarter) => (quarter * Math.PI) / 2),
    turnAlong: fc.constantFrom(0, Math.PI / 6),
  });
  const end = fc.tuple(evenly(-9, 9), evenly(-9, 9));
  const mirror = fc.constantFrom(0, 1);
  fc.assert(
    fc.property(stance, end, mirror, fc.constantFrom("world", "line"), (turned, [x, z], mirror, up) => {
      fc.pre(Math.hypot(x, z) > 0.5);
      const line = makeLine({
        kind: "polyline",
        id: straight(1).id,
        knots: [
          [0, 0, 0],
          // What has its up from its line stands upright on it also where it climbs.
          [x, up === "line" ? 0.4 * x : 0, z],
        ],
      });
      const made = { spacing: { by: "count", count: 3 }, stance: { ...turned, up }, variation: { mirror } };
      const p = evaluate(dressing(made as never), surroundings([line]));
      const guide = new GuideLine(line);
      const frames = sideFrames(guide, { up } as never, Float64Array.from(p.at));
      const pose = poseOf(p, 1, [...frames.subarray(4, 8)] as never, { min: [-1, 0, -2], max: [1, 3, 2] });
      expect(pose.mirrored).toBe(mirror === 1);
      // The prop's own axes in the line's frame: as its turns alone say.
      const wanted = rotate(
        fromAxisAngle([0, 1, 0], turned.turnUp),
        rotate(fromAxisAngle([0, 0, 1], turned.turnAlong), [1, 0, 0]),
      );
      expect(rotate(pose.turn, [1, 0, 0])).toEqual(wanted.map((value) => expect.closeTo(value, 5)));
      const lean = Math.abs(Math.sin(turned.turnAlong));
      expect(pose.tall).toBeCloseTo(3 * Math.cos(turned.turnAlong) + 2 * lean, 4);
    }),
    { numRuns: 40 },
  );
});
