/**
 * *A test file as one script with all of ours that it imports*, put together as the application's own build does. Module by
 * module every name that another file exports is looked up anew wherever it is used, which kernels do in their innermost
 * loops, and some hundred modules are found, read and wrapped for each test file.
 */
import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import swc from "@swc/jest";
import { buildSync } from "esbuild";
import { SWC } from "./swc.mjs";

/** Packages that come as ES modules only, which the runner does not require: they become part of the script. */
const MODULES = /^(@gltf-transform\/|@noble\/hashes$|earcut$|fast-png$|ktx-parse$|meshoptimizer$|three)/;
const { dependencies, devDependencies } = JSON.parse(readFileSync(new URL("../package.json", import.meta.url), "utf8"));
const external = Object.keys({ ...dependencies, ...devDependencies }).filter((name) => !MODULES.test(name));
external.push("sharp");

const alone = swc.createTransformer(SWC);
/** What a test replaces by something of its own has to be a module of its own. */
const replaces = (source) => source.includes("jest.mock(");

/** Where nothing is changed from run to run, whoever runs tests says so, and what was put together is taken again. */
const stays = process.env.SOURCES_STAY === "1";
/** What was put together last: it is asked for right after. */
let last = { path: "", code: "" };

function bundled(path) {
  const { outputFiles } = buildSync({
    entryPoints: [path],
    bundle: true,
    external,
    write: false,
    format: "cjs",
    platform: "node",
    target: "es2022",
    jsx: "automatic",
    sourcemap: "inline",
    sourcesContent: false,
    // The runner's sandbox knows no import() of its own.
    supported: { "dynamic-import": false },
    // Looked up in the sandbox, they take longer than the sums they stand in.
    banner: { js: "const NaN = 0 / 0, Infinity = 1 / 0;" },
    logLevel: "error",
  });
  return outputFiles[0].text;
}

const hashed = (text) => createHash("sha1").update(text).digest("hex");

const transformer = {
  getCacheKey(source, path, options) {
    if (replaces(source)) return alone.getCacheKey(source, path, options);
    if (stays) return hashed(`${path} ${source}`);
    // What is imported is part of the script, so that it is known by what came out.
    const code = bundled(path);
    last = { path, code };
    return hashed(`${path} ${code}`);
  },
  process(source, path, options) {
    if (replaces(source)) return alone.process(source, path, options);
    return { code: last.path === path ? last.code : bundled(path) };
  },
};

export default transformer;
