/** Clothesline for everybody: without a mouse, in the dark, twice as large, and by whoever has it read out. */
import { expect, test, type Page } from "@playwright/test";
import { violations } from "./axe";
import { REFUSED } from "./kept";
import { drawLine, enter, expectProps, newScene, onStrip, openScene, propCount } from "./table";

const tables = ["light", "dark"];

/**
 * What is wrong on the screen, or on a part of it, on a light table and on a dark one, which differs by its colours alone.
 * It begins with the one that the last time ended with.
 */
async function wrong(page: Page, within?: string): Promise<string[]> {
  const found: string[] = [];
  for (const table of tables) {
    await page.evaluate((table) => void (document.documentElement.dataset.table = table), table);
    const rules = table === "dark" ? ["color-contrast"] : undefined;
    found.push(...(await violations(page, { rules, within })).map((one) => `${table}: ${one}`));
  }
  tables.reverse();
  return found;
}

const [STEPS, BASKET] = ["aside[aria-label=Steps]", "aside[aria-label=Basket]"];

test("no screen, step or dialog has anything that keeps somebody out, light or dark", async ({ page }) => {
  await page.emulateMedia({ reducedMotion: "reduce" });
  const refused: string[] = [];
  page.on("console", (message) => {
    if (REFUSED.test(message.text())) refused.push(message.text());
  });
  await page.goto("/");
  await expect(page.getByRole("list", { name: "Scenes" }).getByRole("listitem").first()).toBeVisible();
  expect(await wrong(page)).toEqual([]);
  await openScene(page, "gullhaven-regatta");
  await expect(page.getByRole("heading", { level: 1, name: "Gullhaven Regatta" })).toBeFocused();
  const views = page.getByRole("group", { name: "Saved views" });
  for (const name of ["Quay", "Close"]) await expect(views.getByRole("button", { name })).toBeVisible();
  // What is drawn in the view is of no interest here, and takes its time.
  await page.getByRole("radio", { name: "Points" }).click();
  const steps = ["Where", "What", "Spacing", "Stance", "Fit", "Variation", "Gaps"];
  for (const dressing of ["Cobble crates", "Quay bunting"]) {
    await page.getByRole("button", { name: new RegExp(`^${dressing} `) }).click();
    for (const step of steps) {
      const region = page.getByRole("region", { name: step, exact: true });
      const button = region.getByRole("button").first();
      if ((await button.getAttribute("aria-expanded")) !== "true") await button.click();
      const pin = region.getByRole("button", { name: `Keep ${step} open` });
      if (await pin.isVisible()) await pin.click();
    }
    await page.mouse.move(640, 300);
    expect([dressing, await wrong(page)]).toEqual([dressing, []]);
  }
  const dialogs: [keys: string, name: string][] = [
    ["Control+k", "Find a command"],
    ["Shift+?", "Keys"],
    ["d", "Dress"],
    ["Control+e", "Export"],
  ];
  for (const [keys, name] of dialogs) {
    await page.keyboard.press(keys);
    await expect(page.getByRole("dialog", { name })).toHaveAttribute("data-open", "");
    expect([name, await wrong(page, "[role=dialog]")]).toEqual([name, []]);
    await page.keyboard.press("Escape");
    await expect(page.getByRole("dialog")).toHaveCount(0);
  }
  await page.getByTitle("Edit this line").first().click();
  expect(["line", await wrong(page, STEPS)]).toEqual(["line", []]);
  const columns: [open: () => Promise<void>, name: string][] = [
    [() => page.getByRole("button", { name: /^Bollard 0/ }).click(), "prop"],
    [() => page.getByRole("button", { name: /^Corks/ }).click(), "mix"],
    [() => page.getByRole("radio", { name: "Surfaces" }).click(), "surfaces"],
    [() => page.getByRole("list", { name: "Surfaces" }).getByText("Quay", { exact: true }).click(), "surface"],
  ];
  for (const [open, name] of columns) {
    await open();
    expect([name, await wrong(page, name === "surfaces" ? BASKET : STEPS)]).toEqual([name, []]);
  }
  // Nor does any of it do what the pages' policy forbids.
  expect(refused).toEqual([]);
});

test("a line is drawn, dressed, changed and taken back without a mouse; keys go to what has the focus", async ({
  page,
}) => {
  await newScene(page);
  await page.getByRole("button", { name: "The regatta's props" }).press("Enter");
  await expect(page.getByRole("complementary", { name: "Basket" })).toContainText("8 props");
  await page.keyboard.press("l");
  const hint = page.getByTestId("cursor");
  await page.keyboard.press("Enter");
  await expect(hint).toBeVisible();
  await page.keyboard.type("-3; 0");
  await page.keyboard.press("Enter");
  await expect(hint).toHaveText("-3.00 · 0.00 · 0.00");
  const right = () => page.keyboard.press("Shift+ArrowRight");
  for (let i = 0; i < 4; i++) await right();
  await page.keyboard.press("PageUp");
  await expect(hint).not.toHaveText(/^-3\.00/);
  await page.keyboard.press("Enter");
  await page.keyboard.press("Enter");
  await expect.poll(() => propCount(page)).toBeGreaterThan(2);
  const count = await propCount(page);

  // A number that is confirmed leaves its field: the next key is a command.
  await enter(page, "Every", "2 * 0.5 m");
  await expect.poll(() => propCount(page)).not.toBe(count);
  await page.keyboard.press("d");
  await expect(page.getByRole("dialog", { name: "Dress" })).toHaveAttribute("data-open", "");
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+z");
  await expectProps(page, count);

  // Enter on a button is the button's, also while something is drawn.
  await page.keyboard.press("l");
  await page.keyboard.type("1 1");
  await page.keyboard.press("Enter");
  await expect(hint).toHaveText("1.00 · 0.00 · 1.00");
  await page.getByRole("button", { name: "What to draw" }).press("Enter");
  await expect(page.getByRole("menuitem", { name: "Circle" })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.keyboard.press("Escape");
  await expectProps(page, count);

  await page.keyboard.press("Control+k");
  await page.keyboard.type("line by numbers");
  await page.keyboard.press("Enter");
  const first = page.getByRole("textbox", { name: "Knot 1 x" });
  await expect(first).toBeFocused();
  await enter(page, "Knot 2 x", "12.5");
  // The knot whose number was typed is selected; it goes by arrow keys where the view has the focus.
  await page.getByRole("application", { name: /^The scene in 3D/ }).focus();
  await page.keyboard.press("Shift+ArrowRight");
  await expect(page.getByRole("textbox", { name: "Knot 2 x" })).not.toHaveValue("12.50");
});

test("the colours of the table are kept, and twice as large the table is still of use", async ({ page }) => {
  await newScene(page);
  const shade = () => page.evaluate(() => getComputedStyle(document.body).backgroundColor);
  const light = await shade();
  await page.getByRole("button", { name: "Scene menu" }).click();
  await page.getByRole("menuitem", { name: "Dark table" }).click();
  await expect.poll(shade).not.toBe(light);
  const dark = await shade();
  await page.reload();
  expect(await shade()).toBe(dark);
  await page.setViewportSize({ width: 640, height: 400 });
  await expect(page.getByRole("button", { name: "Unfold the basket" })).toBeVisible();
  await drawLine(page, [
    [380, 190],
    [480, 180],
  ]);
  await expect(page.getByTestId("counts")).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(640);
});

/** A post two metres high with an arm of a metre to its left. */
const POST = (() => {
  const box = (x0: number, x1: number, y0: number, y1: number, first: number) => {
    const corners = [0.08, -0.08].flatMap((z) => [
      [x0, y0, z],
      [x1, y0, z],
      [x1, y1, z],
      [x0, y1, z],
    ]);
    const faces = ["1 2 3 4", "6 5 8 7", "5 1 4 8", "2 6 7 3", "4 3 7 8", "5 6 2 1"];
    const numbered = faces.map((face) => `f ${face.replace(/\d/g, (k) => String(Number(k) + first))}`);
    return [...corners.map((corner) => `v ${corner.join(" ")}`), ...numbered];
  };
  return [...box(-0.08, 0.08, 0, 2, 0), ...box(0.08, 1, 1.8, 2, 8)].join("\n");
})();

test("the strip shows a lopsided prop as it stands, its foot in its place, at all quarter turns and mirrored", async ({
  page,
}) => {
  await newScene(page);
  const file = { name: "post.obj", mimeType: "model/obj", buffer: Buffer.from(POST) };
  await page.getByTestId("prop-files").setInputFiles(file);
  await expect(page.getByRole("complementary", { name: "Basket" })).toContainText("1 prop");
  await drawLine(page, [
    [420, 500],
    [980, 470],
  ]);
  await page.getByRole("radio", { name: "Count", exact: true }).click();
  await enter(page, "Count", "1");
  await expectProps(page, 1);
  const length = Number(/([\d.]+) m$/.exec((await page.getByText(/unrolled ·/).textContent()) ?? "")?.[1]);
  const { x: foot } = await onStrip(page, length / 2);
  const strip = (await page.getByTestId("strip").boundingBox())!;
  /** How far what is drawn reaches to either side of the foot, in a row of pixels below the ruler and above the cord. */
  const reach = (y: number) =>
    page.getByTestId("strip").evaluate(
      (canvas: HTMLCanvasElement, [y, foot]) => {
        const ratio = canvas.width / canvas.clientWidth;
        const { data } = canvas.getContext("2d")!.getImageData(0, Math.round(y * ratio), canvas.width, 1);
        const drawn: number[] = [];
        // The dashed lines of the insets stand at the ends.
        for (let k = 40; k < canvas.width - 40; k++) if (data[4 * k + 3] > 60) drawn.push(k / ratio - foot);
        return drawn.length > 0 ? [drawn[0], drawn[drawn.length - 1]].map(Math.round) : [0, 0];
      },
      [y, foot - strip.x] as const,
    );
  const [high, low] = [strip.height - 122, strip.height - 70];
  /** Whether the arm reaches back, on, or neither. */
  const arm = async () => {
    const [left, right] = await reach(high);
    const [back, on] = await reach(low);
    // The post stands over its place, wherever its arm is.
    if (back < -8 || on > 8 || back === on) return `foot ${back} ${on}`;
    return left < -16 ? "back" : right > 16 ? "on" : "neither";
  };
  await page.getByRole("button", { name: /^4 Stance/ }).click();
  // A post with an arm begins broadside, so its turns are in sight.
  const turned = async (degrees: number) => {
    await enter(page, "Turn up", `${degrees}°`);
    await page.mouse.move(640, 300);
  };
  const quarters: [degrees: number, plain: string, mirrored: string][] = [
    [0, "neither", "neither"],
    [90, "back", "on"],
    [180, "neither", "neither"],
    [270, "on", "back"],
  ];
  for (const [degrees, plain] of quarters) {
    await turned(degrees);
    await expect.poll(arm, { message: `turned by ${degrees}°` }).toBe(plain);
  }
  await page.getByRole("button", { name: "Keep Stance open" }).click();
  await page.getByRole("button", { name: /^6 Variation/ }).click();
  await enter(page, "Mirrored", "100 %");
  for (const [degrees, , mirrored] of quarters) {
    await turned(degrees);
    await expect.poll(arm, { message: `mirrored, turned by ${degrees}°` }).toBe(mirrored);
  }
});
