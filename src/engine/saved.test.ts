/** A project saved with version 5 of the scene: pegs along, over, inside and loose, and what they came to then. */
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { FORMATS, readProject } from "@/core/files";
import { rotate } from "@/core/math";
import { keyOfHex } from "@/core/place";
import { parseScene } from "@/core/scene";
import { Engine } from "./engine";
import { evaluateScene } from "./jobs";

const file = (name: string) => readFileSync(join("src/core/scene/saved", name));

/** The rows of a CSV by their dressings. */
function rowsByDressing(csv: string): Map<string, string[][]> {
  const rows = new Map<string, string[][]>();
  for (const line of csv.trim().split("\r\n").slice(1)) {
    const row = line.split(",");
    rows.set(row[0], [...(rows.get(row[0]) ?? []), row]);
  }
  return rows;
}

/** Columns of the CSV that are numbers to be compared: place, rotation, size and the place along the line. */
const MEASURED = [4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14];

/** What is spread evenly, at random or in grids is dealt anew since version 6, and so is what minds it. */
const DEALT_ANEW = [
  ...["Net piles", "Lavender", "Gulls", "Start buoys", "Paper kites", "Cobble crates", "Cobble catch", "Loose baskets"],
  ...["square tubs", "hexagonal tubs", "even counted", "random dense", "kites random", "kites square", "kites packed"],
];

/** The middle of their feet was drawn aside by a corner that hulls counted twice, at a seam. */
const LOOSER: Partial<Record<string, number>> = { "Lamp posts": 0.003 };

/** Remembers what one test and the next have in common. */
const engine = new Engine();
const { scene, assets } = readProject(file("regatta-5.zip"), "regatta-5.zip");

test("a project of version 5 comes to the placements and findings that it had, but for what is dealt anew", async () => {
  const evaluated = await evaluateScene(scene, assets, { poking: true }, engine);
  const then = rowsByDressing(file("regatta-5.csv").toString());
  const now = rowsByDressing(new TextDecoder().decode(await FORMATS.csv.write(evaluated, assets)));
  expect([...now.keys()]).toEqual([...then.keys()]);
  for (const [dressing, rows] of then) {
    const found = now.get(dressing)!;
    if (DEALT_ANEW.includes(dressing)) continue;
    expect([dressing, found.length]).toEqual([dressing, rows.length]);
    rows.forEach((row, i) => {
      expect([found[i][2], found[i][3]]).toEqual([row[2], row[3]]);
      const off = MEASURED.map((column) => Math.abs(Number(found[i][column]) - Number(row[column])));
      expect([dressing, i, Math.max(...off) < (LOOSER[dressing] ?? 1e-5)]).toEqual([dressing, i, true]);
    });
  }
  const anew = new Set(scene.dressings.flatMap(({ id, name }) => (DEALT_ANEW.includes(name) ? id : [])));
  const findings = evaluated.findings.flatMap(({ dressing, check, count, worst, message }) =>
    anew.has(dressing)
      ? []
      : {
          dressing,
          check,
          count,
          ...(worst !== undefined && { worst: expect.closeTo(worst, 5) as number }),
          message,
        },
  );
  const before = JSON.parse(file("regatta-5-findings.json").toString()) as { dressing: string }[];
  expect(before.filter(({ dressing }) => !anew.has(dressing))).toEqual(findings);
});

test("pegs of version 5 on fields keep their points, or go to the nearest slot within half the distance, or are told", async () => {
  const { dressings, findings } = await evaluateScene(scene, assets, {}, engine);
  const surfaces = new Map(scene.surfaces.map((surface) => [surface.id, surface]));
  let kept = 0;
  for (const { dressing, placements: p } of dressings) {
    if (dressing.oldPegs.length === 0) continue;
    const { pegs, left } = p.brought!;
    expect(p.orphans).toEqual([]);
    expect(left.length).toBe(
      findings.find((one) => one.dressing === dressing.id && one.check === "orphan-peg")?.count ?? 0,
    );
    expect(left.length + Object.keys(pegs).length).toBe(dressing.oldPegs.length + Object.keys(dressing.pegs).length);
    for (const { point, line } of dressing.oldPegs) {
      if (!point) continue;
      const key = Object.keys(pegs).find((hex) => pegs[hex].point === point)!;
      const i = p.key.indexOf(keyOfHex(key));
      const { position, rotation, scale } = surfaces.get(line)!;
      const wanted = rotate(rotation, [scale * point[0], scale * point[1], scale * point[2]]).map(
        (x, k) => x + position[k],
      );
      // Its contact is put there, and the prop's own origin is not far from that.
      expect(Math.hypot(...wanted.map((x, k) => p.origin[k] + p.position[3 * i + k] - x))).toBeLessThan(1.5);
      kept++;
    }
  }
  expect(kept).toBeGreaterThan(8);

  // As the interface does: once written by their keys, the same placements follow from them.
  const written = {
    ...scene,
    dressings: scene.dressings.map((one, i) => {
      const { brought } = dressings[i].placements;
      return brought ? { ...one, pegs: brought.pegs, oldPegs: brought.left.map(({ peg }) => peg) } : one;
    }),
  };
  const again = await evaluateScene(parseScene(JSON.parse(JSON.stringify(written))), assets, {}, engine);
  again.dressings.forEach(({ placements }, i) => {
    expect({ ...placements, brought: null }).toEqual({ ...dressings[i].placements, brought: null });
  });
});

test("pegs of version 5 wait for what they lie on: nothing becomes of them as long as its mesh is not known", async () => {
  const { dressings, findings } = await evaluateScene(scene, new Map(), {});
  const lavender = dressings.find(({ dressing }) => dressing.name === "Lavender")!;
  const { pegs, oldPegs } = lavender.dressing;
  expect(lavender.placements.brought).toEqual({ pegs, left: oldPegs.map((peg) => ({ peg, place: null })) });
  const told = findings.find(({ dressing, mend }) => dressing === "lavender" && mend === "drop-old-pegs")!;
  expect(told.count).toBe(oldPegs.length);
  expect(told.message).toContain("on “Hillside”");
});
