/** Everything along a line, as an artist does it: knots, handles, tags, the strip, the steps, props set up. */
import { expect, test, type Page } from "./kept";
import { makeGlb, placementsInGlb } from "../src/core/files/testing";
import {
  addProp,
  dressedScene,
  editLine,
  enter,
  expectProps,
  exportAs,
  onStrip,
  propCount,
  saved,
  settled,
  wedge,
} from "./table";

/** From the dressed scene to the column of its line. */
async function inLine(page: Page): Promise<void> {
  await dressedScene(page);
  await page.getByRole("button", { name: /^1 Where/ }).click();
  await editLine(page, "Line 1");
}

const knot = (page: Page, n: number, axis: string) => page.getByRole("textbox", { name: `Knot ${n} ${axis}` });
const metres = async (page: Page, n: number, axis: string) => parseFloat(await knot(page, n, axis).inputValue());
const length = async (page: Page) =>
  Number(/([\d.]+) m$/.exec((await page.getByText(/unrolled ·/).textContent()) ?? "")?.[1]);

test("a knot is dragged along an axis by a typed distance; Escape puts it back; the line itself is dragged, and clicked for a new knot", async ({
  page,
}) => {
  await inLine(page);
  const [x, z] = [await metres(page, 2, "x"), await metres(page, 2, "z")];
  await page.mouse.move(900, 470);
  await page.mouse.down();
  await page.mouse.move(860, 440, { steps: 4 });
  await expect(page.getByTestId("moved")).toContainText(" m");
  await page.keyboard.press("Escape");
  await page.mouse.up();
  await expect.poll(() => metres(page, 2, "x")).toBe(x);

  await page.mouse.move(900, 470);
  await page.mouse.down();
  await page.mouse.move(930, 470, { steps: 4 });
  await page.keyboard.press("e");
  await page.keyboard.type("m1.5");
  await expect(page.getByTestId("moved")).toHaveText(/1\.5_ m east and west/);
  await page.mouse.up();
  await expect.poll(() => metres(page, 2, "x")).toBeCloseTo(x + 1.5, 2);
  expect(await metres(page, 2, "z")).toBeCloseTo(z, 2);
  await page.keyboard.press("Control+z");
  await expect.poll(() => metres(page, 2, "x")).toBe(x);

  // Off its middle, where the mark for a new knot is.
  const [px, py] = [480 + 0.25 * 420, 520 - 0.25 * 50];
  const before = await metres(page, 1, "x");
  await page.mouse.move(px, py);
  await page.mouse.down();
  await page.mouse.move(px + 60, py, { steps: 4 });
  await page.mouse.up();
  await expect.poll(() => metres(page, 1, "x")).toBeGreaterThan(before + 0.1);
  await page.keyboard.press("Control+z");
  await expect.poll(() => metres(page, 1, "x")).toBe(before);
  await page.mouse.click(px, py);
  await expect(page.getByText(/m · 3 knots$/)).toBeVisible();
});

test("a Bézier knot has handles, a roll and a tag; What can go by the tag, and all of it is there after a reload", async ({
  page,
}) => {
  await inLine(page);
  await page.getByRole("button", { name: "Kind of line" }).click();
  await page.getByRole("menuitem", { name: "Bézier" }).click();
  await page.getByRole("button", { name: "Insert a knot after knot 1" }).click();
  await expect(page.getByText(/m · 3 knots$/)).toBeVisible();
  const straight = await length(page);
  await enter(page, "Handle on z", "2.5");
  await expect.poll(() => length(page)).toBeGreaterThan(straight + 0.2);
  await page.getByRole("radio", { name: "Corner" }).click();
  await expect.poll(() => length(page)).toBeLessThan(straight + 0.1);
  await enter(page, "Roll", "30");
  const tag = page.getByLabel("Tag of the span after knot 2");
  await tag.fill("gate");
  await tag.press("Enter");
  await expect(page.getByText("gate", { exact: true })).toBeVisible();

  await page.getByRole("button", { name: "Back to the dressing" }).click();
  const count = await propCount(page);
  await page.getByRole("button", { name: /^2 What/ }).click();
  await page.getByRole("button", { name: "By tag" }).click();
  await page.getByRole("button", { name: "Add a tag" }).click();
  await page.getByRole("menuitem", { name: "gate" }).click();
  await expect.poll(() => propCount(page)).toBeLessThan(count);
  await saved(page);
  const left = await propCount(page);
  await page.reload();
  await settled(page);
  await expectProps(page, left);
});

test("on the strip a gap is held open, pulled wider and closed; a copy is dragged out with Alt and taken away again; a seed is chosen by its picture", async ({
  page,
}) => {
  await dressedScene(page);
  const count = await propCount(page);
  const [from, to] = [await onStrip(page, 1.2), await onStrip(page, 2.4)];
  const above = from.y - 70;
  await page.mouse.move(from.x, above);
  await page.mouse.down();
  await page.mouse.move(to.x, above, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByTestId("sentence")).toContainText("a stretch held open");
  await expect.poll(() => propCount(page)).toBeLessThan(count);
  const held = await propCount(page);

  const wider = await onStrip(page, 4);
  await page.mouse.move(to.x, to.y + 16);
  await page.mouse.down();
  await page.mouse.move(wider.x, to.y + 16, { steps: 4 });
  await page.mouse.up();
  await expect.poll(() => propCount(page)).toBeLessThan(held);
  await page.getByTestId("strip").focus();
  await page.keyboard.press("Delete");
  await expectProps(page, count);

  const start = await onStrip(page, 0);
  const free = await onStrip(page, 0.2);
  await page.keyboard.down("Alt");
  await page.mouse.move(start.x, start.y);
  await page.mouse.down();
  await page.mouse.move(free.x, start.y, { steps: 5 });
  await page.mouse.up();
  await page.keyboard.up("Alt");
  await expectProps(page, count + 1);
  await page.getByRole("button", { name: /^7 Gaps/ }).click();
  await page.getByRole("button", { name: "Take all pegs off" }).click();
  await expectProps(page, count);
  await test.step("chance is dealt by a seed that is chosen by its picture", async () => {
    await page.getByRole("button", { name: /^6 Variation/ }).click();
    await page.getByRole("switch", { name: "Turn", exact: true }).click();
    await page.getByRole("button", { name: "Choose a seed by its picture…" }).click();
    const board = page.getByRole("dialog");
    await expect(board.getByRole("img", { includeHidden: true }).or(board.locator("img"))).toHaveCount(12);
    await board.getByRole("button", { name: "Seed 5" }).click();
    await expect(board.getByRole("button", { name: "Seed 5" })).toHaveAttribute("aria-pressed", "true");
    await board.getByRole("button", { name: "Done" }).click();
    await expect(page.getByRole("textbox", { name: "Seed" })).toHaveValue("5");
  });
});

test("props laid end to end in rows, bent along a curve, are written as meshes of their own; a finding is mended with one click", async ({
  page,
}) => {
  await dressedScene(page);
  await page.getByRole("button", { name: /^1 Where/ }).click();
  await editLine(page, "Line 1");
  await page.getByRole("button", { name: "Kind of line" }).click();
  await page.getByRole("menuitem", { name: "Arc" }).click();
  await page.getByRole("button", { name: "Back to the dressing" }).click();
  await page.getByRole("button", { name: /^3 Spacing/ }).click();
  await page.getByRole("radio", { name: "End to end" }).click();
  await page.getByRole("button", { name: /^5 Fit/ }).click();
  await page.getByRole("button", { name: "Parallel rows" }).click();
  const one = await propCount(page);
  await enter(page, "Rows", "2");
  await expect.poll(() => propCount(page)).toBeGreaterThan(1.5 * one);
  await page.getByRole("switch", { name: "Bend along the line" }).click();
  await expect(page.getByTestId("sentence")).toContainText("in 2 rows 0.60 m apart, bent along it");
  const { bytes } = await exportAs(page, "GLB, plain nodes");
  expect(await placementsInGlb(bytes)).toHaveLength(await propCount(page));

  await page.getByRole("button", { name: /^3 Spacing/ }).click();
  await page.getByRole("radio", { name: "Distance" }).click();
  await enter(page, "Every", "0.05");
  await page.getByTestId("findings").click();
  await page.getByRole("button", { name: "Keep props clear" }).first().click();
  await expect(page.getByTestId("sentence")).toContainText("kept clear");
});

test("a prop is set up once for all: its unit, its turn, its file; two props in one mix dress a line", async ({
  page,
}) => {
  await dressedScene(page);
  const basket = page.getByRole("complementary", { name: "Basket" });
  await basket.getByRole("button", { name: /^Wedge/ }).click();
  await page.getByRole("button", { name: "Set up: pivot, front, size…" }).click();
  const dialog = page.getByRole("dialog");
  const size = async (name: string) =>
    parseFloat(await dialog.getByRole("textbox", { name, exact: true }).inputValue());
  const [breadth, height, depth] = [await size("Breadth"), await size("Height"), await size("Depth")];
  await dialog.getByRole("button", { name: "Tip forward" }).click();
  await expect.poll(() => size("Height")).toBeCloseTo(depth, 3);
  expect(await size("Depth")).toBeCloseTo(height, 3);
  const field = dialog.getByRole("textbox", { name: "Breadth", exact: true });
  await field.fill(String(2 * breadth));
  await field.press("Enter");
  await expect.poll(() => size("Height")).toBeCloseTo(2 * depth, 3);
  await dialog.getByTestId("replace-file").setInputFiles({
    name: "other.glb",
    mimeType: "model/gltf-binary",
    buffer: Buffer.from(await makeGlb({ textured: true })),
  });
  await expect(dialog.getByText("other.glb", { exact: true })).toBeVisible();
  await dialog.getByRole("button", { name: "Done" }).click();
  await expect(basket.getByRole("button", { name: /^Wedge/ })).toBeVisible();

  await addProp(page, (await wedge("lamp.glb")).name);
  await basket.getByRole("button", { name: "Make a mix that begins with" }).click();
  await page.getByRole("menuitem", { name: "Wedge" }).click();
  await page.getByRole("button", { name: "Add a prop to the mix" }).click();
  await page.getByRole("menuitem", { name: "Lamp" }).click();
  await expect(page.getByText("50 %")).toHaveCount(2);
  await page.getByRole("button", { name: "Dress a line with this mix" }).click();
  await page.getByRole("menuitem", { name: "Line 1" }).click();
  await expect(page.getByTestId("sentence")).toContainText("Stand mix 1 along Line 1");
  await expect.poll(() => propCount(page)).toBeGreaterThan(4);
});
