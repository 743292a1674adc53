/** Once opened, Clothesline opens again without network or server; a newer version waits until it is asked for. */
import { expect, test } from "@playwright/test";
import { addProp, drawLine, newScene, propCount, saved, settled } from "./table";

test.use({ serviceWorkers: "allow" });

test("without network the list and the scenes open, edits are kept, and isolation holds", async ({ page, context }) => {
  await newScene(page);
  await addProp(page);
  await drawLine(page, [
    [480, 520],
    [900, 470],
  ]);
  await expect.poll(() => propCount(page)).toBeGreaterThan(3);
  const before = await propCount(page);
  await saved(page);
  await page.evaluate(async () => void (await navigator.serviceWorker.ready));
  await context.setOffline(true);
  await page.reload();
  await settled(page);
  await expect.poll(() => propCount(page)).toBe(before);
  expect(await page.evaluate(() => self.crossOriginIsolated)).toBe(true);
  await page.getByRole("radio", { name: "Count" }).click();
  await page.getByRole("textbox", { name: "Count", exact: true }).fill("5");
  await page.getByRole("textbox", { name: "Count", exact: true }).press("Enter");
  await expect.poll(() => propCount(page)).toBe(5);
  await saved(page);
  await page.goto("/");
  await page
    .getByRole("link", { name: /New scene/ })
    .first()
    .click();
  await settled(page);
  await expect.poll(() => propCount(page)).toBe(5);
});
