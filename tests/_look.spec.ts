import { test } from "@playwright/test";
import { openScene, settled } from "./table";
test.use({ viewport: { width: 1280, height: 800 }, deviceScaleFactor: 1 });
test("look", async ({ page }) => {
  page.on("pageerror", (e) => console.log("PAGEERR", String(e).slice(0, 500)));
  await openScene(page, "gullhaven-regatta");
  await settled(page);
  await page.getByRole("button", { name: "Belt", exact: true }).click();
  await page.locator('[aria-roledescription="dressing"]').filter({ hasText: "Belt goods" }).click();
  await page.waitForTimeout(2500);
  await page.screenshot({ path: "/tmp/keep/b1.png" });
  const basket = page.getByRole("complementary", { name: "Basket" });
  await basket.getByRole("button", { name: /Basket of catch/ }).click();
  await page.getByRole("button", { name: "Open", exact: true }).click();
  await page.waitForTimeout(2500);
  await page.screenshot({ path: "/tmp/keep/b2.png" });
});
