/** All checks, in the order in which they are quickest to tell that something is wrong. */
import { mkdirSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { ensureChromium, ensurePackages, freePort, ROOT, run, runBeside } from "./ensure.mjs";

const counts = { passed: 0, failed: 0 };
const cache = join(ROOT, ".cache");
mkdirSync(cache, { recursive: true });

async function jest() {
  const report = join(cache, "jest.json");
  rmSync(report, { force: true });
  try {
    // A limit for what hangs, not for what is slow.
    await runBeside("jest", ["--json", `--outputFile=${report}`], { live: true, timeout: 1_200_000 });
  } finally {
    const { numPassedTests, numFailedTests } = JSON.parse(readFileSync(report, "utf8"));
    counts.passed += numPassedTests;
    counts.failed += numFailedTests;
  }
}

async function playwright() {
  const report = join(cache, "playwright.json");
  rmSync(report, { force: true });
  const env = { PORT: String(await freePort()), PLAYWRIGHT_JSON_OUTPUT_NAME: report };
  try {
    run("playwright", ["test", "--reporter=list,json"], { env });
  } finally {
    const { expected, unexpected, flaky } = JSON.parse(readFileSync(report, "utf8")).stats;
    counts.passed += expected + flaky;
    counts.failed += unexpected;
  }
}

/** What only reads the sources: all at once. */
const CHECKS = [
  ["oxlint", ["--deny-warnings"]],
  // Version 7 checks types in a fifth of the time; what works with a compiler as a library still needs the one before.
  ["node", ["node_modules/typescript-7/bin/tsc", "--noEmit", "--incremental", "false"]],
  ["oxfmt", ["--check"]],
  ["depcruise", ["src", "bench", "--config", ".dependency-cruiser.cjs"]],
  ["knip", []],
];

/** Fetched while packages are, and while what needs none is run; it is waited for where it is needed. */
const browser = ensureChromium();
browser.catch(() => undefined);

/** Beside each other, since neither has work for all processors all the time. */
const unitTestsAndBuild = () => Promise.all([jest(), runBeside("node", ["scripts/build.mjs"])]);

const STEPS = [
  ["packages", ensurePackages],
  ["types of routes", () => run("next", ["typegen"], { stdio: ["ignore", "ignore", "inherit"] })],
  ["format, types, lint, layers, unused code", () => Promise.all(CHECKS.map((check) => runBeside(...check)))],
  ["unit tests and production build", unitTestsAndBuild],
  ["browser", () => browser],
  ["end-to-end tests", playwright],
];

const done = [];
for (const [name, step] of STEPS) {
  const start = performance.now();
  console.log(`\n▸ ${name}`);
  try {
    await step();
  } catch (error) {
    console.error(error.message);
    console.log(`\nPassed: ${done.join(", ") || "nothing"}. Failed: ${name}.`);
    console.log(`${counts.passed} passed, ${Math.max(1, counts.failed)} failed`);
    process.exit(1);
  }
  done.push(name);
  console.log(`  ${name}: ${((performance.now() - start) / 1000).toFixed(1)} s`);
}
console.log(`\nPassed: ${done.join(", ")}.`);
console.log(`${counts.passed} passed, 0 failed`);
