/**
 * `npm run blind-inputs [-- --edits 300]`: takes the inputs of all nodes and steps out of account, one at a time, and says
 * for which of them the fuzz test notices nothing. Ends with 1 where there are any.
 */
import { parseArgs } from "node:util";
import { fuzz } from "../src/engine/fuzz/run";

const { values } = parseArgs({
  options: {
    edits: { type: "string", default: "300" },
    only: { type: "string" },
    seeds: { type: "string", default: "1" },
  },
});
const edits = Number(values.edits);

async function main(): Promise<void> {
  const inputs = new Set<string>();
  const whole = await fuzz({
    edits,
    seed: 1,
    ignoring: (node, input) => {
      inputs.add(`${node} ← ${input}`);
      return false;
    },
  });
  if (whole) throw new Error(whole);
  const blind: string[] = [];
  const asked = [...inputs].sort().filter((one) => !values.only || one.startsWith(values.only));
  for (const one of asked) {
    const start = performance.now();
    let noticed: string | null = null;
    for (let seed = 1; seed <= Number(values.seeds) && !noticed; seed++) {
      noticed = await fuzz({ edits, seed, ignoring: (node, input) => `${node} ← ${input}` === one }).catch(String);
    }
    if (!noticed) blind.push(one);
    console.log(`${noticed ? "noticed" : "UNNOTICED"}  ${one}  ${((performance.now() - start) / 1000).toFixed(1)} s`);
  }
  console.log(
    `\n${asked.length} inputs, ${blind.length} of them unnoticed${blind.length > 0 ? `: ${blind.join("; ")}` : ""}.`,
  );
  process.exitCode = blind.length > 0 ? 1 : 0;
}

void main();
