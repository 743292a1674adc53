import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { bundleTests } from "./jest/bundles.mjs";

const ROOT = fileURLToPath(new URL(".", import.meta.url));
const SCRIPTS = join(ROOT, ".cache", "tests");

/**
 * Unit tests run in Node as it is: the core has no DOM. The runner's own sandbox makes globals slow, which kernels use in their
 * innermost loops, and loads and compiles everything anew for each file; this one goes without.
 */
export default async function config() {
  await bundleTests(ROOT, SCRIPTS);
  return {
    runner: "jest-light-runner",
    roots: [SCRIPTS],
    testMatch: ["**/*.test.mjs"],
    transform: {},
    setupFiles: [join(SCRIPTS, "jest/setup.mjs")],
    setupFilesAfterEnv: [join(SCRIPTS, "jest/expect.mjs")],
    maxWorkers: "100%",
  };
}
