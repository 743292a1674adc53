/**
 * The browser is killed at random moments, also while the page is busy: no edit that is older than 300 ms is lost, and the
 * scene opens. `KILLS=200 npx playwright test kills` tries more.
 */
import { chromium, expect, test, type Page } from "@playwright/test";
import { spawn, type ChildProcess } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { drawFrom, streamOf } from "../src/core/math";
import { LAUNCH_QUICK, SCREEN } from "./browser";
import { addProp, drawLine, propCount, settled } from "./table";

const KILLS = Number(process.env.KILLS ?? 6);
/** An edit this old, milliseconds since the store had it, has to be there again. */
const OLD = 300;

/** A browser in processes of its own, with a profile that outlives it. */
async function browserOn(profile: string): Promise<{ process: ChildProcess; page: Page }> {
  const told = join(profile, "DevToolsActivePort");
  rmSync(told, { force: true });
  const args = ["--headless=new", "--remote-debugging-port=0", `--user-data-dir=${profile}`, "about:blank"];
  const process = spawn(LAUNCH_QUICK.executablePath, [...LAUNCH_QUICK.args, ...args], {
    detached: true,
    stdio: "ignore",
  });
  await expect.poll(() => existsSync(told) && readFileSync(told, "utf8").includes("\n")).toBe(true);
  const browser = await chromium.connectOverCDP(`http://127.0.0.1:${readFileSync(told, "utf8").split("\n")[0]}`);
  const [context] = browser.contexts();
  const page = context.pages()[0] ?? (await context.newPage());
  await page.setViewportSize(SCREEN);
  return { process, page };
}

/** Moments that differ from run to run; the seed is told, so that a run can be had again. */
const SEED = Number(process.env.SEED ?? Date.now() % 1e6);
let drawn = 0;
const next = () => drawFrom(streamOf(SEED, 0), drawn++, 0);

test("whenever the browser is killed, nothing older than 300 ms is lost", async ({ baseURL }) => {
  test.setTimeout(120_000 + KILLS * 30_000);
  const profile = mkdtempSync(join(tmpdir(), "profile-"));
  let { process: running, page } = await browserOn(profile);
  try {
    await page.goto(baseURL!);
    await page.getByRole("button", { name: "New scene" }).click();
    await page.waitForURL(/\/scene\/[0-9a-f]+/);
    await settled(page);
    await addProp(page);
    await drawLine(page, [
      [480, 520],
      [900, 470],
    ]);
    await expect.poll(() => propCount(page)).toBeGreaterThan(3);
    const address = page.url();
    const field = () => page.getByRole("textbox", { name: "Every", exact: true });
    for (let kill = 0; kill < KILLS; kill++) {
      const notes: { value: number; at: number }[] = [];
      await page.exposeFunction("note", (value: number, at: number) => void notes.push({ value, at }));
      await field().focus();
      await field().evaluate((input: HTMLInputElement) => {
        const told = () =>
          (window as unknown as { note(value: number, at: number): void }).note(parseFloat(input.value), Date.now());
        input.addEventListener("keyup", told);
        told();
      });
      const end = Date.now() + 400 + next() * 1000;
      const busy = next() < 0.4;
      while (Date.now() < end || notes.length < 4) {
        await page.keyboard.press("ArrowUp");
        await new Promise((resolve) => setTimeout(resolve, next() * 80));
      }
      if (busy) {
        // The page does nothing else from now on, and is killed in the middle of it.
        void page.evaluate(() => { const from = Date.now(); while (Date.now() - from < 3000); }).catch(() => undefined); // prettier-ignore
        await new Promise((resolve) => setTimeout(resolve, 350 + next() * 900));
      }
      const killed = Date.now();
      process.kill(-running.pid!, "SIGKILL");
      const old = notes.filter(({ at }) => at < killed - OLD).at(-1)!;
      expect(notes.length).toBeGreaterThan(2);
      ({ process: running, page } = await browserOn(profile));
      await page.goto(address);
      await settled(page);
      await page
        .getByRole("button", { name: /^Spacing/ })
        .first()
        .isVisible();
      await expect(field()).toBeVisible();
      const now = parseFloat(await field().inputValue());
      expect(now, `seed ${SEED}, kill ${kill}${busy ? ", busy" : ""}`).toBeGreaterThanOrEqual(old.value);
    }
  } finally {
    try {
      process.kill(-running.pid!, "SIGKILL");
    } catch {
      // It has ended.
    }
    await new Promise((resolve) => setTimeout(resolve, 300));
    rmSync(profile, { recursive: true, force: true });
  }
});
