/** Checks: what can be wrong with a dressing, and where. */
import { lineTooShort } from "./line-too-short";
import { tooClose } from "./too-close";
import { tooMany } from "./too-many";
import type { Check, Checked, Finding } from "./finding";

export type { Checked, Finding } from "./finding";

/** All checks, in the order in which their findings are listed. */
const CHECKS: readonly Check[] = [lineTooShort, tooMany, tooClose];

export const CHECK_LABELS: Readonly<Record<string, string>> = Object.fromEntries(
  CHECKS.map((check) => [check.name, check.label]),
);

/** Everything that the checks find on one dressing. */
export const findings = (checked: Checked): Finding[] => CHECKS.flatMap((check) => check.find(checked));
