import fc from "fast-check";
import { evenly } from "../math/testing";
import { makeLine } from "../line/testing";
import {
  CHANNEL,
  cross,
  distance,
  dot,
  drawFrom,
  fromAxisAngle,
  lengthOf,
  normalize,
  quatAt,
  rotate,
  scale,
  streamOf,
  subtract,
  vectorAt,
  type Vec3,
} from "../math";
import { drawOnField, wordsOf } from "./keys";
import { dressing, evaluate, field, surroundings } from "./testing";
import type { Placements } from "./placements";

const place = (p: Placements, i: number): Vec3 =>
  vectorAt(p.position, i).map((value, k) => value + p.origin[k]) as unknown as Vec3;

/** From the world's up so far towards a normal, on the great circle. */
function leaning(normal: Vec3, by: number): Vec3 {
  const angle = Math.acos(normal[1]);
  const level = normalize([normal[0], 0, normal[2]]);
  return [Math.sin(by * angle) * level[0], Math.cos(by * angle), Math.sin(by * angle) * level[2]];
}

const KINDS = ["along", "heading", "at", "away", "outward", "downhill", "random", "line"] as const;
const POINT: Vec3 = [3, 7, -5];
const LINE = makeLine({
  kind: "polyline",
  knots: [
    [-9, 3, 8],
    [12, -2, 9],
  ],
});
const [FROM, TO] = LINE.knots.map((knot) => knot.position as Vec3);

test("over a plane that is turned and tilted each facing is what is wished for, square to up", () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...KINDS),
      fc.constantFrom(0, 0.4, 1),
      evenly(0.1, 1.3),
      evenly(0, 6),
      fc.nat(99),
      (forward, upBy, tilt, turn, seed) => {
        const rotation = fromAxisAngle(normalize([Math.cos(turn), 0.3, Math.sin(turn)]), tilt);
        const stand = { position: [2, 1, -3], rotation, scale: 1.5 } as const;
        const around = {
          ...surroundings([LINE]),
          surfaces: new Map([["field", { mesh: field(4, () => 0, "field", stand), ground: true }]]),
        };
        const p = evaluate(
          dressing({
            where: { kind: "over", surfaces: ["field"] },
            spacing: { pattern: "square", distance: 1.1 },
            stance: { up: "normal", upBy, forward, heading: 0.7, point: POINT, meetsUp: "pivot" },
            variation: { seed },
          } as never),
          around,
        );
        expect(p.count).toBeGreaterThan(3);
        const normal = rotate(rotation, [0, 1, 0]);
        const words = wordsOf(p.key);
        for (let i = 0; i < p.count; i++) {
          const at = place(p, i);
          const angle = 2 * Math.PI * drawFrom(streamOf(seed, CHANNEL.stanceRandom), drawOnField(words[2 * i], words[2 * i + 1]), 0); // prettier-ignore
          const share = dot(subtract(at, FROM), subtract(TO, FROM)) / lengthOf(subtract(TO, FROM)) ** 2;
          const nearest = subtract(FROM, scale(subtract(TO, FROM), -Math.max(0, Math.min(1, share))));
          const wish: Vec3 = {
            along: rotate(rotation, [0, 0, 1]),
            heading: [Math.sin(0.7), 0, -Math.cos(0.7)] as Vec3,
            at: subtract(POINT, at),
            away: subtract(at, POINT),
            outward: normal,
            downhill: [normal[0] * normal[1], normal[1] ** 2 - 1, normal[2] * normal[1]] as Vec3,
            random: [Math.sin(angle), 0, Math.cos(angle)] as Vec3,
            line: subtract(nearest, at),
          }[forward];
          const up = leaning(normal, upBy);
          const across = cross(up, wish);
          expect(distance(rotate(quatAt(p.rotation, i), [0, 1, 0]), up)).toBeLessThan(1e-4);
          // Where up and what is wished for are the same there is nothing to turn to.
          if (lengthOf(across) < 0.02 * lengthOf(wish)) continue;
          const ahead = normalize(cross(across, up));
          expect(distance(rotate(quatAt(p.rotation, i), [0, 0, 1]), ahead)).toBeLessThan(1e-3);
        }
      },
    ),
    { numRuns: 120 },
  );
});

test("along a line that is rolled, what faces a point keeps the line's own up, whichever way that is", () => {
  const roll = evenly(-3, 3);
  fc.assert(
    fc.property(roll, evenly(-8, 8), evenly(-8, 8), (roll, x, z) => {
      const knots = [0, 4, 8].map((along, k) => [along, k, 2 * Math.sin(along)] as const);
      const drawn = makeLine({ kind: "smooth", knots });
      const line = { ...drawn, knots: drawn.knots.map((knot, k) => ({ ...knot, roll: roll * k })) } as typeof drawn;
      const of = (stance: object) =>
        evaluate(
          dressing({ stance: { up: "roll", meetsUp: "pivot", ...stance }, spacing: { by: "count", count: 7 } }, [line]),
          surroundings([line]),
        );
      const [plain, facing] = [of({ forward: "along" }), of({ forward: "at", point: [x, 3, z] })];
      for (let i = 0; i < plain.count; i++) {
        const up = rotate(quatAt(plain.rotation, i), [0, 1, 0]);
        const wish = subtract([x, 3, z], place(facing, i));
        if (lengthOf(cross(up, wish)) < 0.02 * lengthOf(wish)) continue;
        expect(distance(rotate(quatAt(facing.rotation, i), [0, 1, 0]), up)).toBeLessThan(1e-4);
        const ahead = rotate(quatAt(facing.rotation, i), [0, 0, 1]);
        expect(distance(ahead, normalize(cross(cross(up, wish), up)))).toBeLessThan(1e-3);
      }
    }),
    { numRuns: 40 },
  );
});
