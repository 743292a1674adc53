/** Before each file of unit tests. */
import fc from "fast-check";

// Whoever passes over what a property says nothing about may do so often: by chance most of a run can be of that sort.
fc.configureGlobal({ maxSkipsPerRun: 1000 });
