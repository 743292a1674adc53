/** Builds the application, unless the build there is was made from the present sources. */
import { ensureBuild, ensurePackages } from "./ensure.mjs";

try {
  ensurePackages(true);
  ensureBuild();
} catch (error) {
  console.error(error.message);
  process.exit(1);
}
