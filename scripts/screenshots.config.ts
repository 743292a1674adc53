/** Pictures are taken with the same browser and server as the tests. */
import { fileURLToPath } from "node:url";
import base from "../playwright.config";

const root = fileURLToPath(new URL("..", import.meta.url));

const config = {
  ...base,
  testDir: "../.cache/stories/scripts",
  testMatch: "screenshots.mjs",
  outputDir: "../test-results",
  // One after the other, so that nothing is taken while it still waits for the processor.
  workers: 1,
  fullyParallel: false,
  use: {
    ...base.use,
    deviceScaleFactor: 1,
    // Drawn as on a machine with graphics hardware, which this one may lack.
    storageState: {
      cookies: [],
      origins: [{ origin: base.use!.baseURL!, localStorage: [{ name: "fineness", value: "full" }] }],
    },
  },
  webServer: { ...base.webServer, cwd: root },
};

export default config;
