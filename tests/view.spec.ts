import { expect, test } from "./kept";
import { makeGlb, placementsInGlb } from "../src/core/files/testing";
import {
  addProp,
  drawLine,
  dressedScene,
  editLine,
  enter,
  expectProps,
  exportAs,
  newScene,
  onStrip,
  propCount,
  saved,
  settled,
  wedge,
} from "./table";

test("a placement is hovered, selected and taken away in the view; an inset is pulled and a prop dropped on the strip", async ({
  page,
}) => {
  await dressedScene(page);
  await test.step("in the view a placement says what it is, is selected by a click, and taken away by Delete", async () => {
    const count = await propCount(page);
    // The first knot is where the first click was, and the first wedge stands on it.
    await page.mouse.move(480, 500);
    await page.mouse.move(480, 505);
    await expect(page.getByRole("tooltip")).toContainText(/Wedge at 0\.00 m.*to the next/);
    await page.mouse.click(480, 505);
    const panel = page.getByRole("region", { name: "Selection" });
    await expect(panel).toContainText("Wedge");
    await expect(panel.getByRole("textbox", { name: "Place along the line" })).toHaveValue("0.00 m");
    await page.keyboard.press("Delete");
    await expectProps(page, count - 1);
    await page.getByRole("button", { name: "Take peg off" }).click();
    await expectProps(page, count);
  });
  await test.step("an inset is pulled on the strip, and Escape in the middle puts it back", async () => {
    const count = await propCount(page);
    await enter(page, "From start", "1");
    await expect.poll(() => propCount(page)).toBeLessThan(count);
    const field = page.getByRole("textbox", { name: "From start" });
    const inset = await onStrip(page, 1);
    const above = { x: inset.x, y: inset.y - 70 };
    for (const [end, pattern] of [
      ["Escape", /^1\.00 m$/],
      ["", /^1\.[2-9]\d* m$/],
    ] as const) {
      await page.mouse.move(above.x, above.y);
      await page.mouse.down();
      await page.mouse.move(above.x + 40, above.y, { steps: 4 });
      await expect(field).not.toHaveValue("1.00 m");
      if (end) await page.keyboard.press(end);
      await page.mouse.up();
      await expect(field).toHaveValue(pattern);
    }
    for (let i = 0; i < 2; i++) await page.keyboard.press("Control+z");
    await expectProps(page, count);
  });
  await test.step("a prop dropped on the strip takes the place of the one under it, and stays through other edits", async () => {
    await page
      .getByTestId("prop-files")
      .setInputFiles({ ...(await wedge("lamp.glb")), buffer: Buffer.from(await makeGlb({ textured: true })) });
    const lamp = page.getByRole("complementary", { name: "Basket" }).getByRole("button", { name: /^Lamp/ });
    await expect(lamp).toBeVisible();
    await page.getByRole("button", { name: "Back to the dressing" }).click();
    const strip = page.getByTestId("strip");
    const box = (await strip.boundingBox())!;
    const start = await onStrip(page, 0);
    await lamp.dragTo(strip, { targetPosition: { x: start.x - box.x, y: start.y - box.y } });
    await expect(page.getByRole("listitem").filter({ hasText: /^Lamp1$/ })).toBeVisible();
    await page.getByRole("radio", { name: "Count" }).click();
    await enter(page, "Count", "5");
    await expectProps(page, 5);
    const { bytes } = await exportAs(page, "GLB, plain nodes");
    const names = (await placementsInGlb(bytes)).map(({ mesh }) => mesh);
    expect(names.sort()).toEqual(["Lamp", "Wedge", "Wedge", "Wedge", "Wedge"]);
  });
});

test("what is being drawn can be taken back knot by knot, closed at its first knot, or given up", async ({ page }) => {
  await newScene(page);
  const hint = page.getByText("Click on the ground, or press an arrow key, for the first knot");
  await page.keyboard.press("l");
  await expect(hint).toBeVisible();
  await page.mouse.click(500, 520);
  await page.mouse.click(700, 450);
  await page.keyboard.press("Escape");
  await expect(page.getByText("Click: next knot")).toBeHidden();
  await expect(page.getByRole("button", { name: /undo$/i })).toBeDisabled();

  await page.keyboard.press("l");
  for (const [x, y] of [
    [500, 520],
    [640, 400],
    [860, 300],
    [860, 470],
    [700, 560],
  ])
    await page.mouse.click(x, y);
  await page.keyboard.press("Backspace");
  await page.mouse.move(503, 521);
  await page.mouse.click(500, 520);
  await expect(page.getByText(/m · 4 knots$/)).toBeVisible();
  await expect(page.getByRole("switch", { name: "Closed" })).toBeChecked();
});

test("a view is saved and is still there after a reload", async ({ page }) => {
  await newScene(page);
  const views = page.getByRole("group", { name: "Saved views" });
  await views.getByRole("button", { name: "Save this view" }).click();
  await expect(views.getByRole("button", { name: "View 1" })).toBeVisible();
  await saved(page);
  await page.reload();
  await settled(page);
  await expect(views.getByRole("button", { name: "View 1" })).toBeVisible();
});

test("a prop a hundred times too large and one as thin as paper do no harm, and the size is remarked on", async ({
  page,
}) => {
  await newScene(page);
  const huge = await makeGlb({ matrix: [200, 0, 0, 0, 0, 200, 0, 0, 0, 0, 200, 0, 0, 0, 0, 1] });
  const flat = await makeGlb({ matrix: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 0, 0, 0, 0, 0, 1] });
  for (const [name, bytes] of [
    ["huge.glb", huge],
    ["flat.glb", flat],
  ] as const)
    await page
      .getByTestId("prop-files")
      .setInputFiles({ name, mimeType: "model/gltf-binary", buffer: Buffer.from(bytes) });
  const basket = page.getByRole("complementary", { name: "Basket" });
  await basket.getByRole("button", { name: /^Huge/ }).click();
  await expect(page.getByText(/This prop is 100\.00 m large/)).toBeVisible();
  await drawLine(page, [
    [480, 520],
    [900, 470],
  ]);
  await expect.poll(() => propCount(page)).toBeGreaterThan(0);
  await page.keyboard.press("Shift+f");
  await expect(page.getByTestId("sentence")).toContainText("along Line 1 every");
  await addProp(page, "wedge.glb");
});

test("a shape is drawn with one click, changed by its numbers, becomes a line with knots, is split and joined", async ({
  page,
}) => {
  await newScene(page);
  await addProp(page);
  await page.keyboard.press("l");
  await page.getByRole("button", { name: "What to draw" }).click();
  await page.getByRole("menuitem", { name: "Circle" }).click();
  await page.mouse.move(700, 420);
  await page.mouse.click(700, 420);
  await expect(page.getByTestId("sentence")).toContainText("along Circle 1 every");
  const count = await propCount(page);
  await page.getByRole("button", { name: /^1 Where/ }).click();
  await editLine(page, "Circle 1");
  await expect(page.getByText("12.57 m")).toBeVisible();
  await enter(page, "Radius", "4 m");
  await expect.poll(() => propCount(page)).toBeGreaterThan(1.8 * count);

  const kind = page.getByRole("button", { name: "Kind of line" });
  await kind.click();
  await page.getByRole("menuitem", { name: "Smooth" }).click();
  await expect(page.getByText(/^25\.\d+ m · 12 knots$/)).toBeVisible();
  await page.getByRole("button", { name: "Select knot 5" }).click();
  const change = page.getByRole("button", { name: "Change the line" });
  await change.click();
  await page.getByRole("menuitem", { name: "Open at knot 5" }).click();
  await expect(page.getByText(/· 13 knots$/)).toBeVisible();
  await page.getByRole("button", { name: "Select knot 4" }).click();
  await change.click();
  await page.getByRole("menuitem", { name: "Split at knot 4" }).click();
  await expect(page.getByText(/· 4 knots$/)).toBeVisible();
  await change.click();
  await page.getByRole("menuitem", { name: "Join with Circle 2" }).click();
  await expect(page.getByText(/· 13 knots$/)).toBeVisible();
  for (let i = 0; i < 5; i++) await page.keyboard.press("Control+z");
  await expect(kind).toHaveText("Circle");
  await expect(page.getByText("12.57 m")).toBeVisible();
});

test("a view that the graphics card lets go of says so, and comes back drawn", async ({ page }) => {
  await dressedScene(page);
  const shot = () =>
    page
      .locator("canvas")
      .first()
      .evaluate((canvas: HTMLCanvasElement) => {
        const gl = canvas.getContext("webgl2")!;
        return gl.isContextLost();
      });
  await page
    .locator("canvas")
    .first()
    .evaluate((canvas: HTMLCanvasElement) => {
      const lose = canvas.getContext("webgl2")!.getExtension("WEBGL_lose_context")!;
      lose.loseContext();
      setTimeout(() => lose.restoreContext(), 1500);
    });
  await expect(page.getByTestId("lost-drawing")).toBeVisible();
  await expect(page.getByTestId("lost-drawing")).toBeHidden();
  expect(await shot()).toBe(false);
  await expect
    .poll(async () => (await page.screenshot({ clip: { x: 480, y: 300, width: 420, height: 260 } })).length)
    .toBeGreaterThan(8_000);
  // One that does not come back by itself is begun anew.
  await page
    .locator("canvas")
    .first()
    .evaluate((canvas: HTMLCanvasElement) => {
      canvas.getContext("webgl2")!.getExtension("WEBGL_lose_context")!.loseContext();
    });
  await expect(page.getByTestId("lost-drawing")).toBeVisible();
  await expect(page.getByTestId("lost-drawing")).toBeHidden();
  await expect.poll(shot).toBe(false);
});
