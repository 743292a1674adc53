/** The command line; see `run.ts` for what it does. */
import { run } from "./run";

void run(process.argv.slice(2), {
  out: (written) => process.stdout.write(written),
  error: (sentence) => process.stderr.write(sentence),
}).then((code) => (process.exitCode = code));
