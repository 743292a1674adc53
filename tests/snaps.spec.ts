import { expect, test, type Locator, type Page } from "./kept";
import { violations } from "./axe";
import { command, dressedScene, enter, exportAs, propCount, saved, settled } from "./table";

/** Moves the pointer about a place until something of a name is caught; gives where that is. */
async function findCaught(page: Page, name: RegExp, [x, y]: readonly [number, number]): Promise<[number, number]> {
  for (let dy = -12; dy >= -60; dy -= 8)
    for (const dx of [-8, 4]) {
      await page.mouse.move(x + dx, y + dy);
      await page.waitForTimeout(150);
      const told = page.getByTestId("moved");
      if ((await told.count()) > 0 && name.test((await told.textContent()) ?? "")) return [x + dx, y + dy];
    }
  throw new Error(`nothing like ${name} is caught there`);
}

/** Gives the wedge a snap point by a click in its set-up, which stays open. */
async function addHook(page: Page): Promise<Locator> {
  await page
    .getByRole("complementary", { name: "Basket" })
    .getByRole("button", { name: /^Wedge/ })
    .click();
  await page.getByRole("button", { name: /^Set up: pivot/ }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: "Add", exact: true }).click();
  const view = (await dialog.getByRole("img", { name: /on its own/ }).boundingBox())!;
  await page.mouse.move(view.x + view.width / 2, view.y + view.height / 2);
  await page.mouse.click(view.x + view.width / 2, view.y + view.height / 2);
  const name = dialog.getByRole("textbox", { name: /^Name of the snap point/ });
  await name.fill("hook");
  await name.press("Enter");
  return dialog;
}

test("a snap point is set up, lines hang between those of a dressing's props, a drawn line catches there and stays tied", async ({
  page,
}) => {
  await dressedScene(page);
  const count = await propCount(page);
  const tag = (n: number) => page.locator('[aria-roledescription="dressing"]').nth(n);
  const dialog = await addHook(page);
  await enter(page, "hook at y", "0.5 m");
  expect(await violations(page)).toEqual([]);
  await dialog.getByRole("button", { name: "Mirror hook to the other side" }).click();
  await expect(dialog.getByRole("textbox", { name: /^Name of the snap point/ })).toHaveCount(2);
  await dialog.getByRole("button", { name: "Delete hook 2" }).click();
  await dialog.getByRole("button", { name: "Done" }).click();

  // From each hook to the next.
  await tag(0).click();
  await command(page, "lines between snap points");
  await expect(page.getByRole("status").filter({ hasText: `${count - 1} lines` })).toBeVisible();
  await expect(page.getByRole("button", { name: "From: hook" })).toBeVisible();
  await page.getByRole("radio", { name: "Hanging" }).click();
  await enter(page, "Sag", "0.4 m");
  expect(await violations(page)).toEqual([]);
  await page.getByRole("button", { name: "Dress with a prop: this line" }).click();
  await page.getByRole("menuitem", { name: "Wedge" }).click();
  await expect(page.getByTestId("sentence")).toContainText("along Lines between 1");
  await expect.poll(() => propCount(page)).toBeGreaterThan(count);
  await page.getByRole("button", { name: "Undo" }).click();

  // A line that is drawn from a hook.
  await page.keyboard.press("l");
  const [x, y] = await findCaught(page, /on hook of Wedge/, [480, 520]);
  await page.mouse.click(x, y);
  await page.mouse.move(500, 300);
  await page.mouse.click(500, 300);
  await page.keyboard.press("Enter");
  await settled(page);
  await page.keyboard.press("Escape");
  await tag(1).click();
  await page.getByRole("button", { name: /^1 Where/ }).click();
  await page.getByTitle("Edit this line").first().click();
  await page.getByRole("button", { name: "Select knot 1" }).click();
  await expect(page.getByRole("button", { name: /^Held by hook of Wedge/ })).toBeVisible();
  await page.getByRole("button", { name: "Take the tie of knot 1 off" }).click();
  await expect(page.getByRole("region", { name: "Ties" })).toBeHidden();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("region", { name: "Ties" })).toContainText("Knot 1 to hook of Wedge");
  const height = async () => parseFloat(await page.getByRole("textbox", { name: "Knot 1 y" }).inputValue());
  const before = await height();

  // The props are lifted, and everything goes along.
  await tag(0).click();
  await page.getByRole("button", { name: /^5 Fit/ }).click();
  await enter(page, "Up", "1.5 m");
  await tag(1).click();
  await page.getByRole("button", { name: /^1 Where/ }).click();
  await page.getByTitle("Edit this line").first().click();
  await expect.poll(height).toBeCloseTo(before + 1.5, 2);

  await saved(page);
  const file = await exportAs(page, "GLB, plain nodes");
  const text = new TextDecoder().decode(file.bytes.subarray(0, 200_000));
  expect(text.match(/"name":"hook"/g)!.length).toBeGreaterThanOrEqual(count);
  await page.reload();
  await settled(page);
  await command(page, "Lines between 1");
});

test("a loose prop hangs by its own snap point on that of another, is turned there, let go by a key, and unhooked", async ({
  page,
}) => {
  await dressedScene(page);
  const dialog = await addHook(page);
  for (const [field, value] of [
    ["at y", "0.6 m"],
    ["points x", "0"],
    ["points z", "0"],
    ["points y", "1"],
  ])
    // prettier-ignore
    await enter(page, `hook ${field}`, value);
  await dialog.getByRole("button", { name: "Done" }).click();

  await page.locator('[aria-roledescription="dressing"]').first().click();
  await page.keyboard.press("Control+d");
  await page.getByRole("button", { name: /^1 Where/ }).click();
  await page.getByRole("radio", { name: "Loose", exact: true }).click();
  await page.keyboard.down("Alt");
  await page.mouse.move(600, 330);
  await page.mouse.click(600, 330);
  await page.keyboard.up("Alt");
  const panel = page.getByRole("region", { name: "Selection" });
  await expect(panel).toBeVisible();
  await settled(page);

  await page.mouse.move(600, 330);
  await page.mouse.down();
  await page.mouse.move(606, 336, { steps: 3 });
  const [x, y] = await findCaught(page, /on hook of Wedge/, [700, 510]);
  await page.keyboard.press("q");
  await expect(page.getByTestId("moved")).toContainText("let go");
  await page.keyboard.press("q");
  await page.mouse.move(x, y);
  await expect(page.getByTestId("moved")).toContainText("on hook of Wedge");
  await page.mouse.up();
  await expect(panel).toContainText("Hangs by its hook");
  await page.keyboard.press(".");
  await expect(panel.getByRole("textbox", { name: "Turned by hand" })).toHaveValue(/^-?5/);
  await saved(page);
  await page.reload();
  await settled(page);
  await page.locator('[aria-roledescription="dressing"]').nth(1).click();
  await page.keyboard.press("Control+a");
  await expect(panel).toContainText("Hangs by its hook");
  await panel.getByRole("button", { name: "Unhook" }).click();
  await expect(panel).not.toContainText("Hangs by");
});
