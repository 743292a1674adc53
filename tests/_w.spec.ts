import { test } from "@playwright/test";
import { openScene } from "./table";
test.use({ deviceScaleFactor: 1 });
test("w", async ({ page }) => {
  page.on("console", (m) => m.type() === "error" && console.log(m.text().slice(0, 300)));
  page.on("pageerror", (m) => console.log(m.message.slice(0, 300)));
  await openScene(page, "gullhaven-regatta");
  await page.getByRole("button", { name: "Buoy", exact: true }).click();
  await page.getByRole("button", { name: /^Buoy studs/ }).first().click();
  await page.getByRole("button", { name: /^1 Where/ }).click();
  await page.waitForTimeout(3000);
  await page.keyboard.press("j");
  await page.waitForTimeout(2500);
  await page.screenshot({ path: "/tmp/keep/w1.png" });
  await page.keyboard.press("Shift+J");
  await page.waitForTimeout(2000);
  await page.screenshot({ path: "/tmp/keep/w2.png" });
  await page.keyboard.press("Shift+J");
  await page.waitForTimeout(1000);
  // drag a stud in the view
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Alt+ArrowRight");
  await page.waitForTimeout(500);
  const state = () => page.evaluate(() => JSON.stringify(Object.values((window as any).__store?.getState?.().shown.dressings.find((d: any) => d.id === "buoy-studs").pegs ?? {})));
  console.log(await state());
  await page.screenshot({ path: "/tmp/keep/w3.png" });
});
