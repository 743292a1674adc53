import { expect, test } from "./kept";
import { dressedScene, enter, expectProps, propCount, saved, settled } from "./table";

test("a dressed line is stacked: seen from the front, pulled higher, taken from by hand and from the front, and all there after a reload", async ({
  page,
}) => {
  await dressedScene(page);
  const columns = await propCount(page);
  await page.getByRole("button", { name: /^1 Where/ }).click();
  await page.getByRole("switch", { name: "Stacked" }).click();
  await expectProps(page, 6 * columns);
  await expect(page.getByTestId("sentence")).toContainText("stacked 3 deep and 2 high");

  const strip = page.getByTestId("strip");
  await expect(strip).toHaveAttribute("data-drawn", "true");
  await settled(page);
  const box = (await strip.boundingBox())!;
  await test.step("what is on the strip is taken by a click, and what stands on it goes along", async () => {
    // The lower one of the first column: its foot is on the cord.
    await page.mouse.click(box.x + 30, box.y + box.height - 44);
    await expect(page.getByRole("region", { name: "Selection" })).toBeVisible();
    await page.keyboard.press("Delete");
    await expectProps(page, 6 * columns - 2);
    await page.getByRole("button", { name: "Undo" }).click();
    await expectProps(page, 6 * columns);
  });
  await test.step("its height is pulled on the front, its depth on the plan", async () => {
    for (const aspect of ["Front", "Plan"]) {
      const before = await propCount(page);
      await page.getByRole("radiogroup", { name: "Rack seen from" }).getByRole("radio", { name: aspect }).click();
      await settled(page);
      // The grip lies before the start of the line, at the upper end of the rack.
      const [x, y] = [box.x + 14, await gripOf(page, box)];
      await page.mouse.move(x, y);
      await page.mouse.down();
      await page.mouse.move(x, y - (aspect === "Front" ? 48 : 34), { steps: 4 });
      await page.mouse.up();
      await expect.poll(async () => (await propCount(page)) / before).toBeGreaterThan(1.3);
    }
    await page.getByRole("button", { name: "Undo" }).click();
    await page.getByRole("button", { name: "Undo" }).click();
    await expectProps(page, 6 * columns);
  });
  await page.getByRole("button", { name: /^7 Gaps/ }).click();
  await enter(page, "Taken", "50 %");
  await expect.poll(() => propCount(page)).toBeLessThan(6 * columns);
  const left = await propCount(page);
  expect(left).toBeGreaterThan(columns);
  await saved(page);
  await page.reload();
  await settled(page);
  await expectProps(page, left);
});

/** Where the rack's grip is on the strip: the middle of what is drawn in its colour before the start of the line. */
async function gripOf(page: import("@playwright/test").Page, box: { y: number }): Promise<number> {
  const row = await page.getByTestId("strip").evaluate((element) => {
    const canvas = element as HTMLCanvasElement;
    const ratio = canvas.width / canvas.clientWidth;
    const column = canvas.getContext("2d")!.getImageData(Math.round(14 * ratio), 0, 1, canvas.height).data;
    const isSea = (y: number) => column[4 * y] < 70 && column[4 * y + 1] > 90 && column[4 * y + 2] > 95;
    const rows = Array.from({ length: canvas.height - 40 * ratio }, (_, y) => y).filter(isSea);
    return rows.reduce((sum, y) => sum + y, 0) / Math.max(1, rows.length) / ratio;
  });
  return box.y + row;
}
