import fc from "fast-check";
import { evenly } from "../math/testing";
import { distance, type Vec3 } from "../math";
import { betweenSchema } from "./between";
import { curveOf } from "./kinds";
import { distinctNumbers, familyOf, memberId, membersOf } from "./members";

const place = fc.tuple(evenly(-9, 9), evenly(-9, 9), evenly(-9, 9));
const family = (more: object) => betweenSchema.parse({ id: "f", number: 3, name: "F", kind: "between", ...more });

describe("members of a family", () => {
  it("go from one place to the other in every form: straight, as long as is said, as high over the middle as is said", () => {
    fc.assert(
      fc.property(place, place, evenly(-2, 2), evenly(1.01, 3), (from, to, rise, longer) => {
        fc.pre(distance(from, to) > 0.5);
        const of = (more: object) => {
          const [line] = membersOf(family(more), [{ name: "a", from, to }]).lines;
          return curveOf(line);
        };
        const point = (more: object, share: number): Vec3 => {
          const curve = of(more);
          return curve.evaluate(share * curve.spans).position;
        };
        const middle = from.map((x, k) => (x + to[k]) / 2) as unknown as Vec3;
        for (const form of ["straight", "hanging", "arched"]) {
          expect(distance(point({ form, rise }, 0), from)).toBeLessThan(1e-6);
          expect(distance(point({ form, rise }, 1), to)).toBeLessThan(1e-6);
        }
        expect(of({}).length).toBeCloseTo(distance(from, to), 9);
        expect(of({ form: "hanging", hangsBy: "share", longer }).length).toBeCloseTo(longer * distance(from, to), 4);
        expect(distance(point({ form: "arched", rise }, 0.5), [middle[0], middle[1] + rise, middle[2]])).toBeLessThan(
          1e-9,
        );
      }),
    );
  });

  it("are known by their family and pair, whatever signs the family's id has", () => {
    for (const id of ["f", "a/b", "x 1"]) expect(familyOf(memberId(id, "12-3"))).toBe(id);
    expect(familyOf("plain")).toBeNull();
  });

  it("have numbers of their own: of two that want one it goes to the same, in whatever order they come", () => {
    const wanted = [["b", 7], ["a", 7], ["c", 8], ["d", 2]].map(([id, number]) => ({ id, number }) as { id: string; number: number }); // prettier-ignore
    const byId = (lines: typeof wanted) =>
      Object.fromEntries(distinctNumbers(lines).map((number, i) => [lines[i].id, number]));
    const numbers = byId(wanted);
    expect(new Set(Object.values(numbers)).size).toBe(4);
    expect(numbers).toMatchObject({ a: 7, c: 8, d: 2 });
    expect(byId([...wanted].reverse())).toEqual(numbers);
  });
});
