/** Who may reach whom: the same as by asking of every two, whatever rows, lines and jumps they stand in. */
import fc from "fast-check";
import { evenly } from "../../math/testing";
import { NO_PROP, type Slots } from "../slots";
import type { Frames } from "../frames";
import type { Hold } from "../stance/stance";
import { nearOthers } from "./near";

/** Closer to the border than this share of what is compared, single precision may tell either way. */
const BORDER = 1e-5;

const vector = fc.tuple(evenly(-1, 1), evenly(-1, 1), evenly(-1, 1));

/** A row: where it begins, where it goes, how far apart its places are, how they stray, and where it jumps. */
const row = fc.record({
  begin: fc.tuple(evenly(-40, 40), evenly(-5, 5), evenly(-40, 40)),
  way: fc.oneof(vector, fc.constantFrom([0, 1, 0], [0, -1, 0], [1, 0, 0], [0, 0, 0])),
  step: evenly(0.4, 4),
  stray: fc.constantFrom(0, 0, 0.3, 2),
  count: fc.integer({ min: 1, max: 50 }),
  back: fc.nat(60),
  isNew: fc.boolean(),
});
const near = evenly(-0.2, 0.2);
const prop = fc.record({
  middle: fc.tuple(near, near, near),
  half: fc.tuple(evenly(0, 0.4), evenly(0, 0.4), evenly(0, 0.4)),
  contact: fc.tuple(near, near, near),
});

test("those that may reach another are told, and no others", () => {
  let [told, all] = [0, 0];
  fc.assert(
    fc.property(
      fc.array(row, { minLength: 1, maxLength: 5 }),
      fc.array(prop, { minLength: 2, maxLength: 2 }),
      fc.constantFrom("radius", "footprint", "box", "mesh"),
      evenly(-0.2, 1),
      fc.infiniteStream(evenly(0, 1)),
      (rows, props, clear, clearance, draws) => {
        const draw = () => draws.next().value as number;
        const [feet, at, line, rowOf, which, scale]: number[][] = [[], [], [], [], [], []];
        let [nth, named] = [0, 0];
        for (const { begin, way, step, stray, count, back, isNew } of rows) {
          if (isNew) nth++;
          for (let k = 0; k < count; k++) {
            const along = (k === back ? -3 : k) * step;
            for (let axis = 0; axis < 3; axis++) feet.push(begin[axis] + along * way[axis] + stray * (draw() - 0.5));
            at.push(along);
            line.push(nth);
            rowOf.push(named % 3);
            which.push(draw() < 0.1 ? NO_PROP : Math.round(draw()));
            for (let axis = 0; axis < 3; axis++) scale.push(0.5 + draw());
          }
          named++;
        }
        const n = at.length;
        const slots = { count: n, at: Float64Array.from(at), line: Uint32Array.from(line), row: Uint8Array.from(rowOf), prop: Uint16Array.from(which) }; // prettier-ignore
        const hold = {
          boxes: Float64Array.from(props.flatMap(({ middle, half }) => [...middle, ...half])),
          contact: Float64Array.from(props.flatMap(({ contact }) => contact)),
          size: Float64Array.of(1, 1),
        };
        const found = nearOthers(
          slots as unknown as Slots,
          { feet: Float32Array.from(feet) } as Frames,
          hold as unknown as Hold,
          Float32Array.from(scale),
          { clear, clearance },
        );
        const reach = which.map((p, i) => {
          if (p === NO_PROP) return 0;
          const { middle, half, contact } = props[p];
          const far = Math.hypot(...[0, 1, 2].map((axis) => Math.abs(middle[axis] - contact[axis]) + half[axis]));
          return Math.max(0, far * Math.max(...scale.slice(3 * i, 3 * i + 3)) + clearance / 2);
        });
        const rise = clear === "radius" || clear === "footprint" ? 0 : 1;
        const isNear = new Set(found);
        expect([...found]).toEqual([...isNear].sort((a, b) => a - b));
        for (let i = 0; i < n; i++) {
          let nearest = Infinity;
          for (let j = 0; j < n; j++) {
            if (j === i) continue;
            const [dx, dy, dz] = [0, 1, 2].map((axis) => feet[3 * i + axis] - feet[3 * j + axis]);
            nearest = Math.min(nearest, Math.hypot(dx, rise * dy, dz) - reach[i] - reach[j]);
          }
          if (Math.abs(nearest) < BORDER * (30 + reach[i])) continue;
          expect([i, isNear.has(i)]).toEqual([i, nearest < 0]);
          all++;
          if (nearest < 0) told++;
        }
      },
    ),
    { numRuns: 60 },
  );
  // Both are met often enough.
  expect(told / all).toBeGreaterThan(0.1);
  expect(told / all).toBeLessThan(0.9);
});
