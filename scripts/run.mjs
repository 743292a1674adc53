/** Runs a program of the project after making sure that its packages are there: `node scripts/run.mjs tsx file.ts …`. */
import { ensurePackages, run } from "./ensure.mjs";

try {
  ensurePackages(true);
  const [program, ...args] = process.argv.slice(2);
  run(program, args);
} catch (error) {
  if (error.status === undefined) console.error(error.message);
  process.exit(error.status ?? 2);
}
