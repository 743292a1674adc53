/** What every command needs first: packages, a build that is up to date, a browser. */
import { spawn, spawnSync } from "node:child_process";
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { createHash } from "node:crypto";
import { createServer } from "node:net";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

export const ROOT = join(dirname(fileURLToPath(import.meta.url)), "..");
const STAMP = join(ROOT, "node_modules", ".installed");
const BUILD_STAMP = join(ROOT, ".next", ".built");

process.env.NEXT_TELEMETRY_DISABLED = "1";

/** Runs a command of this project; its output goes where ours goes. Throws when it fails. */
export function run(command, args, options = {}) {
  const path = `${join(ROOT, "node_modules", ".bin")}:${process.env.PATH}`;
  const { status, error } = spawnSync(command, args, {
    cwd: ROOT,
    stdio: "inherit",
    ...options,
    env: { ...process.env, PATH: path, ...options.env },
  });
  if (error) throw error;
  if (status !== 0) throw Object.assign(new Error(`${command} ${args.join(" ")} failed`), { status: status ?? 1 });
}

/**
 * The same beside others: what it says is shown when it has ended, or at once where `live` says so. It ends when we do.
 *
 * @returns a promise that fails as {@link run} does
 */
export function runBeside(command, args, { live = false, ...options } = {}) {
  const path = `${join(ROOT, "node_modules", ".bin")}:${process.env.PATH}`;
  return new Promise((resolve, reject) => {
    const stdio = live ? "inherit" : ["ignore", "pipe", "pipe"];
    const child = spawn(command, args, { cwd: ROOT, stdio, ...options, env: { ...process.env, PATH: path } });
    const said = [];
    for (const stream of [child.stdout, child.stderr]) stream?.on("data", (part) => said.push(part));
    const end = () => child.kill();
    process.on("exit", end);
    child.on("error", reject);
    child.on("close", (status) => {
      process.off("exit", end);
      process.stdout.write(Buffer.concat(said));
      if (status === 0) resolve();
      else reject(new Error(`${command} ${args.join(" ")} failed`));
    });
  });
}

const lockHash = () =>
  createHash("sha256")
    .update(readFileSync(join(ROOT, "package-lock.json")))
    .digest("hex");

/** Installs the packages that the lock file names, unless they are there. */
export function ensurePackages(quiet = false) {
  const wanted = lockHash();
  if (existsSync(STAMP) && readFileSync(STAMP, "utf8") === wanted) return;
  if (!quiet) console.error("Installing packages…");
  // Not `npm ci`: newer ones refuse a lock file that does not list other systems' optional binaries as well.
  // Versions and hashes come from the lock file all the same. Whoever reads our standard output must not find npm's words there.
  run("npm", ["install", "--no-save", "--no-audit", "--no-fund", "--loglevel=error"], {
    stdio: ["ignore", process.stderr, process.stderr],
  });
  writeFileSync(STAMP, wanted);
}

function* filesBelow(path) {
  if (!existsSync(path)) return;
  if (!statSync(path).isDirectory()) {
    yield path;
    return;
  }
  for (const name of readdirSync(path)) yield* filesBelow(join(path, name));
}

/** A hash of everything that the build is made from. */
function sourcesHash() {
  const hash = createHash("sha256");
  const roots = ["src", "public", "next.config.ts", "postcss.config.mjs", "tsconfig.json", "package-lock.json"];
  for (const root of roots) {
    for (const file of [...filesBelow(join(ROOT, root))].sort()) {
      if (/\.test\.tsx?$/.test(file)) continue;
      hash.update(file.slice(ROOT.length)).update("\0").update(readFileSync(file)).update("\0");
    }
  }
  return hash.digest("hex");
}

/** Builds the application, unless the build there is was made from the present sources. */
export function ensureBuild() {
  const wanted = sourcesHash();
  if (existsSync(BUILD_STAMP) && readFileSync(BUILD_STAMP, "utf8") === wanted) return;
  console.error("Building…");
  run("next", ["build"]);
  bundlePlacing();
  mkdirSync(dirname(BUILD_STAMP), { recursive: true });
  writeFileSync(BUILD_STAMP, wanted);
}

/** A program of ours as one script that Node runs by itself, without Next. */
function bundle(program, script) {
  const how = ["--bundle", "--platform=node", "--format=esm", "--packages=external", "--log-level=warning"];
  run("esbuild", [program, ...how, `--outfile=${script}`]);
}

/** The process that places what is asked of the API. */
export const bundlePlacing = () => bundle("src/engine/placing/process.ts", ".next/placing.mjs");

/** The command line, put together from the sources as they are; gives the script. */
export function bundleCommandLine() {
  const script = join(ROOT, ".cache", `clothesline-${process.pid}.mjs`);
  bundle("src/cli/main.ts", script);
  return script;
}

/** Debian's Chromium without windows, which needs an eighth less for the same; else the one with them. */
const BROWSERS = ["chromium-headless-shell", "chromium"];

/** Chromium's program: what CHROMIUM names, or what there is; null where there is none. */
export const chromiumPath = () =>
  process.env.CHROMIUM ?? BROWSERS.map((name) => `/usr/bin/${name}`).find((path) => existsSync(path)) ?? null;

const INSTALLING = `apt-get install -y -qq --no-install-recommends ${BROWSERS[0]}`;

/** Installs it when it is missing and we may; otherwise fails with a line that says what to do. Others may work meanwhile. */
export async function ensureChromium() {
  const there = chromiumPath();
  if (there?.endsWith(BROWSERS[0]) || (process.env.CHROMIUM && existsSync(process.env.CHROMIUM))) return;
  if (process.getuid?.() === 0 && existsSync("/usr/bin/apt-get")) {
    console.error(`Installing Debian's ${BROWSERS[0]}…`);
    const child = spawn("sh", ["-c", there ? INSTALLING : `apt-get update -qq && ${INSTALLING}`], {
      stdio: ["ignore", "ignore", "inherit"],
      env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" },
      // Without a network, the one that is there does.
      timeout: there ? 60_000 : undefined,
    });
    // However it ends: what is there does, or the line below says what to do.
    await new Promise((resolve) => child.on("error", resolve).on("close", resolve));
  }
  if (!existsSync(chromiumPath() ?? "")) {
    throw new Error(
      `Chromium is missing. Install it with: apt-get install ${BROWSERS[0]} (or name its program in CHROMIUM).`,
    );
  }
}

/** A port that nobody listens on. */
export function freePort() {
  return new Promise((resolve, reject) => {
    const server = createServer();
    server.on("error", reject);
    server.listen(0, "127.0.0.1", () => {
      const { port } = server.address();
      server.close(() => resolve(port));
    });
  });
}
