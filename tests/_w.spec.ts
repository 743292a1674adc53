import { test } from "@playwright/test";
import { openScene } from "./table";
test.use({ deviceScaleFactor: 1 });
test("w", async ({ page }) => {
  page.on("console", (m) => m.type() === "error" && console.log(m.text().slice(0, 300)));
  await openScene(page, "gullhaven-regatta");
  await page.getByRole("button", { name: "Buoy", exact: true }).click();
  await page.getByRole("button", { name: /^Buoy studs/ }).first().click();
  await page.getByRole("button", { name: /^1 Where/ }).click();
  await page.waitForTimeout(4000);
  await page.screenshot({ path: "/tmp/keep/w1.png" });
  await page.getByRole("button", { name: /How Mooring buoy/ }).click();
  await page.waitForTimeout(1000);
  await page.getByRole("button", { name: /Laid flat/ }).click();
  await page.waitForTimeout(1500);
  await page.screenshot({ path: "/tmp/keep/w2.png" });
});
