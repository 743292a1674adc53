/** Before unit tests: what a browser has and Node does not, and which cases are tried. */
import "fake-indexeddb/auto";
import fc from "fast-check";

fc.configureGlobal({
  // The same cases each time, so that a run fails for what was changed and not by chance; `SEED=7 npx jest` tries others.
  seed: Number(process.env.SEED ?? 20261125),
  // Whoever passes over what a property says nothing about may do so often: by chance most of a run can be of that sort.
  maxSkipsPerRun: 1000,
});
