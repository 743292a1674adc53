/** What axe-core finds on a page, told so that one can see where. */
import type { Page } from "@playwright/test";
import { readFileSync } from "node:fs";

const SOURCE = readFileSync("node_modules/axe-core/axe.min.js", "utf8");
const RULES = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"];

interface Result {
  violations: { id: string; nodes: { html: string; target: string[]; any: { message: string }[] }[] }[];
}

/** Every violation in a line: the rule, where, and why. None where all is well. */
export async function violations(page: Page): Promise<string[]> {
  // Not as a script of the page's, which its content policy would refuse.
  await page.evaluate(SOURCE);
  const { violations } = await page.evaluate<Result, string[]>(
    (values) =>
      (window as unknown as { axe: { run: (on: Document, options: object) => Promise<Result> } }).axe.run(document, {
        runOnly: { type: "tag", values },
        resultTypes: ["violations"],
      }),
    RULES,
  );
  return violations.flatMap(({ id, nodes }) =>
    nodes.map(({ html, target, any }) => `${id}: ${target.join(" ")} ${html.slice(0, 140)} ${any[0]?.message ?? ""}`),
  );
}
