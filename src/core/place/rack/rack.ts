/** What a dressing says of its rack, as the steps that need it are given it. */
import { pick } from "../../schema";
import type { Dressing } from "../schema";
import type { Sources } from "../sources";
import type { Rack } from "./columns";
import type { Standing } from "./stand";

/** How many stand there; null where nothing is stacked. */
export function rackOf({ where, spacing, gaps, variation }: Dressing, from: Sources): Rack | null {
  if (!where.stacked) return null;
  const long = (line: string | null) => {
    const metres = (line === null ? undefined : from.rest.guide(line))?.curve.length ?? 0;
    return [metres, metres] as const;
  };
  const deep = {
    number: where.deepBy === "number" ? where.deep : null,
    metres: where.deepBy === "line" ? long(where.deepLine) : where.deepInto,
    room: spacing.roomBehind,
    less: gaps.lessBack,
  };
  const high = {
    number: where.highBy === "number" ? where.high : null,
    metres: where.highBy === "line" ? long(where.highLine) : where.highInto,
    room: spacing.roomAbove,
    less: gaps.lessTop,
  };
  return { deep, high, ...pick(where, ["columnOf", "levels", "levelOf"]), seed: variation.seed };
}

export const standingOf = ({ where, spacing, stance }: Dressing): Standing => ({
  ...pick(where, ["meetsRack", "backLies", "levelRise"]),
  ...pick(spacing, ["roomBehind", "roomAbove"]),
  hangs: stance.meetsUp === "top",
});
