/**
 * *A process that runs tests again and again*, each time with other changes switched on. What it has loaded and compiled it
 * keeps, so that a question takes little longer than the tests in it.
 *
 * Told `{ changes, files: [{ path, tests }], reach }`, it answers `{ failed, reached, took }`; see `asking.ts`.
 */
import { join } from "node:path";
import { pathToFileURL } from "node:url";

const { SCRIPTS, RUNNER, SWITCHES, CHANGES = "" } = process.env;

/** What is switched on; where that is nothing, a switch notes that it was reached, once. */
let chosen = new Set(CHANGES.split(",").filter(Boolean).map(Number));
let reached = new Set();
const [OFF, ON] = [0, 1];
const switches = new Uint8Array(Number(SWITCHES));
globalThis.__switches = switches;
globalThis.__mutant = (k) => {
  if (chosen.has(k)) return true;
  reached.add(k);
  switches[k] = OFF;
  return false;
};

function choose(changes) {
  chosen = new Set(changes);
  switches.fill(OFF);
  for (const k of changes) switches[k] = ON;
}
choose([...chosen]);

const load = (path, again = "") => import(`${pathToFileURL(path)}${again}`);
await load(join(RUNNER, "src/global-setup.js"));
const circus = await import("jest-circus");
const { default: fc } = await import("fast-check");
for (const name of ["setup", "expect"]) await load(join(SCRIPTS, "jest", `${name}.mjs`));
// That one case fails is enough.
fc.configureGlobal({ ...fc.readConfigureGlobal(), endOnFailure: true });

let loads = 0;
/** A file's tests, its own script run anew: what that keeps is kept by no other question. */
async function testsOf(path) {
  circus.resetState();
  await load(path, `?${loads++}`);
  return circus.getState().rootDescribeBlock;
}

const call = (fn) => (fn.length > 0 ? new Promise((done, no) => fn((e) => (e ? no(e) : done()))) : fn());

async function hooks(type, block, outward = false) {
  if (outward && block.parent && type.startsWith("before")) await hooks(type, block.parent, true);
  for (const hook of block.hooks) if (hook.type === type) await call(hook.fn);
  if (outward && block.parent && type.startsWith("after")) await hooks(type, block.parent, true);
}

/** Every test of a block by its whole name, between what its blocks do before and after. */
async function each(block, names, run, before = []) {
  await hooks("beforeAll", block);
  for (const child of block.children) {
    const name = [...before, child.name].join(" ");
    if (child.type === "describeBlock") await each(child, names, run, [...before, child.name]);
    else if (child.mode !== "skip" && (!names || names.has(name))) {
      expect.setState?.({ currentTestName: name, suppressedErrors: [] });
      await run(name, async () => {
        await hooks("beforeEach", block, true);
        await call(child.fn);
        await hooks("afterEach", block, true);
      });
    }
  }
  await hooks("afterAll", block);
}

const taken = () => {
  const all = [...reached];
  reached = new Set();
  switches.fill(ON);
  return all;
};

/** Runs one file's tests; the name of the first that fails, an empty one for the file itself, or null. */
async function failing({ path, tests }, told) {
  const names = tests && new Set(tests);
  let failed = null;
  try {
    const block = await testsOf(path);
    told?.(null, 0);
    await each(block, names, async (name, run) => {
      if (failed !== null) return;
      const start = performance.now();
      try {
        await run();
      } catch (error) {
        failed = name;
        if (told) console.error(name, error);
      }
      told?.(name, performance.now() - start);
    });
  } catch (error) {
    failed ??= "";
    if (told) console.error(path, error);
  }
  return failed;
}

process.on("message", async ({ changes, files, reach }) => {
  choose(changes);
  const notes = [];
  let failed = null;
  for (const file of files) {
    if (reach) {
      // What is reached only the first time that a script is loaded is reached by whatever loads it.
      taken();
      await testsOf(file.path).catch(() => undefined);
      const first = taken();
      failed = await failing(file, (name, ms) => notes.push({ path: file.path, name, ms, reached: taken() }));
      notes.push({ path: file.path, first });
    } else failed = await failing(file);
    if (failed !== null && !reach) {
      process.send({ failed: { path: file.path, name: failed }, notes });
      return;
    }
    if (failed !== null) notes.push({ path: file.path, fails: failed });
  }
  process.send({ failed: null, notes });
});
process.send("ready");
