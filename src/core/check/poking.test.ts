import { Body } from "../mesh";
import { boxMesh, dressing, field, mesh, straight, surroundings } from "../place/testing";
import { evaluate } from "../place";
import { poking, type Wall } from ".";
import type { Line } from "../line";

const BUOY = Body.of(boxMesh([-0.2, 0, -0.2], [0.2, 1, 0.2]));
const go = () => Promise.resolve(true);

function found(
  input: Parameters<typeof dressing>[0],
  walls: readonly Wall[],
  goOn = go,
  lines: Line[] = [straight(10)],
) {
  const dressed = dressing({ spacing: { distance: 1 }, ...input }, lines);
  const placements = evaluate(dressed, surroundings(lines));
  return poking(dressed, placements, [BUOY], walls, goOn);
}

/** A wall across the line at x = 4.1, as high as half a buoy. */
const wall = (x: number): Wall => ({
  name: "Sea wall",
  under: false,
  carries: false,
  body: Body.of(mesh([x, -1, -2, x, -1, 2, x, 0.5, 2, x, 0.5, -2], [0, 1, 2, 0, 2, 3])),
});

test("what passes through a surface is named, with over how much; what stands beside it is not", async () => {
  const [finding] = (await found({}, [wall(4.1)]))!;
  expect(finding).toMatchObject({ check: "poking", count: 1, mend: "leave-blank" });
  expect(finding.message).toContain("1 prop pokes through “Sea wall”");
  // As wide as the buoy, from its foot up to the wall's edge.
  expect(finding.worst).toBeCloseTo(Math.hypot(0.4, 0.5), 3);
  expect(await found({}, [wall(4.5)])).toEqual([]);
  expect(await found({ gaps: { chance: 1 } }, [wall(4.1)])).toEqual([]);
});

test("into what they stand on props may dig as deep as they were sunk, and their play; told to stop, it stops", async () => {
  const ground = field(30, () => 0);
  const under: Wall = { name: "Meadow", under: true, carries: true, body: Body.of(ground) };
  const sunk = (up: number) => found({ fit: { up, play: 0.05 } }, [under]);
  expect(await sunk(0)).toEqual([]);
  expect(await sunk(-0.3)).toEqual([]);
  const slope = field(30, (_, z) => 0.5 * z);
  const steep = await found({}, [{ ...under, body: Body.of(slope) }], go, [straight(10)]);
  expect(steep).toMatchObject([{ count: 11, mend: "leave-blank" }]);
  const dropped = await found({ fit: { drop: "down" } }, [{ ...under, body: Body.of(slope) }]);
  expect(dropped).toMatchObject([{ count: 11, mend: "rest-highest", orElse: "leave-blank" }]);
  expect(await found({}, [wall(4.1)], () => Promise.resolve(false))).toBeNull();
});
