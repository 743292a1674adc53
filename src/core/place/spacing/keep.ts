/**
 * *What was there, said another way*: when the kind of amount is changed (distance, count, density …), its number becomes the one
 * that gives as nearly as can be what there is.
 */
import { pitchFor } from "./sample-surface";
import type { Placements } from "../placements";
import type { Sight } from "../sight";
import type { Spacing } from "./schema";

type Along = Pick<Placements, "count" | "line" | "at" | "lineLengths" | "lineClosed">;

/** A number that was chosen by hand and is as near as this to the one that is meant stays. */
const NEAR = 0.05;
/** Distances become shorter by less than this, metres, so that rounding never costs the last one. */
const FINE = 1e-5;
/** A list has no more places than can be read. */
const MOST_LISTED = 1000;

/** The spacing over surfaces, or inside volumes, with another kind of amount. */
export function keepAmount(
  spacing: Spacing,
  amount: Spacing["amount"],
  { count, free }: Pick<Placements, "count"> & Pick<Sight, "free">,
  solid: boolean,
): Partial<Spacing> {
  if (amount === spacing.amount || count === 0) return { amount };
  if (amount === "count") return { amount, count };
  if (!(free > 0)) return { amount };
  const [fewest, most] = spacing.clusters ? spacing.clusterCount : [1, 1];
  const density = (2 * count) / (fewest + most) / free;
  if (amount === "density") return { amount, [solid ? "perVolume" : "perArea"]: Number(density.toPrecision(4)) };
  const distance = pitchFor(spacing.pattern, density, solid);
  const kept = Math.abs(distance - spacing.distance) < NEAR * distance;
  return { amount, distance: kept ? spacing.distance : Number(distance.toPrecision(3)) };
}

/** The spacing along lines with another rule. */
export function keepRule(spacing: Spacing, by: Spacing["by"], there: Along): Partial<Spacing> {
  const { count, line, at, lineLengths, lineClosed } = there;
  if (by === spacing.by || count === 0) return { by };
  const rows = spacing.together ? 1 : Math.max(1, lineLengths.length);
  const each = Math.max(1, Math.round(count / rows));
  if (by === "count") return { by, count: each };
  const insets = spacing.fromStart + spacing.fromEnd;
  const length = spacing.together ? lineLengths.reduce((sum, one) => sum + one, 0) : (lineLengths[0] ?? 0);
  const round = lineClosed[0] === true && insets === 0 && rows === lineLengths.length;
  const ways = round ? each : each - 1;
  if (by === "divide") return { by, parts: Math.max(1, ways), every: 1, begin: 0 };
  if (by === "list") {
    const places = Array.from(at.subarray(0, MOST_LISTED)).filter((_, i) => line[i] === 0);
    // Rounded down, so that the last one does not come to lie past the end.
    return { by, list: places.map((place) => Math.floor(1000 * place + 1e-6) / 1000).sort((a, b) => a - b) };
  }
  // A distance says the same as a density of one.
  const asDistance =
    spacing.by === "distance" || spacing.by === "density" || by === "end" || by === "each" || by === "knots";
  if (asDistance || ways === 0) return { by };
  const distance = Math.floor((length - insets) / ways / FINE) * FINE;
  return distance > 0 ? { by, distance: Number(distance.toFixed(5)) } : { by };
}
