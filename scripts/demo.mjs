/** Everything from nothing to the demo scene in the browser: install, build, serve. */
import { spawn } from "node:child_process";
import { join } from "node:path";
import { ensureBuild, ensurePackages, ROOT } from "./ensure.mjs";

const port = Number(process.env.PORT ?? 3000);
try {
  ensurePackages();
  ensureBuild();
} catch (error) {
  console.error(error.message);
  process.exit(1);
}
const server = spawn(process.execPath, [join(ROOT, "scripts", "serve.mjs")], {
  cwd: ROOT,
  stdio: ["ignore", "pipe", "inherit"],
  env: { ...process.env, NODE_ENV: "production" },
});
let told = false;
server.stdout.on("data", (data) => {
  if (told || !/ready/i.test(String(data))) return;
  told = true;
  console.log(`Clothesline is ready. The demo scene: http://localhost:${port}/scene/gullhaven-regatta`);
});
server.on("exit", (code) => process.exit(code ?? 1));
for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => server.kill(signal));
