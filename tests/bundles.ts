/**
 * *Stories as scripts*: all that is told in the browser, and what it needs of ours, put together once. Whoever tells them would
 * otherwise take hundreds of files apart, one after the other, before the first can begin.
 */
import { rmSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath, pathToFileURL } from "node:url";
import { build, type Plugin } from "esbuild";

const ROOT = fileURLToPath(new URL("..", import.meta.url));

/** It goes by where it lies. */
const inPlace: Plugin = {
  name: "in place",
  setup({ onResolve }) {
    onResolve({ filter: /\/scripts\/ensure\.mjs$/ }, ({ path, resolveDir }) => ({
      path: pathToFileURL(join(resolveDir, path)).href,
      external: true,
    }));
  },
};

/**
 * @param entries files below the project, by their paths from it
 * @param folder where the scripts go, likewise
 */
export async function bundleStories(entries: string[], folder: string): Promise<void> {
  rmSync(join(ROOT, folder), { recursive: true, force: true });
  await build({
    absWorkingDir: ROOT,
    entryPoints: entries,
    outdir: folder,
    outbase: ".",
    outExtension: { ".js": ".mjs" },
    bundle: true,
    packages: "external",
    plugins: [inPlace],
    format: "esm",
    platform: "node",
    target: "es2022",
    sourcemap: true,
    splitting: true,
    chunkNames: "shared/[hash]",
    logLevel: "error",
  });
}
