/** The main views of the application, from the demo scene, one picture each. */
import { writeFileSync } from "node:fs";
import { expect, test, type Page } from "@playwright/test";
import { editLine, enter, openScene } from "../tests/table";

const DEMO = "gullhaven-regatta";

/** Waits until nothing moves any more, and takes the picture. */
async function shoot(page: Page, name: string): Promise<void> {
  await page.waitForTimeout(1500);
  await expect(page.getByText(/^Placing /)).toHaveCount(0, { timeout: 60_000 });
  const [time, head] = [page.getByTestId("time"), page.getByRole("slider", { name: "Moment" })];
  if (await time.isVisible())
    await expect(time).toHaveAttribute("data-moment", (await head.getAttribute("aria-valuenow"))!, { timeout: 60_000 });
  await page.screenshot({ path: `docs/screenshots/${name}.png` });
}

/** Chooses a dressing on the cord. */
const choose = (page: Page, dressing: string) =>
  page
    .getByRole("button", { name: new RegExp(`^${dressing}`) })
    .first()
    .click();

/** Opens the demo's hillside with one of its dressings chosen. */
async function openHill(page: Page, dressing: string): Promise<void> {
  await openScene(page, DEMO);
  await page.getByRole("button", { name: "Hill", exact: true }).click();
  await choose(page, dressing);
  await page.getByRole("button", { name: /^3 Spacing/ }).click();
}

test("table", async ({ page }) => {
  await openScene(page, DEMO);
  // What is bent or clipped comes a little later than all else.
  await page.waitForTimeout(3000);
  await shoot(page, "table");
});

test("scene's own picture", async ({ page }) => {
  await openScene(page, DEMO);
  // Taken when all has come to rest, which is late where the processor draws.
  await page.waitForTimeout(20_000);
  await page.goto("/");
  const picture = page.locator('img[src^="data:image/jpeg"]').first();
  const [, data] = (await picture.getAttribute("src"))!.split(",");
  writeFileSync("public/gullhaven.jpg", Buffer.from(data, "base64"));
});

test("scenes", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("list", { name: "Scenes" }).getByRole("listitem").first().waitFor();
  await shoot(page, "scenes");
});

test("rope", async ({ page }) => {
  await openScene(page, DEMO);
  await page.getByRole("button", { name: /^1 Where/ }).click();
  await editLine(page, "Mast rope A");
  await page.keyboard.press("f");
  await shoot(page, "rope");
});

test("findings", async ({ page }) => {
  await openScene(page, DEMO);
  await choose(page, "Bollards");
  await enter(page, "Every", "30 cm");
  await page.getByTestId("findings").click();
  await shoot(page, "findings");
});

test("assembly", async ({ page }) => {
  await openScene(page, DEMO);
  await page
    .getByRole("complementary", { name: "Basket" })
    .getByRole("button", { name: /^Basket of catch/ })
    .click();
  await page.getByRole("button", { name: "Open", exact: true }).click();
  await page.locator('[aria-roledescription="dressing"]').nth(1).click();
  await shoot(page, "assembly");
});

test("volume", async ({ page }) => {
  await openScene(page, DEMO);
  await choose(page, "Paper kites");
  await page.getByRole("radio", { name: "Surfaces" }).click();
  await shoot(page, "volume");
});

test("prepare", async ({ page }) => {
  await openScene(page, DEMO);
  await page
    .getByRole("complementary", { name: "Basket" })
    .getByRole("button", { name: /^Lamp post/ })
    .click();
  await page.getByRole("button", { name: "Set up: pivot, front, size…" }).click();
  await page.getByRole("button", { name: "Set hook by a click" }).click();
  await shoot(page, "prepare");
});

test("time", async ({ page }) => {
  await openScene(page, DEMO);
  await page
    .getByRole("button", { name: /^Bollards/ })
    .first()
    .click();
  const ruler = (await page.getByRole("slider", { name: "Moment" }).boundingBox())!;
  const at = (seconds: number) => page.mouse.click(ruler.x + 24 + ((ruler.width - 48) * seconds) / 10, ruler.y + 6);
  await page.getByRole("textbox", { name: "Slide", exact: true }).hover();
  await page.getByRole("button", { name: "Let Slide change over time" }).click();
  for (const [seconds, metres] of [
    [3, 1.1],
    [5.5, -0.6],
    [8, 0.4],
  ]) {
    await at(seconds);
    await page.getByRole("textbox", { name: "Slide", exact: true }).fill(`${metres} m`);
    await page.keyboard.press("Enter");
  }
  await at(4);
  await shoot(page, "time");
});

test("export", async ({ page }) => {
  await openScene(page, DEMO);
  await page.getByRole("button", { name: "Export", exact: true }).click();
  await page.getByText("Animated, all of it").click();
  await page.getByRole("switch", { name: "With surfaces" }).click();
  await shoot(page, "export");
});

test("solid", async ({ page }) => {
  await openScene(page, DEMO);
  await page.getByRole("radio", { name: "Surfaces" }).click();
  await page.getByRole("list", { name: "Surfaces" }).getByText("Lobster pot").click();
  // It is looked at once it is there.
  await page.keyboard.press("f");
  await page.getByText("yes, all round").waitFor();
  await shoot(page, "solid");
});

test("surface", async ({ page }) => {
  await openScene(page, DEMO);
  await page.getByRole("button", { name: "Sail", exact: true }).click();
  await page.getByRole("radio", { name: "Surfaces" }).click();
  await page.getByRole("list", { name: "Surfaces" }).getByText("Petrel's sail").click();
  await page.getByRole("button", { name: "Billow", exact: true }).click();
  await shoot(page, "surface");
});

test("pins", async ({ page }) => {
  await openScene(page, DEMO);
  await page.getByRole("button", { name: "Sail", exact: true }).click();
  await choose(page, "Sail badges");
  await page.getByRole("button", { name: /^1 Where/ }).click();
  await page.getByRole("radio", { name: "Pin", exact: true }).click();
  await page.mouse.move(705, 300);
  await shoot(page, "pins");
});

test("band", async ({ page }) => {
  await openScene(page, DEMO);
  await page.getByRole("button", { name: "Belt", exact: true }).click();
  await page.getByRole("radio", { name: "Surfaces" }).click();
  await page.getByRole("list", { name: "Surfaces" }).getByText("Market belt").click();
  await shoot(page, "band");
});

test("recipes", async ({ page }) => {
  await openScene(page, DEMO);
  await choose(page, "Bollards");
  await page.keyboard.press("Control+k");
  await page.getByRole("combobox").fill("recipes");
  await page.keyboard.press("Enter");
  await page
    .getByRole("dialog", { name: "Recipes" })
    .getByRole("button", { name: /^Shelf of jars/ })
    .click();
  await shoot(page, "recipes");
});

test("sheet", async ({ page }) => {
  await openHill(page, "Lavender");
  await page.getByRole("button", { name: /^7 Gaps/ }).click();
  const { x, y, width } = (await page.getByTestId("sheet").boundingBox())!;
  await page.mouse.move(x + width / 2, y + 96);
  await page.mouse.wheel(0, -700);
  await shoot(page, "sheet");
});

test("the dark table", async ({ page }) => {
  await page.emulateMedia({ colorScheme: "dark" });
  await openScene(page, DEMO);
  await shoot(page, "dark");
});

test("wrapped", async ({ page }) => {
  await openScene(page, DEMO);
  await page.getByRole("button", { name: "Buoy", exact: true }).click();
  await choose(page, "Buoy studs");
  await page.getByRole("button", { name: /^1 Where/ }).click();
  await page.keyboard.press("j");
  await shoot(page, "wrapped");
});

test("rack", async ({ page }) => {
  await openScene(page, DEMO);
  await choose(page, "Shelf jars");
  await page.getByRole("button", { name: "Stall", exact: true }).click();
  await page.getByRole("button", { name: /^7 Gaps/ }).click();
  await shoot(page, "rack");
});

test("between", async ({ page }) => {
  await openScene(page, DEMO);
  await page.getByRole("button", { name: "Boatyard", exact: true }).click();
  await choose(page, "Strake planks");
  await page.getByRole("button", { name: /^1 Where/ }).click();
  await editLine(page, "Strakes");
  await page.waitForTimeout(2500);
  await shoot(page, "between");
});
