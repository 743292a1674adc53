/** Errors that an artist is meant to read. */
import type { z } from "zod";

/** *Something from outside could not be taken.* The message is one or two plain sentences: what, why, and what would do. */
export class InputError extends Error {
  override name = "InputError";
}

/** The first complaint of Zod as one sentence: which field, what is wrong with it and, where it is told, what it was. */
export function sentenceOf(error: z.ZodError): string {
  const [first, ...others] = error.issues;
  const where = first.path.length > 0 ? `${fieldOf(first.path)}: ` : "";
  const was = ["number", "string", "boolean"].includes(typeof first.input)
    ? `; it is ${JSON.stringify(first.input)}`
    : "";
  const more = others.length > 0 ? ` (and ${others.length} more)` : "";
  return `${where}${first.message}${was}${more}`;
}

function fieldOf(path: readonly PropertyKey[]): string {
  return path
    .map((part) => (typeof part === "number" ? `[${part}]` : `.${String(part)}`))
    .join("")
    .replace(/^\./, "");
}
