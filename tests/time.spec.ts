/** Time as an artist uses it: what changes over time, played, edited at a moment, moved on the bar, kept and exported. */
import { expect, test, type Page } from "./kept";
import { violations } from "./axe";
import { dressedScene, enter, exportAs, expectProps, propCount, saved, settled } from "./table";

const bar = (page: Page) => page.getByTestId("time");
const moment = async (page: Page) => Number(await bar(page).getAttribute("data-moment"));
const field = (page: Page, label: string) => page.getByRole("textbox", { name: label, exact: true });
const keyframe = (page: Page, at: string) => page.getByRole("button", { name: `Keyframe at ${at}` });

/** Clicks on the ruler where a moment of a scene of ten seconds is. */
async function goTo(page: Page, seconds: number): Promise<void> {
  const { x, y, width } = (await page.getByRole("slider", { name: "Moment" }).boundingBox())!;
  await page.mouse.click(x + 24 + ((width - 48) * seconds) / 10, y + 6);
  await expect.poll(() => moment(page)).toBeCloseTo(seconds, 1);
}

test("a number changes over time: set, played, edited at a moment, its keyframes moved, copied, taken off; all of it kept", async ({
  page,
}) => {
  await dressedScene(page);
  await expect(bar(page)).toHaveCount(0);
  await field(page, "Every").hover();
  await page.getByRole("button", { name: "Let Every change over time" }).click();
  await expect(bar(page)).toContainText("Every of");
  const wide = await propCount(page);
  const before = await field(page, "Every").inputValue();

  // Twice as many in the middle; in between there is something in between.
  await goTo(page, 5);
  await enter(page, "Every", "0.2 m");
  await expect.poll(() => propCount(page)).toBeGreaterThan(1.5 * wide);
  const close = await propCount(page);
  await expect(keyframe(page, "5.00 s")).toBeVisible();
  await expect(page.getByTestId("sentence")).toContainText("Every changes over time.");
  expect(await violations(page, { within: "[data-testid=time]" })).toEqual([]);
  await goTo(page, 0);
  await expectProps(page, wide);
  await expect(field(page, "Every")).toHaveValue(before);
  await goTo(page, 2.5);
  await expect.poll(() => propCount(page)).toBeGreaterThan(wide);
  expect(await propCount(page)).toBeLessThan(close);

  // What has no course is changed for all time.
  await page.getByRole("button", { name: /^5 Fit/ }).click();
  await enter(page, "Up", "1 m");
  await goTo(page, 0);
  await expect(field(page, "Up")).toHaveValue("1.00 m");

  // Played, each picture has one moment; an edit, and its undoing, go on beside it.
  const stamps = page.evaluate(
    () =>
      new Promise<{ seen: number; apart: number }>((resolve) => {
        const time = document.querySelector("[data-testid=time]")!;
        const told = { seen: 0, apart: 0 };
        const observer = new MutationObserver(() => {
          told.seen++;
          if (time.getAttribute("data-moment") !== time.getAttribute("data-placed")) told.apart++;
          if (told.seen === 30) {
            observer.disconnect();
            resolve(told);
          }
        });
        observer.observe(time, { attributes: true, attributeFilter: ["data-moment"] });
      }),
  );
  await page.getByRole("button", { name: "Play" }).click();
  expect(await stamps).toEqual({ seen: 30, apart: 0 });
  await enter(page, "Across", "0.5 m");
  await page.keyboard.press("Control+z");
  await page.getByRole("button", { name: "Pause" }).click();
  await expect(field(page, "Across")).toHaveValue("0.00 m");

  // On the bar: one frame on by key, dragged, copied, taken off, all undone one by one.
  await keyframe(page, "5.00 s").focus();
  await page.keyboard.press("ArrowRight");
  await expect(keyframe(page, "5.042 s")).toBeFocused();
  const ring = (await keyframe(page, "5.042 s").boundingBox())!;
  const drag = async (by: number) => {
    await page.mouse.move(ring.x + 12, ring.y + 12);
    await page.mouse.down();
    await page.mouse.move(ring.x + 12 + by, ring.y + 12, { steps: 5 });
    await page.mouse.up();
  };
  await drag(73);
  await expect(keyframe(page, "5.042 s")).toHaveCount(0);
  await expect(page.getByRole("button", { name: /^Keyframe at/ })).toHaveCount(2);
  await page.keyboard.press("Control+z");
  await expect(keyframe(page, "5.042 s")).toBeVisible();
  await page.keyboard.down("Alt");
  await drag(73);
  await page.keyboard.up("Alt");
  await expect(page.getByRole("button", { name: /^Keyframe at/ })).toHaveCount(3);
  await page.getByRole("button", { name: "How it goes on" }).click();
  await page.getByRole("menuitem", { name: "Take the keyframes held off" }).click();
  await expect(page.getByRole("button", { name: /^Keyframe at/ })).toHaveCount(2);
  await page.getByRole("button", { name: "How it goes on" }).click();
  await page.getByRole("menuitem", { name: "To and fro" }).last().click();
  await expect(bar(page)).toContainText("then to and fro");

  // Kept: after a reload it stands at its beginning and changes as before; an export is of the moment.
  await saved(page);
  await page.reload();
  await settled(page);
  expect(await moment(page)).toBe(0);
  await expectProps(page, wide);
  const rows = async () =>
    new TextDecoder()
      .decode((await exportAs(page, "CSV")).bytes)
      .trim()
      .split("\r\n").length - 1;
  expect(await rows()).toBe(wide);
  await goTo(page, 5);
  await expect.poll(() => propCount(page)).not.toBe(wide);
  expect(await rows()).toBe(await propCount(page));

  // Let stay as it is: nothing moves any more, and the bar is gone.
  const now = await propCount(page);
  await page.getByRole("button", { name: /^Every changes over time/ }).click();
  await page.getByRole("menuitem", { name: "Let it stay as it is now" }).click();
  await expect(bar(page)).toHaveCount(0);
  await expectProps(page, now);
  await page.keyboard.press("Control+z");
  await expect(bar(page)).toBeVisible();
});

test("a line's knot moves, a scene made shorter keeps what lies beyond, space plays and pauses, and another number of frames moves nothing", async ({
  page,
}) => {
  await dressedScene(page);
  await page.getByRole("button", { name: "Scene menu" }).click();
  await page.getByRole("menuitem", { name: "Let it move" }).click();
  await expect(bar(page)).toBeVisible();
  await page.getByRole("button", { name: /^1 Where/ }).click();
  await page.getByTitle("Edit this line").getByText("Line 1").click();
  await page.getByRole("textbox", { name: "Knot 2 x" }).hover();
  await page.getByRole("button", { name: "Let the place of knot 2 change over time" }).click();
  await goTo(page, 8);
  const x = parseFloat(await field(page, "Knot 2 x").inputValue());
  await enter(page, "Knot 2 x", `${x + 2} m`);
  await expect(page.getByRole("button", { name: /^Keyframe at (7\.9|8\.0)/ })).toBeVisible();
  await page.getByText(/frame \d+ · 24 a second/).click();
  await enter(page, "Frames a second", "12");
  await enter(page, "Length", "5 s");
  await expect(page.getByText("One keyframe lies beyond the end, and is kept.")).toBeVisible();
  // The first click closes what is open.
  await page.getByTestId("counts").click();
  await page.getByTestId("counts").click();
  await page.keyboard.press("Space");
  await expect(page.getByRole("button", { name: "Pause" })).toBeVisible();
  await expect.poll(() => moment(page)).toBeGreaterThan(0);
  await page.keyboard.press("Space");
  await expect(page.getByRole("button", { name: "Play" })).toBeVisible();
  const at = await moment(page);
  expect(Math.abs(at * 12 - Math.round(at * 12))).toBeLessThan(1e-6);
  await page.keyboard.press("Control+z");
  await goTo(page, 8);
  await expect.poll(async () => parseFloat(await field(page, "Knot 2 x").inputValue())).toBeCloseTo(x + 2, 3);
  // Whoever goes to the list and back finds the scene at rest, and as it begins: the first step is open that is so at first.
  await saved(page);
  const { pathname } = new URL(page.url());
  await page.getByRole("button", { name: "Play" }).click();
  await expect(page.getByRole("button", { name: "Pause" })).toBeVisible();
  await page.getByRole("link", { name: "All scenes" }).click();
  await page.locator(`a[href="${pathname}"]`).first().click();
  await settled(page);
  await expect(page.getByRole("button", { name: "Play" })).toBeVisible();
  await expect(page.getByRole("textbox", { name: "Every", exact: true })).toBeVisible();
});
