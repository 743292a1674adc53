import { Body } from "../mesh";
import { evaluate, boxMesh, dressing, field, mesh, straight, surroundings } from "../place/testing";

import { poking, type Wall } from ".";
import { told } from "./testing";
import type { Line } from "../line";

const BUOY = new Body(boxMesh([-0.2, 0, -0.2], [0.2, 1, 0.2]));
const found = (input: Parameters<typeof dressing>[0], walls: readonly Wall[], lines: Line[] = [straight(10)]) => {
  const dressed = dressing({ spacing: { distance: 1 }, ...input }, lines);
  const work = poking(dressed, evaluate(dressed, surroundings(lines)), [BUOY], walls);
  for (;;) {
    const { done, value } = work.next();
    if (done) return told(value, () => "Sea wall");
    expect(value).toBeLessThanOrEqual(1);
  }
};

/** A wall across the line at x = 4.1, as high as half a buoy. */
const wall = (x: number): Wall => ({
  id: "wall",
  under: false,
  carries: false,
  body: new Body(mesh([x, -1, -2, x, -1, 2, x, 0.5, 2, x, 0.5, -2], [0, 1, 2, 0, 2, 3])),
});

test("what passes through a surface is named, with over how much; what stands beside it is not", () => {
  const [finding] = found({}, [wall(4.1)]);
  expect(finding).toMatchObject({ check: "poking", count: 1, mend: "leave-blank" });
  expect(finding.message).toContain("1 prop pokes through “Sea wall”");
  // As wide as the buoy, from its foot up to the wall's edge.
  expect(finding.worst).toBeCloseTo(Math.hypot(0.4, 0.5), 3);
  expect(found({}, [wall(4.5)])).toEqual([]);
  expect(found({ gaps: { chance: 1 } }, [wall(4.1)])).toEqual([]);
});

test("into what they stand on props may dig as deep as they were sunk, and their play", () => {
  const ground = field(30, () => 0);
  const under: Wall = { id: "meadow", under: true, carries: true, body: new Body(ground) };
  const sunk = (up: number) => found({ fit: { up, play: 0.05 } }, [under]);
  expect(sunk(0)).toEqual([]);
  expect(sunk(-0.3)).toEqual([]);
  const slope = field(30, (_, z) => 0.5 * z);
  const steep = found({}, [{ ...under, body: new Body(slope) }]);
  expect(steep).toMatchObject([{ count: 11, mend: "leave-blank" }]);
  const dropped = found({ fit: { drop: "down" } }, [{ ...under, body: new Body(slope) }]);
  expect(dropped).toMatchObject([{ count: 11, mend: "rest-highest", orElse: "leave-blank" }]);
});
