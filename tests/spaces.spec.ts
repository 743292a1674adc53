import { expect, test, type Page } from "./kept";
import { writeRaster } from "../src/core/image";
import { addProp, drawLine, enter, expectProps, newScene, propCount, saved, settled } from "./table";

const column = (page: Page) => page.getByRole("textbox", { name: "Name of the surface" });

/** Makes a surface of one of the kinds there are. */
async function make(page: Page, kind: string): Promise<void> {
  await page.getByRole("radio", { name: "Surfaces" }).click();
  await page.getByRole("button", { name: "Make a surface" }).click();
  await page.getByRole("menuitem", { name: kind }).click();
  await expect(column(page)).toHaveValue(kind);
}

/** The place of the view farthest to the right, but for a point, where the pointer takes hold of something. */
async function gripFrom(page: Page, x: number, ys: number[]): Promise<{ x: number; y: number }> {
  const canvas = page.locator("canvas").first();
  for (const y of ys)
    for (let at = x; at > x - 300; at -= 4) {
      await page.mouse.move(at, y);
      await page.waitForTimeout(40);
      if ((await canvas.evaluate((element) => element.style.cursor)) === "grab") return { x: at, y };
    }
  throw new Error("there is nothing to take hold of");
}

/** Fills the surface in focus with the basket's first prop. */
async function fillInside(page: Page): Promise<void> {
  await page.getByRole("button", { name: "More for this surface" }).click();
  await page.getByRole("menuitem", { name: "Fill its inside" }).click();
  await page.getByRole("button", { name: "Fill its inside" }).click();
}

test("a box is made and filled; a pull at its side makes room for more; undo and a reload bring back what was", async ({
  page,
}) => {
  await newScene(page);
  await addProp(page);
  await make(page, "Box");
  await enter(page, "Place y", "0");
  await enter(page, "Width", "3");
  await enter(page, "Depth", "3");
  await fillInside(page);
  await page.getByRole("menuitem", { name: "Wedge" }).click();
  await expect(page.getByTestId("sentence")).toContainText("inside Box evenly");
  await expect(page.getByTestId("sheet")).toHaveAttribute("data-drawn", "true");
  await page.getByRole("radio", { name: "Count", exact: true }).click();
  await enter(page, "Count", "40");
  await expectProps(page, 40);
  await page.getByRole("radio", { name: "Distance", exact: true }).click();
  await page.getByRole("radio", { name: "Grid", exact: true }).click();
  await enter(page, "Every", "1");
  // Three to a side.
  const before = 27;
  await expectProps(page, before);
  await page.getByRole("radio", { name: "Surfaces" }).click();
  await page.getByRole("list", { name: "Surfaces" }).getByText("Box").click();
  const { x, y } = await gripFrom(page, 880, [360, 380, 340]);
  await page.mouse.down();
  await page.mouse.move(x + 60, y, { steps: 4 });
  await page.mouse.move(x + 140, y, { steps: 4 });
  await page.mouse.up();
  await expect.poll(() => propCount(page)).toBeGreaterThan(before);
  const after = await propCount(page);
  await page.keyboard.press("Control+z");
  await expectProps(page, before);
  await page.keyboard.press("Control+Shift+z");
  await expectProps(page, after);
  await saved(page);
  await page.reload();
  await settled(page);
  await expectProps(page, after);
  // A surface that is not closed has no inside, and says so.
  await make(page, "Plane with bumps");
  await fillInside(page);
  await page.getByRole("menuitem", { name: "Wedge" }).click();
  await page.getByTestId("findings").click();
  await expect(page.getByText("it is not closed, or has no inside").first()).toBeVisible();
});

test("a line is drawn onto the ground, lies there when the ground changes, and becomes one of its own knots; a rim is taken", async ({
  page,
}) => {
  await newScene(page);
  await addProp(page);
  await make(page, "Plane with bumps");
  await page.getByRole("radio", { name: "Draw line" }).click();
  await page.getByRole("checkbox", { name: "Stays on the ground" }).check();
  await page.keyboard.press("Escape");
  await drawLine(page, [
    [480, 420],
    [640, 380],
    [820, 440],
  ]);
  await expect(page.getByTestId("sentence")).toContainText("along Line 1");
  await settled(page);
  const length = async () =>
    Number(
      (
        await page
          .getByText(/Line 1 · [\d.]+/)
          .first()
          .innerText()
      ).match(/· ([\d.]+)/)![1],
    );
  const flat = await length();
  await page.getByRole("list", { name: "Surfaces" }).getByText("Plane with bumps").click();
  await enter(page, "Height", "6");
  await page
    .getByRole("link", { name: "Wedge" })
    .or(page.getByRole("button", { name: /^Wedge/ }))
    .first()
    .click();
  await expect.poll(length).toBeGreaterThan(flat + 0.05);
  await page.getByText("Where", { exact: true }).first().click();
  await page.getByTitle("Edit this line").first().click();
  await expect(page.getByRole("radio", { name: "On a surface" })).toBeChecked();
  await page.getByRole("radio", { name: "By its knots" }).click();
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("radio", { name: "On a surface" })).toBeChecked();
  await page.getByRole("list", { name: "Surfaces" }).getByText("Plane with bumps").click();
  await page.getByRole("button", { name: "More for this surface" }).click();
  await page.getByRole("menuitem", { name: "Line from its mesh: rim" }).click();
  await page.mouse.click(640, 420);
  await expect(page.getByTestId("sentence")).toContainText("along Rim of Plane with bumps");
  await page.getByTitle("Edit this line").first().click();
  // Where it starts is pulled along it on the strip, by its ring.
  const strip = (await page.getByTestId("strip").boundingBox())!;
  await page.mouse.move(strip.x + 28, strip.y + strip.height - 38);
  await page.mouse.down();
  await page.mouse.move(strip.x + 200, strip.y + strip.height - 38, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByRole("button", { name: "Undo: Start of line" })).toBeEnabled();
  await page.getByRole("button", { name: "Make knots of it" }).click();
  await expect(page.getByText(/· \d+ knots/).first()).toBeVisible();
});

test("a picture leaves a quarter of what is spread; turned about it leaves the rest; it is there after a reload", async ({
  page,
}) => {
  await newScene(page);
  await addProp(page);
  await make(page, "Plane with bumps");
  await page.getByRole("button", { name: "Dress this surface" }).click();
  await page.getByRole("menuitem", { name: "Wedge" }).click();
  await enter(page, "Every", "1 m");
  await expect.poll(() => propCount(page)).toBeGreaterThan(200);
  const count = async () =>
    Number(
      (
        await page
          .getByText(/\d+ slots · \d+ shown/)
          .first()
          .innerText()
      ).match(/· (\d+) shown/)![1],
    );
  // The column may say a little later than the view how many there are.
  await settled(page);
  await expect.poll(async () => (await count()) - (await propCount(page))).toBe(0);
  const before = await count();
  await page.getByText("Gaps", { exact: true }).first().click();
  await page.getByText("Masks", { exact: true }).click();
  const rgba = new Uint8Array(4 * 64 * 64).fill(255);
  for (let row = 0; row < 64; row++) rgba.fill(0, 4 * 64 * row, 4 * (64 * row + 48) - 1);
  for (let p = 3; p < rgba.length; p += 4) rgba[p] = 255;
  const buffer = Buffer.from(writeRaster(64, 64, rgba));
  await page.getByTestId("mask-file").setInputFiles({ name: "quarter.png", mimeType: "image/png", buffer });
  await expect.poll(count).toBeLessThan(before / 2);
  const quarter = await count();
  await page.getByRole("switch", { name: "The other way round" }).first().click();
  // What lies right on the border of the two may be in both, or give way to a neighbour in either.
  await expect.poll(async () => Math.abs((await count()) + quarter - before)).toBeLessThan(0.1 * before);
  const other = await count();
  await saved(page);
  await page.reload();
  await settled(page);
  await expectProps(page, other);
});

test("single props are put down by hand, dropped as a group, moved, taken away; auto draws them all the same", async ({
  page,
}) => {
  await newScene(page);
  await addProp(page);
  await make(page, "Plane with bumps");
  await drawLine(page, [
    [480, 400],
    [700, 430],
  ]);
  await page.getByText("Where", { exact: true }).first().click();
  await page.getByRole("radio", { name: "Loose", exact: true }).click();
  await expectProps(page, 0);
  await page.keyboard.down("Alt");
  for (const [x, y] of [
    [520, 420],
    [620, 400],
    [700, 440],
  ]) {
    await page.mouse.move(x, y);
    await page.mouse.click(x, y);
  }
  await page.keyboard.up("Alt");
  await expect.poll(() => propCount(page)).toBeGreaterThanOrEqual(3);
  const count = await propCount(page);
  await expect(page.getByTestId("sentence")).toContainText(`${count} in all`);
  await page.getByText("Fit", { exact: true }).first().click();
  await page.getByRole("radio", { name: "Down", exact: true }).click();
  await page.getByRole("radio", { name: "As a group" }).click();
  await page.getByRole("radio", { name: "Auto", exact: true }).click();
  await expectProps(page, count);
  await page.keyboard.press("Delete");
  await expectProps(page, count - 1);
  await page.keyboard.press("Control+z");
  await expectProps(page, count);
  await saved(page);
  await page.reload();
  await settled(page);
  await expectProps(page, count);
});

test("a surface is laid flat: there things are dragged, turned, kept off; how full it is shows in the view", async ({
  page,
}) => {
  await newScene(page);
  await addProp(page);
  await make(page, "Plane with bumps");
  await page.getByRole("button", { name: "Dress this surface" }).click();
  await page.getByRole("menuitem", { name: "Wedge" }).click();
  await enter(page, "Every", "2 m");
  await expect.poll(async () => Math.abs((await propCount(page)) - 80)).toBeLessThan(20);
  const full = await propCount(page);
  await page.getByRole("radio", { name: "By profile" }).click();
  const sheet = page.getByTestId("sheet");
  await expect(sheet).toHaveAttribute("aria-label", /real size: By profile/);
  await expect(sheet).toHaveAttribute("data-drawn", "true");
  const { x, y, width, height } = (await sheet.boundingBox())!;
  const [cx, cy] = [x + 22 + (width - 22) / 2, y + 22 + (height - 22) / 2];
  // The one nearest to the middle is dragged and turned.
  await sheet.focus();
  await page.keyboard.press("ArrowRight");
  await expect(page.getByRole("region", { name: "Selection" })).toBeVisible();
  await page.keyboard.press(".");
  await expect(page.getByRole("textbox", { name: "Turned by hand" })).toHaveValue(/^5°?$/);
  await page.keyboard.press("Alt+Shift+ArrowDown");
  await expect(page.getByText("Pegged by hand")).toBeVisible();
  await page.keyboard.press("Control+z");
  await page.keyboard.press("Control+z");
  await expect(page.getByText("Pegged by hand")).toBeHidden();
  // A clearing is held open on the chart itself.
  await page.keyboard.press("Escape");
  let free = cx;
  do {
    free += 3;
    await page.mouse.move(free, cy);
    await page.waitForTimeout(40);
  } while ((await sheet.evaluate((element) => element.style.cursor)) !== "crosshair" && free < cx + 60);
  await page.mouse.down();
  await page.mouse.move(free + 25, cy + 20, { steps: 4 });
  await page.mouse.up();
  await expect.poll(() => propCount(page)).toBeLessThan(full);
  const cleared = await propCount(page);
  await page.getByRole("button", { name: /^7 Gaps/ }).click();
  await page.getByText("Show it in the view").click();
  await expect(page.getByRole("switch", { name: "Show it in the view" })).toBeChecked();
  // Kept clear by meshes, which are brought to the worker for it.
  await page.getByRole("button", { name: /^5 Fit/ }).click();
  for (const way of ["Mesh", "Radius"]) {
    await page.getByRole("radio", { name: way, exact: true }).click();
    await expect(page.getByTestId("sentence")).toContainText("kept clear");
    await expectProps(page, cleared);
  }
  await saved(page);
  await page.reload();
  await settled(page);
  await expectProps(page, cleared);
});
