import { expect, test } from "@playwright/test";
import {
  addProp,
  drawLine,
  dressedScene,
  editLine,
  enter,
  expectProps,
  exportAs,
  newScene,
  onStrip,
  propCount,
  saved,
  settled,
  wedge,
} from "./table";

test("on the strip the keys walk, placements are dragged to be pegged, and what is pushed together is found", async ({
  page,
}) => {
  await dressedScene(page);
  await test.step("props pushed together are found; a click on the finding selects and frames them", async () => {
    await expect(page.getByTestId("findings")).toHaveText("All well");
    await enter(page, "Every", "20 cm");
    await expect(page.getByTestId("findings")).toHaveText("1 finding");
    await page.getByTestId("findings").click();
    await page.getByRole("button", { name: /Too close .* overlap along Line 1/ }).click();
    await expect(page.getByRole("region", { name: "Selection" })).toContainText("placements");
    await enter(page, "From start", "50 m");
    await page.getByTestId("findings").click();
    await expect(page.getByText(/No slot fits on Line 1/)).toBeVisible();
    for (let i = 0; i < 2; i++) await page.keyboard.press("Control+z");
    await expect(page.getByTestId("findings")).toHaveText("All well");
  });
  await test.step("a placement is selected, dragged to be pegged, left blank, and let go again", async () => {
    await page.getByRole("radio", { name: "Count" }).click();
    await enter(page, "Count", "8");
    await expectProps(page, 8);
    const length = Number(/([\d.]+) m$/.exec((await page.getByText(/unrolled ·/).textContent()) ?? "")?.[1]);
    const third = await onStrip(page, (length * 2) / 7);
    await page.mouse.click(third.x, third.y);
    const panel = page.getByRole("region", { name: "Selection" });
    await expect(panel).toContainText("Wedge");
    const place = panel.getByRole("textbox", { name: "Place along the line" });
    const at = parseFloat(await place.inputValue());
    expect(Math.abs(at - (length * 2) / 7)).toBeLessThan(0.02);

    await page.mouse.move(third.x, third.y);
    await page.mouse.down();
    await page.mouse.move(third.x + 30, third.y, { steps: 5 });
    await page.mouse.up();
    await expect(panel).toContainText("pegged");
    await expect.poll(async () => parseFloat(await place.inputValue())).toBeGreaterThan(at + 0.1);

    await page.keyboard.press("Delete");
    await expectProps(page, 7);
    await page.keyboard.press("Control+z");
    await expectProps(page, 8);
    await page.keyboard.press("Control+z");
    await expect.poll(async () => parseFloat(await place.inputValue())).toBeCloseTo(at, 2);
    await expect(panel).not.toContainText("pegged");
  });
  await test.step("the keys walk along the strip and nudge", async () => {
    await page.getByTestId("strip").focus();
    await page.keyboard.press("ArrowRight");
    await page.keyboard.press("ArrowRight");
    const place = page.getByRole("textbox", { name: "Place along the line" });
    const at = parseFloat(await place.inputValue());
    await page.keyboard.press("Alt+ArrowRight");
    await expect.poll(async () => parseFloat(await place.inputValue())).toBeCloseTo(at + 0.01, 3);
  });
});

test("a command is found by its name; knots are moved, inserted and deleted, by numbers and by hand, and the dressing follows", async ({
  page,
}) => {
  await dressedScene(page);
  await test.step("a command is found by its name, and the keys are listed under ?", async () => {
    await page.keyboard.press("Control+k");
    await page.getByRole("combobox", { name: "Find a command" }).fill("boxes");
    await page.keyboard.press("Enter");
    await expect(page.getByRole("radio", { name: "Boxes" })).toBeChecked();
    await page.keyboard.press("b");
    await expect(page.getByRole("radio", { name: "Full" })).toBeChecked();
    await page.keyboard.press("Shift+?");
    await expect(page.getByRole("dialog", { name: "Keys" })).toContainText("Give up what is going on");
    await page.keyboard.press("Escape");
    await expect(page.getByRole("dialog")).toHaveCount(0);
  });
  const count = await propCount(page);
  await page.getByRole("button", { name: /^1 Where/ }).click();
  await editLine(page, "Line 1");
  const knots = page.getByRole("region", { name: "Knots" }).getByRole("listitem");
  await expect(knots).toHaveCount(2);
  await enter(page, "Knot 2 x", "20");
  await expect.poll(() => propCount(page)).toBeGreaterThan(count);
  await page.keyboard.press("Control+z");
  await expectProps(page, count);

  await page.getByRole("button", { name: "Insert a knot after knot 2" }).click();
  await expect(knots).toHaveCount(3);
  await page.keyboard.press("i");
  await expect(knots).toHaveCount(4);
  await page.keyboard.press("Delete");
  await page.getByRole("button", { name: "Delete knot 2" }).click();
  await expect(knots).toHaveCount(2);
  await expectProps(page, count);

  // The first knot lies where the first click was; drag it.
  const before = await page.getByRole("textbox", { name: "Knot 1 x" }).inputValue();
  await page.mouse.move(480, 520);
  await page.mouse.down();
  await page.mouse.move(400, 540, { steps: 5 });
  await page.mouse.up();
  await expect(page.getByRole("textbox", { name: "Knot 1 x" })).not.toHaveValue(before);
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("textbox", { name: "Knot 1 x" })).toHaveValue(before);
});

test("a rope hangs by its sag or its length, and keeps its shape when one is exchanged for the other", async ({
  page,
}) => {
  await dressedScene(page);
  await page.getByRole("button", { name: /^1 Where/ }).click();
  await editLine(page, "Line 1");
  const lengthOf = async () => Number(/([\d.]+) m · 2 knots$/.exec((await facts.textContent()) ?? "")?.[1]);
  const facts = page.getByText(/^[\d.]+ m · 2 knots$/);
  const straight = await lengthOf();
  await page.getByRole("button", { name: "Kind of line" }).click();
  await page.getByRole("menuitem", { name: "Hanging rope" }).click();
  await expect.poll(lengthOf).toBeGreaterThan(straight);
  const length = await facts.textContent();
  await page.getByRole("radio", { name: "Length" }).click();
  await expect(facts).toHaveText(length!);
  await enter(page, "Length", "9 m");
  await expect(page.getByText("9.00 m · 2 knots")).toBeVisible();
  await enter(page, "Length", "1 m");
  const taut = await page.getByText(/^Taut: the knots are [\d.]+ m apart/).textContent();
  expect(Number(/[\d.]+/.exec(taut!)?.[0])).toBeCloseTo(straight, 1);
});

test("props are swapped, mixed and reordered; a deleted prop comes back with undo; nothing of it goes to another scene", async ({
  page,
}) => {
  await dressedScene(page);
  await addProp(page, "second.glb");
  await page.getByRole("button", { name: "Back to the dressing" }).click();
  await page.getByRole("button", { name: /^2 What/ }).click();
  await page.getByRole("button", { name: "Add a prop", exact: true }).click();
  await page.getByRole("menuitem", { name: "Second" }).click();
  await expect(page.getByTestId("sentence")).toContainText("wedge, second");
  await page.getByRole("radio", { name: "Mixed" }).click();
  await enter(page, "Weight of Second", "3");
  await expect(page.getByText("75 %")).toBeVisible();
  const deleteSecond = async () => {
    await page
      .getByRole("complementary", { name: "Basket" })
      .getByRole("button", { name: /^Second/ })
      .click();
    await page.getByRole("button", { name: "Delete prop", exact: true }).click();
  };
  await deleteSecond();
  await expect(page.getByTestId("sentence")).not.toContainText("second");
  await page.keyboard.press("Control+z");
  await expect(page.getByTestId("sentence")).toContainText("second");
  // What is offered to be undone here is not offered in another scene.
  await deleteSecond();
  const offered = page.locator("[data-sonner-toast]").getByRole("button", { name: "Undo" });
  await expect(offered.first()).toBeVisible();
  await newScene(page);
  // It would go by itself a little later.
  expect(await offered.count()).toBe(0);
  // Nor does a file that is still being read come into a scene that it was not meant for.
  await page.evaluate(() => {
    const { arrayBuffer } = File.prototype;
    const held = new Promise((go) => addEventListener("go", go));
    File.prototype.arrayBuffer = async function () {
      await held;
      return arrayBuffer.call(this);
    };
  });
  await page.getByTestId("prop-files").setInputFiles(await wedge());
  await newScene(page);
  await page.evaluate(() => dispatchEvent(new Event("go")));
  await expect(page.getByText("was not brought in: its scene was left for another.")).toBeVisible();
  await expect(page.getByRole("complementary", { name: "Basket" }).getByRole("heading")).toContainText("0 props");
});

test.describe("scenes", () => {
  test("are listed with the demo among them, copied, renamed, deleted and brought back", async ({ page }) => {
    await page.goto("/");
    const cards = page.getByRole("list", { name: "Scenes" }).getByRole("listitem");
    await expect(cards).toHaveCount(1);
    await expect(page.getByRole("textbox", { name: "Name of Gullhaven Regatta" })).toHaveValue("Gullhaven Regatta");
    await page.getByRole("button", { name: "More for Gullhaven Regatta" }).click();
    await page.getByRole("menuitem", { name: "Duplicate" }).click();
    await expect(cards).toHaveCount(2);
    const copy = page.getByRole("textbox", { name: "Name of Gullhaven Regatta 2" });
    await copy.fill("Spring regatta");
    await copy.press("Enter");
    await page.getByRole("button", { name: "More for Spring regatta" }).click();
    await page.getByRole("menuitem", { name: "Delete" }).click();
    await expect(cards).toHaveCount(1);
    await page.getByRole("button", { name: "Undo" }).click();
    await expect(page.getByRole("textbox", { name: "Name of Spring regatta" })).toBeVisible();
  });

  test("leave as a project file and come in again the same; a broken one is refused", async ({ page }) => {
    await dressedScene(page);
    const count = await propCount(page);
    const sentence = await page.getByTestId("sentence").textContent();
    const { name, bytes } = await exportAs(page, "Project file");
    expect(name).toBe("new-scene.zip");
    await saved(page);
    await page.goto("/");
    const input = page.getByTestId("project-file");
    await input.setInputFiles({
      name: "torn.zip",
      mimeType: "application/zip",
      buffer: Buffer.from(bytes.slice(0, bytes.length / 2)),
    });
    await expect(page.getByText("“torn.zip” is not a project file")).toBeVisible();
    await input.setInputFiles({ name, mimeType: "application/zip", buffer: Buffer.from(bytes) });
    await page.waitForURL(/\/scene\//);
    await settled(page);
    await expectProps(page, count);
    await expect(page.getByTestId("sentence")).toHaveText(sentence!);
  });

  test("open in two tabs do not overwrite each other", async ({ page, context }) => {
    // It does not look by itself what others saved: both are to change the same.
    await page.addInitScript(() => {
      const every = window.setInterval.bind(window);
      Object.assign(window, { setInterval: (act: TimerHandler, ms = 0) => (ms < 5000 ? every(act, ms) : 0) });
    });
    await newScene(page);
    await saved(page);
    const other = await context.newPage();
    await other.goto(page.url());
    await settled(other);
    const name = (tab: typeof page) => tab.getByRole("textbox", { name: "Name of the scene" });
    await name(other).fill("Theirs");
    await name(other).press("Enter");
    await saved(other);
    await name(page).fill("Mine");
    await name(page).press("Enter");
    await expect(page.getByRole("heading", { name: "Changed in another tab" })).toBeVisible();
    await page.getByRole("button", { name: "Keep mine as a scene of its own" }).click();
    await expect(name(page)).toHaveValue("Mine");
    await other.reload();
    await expect(name(other)).toHaveValue("Theirs");
  });

  test("reloaded in the middle of a save are whole", async ({ page }) => {
    await newScene(page);
    await addProp(page);
    await drawLine(page, [
      [480, 520],
      [900, 470],
    ]);
    await page.reload();
    await settled(page);
    await expect.poll(() => propCount(page)).toBeGreaterThan(3);
  });
});
