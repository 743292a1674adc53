/** `npm run bench [-- --json FILE] [--only ROW …]`: how long our work takes, as a share of a public library's time in the same run. */
import { writeFileSync } from "node:fs";
import { parseArgs } from "node:util";
import { sayingOf } from "./alone";
import { BROWSER_ROWS, browserRows } from "./browser";
import { ROW_NAMES, rowsOf } from "./rows";
import type { Row } from "./row";

const { values } = parseArgs({ options: { json: { type: "string" }, only: { type: "string", multiple: true } } });
const MILLION = "million";
const JOIN = "join-tubes";
const known = [...ROW_NAMES, JOIN, MILLION, ...BROWSER_ROWS];
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

function millionRow(): Row {
  const told = sayingOf("million");
  const { count, ms, megabytes } = JSON.parse(told) as { count: number; ms: number; megabytes: number };
  const note = `${Math.round(megabytes)} MB at most, the runtime included`;
  return { name: MILLION, n: count, ours_ms: ms, peer: null, peer_ms: null, ratio: null, note };
}

/** With threads of its own; the peer needs up to 4 GB, so it joins fewer tubes than are asked for in all. */
function joinRow(): Row {
  const TUBES = 200;
  const told = sayingOf("join", String(TUBES));
  type Joined = { ms: number; again: number; open: number };
  const { ours, theirs, hundred, whole } = JSON.parse(told) as Record<"ours" | "theirs" | "hundred" | "whole", Joined>;
  const said = (name: string, { ms, again, open }: Joined) =>
    `${name} ${(ms / 1000).toFixed(1)} s, one changed ${(again / 1000).toFixed(2)} s${open > 0 ? `, ${open} OPEN` : ""}`;
  const note = [said("200", ours), said("100", hundred), said("500 and a shell", whole)].join("; ");
  console.log(`${JOIN}: ${note}`);
  const peer = "manifold-3d, union of the whole list";
  return { name: JOIN, n: TUBES, ours_ms: ours.ms, peer, peer_ms: theirs.ms, ratio: theirs.ms / ours.ms, note };
}

const HEAD = ["ours", "peer"].map((side) => side.padStart(12)).join("");
console.log(`${"row".padEnd(28)}${"n".padStart(9)}${HEAD}${"ratio".padStart(9)}  peer`);
for (const name of ROW_NAMES.filter(wanted)) for (const row of rowsOf(name)) tell(row);
if (wanted(JOIN)) tell(joinRow());
if (wanted(MILLION)) tell(millionRow());
for (const row of await browserRows(BROWSER_ROWS.filter(wanted))) tell(row);
if (values.json) writeFileSync(values.json, `${JSON.stringify(rows, null, 2)}\n`);
