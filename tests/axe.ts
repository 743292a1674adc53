/** What axe-core finds on a page, told so that one can see where. */
import type { Page } from "@playwright/test";
import { readFileSync } from "node:fs";

const SOURCE = readFileSync("node_modules/axe-core/axe.min.js", "utf8");
const TAGS = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"];

interface Result {
  violations: { id: string; nodes: { html: string; target: string[]; any: { message: string }[] }[] }[];
}

export interface Looked {
  /** Of some rules alone. */
  rules?: string[];
  /** Within what this selector names alone. */
  within?: string;
}

/** Every violation in a line: the rule, where, and why. None where all is well. */
export async function violations(page: Page, { rules, within }: Looked = {}): Promise<string[]> {
  // Not as a script of the page's, which its content policy would refuse.
  if (!(await page.evaluate(() => "axe" in window))) await page.evaluate(SOURCE);
  const runOnly = rules ? { type: "rule", values: rules } : { type: "tag", values: TAGS };
  const { violations } = await page.evaluate<Result, { within?: string; options: object }>(
    ({ within, options }) =>
      (window as unknown as { axe: { run: (on: Document | string, options: object) => Promise<Result> } }).axe.run(
        within ?? document,
        options,
      ),
    { within, options: { runOnly, resultTypes: ["violations"] } },
  );
  return violations.flatMap(({ id, nodes }) =>
    nodes.map(({ html, target, any }) => `${id}: ${target.join(" ")} ${html.slice(0, 140)} ${any[0]?.message ?? ""}`),
  );
}
