/** Takes all pictures of docs/screenshots anew, and the demo scene's own picture in public/: `npm run screenshots`. */
import { ensureBuild, ensureChromium, ensurePackages, freePort, run } from "./ensure.mjs";

try {
  ensurePackages();
  await ensureChromium();
  ensureBuild();
  run("playwright", ["test", "--config", "scripts/screenshots.config.ts", ...process.argv.slice(2)], {
    env: { PORT: String(await freePort()) },
  });
} catch (error) {
  console.error(error.message);
  process.exit(1);
}
