/**
 * `strip-5000`: from an edit of a dressing with 5,000 placements on one line to the strip's new drawing, in Chromium. The
 * edit is a press of a key in the field of an inset; the strip leaves a mark in the browser's timeline when it has drawn.
 */
import { spawn } from "node:child_process";
import { chromium, type Page } from "@playwright/test";
import { LAUNCH, SCREEN } from "../tests/browser";
import { addProp, drawLine, enter, expectProps, newScene } from "../tests/table";
import { ensureBuild, ensureChromium, freePort, ROOT } from "../scripts/ensure.mjs";
import type { Row } from "./row";

const COUNT = 5000;
const EDITS = 12;

export async function stripRow(): Promise<Row> {
  ensureBuild();
  ensureChromium();
  const port = await freePort();
  const server = spawn("node_modules/.bin/next", ["start", "--port", String(port)], { cwd: ROOT, stdio: "ignore" });
  const browser = await chromium.launch(LAUNCH);
  try {
    await answers(`http://localhost:${port}/`);
    const page = await browser.newPage({ viewport: SCREEN, baseURL: `http://localhost:${port}` });
    await newScene(page);
    await addProp(page);
    await drawLine(page, [
      [480, 520],
      [900, 470],
    ]);
    await page.getByRole("radio", { name: "Boxes" }).click();
    await page.getByRole("radio", { name: "Count" }).click();
    await enter(page, "Count", String(COUNT));
    await expectProps(page, COUNT);
    const times: number[] = [];
    for (let i = 0; i < EDITS; i++) times.push(await editToDrawing(page));
    return { name: "strip-5000", n: COUNT, ours_ms: Math.min(...times), peer: null, peer_ms: null, ratio: null };
  } finally {
    await browser.close();
    server.kill();
  }
}

async function answers(url: string): Promise<void> {
  for (let i = 0; i < 100; i++) {
    if (
      await fetch(url).then(
        ({ ok }) => ok,
        () => false,
      )
    )
      return;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  throw new Error(`${url} does not answer.`);
}

/** Milliseconds from the key to the first drawing of the placements that it led to. */
async function editToDrawing(page: Page): Promise<number> {
  await page.getByRole("textbox", { name: "From start" }).focus();
  await page.evaluate(() => {
    performance.clearMarks();
    addEventListener("keydown", () => performance.mark("edit"), { capture: true, once: true });
  });
  await page.keyboard.press("ArrowUp");
  const handle = await page.waitForFunction(() => {
    const edit = performance.getEntriesByName("edit")[0];
    const drawn = performance.getEntriesByName("strip drawn").find((mark) => edit && mark.startTime > edit.startTime);
    return drawn ? drawn.startTime - edit.startTime : null;
  });
  const took = (await handle.jsonValue())!;
  await page.waitForTimeout(900);
  return took;
}
