/** The command line: `npm run -s clothesline -- --help`. */
import { rmSync } from "node:fs";
import { bundleCommandLine, ensurePackages, run } from "./ensure.mjs";

let script;
try {
  ensurePackages(true);
  script = bundleCommandLine();
  run(process.execPath, [script, ...process.argv.slice(2)]);
} catch (error) {
  if (error.status === undefined) console.error(error.message);
  process.exitCode = error.status ?? 2;
} finally {
  if (script) rmSync(script);
}
