/** A rack on the strip: what is seen is what is taken, stacks are walked, and its height and depth are pulled. */
import { produce } from "immer";
import { FLAG, type Placements } from "@/core/place";
import { dressing, evaluate, straight, surroundings } from "@/core/place/testing";
import { gripAt, pullAt } from "./grips";
import { layoutOf, rackLayout, type Aspect, type StripScene } from "./layout";
import { rowBoxes, rowsOf, spreadOf, tallestOf } from "./model";
import { besideInRack, pullRack, slotInRack } from "./rack";

const RACK = dressing({
  where: { lines: ["line"], stacked: true, deep: [3, 3], high: [2, 2] },
  spacing: { distance: 1, roomBehind: 0.1 },
});

function scene(aspect: Aspect, rack = RACK): StripScene {
  const placements = evaluate(rack, surroundings([straight(4)]));
  const rows = rowsOf(placements);
  const tall = tallestOf(placements, rows, [1], aspect === "plan");
  const boxes = rowBoxes(tall.map((metres) => 60 * metres), 240); // prettier-ignore
  return { dressing: rack, aspect, placements, rows, boxes, heights: [1], movable: [false] } as unknown as StripScene;
}
const view = { scale: 60, from: -1 };
const told = ({ stacked }: Placements, i: number) => (i < 0 ? null : [stacked!.deep[i], stacked!.high[i]]);

test("from the front the nearest that stands is taken, its true height up the strip; from above the uppermost, as far back", () => {
  for (const aspect of ["front", "plan"] as const) {
    const seen = scene(aspect);
    const { cord } = layoutOf(seen, 0);
    const { scale, most } = rackLayout(seen, 0, view.scale)!;
    // A buoy is a metre high and 0.4 m deep.
    expect(most).toBeCloseTo(aspect === "front" ? 2 : 1.4, 4);
    const at = (metres: number, along = 1) => told(seen.placements, slotInRack(seen, view, 0, along, cord - 1 - metres * scale)); // prettier-ignore
    if (aspect === "front") expect([at(0.5), at(1.5), at(2.5), at(0.5, 1.5)]).toEqual([[0, 0], [0, 1], null, null]); // prettier-ignore
    else expect([at(0.2), at(0.7), at(1.2), at(0.45)]).toEqual([[0, 1], [1, 1], [2, 1], null]); // prettier-ignore
  }
  const taken = scene("front", { ...RACK, gaps: { ...RACK.gaps, taken: 0.4, clump: 0 } });
  const { cord } = layoutOf(taken, 0);
  const p = taken.placements;
  for (const i of taken.rows[0].order) {
    if (p.stacked!.deep[i] > 0 || p.stacked!.high[i] > 0 || !(p.flags[i] & FLAG.blank)) continue;
    const found = slotInRack(taken, view, 0, p.at[i], cord - 20);
    const column = taken.rows[0].order.filter((k) => p.at[k] === p.at[i] && p.stacked!.high[k] === 0);
    const nearest = column.find((k) => !(p.flags[k] & FLAG.blank));
    expect(found).toBe(nearest ?? found);
  }
});

test("stacks are walked up and down, columns back and forth, and gaps are those along the line alone", () => {
  const { placements: p, rows } = scene("front");
  expect([besideInRack(p, 0, "front", 1), besideInRack(p, 1, "front", 1), besideInRack(p, 1, "front", -1)].map((i) => told(p, i))).toEqual([[0, 1], null, [0, 0]]); // prettier-ignore
  expect([besideInRack(p, 1, "plan", 1), besideInRack(p, 0, "plan", -1)].map((i) => told(p, i))).toEqual([[1, 1], null]); // prettier-ignore
  expect(spreadOf(p, rows)).toMatchObject({ least: expect.closeTo(1, 5), most: expect.closeTo(1, 5) });
});

test("height is pulled at the top of the front, depth at that of the plan: by number, by metres, and not at all by a line", () => {
  for (const aspect of ["front", "plan"] as const) {
    const seen = scene(aspect);
    const rack = rackLayout(seen, 0, view.scale)!;
    const { x, y } = pullAt(rack, layoutOf(seen, 0).cord, 60);
    expect(gripAt(seen, view, 0, x, y)).toEqual({ kind: "rack" });
    expect(gripAt(seen, view, 0, x, y + 20)).toBeNull();
  }
  const pulled = (where: Partial<typeof RACK.where>, metres: number) =>
    produce({ ...RACK, where: { ...RACK.where, ...where } }, (draft) => pullRack(draft, "high", metres, 2)).where;
  expect(pulled({}, 5).high).toEqual([5, 5]);
  expect(pulled({ high: [1, 4] }, 4.1).high).toEqual([1, 8]);
  expect(pulled({ high: [2, 4] }, 0).high).toEqual([1, 1]);
  expect(pulled({ highBy: "metres", highInto: [0.5, 0.5] }, 3).highInto).toEqual([0.75, 0.75]);
  expect(pulled({ highBy: "line" }, 9)).toMatchObject({ high: [2, 2], highInto: RACK.where.highInto });
});
