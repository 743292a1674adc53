/**
 * *Programs of ours as scripts*: what is told in the browser and what is measured, and what they need of the sources, put
 * together once, as the application is. Read file by file, hundreds of them would be taken apart before anything begins, and
 * what is measured would be slower than what artists run.
 */
import { rmSync } from "node:fs";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { build } from "esbuild";
import { ROOT } from "./ensure.mjs";

/** It goes by where it lies. */
const inPlace = {
  name: "in place",
  setup({ onResolve }) {
    onResolve({ filter: /\/ensure\.mjs$/ }, ({ path, resolveDir }) => ({
      path: pathToFileURL(join(resolveDir, path)).href,
      external: true,
    }));
  },
};

/**
 * @param entries files below the project, by their paths from it
 * @param folder where the scripts go, likewise, each by its own path
 */
export async function bundleScripts(entries, folder) {
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
