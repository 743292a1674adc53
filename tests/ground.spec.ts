import { readFileSync } from "node:fs";
import { expect, test, type Page } from "./kept";
import { makeGlb } from "../src/core/files/testing";
import { addProp, drawLine, enter, exportAs, newScene, propCount, saved, settled } from "./table";

/** A roof: two slopes that meet in a ridge along X, 1 m high, 40 m long and 40 m broad in all. */
const roof = async () => ({
  name: "roof.glb",
  mimeType: "model/gltf-binary",
  buffer: Buffer.from(
    await makeGlb({
      positions: Float32Array.from(
        [
          [-20, 0, -20, -20, 1, 0, 20, 1, 0],
          [-20, 0, -20, 20, 1, 0, 20, 0, -20],
          [-20, 1, 0, -20, 0, 20, 20, 0, 20],
          [-20, 1, 0, 20, 0, 20, 20, 1, 0],
        ].flat(),
      ),
    }),
  ),
});

/** World heights of the placements, from an exported table. */
async function heights(page: Page): Promise<number[]> {
  const { bytes } = await exportAs(page, "CSV");
  const rows = new TextDecoder().decode(bytes).trim().split("\r\n");
  const column = rows[0].split(",").indexOf("py");
  return rows.slice(1).map((row) => Number(row.split(",")[column]));
}

test("a surface is brought in, props are dropped onto it and follow when it moves; what has no ground is found and mended", async ({
  page,
}) => {
  await newScene(page);
  await addProp(page);
  await drawLine(page, [
    [480, 520],
    [900, 470],
  ]);
  await expect.poll(() => propCount(page)).toBeGreaterThan(3);
  const count = await propCount(page);
  await page.getByRole("radio", { name: "Surfaces" }).click();
  await expect(page.getByText("A surface is what props stand on")).toBeVisible();
  await page.getByTestId("surface-files").setInputFiles(await roof());
  await expect(page.getByRole("textbox", { name: "Name of the surface" })).toHaveValue("Roof");

  await page.getByRole("button", { name: "Back to the dressing" }).click();
  await page.getByRole("button", { name: /^5 Fit/ }).click();
  await page.getByRole("radiogroup", { name: "On ground" }).getByRole("radio", { name: "Down" }).click();
  await expect(page.getByTestId("sentence")).toContainText("on the ground");
  const on = await heights(page);
  expect(on).toHaveLength(count);
  for (const y of on) expect(y).toBeGreaterThan(0.5);

  // Two metres down with the roof, by its numbers.
  await page.getByRole("button", { name: /^Roof/ }).click();
  await enter(page, "Place y", "-2 m");
  await expect.poll(async () => (await heights(page))[0], { timeout: 60_000 }).toBeCloseTo(on[0] - 2, 4);
  await saved(page);
  await page.reload();
  await settled(page);
  expect((await heights(page)).map((y) => y + 2)).toEqual(on.map((y) => expect.closeTo(y, 4)));

  // Far away with the roof: no ground under anything.
  await page.getByRole("radio", { name: "Surfaces" }).click();
  await page.getByRole("button", { name: /^Roof/ }).click();
  await enter(page, "Place x", "100 m");
  const findings = page.getByTestId("findings");
  await expect(findings).toContainText("1 finding");
  await findings.click();
  await expect(page.getByText(`There is no ground under ${count} props: they stay where they were.`)).toBeVisible();
  await page.getByRole("button", { name: "Move onto the ground" }).click();
  await expect(page.getByText("they went to the nearest ground")).toBeVisible();
  await page.keyboard.press("Escape");
  for (let i = 0; i < 2; i++) await page.keyboard.press("Control+z");
  await expect(findings).toContainText("All well");
});

test("a surface is hidden, locked, dragged in the view, copied, deleted and brought back", async ({ page }) => {
  await newScene(page);
  await page.getByRole("radio", { name: "Surfaces" }).click();
  await page.getByTestId("surface-files").setInputFiles(await roof());
  const place = page.getByRole("textbox", { name: "Place x" });
  await expect(place).toHaveValue("0.00");
  await expect(page.getByText("anywhere else the view turns")).toBeVisible();
  await settled(page);
  const drag = async () => {
    await page.mouse.move(700, 450);
    await page.mouse.down();
    await page.mouse.move(760, 450, { steps: 4 });
    await page.mouse.up();
  };
  // Looking round moves nothing that has just come in; the hand does once it is asked to, and so do the arrow keys.
  await drag();
  await expect(place).toHaveValue("0.00");
  await page.getByRole("button", { name: "Move", exact: true }).click();
  await drag();
  await expect(place).not.toHaveValue("0.00");
  await page.keyboard.press("Control+z");
  await expect(place).toHaveValue("0.00");
  await page.keyboard.press("ArrowRight");
  await expect(place).not.toHaveValue("0.00");
  await page.keyboard.press("Control+z");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("button", { name: "Move", exact: true })).toHaveAttribute("aria-pressed", "false");
  await page.getByRole("switch", { name: "Locked" }).click();
  await expect(page.getByText("This surface is locked")).toBeVisible();
  await drag();
  await expect(place).toHaveValue("0.00");

  await page.keyboard.press("Control+d");
  const list = page.getByRole("list", { name: "Surfaces" }).getByRole("listitem");
  await expect(list).toHaveCount(2);
  await page.getByRole("button", { name: "Hide Roof 2" }).click();
  await expect(page.getByRole("button", { name: "Show Roof 2" })).toBeVisible();
  await page.getByRole("button", { name: "Delete surface" }).click();
  await expect(list).toHaveCount(1);
  await page.keyboard.press("Control+z");
  await expect(list).toHaveCount(2);
  await page
    .getByTestId("surface-files")
    .setInputFiles({ name: "no.glb", mimeType: "model/gltf-binary", buffer: readFileSync("package.json") });
  await expect(page.getByText("“no.glb” is not a GLB file")).toBeVisible();
  await expect(list).toHaveCount(2);
});
