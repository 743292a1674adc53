/** What the end-to-end tests do again and again at the table, in the words of an artist. */
import { expect, type Download, type Page } from "@playwright/test";
import { readFileSync } from "node:fs";
import { makeGlb } from "../src/core/files/testing";

/** A wedge, 0.4 m broad, 0.5 m high, 0.3 m deep. */
export const wedge = async (name = "wedge.glb") => ({
  name,
  mimeType: "model/gltf-binary",
  buffer: Buffer.from(await makeGlb()),
});

/** Opens a scene and waits until it is drawn and evaluated. */
export async function openScene(page: Page, id: string): Promise<void> {
  await page.goto(`/scene/${id}`);
  await settled(page);
}

export async function settled(page: Page): Promise<void> {
  await expect(page.getByTestId("counts")).toHaveAttribute("data-ready", "true", { timeout: 60_000 });
}

/** An empty scene, from wherever one is: from a scene by way of the list. */
export async function newScene(page: Page): Promise<void> {
  const toList = page.getByRole("link", { name: "All scenes" });
  // Whatever dialog the last story has left open.
  if ((await toList.count()) > 0) await toList.evaluate((link: HTMLElement) => link.click());
  else await page.goto("/");
  await page.waitForURL((url) => url.pathname === "/");
  await page.getByRole("button", { name: "New scene", exact: true }).click();
  await page.waitForURL(/\/scene\/[0-9a-f]+/);
  await settled(page);
}

export async function addProp(page: Page, name?: string): Promise<void> {
  // How many there are, since what is said of it may be gone before a busy machine looks.
  const basket = page.getByRole("complementary", { name: "Basket" });
  const count = async () => Number(/(\d+) props?/.exec((await basket.getByRole("heading").textContent()) ?? "")?.[1]);
  const before = await count();
  await page.getByTestId("prop-files").setInputFiles(await wedge(name));
  await expect.poll(count).toBe(before + 1);
}

/** Draws a line by clicking at pixels of the window, and ends it with Enter. */
export async function drawLine(page: Page, points: readonly (readonly [number, number])[]): Promise<void> {
  await page.getByRole("radio", { name: "Draw line" }).click();
  for (const [x, y] of points) {
    await page.mouse.move(x, y);
    await page.mouse.click(x, y);
  }
  await page.keyboard.press("Enter");
}

/** How many props the view says there are. */
export async function propCount(page: Page): Promise<number> {
  const text = (await page.getByTestId("counts").textContent()) ?? "";
  return Number(/([\d,]+) props?/.exec(text)?.[1].replaceAll(",", ""));
}

export const expectProps = (page: Page, count: number) => expect.poll(() => propCount(page)).toBe(count);

/** Types into a field and takes it with Enter. */
export async function enter(page: Page, label: string, text: string): Promise<void> {
  const field = page.getByRole("textbox", { name: label, exact: true });
  await field.fill(text);
  await field.press("Enter");
}

export const saved = (page: Page) => expect(page.getByTestId("saved")).toHaveAttribute("data-kind", "saved");

/** Exports in the given form; gives the file's bytes. */
export async function exportAs(page: Page, form: string): Promise<{ name: string; bytes: Uint8Array }> {
  await page.getByRole("button", { name: "Export", exact: true }).click();
  await page.getByRole("radio", { name: new RegExp(`^${form}`) }).click();
  const [download] = await Promise.all([
    page.waitForEvent("download") as Promise<Download>,
    page.getByTestId("write-file").click(),
  ]);
  return { name: download.suggestedFilename(), bytes: new Uint8Array(readFileSync(await download.path())) };
}

/** A new scene with one prop dressed along one drawn line. */
export async function dressedScene(page: Page): Promise<void> {
  await newScene(page);
  await addProp(page);
  await drawLine(page, [
    [480, 520],
    [900, 470],
  ]);
  await expect.poll(() => propCount(page)).toBeGreaterThan(3);
  await expect(page.getByTestId("strip")).toHaveAttribute("data-drawn", "true");
}

/** From the open step Where to the column of one of its lines. */
export const editLine = (page: Page, name: string) => page.getByTitle("Edit this line").getByText(name).click();

/** The middle of slot `i` of the strip's only row, in pixels of the window, from what the strip's own ruler says. */
export async function onStrip(page: Page, at: number): Promise<{ x: number; y: number }> {
  // Before it knows its width there is nothing on it to take hold of.
  await expect(page.getByTestId("strip")).toHaveAttribute("data-drawn", "true");
  const box = (await page.getByTestId("strip").boundingBox())!;
  const length = Number(/([\d.]+) m$/.exec((await page.getByText(/unrolled ·/).textContent()) ?? "")?.[1]);
  const margin = 28;
  return { x: box.x + margin + (at / length) * (box.width - 2 * margin), y: box.y + box.height - 46 };
}

/** World places of a CSV's rows, by key. */
export function placesIn(bytes: Uint8Array): Map<string, [number, number, number]> {
  const [, ...rows] = new TextDecoder().decode(bytes).trim().split("\r\n");
  return new Map(
    rows.map((row) => {
      const cells = row.split(",");
      return [cells[1], [Number(cells[5]), Number(cells[6]), Number(cells[7])]] as const;
    }),
  );
}

/** Does what a command in the palette says. */
export async function command(page: Page, words: string): Promise<void> {
  await page.keyboard.press("Control+k");
  await page.getByRole("combobox").fill(words);
  await page.keyboard.press("Enter");
}
