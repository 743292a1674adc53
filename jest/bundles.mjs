/**
 * *Tests as scripts*: all files of tests, and what they need of ours, put together once as the application's own build does. What
 * several of them share is one script, which whoever runs them loads and compiles once for all.
 */
import { readdirSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { build } from "esbuild";

/** What prepares whoever runs tests; see `jest.config.mjs`. */
const BEFORE = ["jest/setup.ts", "jest/expect.ts"];
const TEST = /\.test\.tsx?$/;

/** All files of tests below some folders of a project. */
const testsOf = (root, folders) =>
  folders.flatMap((folder) =>
    readdirSync(join(root, folder), { recursive: true })
      .filter((file) => TEST.test(file))
      .map((file) => join(folder, file)),
  );

/** Parts that keep something for as long as a page is open. */
const KEEPING = ["src/ui", "src/store"];

/**
 * @param root folder of the project
 * @param folder where the scripts go, each under the name of its file
 */
export async function bundleTests(root, folder) {
  const { dependencies, devDependencies } = JSON.parse(readFileSync(join(root, "package.json"), "utf8"));
  const packages = Object.keys({ ...dependencies, ...devDependencies, sharp: "" }).filter((name) => name !== "comlink");
  rmSync(folder, { recursive: true, force: true });
  const all = testsOf(root, ["src", "jest"]);
  const keeps = (file) => KEEPING.some((part) => file.startsWith(part));
  const common = {
    absWorkingDir: root,
    outdir: folder,
    outbase: root,
    outExtension: { ".js": ".mjs" },
    bundle: true,
    external: packages,
    format: "esm",
    platform: "node",
    target: "es2022",
    jsx: "automatic",
    alias: { comlink: join(root, "jest/comlink.ts") },
    sourcemap: true,
    sourcesContent: false,
    logLevel: "error",
  };
  const others = all.filter((file) => !keeps(file));
  await build({
    ...common,
    entryPoints: [...BEFORE, ...others],
    splitting: true,
    chunkNames: "shared/[hash]",
  });
  // Each has all of its own, so that what one leaves behind is not found by another.
  await build({ ...common, entryPoints: all.filter(keeps) });
}
