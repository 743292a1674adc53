/** Measures how fast we are: `npm run bench`; see `bench/run.ts`. */
import { ensurePackages, run } from "./ensure.mjs";

const FOLDER = ".cache/bench";

try {
  ensurePackages(true);
  const { bundleScripts } = await import("./bundles.mjs");
  const programs = ["run", "row-alone", "million", "join", "cell-thread"];
  await bundleScripts(
    programs.map((name) => `bench/${name}.ts`),
    FOLDER,
  );
  run("node", [`${FOLDER}/bench/run.mjs`, ...process.argv.slice(2)]);
} catch (error) {
  if (error.status === undefined) console.error(error.message);
  process.exit(error.status ?? 2);
}
