/**
 * *One table for many stories*: each is told in a scene of its own, in the page in which the last one was told, as an artist
 * goes from scene to scene in a day. Loading a page takes as long as half a story. What is about the browser itself, its
 * storage, the list of scenes or several pages at once takes a page of its own, from Playwright.
 */
import { test as base, expect, type Page } from "@playwright/test";

export { expect, type Locator, type Page } from "@playwright/test";

/** What the browser says when a page does what its policy forbids. */
export const REFUSED = /Content Security Policy|Refused to/;

const HELD = ["Shift", "Control", "Alt"];

export const test = base.extend<object, { table: Page }>({
  table: [
    async ({ browser }, give, { project }) => {
      const { baseURL, viewport, deviceScaleFactor, serviceWorkers, acceptDownloads } = project.use;
      const context = await browser.newContext({
        baseURL,
        viewport,
        deviceScaleFactor,
        serviceWorkers,
        acceptDownloads,
      });
      await give(await context.newPage());
      await context.close();
    },
    { scope: "worker" },
  ],
  page: async ({ table }, give, info) => {
    const refused: string[] = [];
    table.on("console", (message) => {
      if (REFUSED.test(message.text())) refused.push(message.text());
    });
    await give(table);
    if (info.status !== info.expectedStatus) await table.screenshot({ path: info.outputPath("failed.png") });
    table.removeAllListeners();
    await table.mouse.up();
    for (const key of HELD) await table.keyboard.up(key);
    expect(refused).toEqual([]);
  },
  context: ({ table }, give) => give(table.context()),
});
