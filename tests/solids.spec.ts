/** Lines become tubes, bodies are joined and cut, live, and go home as files. */
import { expect, test, type Page } from "./kept";
import { readFileSync } from "node:fs";
import { STLLoader } from "three/examples/jsm/loaders/STLLoader.js";
import { volumeOf } from "../src/core/solid";
import { violations } from "./axe";
import { drawLine, enter, newScene, saved, settled } from "./table";

const make = async (page: Page, kind: string) => {
  await page.getByRole("button", { name: "Make a surface" }).click();
  await page.getByRole("menuitem", { name: kind, exact: true }).click();
};
const facts = (page: Page) => page.getByRole("region", { name: "What it came to" });

/** The volume of a downloaded STL in litres, once it is read by another's reader. */
async function takenHome(page: Page): Promise<number> {
  await page.getByRole("button", { name: "Take it home as a file" }).click();
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("menuitem", { name: /^STL/ }).click(),
  ]);
  const bytes = readFileSync(await download.path());
  const position = new STLLoader().parse(new Uint8Array(bytes).buffer).getAttribute("position").array;
  return volumeOf({ position, index: Uint32Array.from({ length: position.length / 3 }, (_, i) => i) }) / 1e6;
}

test("a line becomes a tube, a box is pierced by it, and what is left goes home; it is there again after a reload", async ({
  page,
}) => {
  await newScene(page);
  await drawLine(page, [
    [430, 470],
    [900, 330],
  ]);
  await settled(page);
  await page.getByRole("radio", { name: "Surfaces" }).click();
  await make(page, "Tube");
  await expect(facts(page)).toContainText("yes, all round");
  const before = await facts(page).textContent();
  await enter(page, "Radius", "10 cm");
  await expect(facts(page)).not.toHaveText(before!);
  await page.getByRole("radiogroup", { name: "Ends" }).getByRole("radio", { name: "Flat" }).click();

  await make(page, "Box");
  await make(page, "Solid");
  await expect(facts(page)).toContainText("48 m³");
  await page.getByRole("button", { name: "Add a part" }).click();
  await page.getByRole("menuitem", { name: "Tube" }).click();
  // What is a part of it is drawn by it alone.
  await expect(page.getByRole("button", { name: "Show Tube" })).toBeVisible();
  await page.getByRole("button", { name: /^How Tube goes in/ }).click();
  await page.getByRole("menuitem", { name: "Cut" }).click();
  await expect(page.getByRole("button", { name: "How Tube goes in: Cut" })).toBeVisible();
  await expect(facts(page)).toContainText(/47\.\d m³/);
  await expect(facts(page)).not.toContainText("as it was before");
  expect(await violations(page)).toEqual([]);
  const pierced = await takenHome(page);
  expect(pierced).toBeGreaterThan(47_500);
  expect(pierced).toBeLessThan(47_950);

  await page.getByRole("button", { name: "Undo" }).click();
  await expect(facts(page)).toContainText(/48\.\d m³/);
  await page.getByRole("button", { name: "Redo" }).click();
  await expect(facts(page)).toContainText(/47\.\d m³/);
  await saved(page);
  await page.reload();
  await settled(page);
  await page.getByRole("radio", { name: "Surfaces" }).click();
  await page.getByRole("list", { name: "Surfaces" }).getByText("Solid").click();
  await expect(facts(page)).toContainText(/47\.\d m³/);
  expect(await takenHome(page)).toBeCloseTo(pierced, 3);

  // What it is made of goes, and it goes on without.
  await page.getByRole("list", { name: "Surfaces" }).getByText("Tube").click();
  await page.getByRole("button", { name: "Delete surface" }).click();
  await page.getByRole("list", { name: "Surfaces" }).getByText("Solid").click();
  await expect(facts(page)).toContainText("48 m³");
  await make(page, "Solid");
  await page.getByRole("button", { name: /^Take Solid out/ }).click();
  await expect(page.getByText("It needs a body:")).toBeVisible();
});
