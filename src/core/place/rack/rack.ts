/** What a dressing says of its rack, as the steps that need it are given it. */
import { pick } from "../../schema";
import type { Dressing } from "../schema";
import type { Sources } from "../sources";
import type { Rack } from "./columns";
import type { Standing } from "./stand";

/** How many stand there; null where nothing is stacked. */
export function rackOf({ where, spacing, gaps, variation }: Dressing, from: Sources): Rack | null {
  if (!where.stacked) return null;
  const many = (way: "deep" | "high") => {
    const [by, line] = [where[`${way}By`], where[`${way}Line`]];
    const long = by === "line" && line !== null ? from.rest.guide(line)?.curve.length : undefined;
    // Without its line it is as many as it would be by number.
    const isNumber = by === "number" || (by === "line" && long === undefined);
    const metres = long === undefined ? where[`${way}Into`] : ([long, long] as const);
    return { number: isNumber ? where[way] : null, metres };
  };
  const deep = { ...many("deep"), room: spacing.roomBehind, less: gaps.lessBack };
  const high = { ...many("high"), room: spacing.roomAbove, less: gaps.lessTop };
  return { deep, high, ...pick(where, ["columnOf", "levels", "levelOf"]), seed: variation.seed };
}

export const standingOf = ({ where, spacing, stance }: Dressing): Standing => ({
  ...pick(where, ["meetsRack", "backLies", "levelRise"]),
  ...pick(spacing, ["roomBehind", "roomAbove"]),
  hangs: stance.meetsUp === "top",
});
