/** *The slots of a flat layout*, wherever a carrier takes its places. */
import { CHANNEL, drawFrom, streamOf } from "../../math";
import { sharesOf, type DensityMask } from "../gaps/density-mask";
import { drawOnField, indicesOf, wordsOf, type Key } from "../keys";
import { Slots, type Spread } from "../slots";
import type { PropChoice } from "../what/what";
import type { Carrier } from "./carrier";
import { runsOver } from "./runs";
import type { WorldMesh } from "../../mesh";
import type { FlatPlaces } from "./flat";
import type { Spacing } from "./schema";

/** What other steps say of it. */
interface LayoutNeeds {
  choice: PropChoice;
  mask: DensityMask;
  seed: number;
  pegged: ReadonlySet<Key>;
  runs: Spacing["runs"];
}

/** The slots of a flat layout on what carries it; none while there is no such thing. */
export function laidSlots(
  carrier: Carrier | null,
  places: FlatPlaces,
  needs: LayoutNeeds | null,
  ground: WorldMesh | null,
): Slots {
  if (!carrier || !needs) return withSpread(new Slots(0), 0);
  const spread = spreadFor(places.count);
  const there = new Uint8Array(places.count);
  carrier.carry(places.x, places.y, spread, there);
  const draw = new Uint32Array(places.count);
  const words = wordsOf(places.key);
  for (let i = 0; i < places.count; i++) draw[i] = drawOnField(words[2 * i], words[2 * i + 1]);
  const members = standing(there, places, draw, spread, needs);
  const slots = withSpread(new Slots(members.length), members.length);
  slots.missing = places.missing;
  const out = slots.spread!;
  members.forEach((i, o) => {
    slots.key[o] = places.key[i];
    slots.draw[o] = draw[i];
    out.ordinal[o] = i;
    out.triangle[o] = spread.triangle[i];
    out.flat![2 * o] = places.x[i];
    out.flat![2 * o + 1] = places.y[i];
    for (let k = 0; k < 3; k++) {
      out.position[3 * o + k] = spread.position[3 * i + k];
      out.normal[3 * o + k] = spread.normal[3 * i + k];
      out.ahead![3 * o + k] = spread.ahead![3 * i + k];
    }
  });
  const runs = ground && runsOver(needs.runs, ground, out);
  if (runs) out.ordinal.set(runs);
  members.forEach((_, o) => needs.choice.fill(slots.prop, slots.draw, o, o + 1, out.ordinal[o]));
  slots.at.fill(NaN);
  needs.choice.resolveMixes(slots.prop, slots.draw, 0, slots.count);
  return slots;
}

/** Those that have a place and room, by their own thresholds; what was put there by hand has room. */
function standing(
  there: Uint8Array,
  { count, key, added }: FlatPlaces,
  draw: Uint32Array,
  { position, normal, triangle }: Spread,
  { mask, seed, pegged }: LayoutNeeds,
): number[] {
  const shares = sharesOf(mask, { count, position, normal, triangle });
  for (const i of indicesOf(key, pegged)) shares[i] = 1;
  const stream = streamOf(seed, CHANNEL.gapShade);
  const members: number[] = [];
  for (let i = 0; i < count; i++)
    if (there[i] && (added[i] || drawFrom(stream, draw[i], 0) < shares[i])) members.push(i);
  return members;
}

export const spreadFor = (n: number): Spread => ({
  position: new Float64Array(3 * n),
  normal: new Float32Array(3 * n),
  triangle: new Uint32Array(n),
  ordinal: new Int32Array(n),
  size: null,
  ahead: new Float32Array(3 * n),
  flat: new Float64Array(2 * n),
});

function withSpread(slots: Slots, n: number): Slots {
  slots.spread = spreadFor(n);
  return slots;
}
