import { expect, test } from "./kept";
import { placementsInGlb } from "../src/core/files/testing";
import {
  addProp,
  drawLine,
  dressedScene,
  editLine,
  enter,
  expectProps,
  exportAs,
  newScene,
  propCount,
  saved,
  settled,
} from "./table";

test("from an empty scene to an exported file: bring a prop, draw a line, see it dressed, change, come back, take it away", async ({
  page,
}) => {
  await newScene(page);
  await expect(page.getByText("Nothing is dressed here yet.")).toBeVisible();
  await addProp(page, "harbour_wedge.glb");
  await expect(page.getByRole("button", { name: /^Harbour wedge/ })).toBeVisible();

  await drawLine(page, [
    [470, 520],
    [680, 440],
    [930, 500],
  ]);
  await expect.poll(() => propCount(page)).toBeGreaterThan(5);
  await expect(page.getByTestId("sentence")).toContainText(/Stand harbour wedge along Line 1 every 0\.\d+\sm/);

  const before = await propCount(page);
  await enter(page, "Every", "2 * 0.75 m");
  await expect(page.getByTestId("sentence")).toContainText("every 1.50 m");
  await expect.poll(() => propCount(page)).toBeLessThan(before);
  const count = await propCount(page);

  await saved(page);
  await page.reload();
  await settled(page);
  await expectProps(page, count);
  await expect(page.getByTestId("sentence")).toContainText("every 1.50 m");

  for (const form of ["GLB, instanced", "GLB, plain nodes"]) {
    const { name, bytes } = await exportAs(page, form);
    expect(name).toMatch(/^new-scene(-\d+)?\.glb$/);
    const placed = await placementsInGlb(bytes);
    expect(placed).toHaveLength(count);
    const gaps = placed
      .slice(1)
      .map((p, i) => Math.hypot(p.position[0] - placed[i].position[0], p.position[2] - placed[i].position[2]));
    for (const gap of gaps) expect(Math.abs(gap - 1.5)).toBeLessThan(0.05);
  }
  const { bytes } = await exportAs(page, "CSV");
  expect(new TextDecoder().decode(bytes).trim().split("\r\n")).toHaveLength(count + 1);
});

test("a dressed line takes edits: dragged ones show at once, wrong ones are refused, all can be undone", async ({
  page,
}) => {
  await dressedScene(page);
  await test.step("a slider shows its effect while it is dragged; Escape puts back what was, and so does undo in the middle", async () => {
    const before = await propCount(page);
    const slider = page.getByRole("slider", { name: "From start" });
    const track = (await slider.boundingBox())!;
    const [x, y] = [track.x + 6, track.y + 6];
    for (const giveUp of ["Escape", "Control+z"]) {
      await page.mouse.move(x, y);
      await page.mouse.down();
      await page.mouse.move(x + 60, y, { steps: 4 });
      await expect.poll(() => propCount(page)).not.toBe(before);
      await page.keyboard.press(giveUp);
      await expectProps(page, before);
      await page.mouse.move(x + 70, y);
      await page.mouse.up();
      await expectProps(page, before);
    }
    await expect(page.getByRole("textbox", { name: "From start" })).toHaveValue("0.00 m");
  });
  await test.step("what cannot be read is refused in a sentence, and nothing that is there is lost", async () => {
    const count = await propCount(page);
    await page
      .getByTestId("prop-files")
      .setInputFiles({ name: "notes.glb", mimeType: "text/plain", buffer: Buffer.from("just words") });
    await expect(page.getByText("“notes.glb” is not a GLB file.")).toBeVisible();
    await page.getByRole("textbox", { name: "Every" }).fill("a fathom");
    await page.keyboard.press("Enter");
    await expect(page.getByText("“a fathom” is not a number: write a length such as")).toBeVisible();
    await page.keyboard.press("Escape");
    await enter(page, "Every", "-2");
    await expect(page.getByRole("alert").filter({ hasText: "-2" })).toBeVisible();
    await page.keyboard.press("Escape");
    await expectProps(page, count);
  });
  await test.step("undo takes back each edit, one by one, and redo brings them again", async () => {
    const sentence = page.getByTestId("sentence");
    const states = [await sentence.textContent()];
    const step = async (edit: () => Promise<void>) => {
      await edit();
      await expect(sentence).not.toHaveText(states[states.length - 1]!);
      states.push(await sentence.textContent());
    };
    await step(() => enter(page, "Every", "1.25"));
    await step(() => page.getByRole("radio", { name: "Count" }).click());
    await step(() => enter(page, "Count", "7"));
    await expectProps(page, 7);
    await page.getByRole("button", { name: /^4 Stance/ }).click();
    await step(() => page.getByRole("radio", { name: "Top" }).click());
    await page.getByRole("button", { name: /^7 Gaps/ }).click();
    await step(() => enter(page, "Blank", "50 %"));
    for (let i = states.length - 2; i >= 0; i--) {
      await page.keyboard.press("Control+z");
      await expect(sentence).toHaveText(states[i]!);
    }
    for (let i = 1; i < states.length; i++) {
      await page.keyboard.press("Control+Shift+z");
      await expect(sentence).toHaveText(states[i]!);
    }
  });
});

test("twenty thousand placements and a line with two knots on one point are taken calmly", async ({ page }) => {
  await newScene(page);
  await addProp(page);
  // What is told for a moment, that the prop is in the basket, swallows no click.
  const told = page.locator("[data-sonner-toast]").first();
  const box = (await told.count()) > 0 ? await told.boundingBox() : null;
  await drawLine(page, [[480, 520], box ? [box.x + box.width / 2, box.y + box.height / 2] : [690, 470], [900, 520]]);
  await expect.poll(() => propCount(page)).toBeGreaterThan(3);
  await page.getByRole("button", { name: /^1 Where/ }).click();
  await editLine(page, "Line 1");
  await expect(page.getByText(/· 3 knots$/)).toBeVisible();
  for (const axis of "xyz") {
    const value = await page.getByRole("textbox", { name: `Knot 1 ${axis}` }).inputValue();
    await enter(page, `Knot 2 ${axis}`, value);
  }
  await page.getByRole("button", { name: "Back to the dressing" }).click();
  await page.getByRole("radio", { name: "Boxes" }).click();
  await page.getByRole("button", { name: /^3 Spacing/ }).click();
  await page.getByRole("radio", { name: "Count" }).click();
  await enter(page, "Count", "20000");
  await expectProps(page, 20_000);
  await expect(page.getByTestId("findings")).toContainText("finding");
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: /^Undo/ }).click();
  await expect.poll(() => propCount(page)).toBeLessThan(100);
});
