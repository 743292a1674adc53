/** SVG drawings become lines: as long as the browser has them, filled with their holes left out, and brought again. */
import { expect, test, type Page } from "./kept";
import { readdirSync, readFileSync } from "node:fs";
import svgpath from "svgpath";
import { linesOfDrawing, readSvg } from "../src/core/files";
import { curveOf, lineSchema } from "../src/core/line";
import { violations } from "./axe";
import { addProp, newScene, propCount, settled } from "./table";

const ICONS = "node_modules/lucide-static/icons";

/** A thousand times as large: the browser measures to a share of a pixel. */
const enlarged = (text: string): string =>
  text
    .replace(/ d="([^"]+)"/g, (_, d: string) => ` d="${svgpath(d).scale(1000).toString()}"`)
    .replace(/ (cx|cy|r|rx|ry|x|y|x1|x2|y1|y2|points|width|height)="([^"]+)"/g, (_, name: string, numbers: string) => {
      const larger = numbers.replace(/-?[\d.]+/g, (number) => String(1000 * Number(number)));
      return ` ${name}="${larger}"`;
    });

test("all icons of a large set are as long as the browser says", async ({ page }) => {
  const all = readdirSync(ICONS).filter((file) => file.endsWith(".svg"));
  await page.goto("/");
  let [compared, worst] = [0, 0];
  for (let k = 0; k < all.length; k += 200) {
    const texts = all.slice(k, k + 200).map((file) => enlarged(readFileSync(`${ICONS}/${file}`, "utf8")));
    const theirs = await page.evaluate(
      (files) =>
        files.map((text) => {
          // Only what is shown has a length.
          document.body.innerHTML = text.slice(text.indexOf("<svg"));
          const shapes = document.querySelectorAll<SVGGeometryElement>(
            "path,line,polyline,polygon,circle,ellipse,rect",
          );
          return [...shapes].reduce((sum, one) => sum + one.getTotalLength(), 0);
        }),
      texts,
    );
    texts.forEach((text, i) => {
      const drawing = readSvg(new TextEncoder().encode(text), all[k + i]);
      const place = { middle: [0, 0, 0], right: [1, 0, 0], down: [0, 0, 1], scale: 1 / drawing.unit } as const;
      const ours = linesOfDrawing(drawing, all[k + i], place).reduce(
        (sum, line) => sum + curveOf(lineSchema.parse({ ...line, id: "i", number: 1, name: "i" })).length,
        0,
      );
      worst = Math.max(worst, Math.abs(ours / theirs[i] - 1));
      compared++;
    });
  }
  expect(compared).toBeGreaterThan(1500);
  expect(worst).toBeLessThan(3e-4);
});

/** A ring with a dot beside it, and words. */
const drawing = (outer: number) => ({
  name: "ring.svg",
  mimeType: "image/svg+xml",
  buffer: Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="20cm" height="10cm" viewBox="0 0 200 100"><path id="ring" fill-rule="evenodd"
      d="M50 ${50 - outer}A${outer} ${outer} 0 0 1 50 ${50 + outer}A${outer} ${outer} 0 0 1 50 ${50 - outer}ZM50 35A15 15 0 0 1 50 65A15 15 0 0 1 50 35Z"/>
      <circle id="dot" cx="150" cy="50" r="20"/><text>Regatta</text></svg>`,
  ),
});

async function bring(page: Page, outer: number): Promise<void> {
  await page.getByTestId("prop-files").setInputFiles(drawing(outer));
  await expect(page.getByRole("dialog")).toContainText("3 outlines, 1 of them a hole");
}

test("a drawing is brought in at a size, filled without its holes, and brought again with all that hangs on it", async ({
  page,
}) => {
  await newScene(page);
  await addProp(page);
  await bring(page, 40);
  const dialog = page.getByRole("dialog");
  await expect(dialog).toContainText("Not read: text");
  await expect(dialog.getByRole("textbox", { name: "Width" })).toHaveValue("0.20 m");
  expect(await violations(page)).toEqual([]);
  await dialog.getByRole("textbox", { name: "Width" }).fill("20 m");
  await dialog.getByRole("textbox", { name: "Width" }).press("Enter");
  await expect(dialog).toContainText("× 10 m");
  await dialog.getByRole("button", { name: "Bring it in" }).click();
  await settled(page);
  const column = page.getByRole("textbox", { name: "Name of the line" });
  await expect(column).toHaveValue("Ring 1");
  // A circle of 4 m radius, to the last millimetre, by knots that can all be pulled.
  await expect(page.getByText("25.133 m · 4 knots")).toBeVisible();

  await page.getByRole("button", { name: "Fill it as an area" }).click();
  await page.getByRole("menuitem").first().click();
  await expect.poll(() => propCount(page)).toBeGreaterThan(10);
  await settled(page);
  const whole = await propCount(page);
  await page.getByRole("button", { name: /^1 Where/ }).click();
  await expect(page.getByRole("button", { name: "Take Ring hole 1 out of the dressing" })).toBeVisible();

  await bring(page, 30);
  await expect(page.getByRole("dialog")).toContainText("It was brought in before");
  await page.getByRole("dialog").getByRole("button", { name: "Bring it again" }).click();
  await settled(page);
  await expect(page.getByText(/18\.85 m · 4 knots/)).toBeVisible();
  await expect.poll(() => propCount(page)).toBeLessThan(whole);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect.poll(() => propCount(page)).toBe(whole);

  const broken = { name: "broken.svg", mimeType: "image/svg+xml", buffer: Buffer.from("<svg><g></svg>") };
  await page.getByTestId("prop-files").setInputFiles(broken);
  await expect(page.getByText("“broken.svg” is no SVG that can be read")).toBeVisible();
});
