/** What a dressing says of its rack, as the steps that need it are given it. */
import { pick } from "../../schema";
import type { Dressing } from "../schema";
import type { Sources } from "../sources";
import type { Rack } from "./columns";
import type { Standing } from "./stand";
import type { Where } from "../where/schema";

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
  return { deep, high, levels: heightsOf(where).length, ...pick(where, ["columnOf", "levelOf"]), seed: variation.seed };
}

/** How high each level lies above the line, metres; one on the line where none is listed. */
export function heightsOf({ levelsBy, levelAt, levels, levelRise }: Where): readonly number[] {
  if (levelsBy === "heights") return levelAt.length > 0 ? levelAt : [0];
  return Array.from({ length: levels }, (_, level) => level * levelRise);
}

export const standingOf = ({ where, spacing, stance }: Dressing): Standing => ({
  ...pick(where, ["meetsRack", "backLies"]),
  heights: heightsOf(where),
  ...pick(spacing, ["roomBehind", "roomAbove"]),
  hangs: stance.meetsUp === "top",
});
