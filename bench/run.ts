/** `npm run bench [-- --json FILE]`: how long our work takes, as a share of a public library's time in the same run. */
import { writeFileSync } from "node:fs";
import { parseArgs } from "node:util";
import { lineContests } from "./lines";
import { compete, type Row } from "./row";

const { values } = parseArgs({ options: { json: { type: "string" } } });

const rows: Row[] = [];
console.log(
  `${"row".padEnd(18)}${"n".padStart(9)}${"ours".padStart(12)}${"peer".padStart(12)}${"ratio".padStart(9)}  peer`,
);
for (const contest of lineContests()) {
  const row = compete(contest);
  rows.push(row);
  const { name, n, ours_ms, peer_ms, ratio, peer } = row;
  const times = [ours_ms, peer_ms].map((ms) => `${ms.toFixed(1)} ms`.padStart(12)).join("");
  console.log(`${name.padEnd(18)}${String(n).padStart(9)}${times}${ratio.toFixed(1).padStart(9)}  ${peer}`);
}
if (values.json) writeFileSync(values.json, `${JSON.stringify(rows, null, 2)}\n`);
