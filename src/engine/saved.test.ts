/** A project saved with version 5 of the scene: pegs along, over, inside and loose, and what they came to then. */
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { FORMATS, readProject } from "@/core/files";
import { evaluateScene } from "./jobs";

const file = (name: string) => readFileSync(join(__dirname, "../core/scene/saved", name));

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

test("a project of version 5 comes to the placements and findings that it had", async () => {
  const { scene, assets } = readProject(file("regatta-5.zip"), "regatta-5.zip");
  const evaluated = await evaluateScene(scene, assets, { poking: true });
  const then = rowsByDressing(file("regatta-5.csv").toString());
  const now = rowsByDressing(new TextDecoder().decode(await FORMATS.csv.write(evaluated, assets)));
  expect([...now.keys()]).toEqual([...then.keys()]);
  for (const [dressing, rows] of then) {
    const found = now.get(dressing)!;
    expect([dressing, found.length]).toEqual([dressing, rows.length]);
    rows.forEach((row, i) => {
      expect([found[i][2], found[i][3]]).toEqual([row[2], row[3]]);
      const off = MEASURED.map((column) => Math.abs(Number(found[i][column]) - Number(row[column])));
      expect([dressing, i, Math.max(...off) < 1e-5]).toEqual([dressing, i, true]);
    });
  }
  const findings = evaluated.findings.map(({ dressing, check, count, worst, message }) => ({
    dressing,
    check,
    count,
    ...(worst !== undefined && { worst: expect.closeTo(worst, 5) as number }),
    message,
  }));
  expect(JSON.parse(file("regatta-5-findings.json").toString())).toEqual(findings);
});
