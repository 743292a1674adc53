import { execFileSync } from "node:child_process";

/** What another program of this folder says, run in a process of its own, so that its memory is its own. */
export const sayingOf = (program: string, ...args: string[]): string =>
  execFileSync(process.execPath, [`.cache/bench/bench/${program}.mjs`, ...args], { encoding: "utf8" });
