import { expect, test, type Page } from "./kept";
import { makeGlb } from "../src/core/files/testing";
import { addProp, enter, expectProps, exportAs, newScene, propCount, saved, settled } from "./table";

/** A meadow 24 m by 24 m: level on the left half, rising by 45° on the right. */
const meadow = async () => ({
  name: "meadow.glb",
  mimeType: "model/gltf-binary",
  buffer: Buffer.from(
    await makeGlb({
      positions: Float32Array.from(
        [
          [-12, 0, -12, -12, 0, 12, 0, 0, 12],
          [-12, 0, -12, 0, 0, 12, 0, 0, -12],
          [0, 0, -12, 0, 0, 12, 12, 12, 12],
          [0, 0, -12, 12, 12, 12, 12, 12, -12],
        ].flat(),
      ),
    }),
  ),
});

interface Row {
  key: string;
  line: string;
  x: number;
  y: number;
  z: number;
}

/** Where the placements stand, from an exported table. */
async function rows(page: Page): Promise<Row[]> {
  const { bytes } = await exportAs(page, "CSV");
  const [head, ...lines] = new TextDecoder().decode(bytes).trim().split("\r\n");
  const names = head.split(",");
  return lines.map((line) => {
    const cells = line.split(",");
    const at = (name: string) => cells[names.indexOf(name)];
    return { key: at("key"), line: at("line"), x: Number(at("px")), y: Number(at("py")), z: Number(at("pz")) };
  });
}

/** The same meadow as an OBJ, with the MTL that it names. */
const meadowObj = () => {
  const obj = [
    "mtllib grass.mtl",
    "usemtl grass",
    ...["-12 0 -12", "-12 0 12", "0 0 12", "0 0 -12", "12 12 12", "12 12 -12"].map((v) => `v ${v}`),
    "f 1 2 3",
    "f 1 3 4",
    "f 4 3 5 6",
  ].join("\n");
  const mtl = "newmtl grass\nKd 0.4 0.6 0.3\nmap_Kd missing.png\n";
  return [
    { name: "meadow.obj", mimeType: "model/obj", buffer: Buffer.from(obj) },
    { name: "grass.mtl", mimeType: "text/plain", buffer: Buffer.from(mtl) },
  ];
};

type Files = Awaited<ReturnType<typeof meadow>>[];

/** A scene with a wedge spread over a meadow, its sheet in sight. */
async function spreadOverMeadow(page: Page, files?: Files): Promise<void> {
  await newScene(page);
  await addProp(page);
  await page.getByRole("radio", { name: "Surfaces" }).click();
  await page.getByTestId("surface-files").setInputFiles(files ?? [await meadow()]);
  await expect(page.getByRole("textbox", { name: "Name of the surface" })).toHaveValue("Meadow");
  await page.getByRole("button", { name: "Dress this surface" }).click();
  await page.getByRole("menuitem", { name: "Wedge" }).click();
  await expect(page.getByTestId("sentence")).toContainText("over Meadow evenly");
  await expect(page.getByTestId("sheet")).toHaveAttribute("data-drawn", "true");
  await expect.poll(() => propCount(page)).toBeGreaterThan(100);
}

test("a prop is spread over a surface; limits take away and move nothing; it is all there after a reload", async ({
  page,
}) => {
  await spreadOverMeadow(page);
  await enter(page, "Every", "1.5 m");
  await expect.poll(() => propCount(page)).toBeGreaterThan(100);
  const all = await rows(page);
  for (const { x, y, line } of all) {
    expect(y).toBeCloseTo(Math.max(0, x), 4);
    expect(line).toBe("Meadow");
  }
  await page.getByRole("button", { name: /^7 Gaps/ }).click();
  await page.getByRole("switch", { name: "Slope" }).click();
  await expect.poll(() => propCount(page)).toBeLessThan(all.length);
  await expect(page.getByTestId("sentence")).toContainText("slopes of 0° to 30° only");
  const level = await rows(page);
  expect(level.every(({ x }) => x <= 1e-6)).toBe(true);
  const before = new Map(all.map((row) => [row.key, row]));
  for (const row of level) expect(row).toEqual(before.get(row.key));

  await saved(page);
  await page.reload();
  await settled(page);
  expect(await rows(page)).toEqual(level);
  // As many as are asked for, and so many kept when the pattern changes.
  await page.getByRole("radio", { name: "Count" }).click();
  await enter(page, "Count", "40");
  await expectProps(page, 40);
  for (const pattern of ["Random", "Square", "Hexagonal"]) {
    await page.getByRole("radio", { name: pattern }).click();
    await expect.poll(() => propCount(page)).toBe(40);
  }
  // Nothing fits: it is found and said.
  await page.getByRole("button", { name: /^7 Gaps/ }).click();
  await page.getByRole("switch", { name: "Facing" }).click();
  await expectProps(page, 0);
  await page.getByTestId("findings").click();
  await expect(page.getByText("Nothing stands on Meadow: the gaps leave no room there.")).toBeVisible();
});

test("on the sheet a placement is dragged, another added, a clearing held open, a box selected; all of it can be undone", async ({
  page,
}) => {
  await spreadOverMeadow(page);
  await enter(page, "Every", "3 m");
  await expect.poll(() => propCount(page)).toBeLessThan(150);
  const before = await rows(page);
  const sheet = page.getByTestId("sheet");
  const { x, y, width, height } = (await sheet.boundingBox())!;
  // The meadow lies in the middle, north at the top, beside the rulers.
  const [cx, cy] = [x + 22 + (width - 22) / 2, y + 22 + (height - 22) / 2];
  const scale = (height - 22 - 0) / 24;
  const at = (mx: number, mz: number): [number, number] => [cx + mx * scale * 0.8, cy + mz * scale * 0.8];

  // Alt and click: one more, where the click was.
  await page.keyboard.down("Alt");
  await page.mouse.click(...at(-5.1, 2.2));
  await page.keyboard.up("Alt");
  await expectProps(page, before.length + 1);
  await expect(page.getByRole("region", { name: "Selection" })).toContainText("pegged");
  const [added] = (await rows(page)).filter(({ key }) => !before.some((row) => row.key === key));
  expect(added.y).toBeCloseTo(Math.max(0, added.x), 3);

  // It is dragged to the slope, and Escape in the middle of another drag puts it back.
  await page.mouse.move(...at(-5.1, 2.2));
  await page.mouse.down();
  await page.mouse.move(...at(0, 2.2), { steps: 4 });
  await page.mouse.move(...at(4, 2.2), { steps: 4 });
  await page.mouse.up();
  const moved = (await rows(page)).find(({ key }) => key === added.key)!;
  expect(moved.x).toBeGreaterThan(1);
  expect(moved.y).toBeCloseTo(moved.x, 3);
  await page.mouse.move(...at(4, 2.2));
  await page.mouse.down();
  await page.mouse.move(...at(7, 4), { steps: 4 });
  await page.keyboard.press("Escape");
  await page.mouse.up();
  expect((await rows(page)).find(({ key }) => key === added.key)).toEqual(moved);

  // A clearing on free ground takes away what was there.
  const count = await propCount(page);
  let free = -11.8;
  do {
    await page.mouse.move(...at((free += 0.3), -10.8));
    await page.waitForTimeout(40);
  } while ((await sheet.evaluate((element) => element.style.cursor)) !== "crosshair" && free < -6);
  await page.mouse.down();
  await page.mouse.move(...at(-8, -8), { steps: 3 });
  await page.mouse.move(...at(-6, -6), { steps: 3 });
  await page.mouse.up();
  await expect.poll(() => propCount(page)).toBeLessThan(count);
  await expect(page.getByTestId("sentence")).toContainText("but not Hole 1");
  await page.keyboard.press("Control+z");
  await expectProps(page, count);

  // A box with Shift selects; Delete leaves blank.
  await page.keyboard.down("Shift");
  await page.mouse.move(...at(-15.5, 1));
  await page.mouse.down();
  await page.mouse.move(...at(-1, 11.9), { steps: 4 });
  await page.mouse.up();
  await page.keyboard.up("Shift");
  await expect(page.getByRole("region", { name: "Selection" })).toContainText("placements");
  await page.keyboard.press("Delete");
  await expect.poll(() => propCount(page)).toBeLessThan(count - 3);
  for (let i = 0; i < 3; i++) await page.keyboard.press("Control+z");
  await expectProps(page, before.length);
  expect(await rows(page)).toEqual(before);
});

test("on a meadow brought as OBJ, what is painted away goes while the brush is drawn, and comes back with undo; an area is drawn and filled", async ({
  page,
}) => {
  await spreadOverMeadow(page, meadowObj());
  const count = await propCount(page);
  await page.getByRole("radio", { name: "Paint" }).click();
  const { x, y, width, height } = (await page.getByTestId("sheet").boundingBox())!;
  const [cx, cy] = [x + 22 + (width - 22) / 2, y + 22 + (height - 22) / 2];
  await page.mouse.move(cx - 30, cy - 20);
  await page.mouse.down();
  await page.mouse.move(cx - 20, cy, { steps: 5 });
  await page.mouse.move(cx + 10, cy + 10, { steps: 5 });
  await expect.poll(() => propCount(page)).toBeLessThan(count);
  await page.mouse.up();
  await settled(page);
  const painted = await propCount(page);
  await page.keyboard.press("Escape");
  await expect(page.getByRole("radio", { name: "Select", exact: true })).toBeChecked();
  await page.keyboard.press("Control+z");
  await expectProps(page, count);
  await page.keyboard.press("Control+Shift+z");
  await expectProps(page, painted);

  await page.getByRole("button", { name: /^1 Where/ }).click();
  await page.getByRole("button", { name: "Draw area" }).click();
  for (const [px, py] of [
    [560, 480],
    [760, 480],
    [780, 380],
    [600, 370],
  ] as const) {
    await page.mouse.move(px, py);
    await page.mouse.click(px, py);
  }
  await page.keyboard.press("Enter");
  await expect(page.getByTestId("sentence")).toContainText("within Area 1");
  await expect.poll(() => propCount(page)).toBeLessThan(painted);
  await page.keyboard.press("Control+z");
  await expectProps(page, painted);

  // It has no texture coordinates, and is unrolled.
  await page.getByRole("radio", { name: "Unrolled" }).click();
  await expect(page.getByTestId("stretch")).toHaveText(/^true (to length|within [\d.]+ %, worst [\d.]+ %)/);
  await expect(page.getByTestId("sheet")).toHaveAttribute("aria-label", /real size: Unrolled/);
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Delete");
  await expectProps(page, painted - 1);
});
