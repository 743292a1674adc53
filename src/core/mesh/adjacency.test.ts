import fc from "fast-check";
import { evenly } from "../math/testing";
import { trianglesBeyond, weldedVertices } from "./adjacency";

/** A tube of panes whose seam's two sides are vertices of their own, as far apart as rounding puts them. */
function tube(
  panes: number,
  rows: number,
  radius: number,
  apart: number,
): { position: Float64Array; index: Uint32Array } {
  const position: number[] = [];
  for (let j = 0; j <= rows; j++)
    for (let i = 0; i <= panes; i++) {
      const angle = (2 * Math.PI * i) / panes;
      const off = i === panes ? apart : 0;
      position.push(radius * Math.cos(angle) + off, radius * j, radius * Math.sin(angle) - off);
    }
  const index: number[] = [];
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < panes; i++) {
      const a = j * (panes + 1) + i;
      index.push(a, a + panes + 1, a + 1, a + 1, a + panes + 1, a + panes + 2);
    }
  return { position: Float64Array.from(position), index: Uint32Array.from(index) };
}

test("a tube's seam is none, whatever rounding does to its two sides: only its two rims have nothing beyond them", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 3, max: 40 }),
      fc.integer({ min: 1, max: 6 }),
      fc.constantFrom(1e-3, 1, 2.7, 5000),
      fc.constantFrom(0, 7e-16, -3e-9, 2e-8),
      (panes, rows, radius, apart) => {
        const { position, index } = tube(panes, rows, radius, radius * apart);
        const beyond = trianglesBeyond(position, index);
        expect(beyond.filter((one) => one < 0)).toHaveLength(2 * panes);
      },
    ),
  );
});

test("twins as near as that are one, wherever they lie", () => {
  const x = fc.integer({ min: 0, max: 1e6 }).map((k) => k / 1e6);
  const places = fc.array(fc.tuple(x, x, x), { minLength: 50, maxLength: 80 });
  const aside = fc.tuple(...[0, 1, 2].map(() => evenly(-0.9, 0.9)));
  fc.assert(
    fc.property(places, aside, (places, aside) => {
      const ends = [[0, 0, 0], [1, 1, 1]]; // prettier-ignore
      const twins = places.map((one) =>
        one.map((value, axis) => Math.min(1, Math.max(0, value + aside[axis] * 2 ** -22))),
      );
      const first = weldedVertices([...ends, ...places, ...twins].flat());
      expect(first.slice(2 + places.length)).toEqual(first.slice(2, 2 + places.length));
    }),
  );
});

test("what is further apart than rounding stays apart, however fine the mesh, and the first of those together stands for all", () => {
  const place = fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: 0, max: 40 })));
  fc.assert(
    fc.property(fc.array(place, { minLength: 1, maxLength: 60 }), evenly(-0.2, 0.2), (places, shift) => {
      // A lattice whose steps are four times what counts as together, in a box of one metre, each twice.
      const near = 2 ** -22;
      const at = (place: number[], k: number) => place.map((x) => 4 * near * x + k * shift * near);
      const position = [
        [0, 0, 0],
        [1, 1, 1],
        ...places.map((one) => at(one, 0)),
        ...places.map((one) => at(one, 1)),
      ].flat();
      const first = weldedVertices(position);
      const names = places.map((one) => one.join(" "));
      places.forEach((one, i) => {
        const expected = one.every((x) => x === 0) ? 0 : 2 + names.indexOf(names[i]);
        expect([first[2 + i], first[2 + places.length + i]]).toEqual([expected, expected]);
      });
    }),
  );
});

test("triangles without width part nobody: round a pole each goes on to the next, and they have only themselves beyond", () => {
  fc.assert(
    fc.property(fc.integer({ min: 3, max: 24 }), (panes) => {
      const { position, index } = tube(panes, 1, 1, 0);
      // Its upper rim drawn together to one place.
      for (let p = 3 * (panes + 1); p < position.length; p += 3) position[p] = position[p + 2] = 0;
      const beyond = trianglesBeyond(position, index);
      for (let t = 0; t < 2 * panes; t += 2) {
        const [sides, narrow] = [0, 1].map((k) => Array.from(beyond.subarray(3 * (t + k), 3 * (t + k) + 3)));
        expect(narrow).toEqual([t + 1, t + 1, t + 1]);
        expect(sides.sort((a, b) => a - b)).toEqual([-1, (t + 2) % (2 * panes), (t + 2 * panes - 2) % (2 * panes)].sort((a, b) => a - b)); // prettier-ignore
      }
    }),
  );
});
