/** Layouts wrapped round surfaces: laid out on the sheet, small and large, and bent over what carries them. */
import { expect, test, type Locator, type Page } from "./kept";
import { addProp, editLine, enter, expectProps, exportAs, newScene, placesIn, saved, settled } from "./table";

/** Where each prop stands, by its key. */
async function places(page: Page) {
  await settled(page);
  return placesIn((await exportAs(page, "CSV")).bytes);
}

type Places = Awaited<ReturnType<typeof places>>;

const moved = (before: Places, after: Places, by: number): string[] =>
  [...before.keys()].filter(
    (key) => Math.hypot(...before.get(key)!.map((v, k) => v - (after.get(key)?.[k] ?? Infinity))) > by,
  );

/** The place of the window at which the middle of the sheet is. */
async function middleOf(sheet: Locator): Promise<[x: number, y: number]> {
  const { x, y, width, height } = (await sheet.boundingBox())!;
  return [x + 22 + (width - 22) / 2, y + 22 + (height - 22) / 2];
}

test("rows are wrapped round a surface, moved on the large sheet, turned with it, bent, and go onto another one", async ({
  page,
}) => {
  await newScene(page);
  await addProp(page);
  await page.getByRole("radio", { name: "Surfaces" }).click();
  for (const kind of ["Box", "Plane with bumps"]) {
    await page.getByRole("button", { name: "Make a surface" }).click();
    await page.getByRole("menuitem", { name: kind }).click();
    await settled(page);
  }
  await page.getByRole("button", { name: "+ Dress…" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("radio", { name: "Wrapped" }).click();
  await dialog.getByRole("button", { name: /^Plane/ }).click();
  await dialog.getByRole("button", { name: "Dress", exact: true }).click();
  await expect(page.getByTestId("sentence")).toContainText("wrapped round Plane with bumps in rows, about");
  await page.getByRole("button", { name: /^1 Where/ }).click();
  await page.getByRole("radio", { name: "Number", exact: true }).click();
  for (const [label, value] of [["Columns", "5"], ["Rows", "3"]]) await enter(page, label, value); // prettier-ignore
  await expectProps(page, 15);
  const first = await places(page);

  // The one in the middle of the large sheet is dragged; nothing else moves, and it is the layout that it is moved in.
  await page.keyboard.press("j");
  const sheet = page.getByTestId("sheet");
  await expect(sheet).toHaveAttribute("aria-label", /real size: By profile/);
  await expect(sheet).toHaveAttribute("data-drawn", "true");
  await page.waitForTimeout(600);
  expect((await sheet.boundingBox())!.height).toBeGreaterThan(300);
  const [x, y] = await middleOf(sheet);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 20, y, { steps: 3 });
  await page.mouse.move(x + 30, y + 25, { steps: 3 });
  await page.mouse.up();
  const dragged = await places(page);
  expect(moved(first, dragged, 0.05)).toHaveLength(1);
  // Sized by its corner, about its middle: all the others stay as they are.
  const triangles = await page.getByTestId("counts").textContent();
  const sized = page.getByRole("textbox", { name: "Sized by hand" });
  await enter(page, "Sized by hand", "12");
  await expect(sized).toHaveValue("12.00 ×");
  const metre = ((await sheet.boundingBox())!.width - 50) / 20.05;
  await settled(page);
  await page.mouse.move(x + 30 + 2.4 * metre, y + 25 + 1.8 * metre);
  await page.mouse.down();
  await page.mouse.move(x + 30 + 3.6 * metre, y + 25 + 2.7 * metre, { steps: 3 });
  await page.mouse.up();
  await expect.poll(async () => Math.round(parseFloat(await sized.inputValue()))).toBe(18);
  for (let k = 0; k < 2; k++) await page.keyboard.press("ControlOrMeta+z");
  await expect(sized).toHaveValue("1.00 ×");
  expect(await page.getByTestId("counts").textContent()).toBe(triangles);
  expect(moved(dragged, await places(page), 1e-3)).toEqual([]);
  await page.keyboard.down("Alt");
  await page.mouse.click(x - 25, y + 20);
  await page.keyboard.up("Alt");
  await expectProps(page, 16);
  await page.keyboard.press("ControlOrMeta+z");
  await expectProps(page, 15);
  await page.keyboard.press("j");
  await expect.poll(async () => (await sheet.boundingBox())!.height).toBeLessThan(200);

  // Moved on as a whole all go, the one that was dragged as well.
  await enter(page, "Moved right", "0.5 m");
  await expect.poll(async () => moved(dragged, await places(page), 0.3).length).toBeGreaterThan(10);
  await enter(page, "Moved right", "0");
  await settled(page);
  expect(moved(dragged, await places(page), 1e-3)).toEqual([]);

  // The surface turned on its sheet: what ran across runs up, and back after four turns.
  await page.getByRole("button", { name: /^How Plane with bumps/ }).click();
  await page.getByRole("button", { name: /^Laid flat/ }).click();
  await page.getByRole("button", { name: "Turn left" }).click();
  await expect.poll(async () => moved(dragged, await places(page), 0.3).length).toBeGreaterThan(10);
  for (let k = 0; k < 3; k++) await page.getByRole("button", { name: "Turn left" }).click();
  await settled(page);
  expect(moved(dragged, await places(page), 1e-3)).toEqual([]);
  await page.getByRole("button", { name: "Flip" }).click();
  await page.getByRole("button", { name: "Swap u and v" }).click();
  await expect(page.getByRole("button", { name: /^Laid flat/ })).toContainText("turned");
  for (let k = 0; k < 2; k++) await page.keyboard.press("ControlOrMeta+z");
  await settled(page);
  expect(moved(dragged, await places(page), 1e-3)).toEqual([]);

  // A line drawn on the sheet lies on the surface as it runs there, and is dressed at once.
  await page.keyboard.press("Escape");
  await page.keyboard.press("l");
  const [sx, sy] = await middleOf(sheet);
  for (const [dx, dy] of [[-30, -20], [30, 20]] as const) await page.mouse.click(sx + dx, sy + dy); // prettier-ignore
  await page.keyboard.press("Enter");
  await expect(page.getByTestId("sentence")).toContainText("along Line 1");
  await editLine(page, "Line 1");
  await expect(page.getByRole("radio", { name: "On its sheet" })).toBeChecked();
  // There its knots are dragged as well.
  const along = await places(page);
  await page
    .getByRole("navigation", { name: "Dressings" })
    .getByRole("button", { name: /^Wedge/ })
    .first()
    .click();
  await expect(sheet).toHaveAttribute("data-drawn", "true");
  await page.mouse.move(sx - 30, sy - 20);
  await page.mouse.down();
  await page.mouse.move(sx - 20, sy - 30, { steps: 3 });
  await page.mouse.up();
  const led = await places(page);
  expect([moved(along, led, 0.3).length > 3, moved(dragged, led, 1e-3)]).toEqual([true, []]);
  await page.keyboard.press("ControlOrMeta+z");
  await page.keyboard.press("ControlOrMeta+z");
  await expectProps(page, 15);

  // Bent over it, kept, and carried by another surface.
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: /^5 Fit/ }).click();
  await page.getByRole("switch", { name: "Bend over the surface" }).click();
  await expect(page.getByTestId("sentence")).toContainText("bent over it");
  await expectProps(page, 15);
  await saved(page);
  await page.reload();
  await settled(page);
  await expectProps(page, 15);
  await expect(page.getByTestId("sentence")).toContainText("bent over it");
  await page.getByRole("button", { name: /^1 Where/ }).click();
  await page.getByRole("button", { name: /^Another surface than/ }).click();
  await page.getByRole("menuitem", { name: /Box/ }).click();
  await expect(page.getByTestId("sentence")).toContainText("wrapped round Box");
  await expect.poll(async () => [...(await places(page)).keys()].every((key) => dragged.has(key))).toBe(true);
});

test("a surface is cut open along edges that are picked, and a smoothed copy of it stands in its place", async ({
  page,
}) => {
  await newScene(page);
  const make = async (kind: string) => {
    await page.getByRole("button", { name: "Make a surface" }).click();
    await page.getByRole("menuitem", { name: kind }).click();
    await settled(page);
  };
  await page.getByRole("radio", { name: "Surfaces" }).click();
  await make("Box");
  await page.getByRole("button", { name: /^Laid flat/ }).click();
  await page.getByRole("button", { name: "Pick edges…" }).click();
  await expect(page.getByText("Click near the edge at which it shall be cut open")).toBeVisible();
  const seams = page.getByRole("group", { name: "Seams" }).getByRole("button", { name: "is no seam any more" });
  await page.mouse.click(640, 395);
  await expect(seams).toHaveCount(1);
  await page.mouse.click(640, 225);
  await expect(seams).toHaveCount(2);
  await page.keyboard.press("Escape");
  await expect(page.getByRole("radio", { name: "Unrolling" })).toBeChecked();
  await page.keyboard.press("ControlOrMeta+z");
  await expect(seams).toHaveCount(1);
  await seams.click();
  await expect(seams).toHaveCount(0);
  await expect(page.getByRole("button", { name: "A line along its edges is a seam" })).toBeVisible();

  await make("Smoothed copy");
  await expect(page.getByRole("button", { name: "Surface: Box" })).toBeVisible();
  await expect(page.getByText("Smoothed copy · 192 triangles")).toBeVisible();
  await enter(page, "Rounds", "3");
  await expect(page.getByText("Smoothed copy · 768 triangles")).toBeVisible();
  await expect(page.getByRole("button", { name: "Show Box" })).toBeVisible();
  await saved(page);
  await page.reload();
  await settled(page);
  await page.getByRole("radio", { name: "Surfaces" }).click();
  await page.getByText("Smoothed copy", { exact: true }).click();
  await expect(page.getByText("Smoothed copy · 768 triangles")).toBeVisible();
});
