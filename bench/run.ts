/** `npm run bench [-- --json FILE] [--only ROW …]`: how long our work takes, as a share of a public library's time in the same run. */
import { execFileSync } from "node:child_process";
import { writeFileSync } from "node:fs";
import { parseArgs } from "node:util";
import { BROWSER_ROWS, browserRows } from "./browser";
import { ROW_NAMES, rowsOf } from "./rows";
import type { Row } from "./row";

const { values } = parseArgs({ options: { json: { type: "string" }, only: { type: "string", multiple: true } } });
const MILLION = "million";
const known = [...ROW_NAMES, MILLION, ...BROWSER_ROWS];
for (const name of values.only ?? [])
  if (!known.includes(name)) throw new Error(`There is no row “${name}”: ${known.join(", ")}.`);
const wanted = (name: string) => values.only === undefined || values.only.includes(name);

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
  return { name: MILLION, n: count, ours_ms: ms, peer: null, peer_ms: null, ratio: null, note };
}

const HEAD = ["ours", "peer"].map((side) => side.padStart(12)).join("");
console.log(`${"row".padEnd(28)}${"n".padStart(9)}${HEAD}${"ratio".padStart(9)}  peer`);
for (const name of ROW_NAMES.filter(wanted)) for (const row of rowsOf(name)) tell(row);
if (wanted(MILLION)) tell(millionRow());
for (const row of await browserRows(BROWSER_ROWS.filter(wanted))) tell(row);
if (values.json) writeFileSync(values.json, `${JSON.stringify(rows, null, 2)}\n`);
