import { readFileSync } from "node:fs";
import { expect, test, type Download } from "@playwright/test";
import { violations } from "./axe";
import { addProp, command, dressedScene, enter, expectProps, propCount, saved, settled } from "./table";

test("a dressing's rules are kept as a recipe with a dial, used on another line with a dial on top, and brought up to date", async ({
  page,
}) => {
  await dressedScene(page);
  await page.getByRole("button", { name: "Line 1" }).first().waitFor({ state: "attached" });
  await page.getByRole("button", { name: /^More for / }).click();
  await page.getByRole("menuitem", { name: "Save as a recipe…" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("textbox", { name: "Name of the recipe" }).fill("Wedges in a row");
  await dialog.getByRole("textbox", { name: "Role 1" }).fill("Post");
  await expect(dialog.getByRole("textbox", { name: "Name of dial 1" })).toHaveValue("Every");
  await dialog.getByRole("textbox", { name: "Name of dial 1" }).fill("Apart");
  expect(await violations(page)).toEqual([]);
  await dialog.getByRole("button", { name: "Save as a new one" }).click();
  await expect(page.getByText("The recipe “Wedges in a row” is kept")).toBeVisible();

  await page.keyboard.press("Control+k");
  await page.getByRole("combobox").fill("recipes");
  await page.keyboard.press("Enter");
  const recipes = page.getByRole("dialog", { name: "Recipes" });
  await expect(recipes.getByRole("listitem")).toHaveCount(13);
  await recipes.getByRole("button", { name: /^Wedges in a row/ }).click();
  expect(await violations(page)).toEqual([]);
  const [download] = (await Promise.all([
    page.waitForEvent("download"),
    recipes
      .getByRole("button", { name: "More for Wedges in a row" })
      .click()
      .then(() => page.getByRole("menuitem", { name: "Save as a file" }).click()),
  ])) as [Download, void];
  const file = readFileSync(await download.path());
  expect(JSON.parse(file.toString())).toMatchObject({ version: 1, roles: [{ name: "Post" }] });
  await recipes.getByRole("button", { name: "Dress", exact: true }).click();
  await settled(page);
  const both = await propCount(page);

  const panel = page.getByRole("region", { name: "Recipe" });
  await expect(panel).toContainText("Wedges in a row");
  await enter(page, "Apart", "0.9 m");
  await expect.poll(() => propCount(page)).toBeLessThan(both);
  const few = await propCount(page);
  await panel.getByRole("button", { name: /^Post: / }).click();
  await page.getByRole("menuitem", { name: "Nobody: it stays blank" }).click();
  await expect.poll(() => propCount(page)).toBeLessThan(few);
  await page.getByTestId("findings").click();
  await expect(page.getByText("The recipe has no prop for “Post” yet")).toBeVisible();
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Undo" }).click();
  await expectProps(page, few);

  const newer = { ...JSON.parse(file.toString()), name: "Broken", dials: [{ id: 0, name: "X", drives: [{ path: "spacing/__proto__", from: 0, to: 1 }] }] }; // prettier-ignore
  await page.keyboard.press("Control+k");
  await page.getByRole("combobox").fill("recipes");
  await page.keyboard.press("Enter");
  await page.getByTestId("recipe-files").setInputFiles({ name: "broken.json", mimeType: "application/json", buffer: Buffer.from(JSON.stringify(newer)) }); // prettier-ignore
  await expect(page.getByText("“broken.json” is no recipe")).toBeVisible();
  await page.keyboard.press("Escape");
  await saved(page);
  await page.reload();
  await settled(page);
  await expectProps(page, few);
  await page.getByRole("button", { name: /^Wedges in a row/ }).click();
  await expect(page.getByRole("region", { name: "Recipe" })).toBeVisible();
});

test("an assembly is kept as a recipe, put together again with another prop along a line, turned by its dial, and goes on by hand", async ({
  page,
}) => {
  await dressedScene(page);
  const count = await propCount(page);
  await addProp(page, "second.glb");
  await command(page, "keep as an assembly");
  await page.getByRole("textbox", { name: "Name of the assembly" }).fill("Row");
  await page.getByRole("dialog").getByRole("button", { name: "Keep" }).click();
  await expectProps(page, count);
  const basket = page.getByRole("complementary", { name: "Basket" });
  await basket.getByRole("button", { name: /Row.*assembly/ }).click();
  await page.getByRole("button", { name: "Save as a recipe…" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("textbox", { name: "Name of the recipe" }).fill("Row of posts");
  await dialog.getByRole("textbox", { name: "Role 1" }).fill("Second");
  await dialog.getByRole("button", { name: "Add a dial…" }).click();
  await page.getByRole("menuitem", { name: "Wedge", exact: true }).click();
  await dialog.getByRole("button", { name: "A number of Wedge…" }).click();
  await page.getByRole("menuitem", { name: "Wedge, Spacing: Every" }).click();
  await dialog.getByRole("textbox", { name: "Name of dial 1" }).fill("Apart");
  expect(await violations(page)).toEqual([]);
  await dialog.getByRole("button", { name: "Save as a new one" }).click();
  await expect(page.getByText("The recipe “Row of posts” is kept")).toBeVisible();

  await command(page, "recipes");
  const recipes = page.getByRole("dialog", { name: "Recipes" });
  await recipes.getByRole("button", { name: /^Row of posts/ }).click();
  // Who is called as a role is plays it.
  await expect(recipes.getByRole("button", { name: "Second: second" })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await recipes.getByRole("button", { name: "Put together" }).click();
  const panel = page.getByRole("region", { name: "Recipe" });
  await expect(panel).toContainText("Row of posts");
  await expect(basket.getByRole("button", { name: /Row of posts.*assembly/ })).toBeVisible();
  await expectProps(page, count);

  // Opened, it goes on by hand; the dial drives what is in it from without and within.
  await page.getByRole("button", { name: "Open", exact: true }).click();
  await expectProps(page, count);
  await basket.getByRole("button", { name: /Row of posts.*assembly/ }).click();
  await enter(page, "Apart", "1.5 m");
  await expect.poll(() => propCount(page)).toBeLessThan(count);
  const few = await propCount(page);
  await page.keyboard.press("Shift+Enter");
  await expect(panel.getByRole("textbox", { name: "Apart" })).toHaveValue("1.50 m");
  await enter(page, "Apart", "3 m");
  await page.getByRole("button", { name: "Undo: Apart" }).click();
  await expect(panel.getByRole("textbox", { name: "Apart" })).toHaveValue("1.50 m");
  await saved(page);
  await page.reload();
  await settled(page);
  await basket.getByRole("button", { name: /Row of posts.*assembly/ }).click();
  await expect(panel.getByRole("textbox", { name: "Apart" })).toHaveValue("1.50 m");
  await page.getByRole("button", { name: "Open", exact: true }).click();
  await expectProps(page, few);
});
