/** Sowing by hand: a hand is led over surfaces. */
import { expect, test, type Page } from "./kept";
import { addProp, command, exportAs, newScene, propCount, saved, settled } from "./table";

const TAG = '[aria-roledescription="dressing"]';

/** Leads the pointer over the view with its button held. */
async function lead(page: Page, ...places: readonly (readonly [number, number])[]): Promise<void> {
  await page.mouse.move(...places[0]);
  await page.mouse.down();
  for (const [x, y] of places.slice(1)) await page.mouse.move(x, y, { steps: 3 });
  await page.mouse.up();
}

test("a hand sows props over ground, wider by the wheel, and gathers some again; a stroke is one step, and all is there after a reload", async ({
  page,
}) => {
  await newScene(page);
  await addProp(page);
  await command(page, "Make a surface: Ground");
  await page.keyboard.press("Escape");
  await page.getByRole("radio", { name: "Sow" }).click();
  await expect(page.getByRole("button", { name: "Prop to sow: Wedge" })).toBeVisible();
  await lead(page, [560, 330], [640, 330], [720, 330]);
  await expect.poll(() => propCount(page)).toBeGreaterThan(5);
  const first = await propCount(page);
  await expect(page.locator(TAG)).toHaveCount(1);
  await expect(page.getByTestId("sentence")).toContainText("sown by hand");

  // Wider, into the same dressing; given up, it leaves nothing; one step back takes all of a stroke.
  const width = page.getByTestId("hand");
  await page.mouse.move(640, 400);
  const was = await width.textContent();
  for (let k = 0; k < 3; k++) await page.mouse.wheel(0, -120);
  await expect(width).not.toHaveText(was!);
  await page.mouse.down();
  await page.mouse.move(700, 410, { steps: 3 });
  await expect.poll(() => propCount(page)).toBeGreaterThan(first);
  await page.keyboard.press("Escape");
  await page.mouse.up();
  await expect.poll(() => propCount(page)).toBe(first);
  await lead(page, [560, 420], [720, 420]);
  await expect.poll(() => propCount(page)).toBeGreaterThan(first);
  const second = await propCount(page);
  await page.keyboard.press("Control+z");
  await expect.poll(() => propCount(page)).toBe(first);
  await page.keyboard.press("Control+Shift+z");
  await expect.poll(() => propCount(page)).toBe(second);

  await page.keyboard.down("Alt");
  await lead(page, [560, 420], [640, 420]);
  await page.keyboard.up("Alt");
  await expect.poll(() => propCount(page)).toBeLessThan(second);
  const left = await propCount(page);

  // By keys: the hand is led by arrows, and sows where it is.
  await page.getByRole("application", { name: /^The scene in 3D/ }).focus();
  for (let k = 0; k < 3; k++) await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Enter");
  await expect.poll(() => propCount(page)).toBeGreaterThan(left);
  const count = await propCount(page);
  await saved(page);
  await page.reload();
  await settled(page);
  await expect.poll(() => propCount(page)).toBe(count);
  const { bytes } = await exportAs(page, "CSV");
  const keys = new TextDecoder().decode(bytes).trim().split("\r\n").slice(1).map((row) => row.split(",")[1]); // prettier-ignore
  expect([keys.length, new Set(keys).size]).toEqual([count, count]);
  await page.keyboard.press("Escape");

  await page.locator(TAG).click();
  await page.keyboard.press("Control+a");
  await page.keyboard.press("Delete");
  await expect.poll(() => propCount(page)).toBe(0);
});
