/** `npm run bench [-- --json FILE]`: how long our work takes, as a share of a public library's time in the same run. */
import { execFileSync } from "node:child_process";
import { writeFileSync } from "node:fs";
import { parseArgs } from "node:util";
import { browserRows } from "./browser";
import { ROW_NAMES, rowsOf } from "./rows";
import type { Row } from "./row";

const { values } = parseArgs({ options: { json: { type: "string" } } });

const rows: Row[] = [];

function tell(row: Row): void {
  rows.push(row);
  const { name, n, ours_ms, peer_ms, ratio, peer, note } = row;
  const times = [ours_ms, peer_ms].map((ms) => (ms === null ? "" : `${ms.toFixed(1)} ms`).padStart(12)).join("");
  console.log(
    `${name.padEnd(28)}${String(n).padStart(9)}${times}${(ratio?.toFixed(1) ?? "").padStart(9)}  ${peer ?? note ?? ""}`,
  );
}

/** In a process of its own, so that its memory is its own. */
function millionRow(): Row {
  const told = execFileSync(process.execPath, ["--import", "tsx", "bench/million.ts"], { encoding: "utf8" });
  const { count, ms, megabytes } = JSON.parse(told) as { count: number; ms: number; megabytes: number };
  const note = `${Math.round(megabytes)} MB at most, the runtime included`;
  return { name: "million", n: count, ours_ms: ms, peer: null, peer_ms: null, ratio: null, note };
}

const HEAD = ["ours", "peer"].map((side) => side.padStart(12)).join("");
console.log(`${"row".padEnd(28)}${"n".padStart(9)}${HEAD}${"ratio".padStart(9)}  peer`);
for (const name of ROW_NAMES) for (const row of rowsOf(name)) tell(row);
tell(millionRow());
for (const row of await browserRows()) tell(row);
if (values.json) writeFileSync(values.json, `${JSON.stringify(rows, null, 2)}\n`);
