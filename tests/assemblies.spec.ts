import { expect, test, type Page } from "./kept";
import { violations } from "./axe";
import { command, dressedScene, enter, exportAs, expectProps, placesIn, propCount, saved, settled } from "./table";

const inside = (page: Page) => page.getByRole("navigation", { name: "Open assembly" });

test("a dressing becomes an assembly, is opened, changed, left, used many times over, varied, taken apart, and is there after a reload", async ({
  page,
}) => {
  await dressedScene(page);
  const count = await propCount(page);
  const before = placesIn((await exportAs(page, "CSV table")).bytes);
  await command(page, "keep as an assembly");
  const dialog = page.getByRole("dialog");
  await expect(dialog).toContainText("With it: 1 line.");
  expect(await violations(page)).toEqual([]);
  await dialog.getByRole("textbox", { name: "Name of the assembly" }).fill("Row of wedges");
  await dialog.getByRole("button", { name: "Keep" }).click();
  // One of it stays in its place: as many props, where they were.
  await expectProps(page, count);
  await expect(page.getByTestId("findings")).toHaveText("All well");
  const after = [...placesIn((await exportAs(page, "CSV table")).bytes).values()];
  for (const place of before.values())
    expect(Math.min(...after.map((one) => Math.hypot(...one.map((x, k) => x - place[k]))))).toBeLessThan(1e-4);

  const basket = page.getByRole("complementary", { name: "Basket" });
  await basket.getByRole("button", { name: /Row of wedges.*assembly/ }).click();
  await expect(page.getByRole("region", { name: "Assembly" })).toContainText(`${count} things stand in it`);
  await page.getByRole("button", { name: "Open", exact: true }).click();
  await expect(inside(page)).toContainText("Row of wedges");
  await expect(inside(page)).toContainText("Used in 1 dressing");
  await expectProps(page, count);
  expect(await violations(page)).toEqual([]);

  // What is changed inside is changed outside; the way back is a key, too.
  await page.getByRole("radio", { name: "Count" }).click();
  await enter(page, "Count", "3");
  await expectProps(page, 3);
  await page.keyboard.press("Shift+Enter");
  await expect(inside(page)).toHaveCount(0);
  await expectProps(page, 3);

  // It is dressed along a line like any prop; each use varied, by a draw of its own.
  await basket.getByRole("button", { name: /Row of wedges/ }).click();
  await page.getByRole("button", { name: "Duplicate" }).click();
  await expect(basket.getByRole("button", { name: /Row of wedges 2/ })).toBeVisible();
  await page.getByRole("radio", { name: "Varied" }).click();
  await enter(page, "Different ones", "12");
  await expect(page.getByRole("region", { name: "Assembly" })).toContainText("Not used anywhere yet");
  await page.keyboard.press("Enter");
  await expect(inside(page)).toContainText("Row of wedges 2");
  await page.getByRole("button", { name: "Back", exact: true }).click();
  await saved(page);
  await page.reload();
  await settled(page);
  await expectProps(page, 3);
  await expect(basket.getByRole("button", { name: /Row of wedges 2/ })).toBeVisible();

  await basket.getByRole("button", { name: /Row of wedges(?! 2)/ }).click();
  await page.getByRole("button", { name: "Take all apart" }).click();
  // What it was made of is there again, with its rules.
  await expect(page.getByTestId("sentence")).toContainText("along");
  await expectProps(page, 3);
  await basket.getByRole("button", { name: /Row of wedges(?! 2)/ }).click();
  await page.getByRole("button", { name: "Delete assembly" }).click();
  await expectProps(page, 3);
  await page.keyboard.press("Control+z");
  await expect(basket.getByRole("button", { name: /Row of wedges(?! 2)/ })).toBeVisible();

  // A surface that is part of what is kept leaves the table, and stands in its use like all else.
  await basket.getByRole("radio", { name: "Surfaces" }).click();
  await page.getByRole("button", { name: "Make a surface" }).click();
  await page.getByRole("menuitem", { name: "Box", exact: true }).click();
  await page
    .getByRole("button", { name: /^Wedge 3 props/ })
    .first()
    .click();
  await command(page, "keep as an assembly");
  await dialog.getByRole("switch", { name: "Box" }).click();
  await dialog.getByRole("button", { name: "Keep" }).click();
  await expectProps(page, 4);
  await expect(basket.getByText("A surface is what props stand on")).toBeVisible();
});
