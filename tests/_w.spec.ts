import { test } from "@playwright/test";
import { openScene } from "./table";
test.use({ deviceScaleFactor: 1 });
test("w", async ({ page }) => {
  page.on("console", (m) => m.type() === "error" && console.log(m.text().slice(0, 300)));
  page.on("pageerror", (m) => console.log(m.message.slice(0, 300)));
  await openScene(page, "gullhaven-regatta");
  await page.getByRole("button", { name: "Light", exact: true }).click();
  await page.getByRole("button", { name: /^Cap shingles/ }).first().click();
  await page.waitForTimeout(5000);
  await page.screenshot({ path: "/tmp/keep/w1.png" });
});
