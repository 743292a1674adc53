/** `npm run dev`: the development server, for this machine alone unless `HOST` says otherwise. */
import { bundlePlacing, ensurePackages, run } from "./ensure.mjs";

ensurePackages(true);
bundlePlacing();
run("next", ["dev", "--hostname", process.env.HOST ?? "127.0.0.1", ...process.argv.slice(2)]);
