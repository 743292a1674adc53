/**
 * What is told of the interface, in Chromium. `strip-5000`: from an edit of a dressing with 5,000 placements on one line to
 * the strip's new drawing. The edit is a press of a key in the field of an inset; the strip leaves a mark in the browser's
 * timeline when it has drawn. `edit-demo`: the main thread's work after such an edit in the demo, up to the next pause.
 * `camera-rest-250k`: the longest piece of its work after the camera moved and came to rest over 250,000 placements, each drawn as
 * small as it looks. `play-20k`: what the main thread does for each frame of 20,000 props that a surface carries while it
 * waves, beside the drawing.
 */
import { spawn } from "node:child_process";
import { chromium, expect, type Page } from "@playwright/test";
import { hashOf, writeProject } from "../src/core/files";
import { makeGlb } from "../src/core/files/testing";
import { emptyScene, sceneSchema } from "../src/core/scene";
import { LAUNCH, SCREEN } from "../tests/browser";
import { addProp, drawLine, enter, expectProps, newScene, openScene, propCount, settled } from "../tests/table";
import { ensureBuild, ensureChromium, freePort, ROOT } from "../scripts/ensure.mjs";
import { manyLines } from "./many-lines";
import type { Row } from "./row";

const COUNT = 5000;
const MANY = 250_000;
const CARRIED = 20_000;
/** So long the frames are counted, milliseconds. */
const PLAYED = 10_000;
const EDITS = 12;
/** After so many milliseconds all that an edit or a turn of the camera leads to is over. */
const PAUSE = 1500;

const alone = { peer: null, peer_ms: null, ratio: null };

const ROWS: Readonly<Record<string, (page: Page) => Promise<Row>>> = {
  "edit-demo": editDemo,
  "strip-5000": strip,
  "camera-rest-250k": cameraRest,
  "play-20k": play,
};

export const BROWSER_ROWS = Object.keys(ROWS);

/** The rows of some names, one after the other in one page. */
export async function browserRows(names: readonly string[]): Promise<Row[]> {
  if (names.length === 0) return [];
  ensureBuild();
  ensureChromium();
  const port = await freePort();
  const server = spawn("node_modules/.bin/next", ["start", "--port", String(port)], { cwd: ROOT, stdio: "ignore" });
  const browser = await chromium.launch(LAUNCH);
  try {
    await answers(`http://localhost:${port}/`);
    const page = await browser.newPage({ viewport: SCREEN, baseURL: `http://localhost:${port}` });
    const rows: Row[] = [];
    for (const name of names) rows.push(await ROWS[name](page));
    return rows;
  } finally {
    await browser.close();
    server.kill();
  }
}

async function editDemo(page: Page): Promise<Row> {
  await openScene(page, "gullhaven-regatta");
  const field = page.getByRole("textbox", { name: "From start" });
  const work: number[] = [];
  for (let i = 0; i < EDITS; i++) {
    await field.focus();
    const { total } = await mainThread(page, () => page.keyboard.press("ArrowUp"));
    work.push(total);
  }
  const note = "of the main thread from the key to the next pause, pictures included";
  return { name: "edit-demo", n: EDITS, ours_ms: Math.min(...work), ...alone, note };
}

async function strip(page: Page): Promise<Row> {
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
  return { name: "strip-5000", n: COUNT, ours_ms: Math.min(...times), ...alone };
}

async function cameraRest(page: Page): Promise<Row> {
  await page.goto("/");
  const buffer = Buffer.from(await manyProject());
  await page.getByTestId("project-file").setInputFiles({ name: "many.zip", mimeType: "application/zip", buffer });
  await page.waitForURL(/\/scene\//);
  await settled(page);
  await expect.poll(() => propCount(page), { timeout: 60_000 }).toBe(MANY);
  await page.getByRole("radio", { name: "Auto" }).click();
  await page.waitForTimeout(4 * PAUSE);
  const pieces: number[] = [];
  for (let i = 0; i < EDITS; i++) {
    await page.mouse.move(640, 300);
    const { longest } = await mainThread(page, () => page.mouse.wheel(0, i % 2 === 0 ? 240 : -240));
    pieces.push(longest);
  }
  const note = "the longest piece of the main thread's work, asked under 30 ms";
  return { name: "camera-rest-250k", n: MANY, ours_ms: pieces.sort((a, b) => a - b)[EDITS >> 1], ...alone, note };
}

async function play(page: Page): Promise<Row> {
  await page.goto("/");
  const buffer = Buffer.from(await wavingProject());
  await page.getByTestId("project-file").setInputFiles({ name: "sea.zip", mimeType: "application/zip", buffer });
  await page.waitForURL(/\/scene\//);
  await settled(page);
  await expect.poll(() => propCount(page), { timeout: 60_000 }).toBe(CARRIED);
  await page.getByRole("radio", { name: "Points" }).click();
  await page.getByRole("button", { name: "Play" }).click();
  await page.waitForTimeout(6 * PAUSE);
  const browser = page.context().browser()!;
  const seen = page.evaluate((ms) => {
    const time = document.querySelector("[data-testid=time]")!;
    const moments = new Set<string | null>();
    const watching = new MutationObserver(() => moments.add(time.getAttribute("data-placed")));
    watching.observe(time, { attributes: true });
    return new Promise<number>((done) => setTimeout(() => done(moments.size), ms));
  }, PLAYED);
  await browser.startTracing(page, { categories: ["toplevel", "disabled-by-default-devtools.timeline", "devtools.timeline"] }); // prettier-ignore
  const frames = await seen;
  const { traceEvents } = JSON.parse((await browser.stopTracing()).toString()) as { traceEvents: TraceEvent[] };
  await page.getByRole("button", { name: "Pause" }).click();
  const main = mainThreads(traceEvents);
  // What comes from the worker, and what React does with it; the drawing itself is an animation frame's.
  const messages = traceEvents.filter(
    ({ name, pid, tid }) => name === "HandlePostMessage" && main.has(`${pid} ${tid}`),
  );
  // What it works, not what it waits for: the software that draws keeps all processors busy.
  const ms = messages.reduce((sum, { tdur, dur }) => sum + (tdur ?? dur ?? 0) / 1000, 0);
  const note = `of the main thread a frame beside the drawing, ${Math.round((1000 * frames) / PLAYED)} frames a second; aim 4 ms`;
  return { name: "play-20k", n: CARRIED, ours_ms: ms / Math.max(1, frames), ...alone, note };
}

/** So many wedges over a sheet that waves, as a project file. */
async function wavingProject(): Promise<Uint8Array> {
  const glb = await makeGlb();
  const asset = hashOf(glb);
  const scene = sceneSchema.parse({
    ...emptyScene("Sea"),
    props: [
      { id: "wedge", name: "Wedge", asset, bounds: { min: [-0.2, 0, -0.15], max: [0.2, 0.5, 0.15] }, triangles: 2 },
    ],
    surfaces: [
      {
        id: "sea",
        name: "Sea",
        made: { kind: "bumps", width: 100, depth: 100, height: 0, pieces: 100 },
        movers: [{ kind: "waves", length: 9, height: 0.8 }],
      },
    ],
    dressings: [
      {
        id: "all",
        name: "All",
        where: { kind: "over", surfaces: ["sea"] },
        what: { entries: [{ prop: "wedge" }] },
        spacing: { pattern: "random", amount: "count", count: CARRIED },
      },
    ],
  });
  return writeProject(scene, new Map([[asset, glb]]));
}

/** So many wedges along a thousand lines, as a project file. */
async function manyProject(): Promise<Uint8Array> {
  const glb = await makeGlb();
  const asset = hashOf(glb);
  const lines = manyLines(1000);
  const scene = sceneSchema.parse({
    ...emptyScene("Many"),
    props: [
      { id: "wedge", name: "Wedge", asset, bounds: { min: [-0.2, 0, -0.15], max: [0.2, 0.5, 0.15] }, triangles: 2 },
    ],
    lines,
    dressings: [
      {
        id: "all",
        name: "All",
        where: { lines: lines.map(({ id }) => id) },
        what: { entries: [{ prop: "wedge" }] },
        spacing: { by: "count", count: MANY / lines.length },
      },
    ],
  });
  return writeProject(scene, new Map([[asset, glb]]));
}

/** Milliseconds of the main thread's work from something done to a pause: in all, and in its longest piece. */
async function mainThread(page: Page, act: () => Promise<void>): Promise<{ total: number; longest: number }> {
  const browser = page.context().browser()!;
  await browser.startTracing(page, { categories: ["toplevel", "disabled-by-default-devtools.timeline"] });
  await act();
  await page.waitForTimeout(PAUSE);
  const { traceEvents } = JSON.parse((await browser.stopTracing()).toString()) as { traceEvents: TraceEvent[] };
  const main = mainThreads(traceEvents);
  const pieces = traceEvents
    .filter(({ name, pid, tid }) => name === "ThreadControllerImpl::RunTask" && main.has(`${pid} ${tid}`))
    .map(({ dur }) => (dur ?? 0) / 1000);
  return { total: pieces.reduce((sum, one) => sum + one, 0), longest: Math.max(0, ...pieces) };
}

const mainThreads = (events: readonly TraceEvent[]): ReadonlySet<string> =>
  new Set(events.filter(({ args }) => args?.name === "CrRendererMain").map(({ pid, tid }) => `${pid} ${tid}`));

/** What is read of Chromium's own trace. */
interface TraceEvent {
  name: string;
  pid: number;
  tid: number;
  /** Microseconds. */
  dur?: number;
  /** Of these the thread was at work. */
  tdur?: number;
  args?: { name?: string };
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
