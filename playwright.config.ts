import { defineConfig } from "@playwright/test";
import { LAUNCH_QUICK, SCREEN } from "./tests/browser";
import { bundleScripts } from "./scripts/bundles.mjs";

const port = process.env.PORT ?? "3100";

const STORIES = ".cache/stories";
// Once, by who sees to it that they are told.
if (process.env.TEST_WORKER_INDEX === undefined)
  await bundleScripts(["tests/*.spec.ts", "scripts/screenshots.ts"], STORIES);

export default defineConfig({
  testDir: `${STORIES}/tests`,
  testMatch: "*.spec.mjs",
  build: { external: [`**/${STORIES}/**`] },
  // Software rendering waits as much as it works, so two at once take three quarters of the time.
  workers: 2,
  fullyParallel: true,
  timeout: 180_000,
  expect: { timeout: 45_000 },
  forbidOnly: true,
  retries: 0,
  outputDir: "test-results",
  use: {
    baseURL: `http://localhost:${port}`,
    viewport: SCREEN,
    // A quarter of the pixels: software draws them, and takes most of the time for it.
    deviceScaleFactor: 0.5,
    serviceWorkers: "block",
    launchOptions: LAUNCH_QUICK,
    acceptDownloads: true,
  },
  webServer: {
    command: "node scripts/serve.mjs",
    env: { PORT: port, NODE_ENV: "production" },
    url: `http://localhost:${port}/`,
    reuseExistingServer: false,
    stdout: "ignore",
  },
});
