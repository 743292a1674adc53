/** What was sown by hand, as slots: at their places whatever the spacing says, and by the mix and the limits of their dressing. */
import { fromOwn, type Field } from "../../host";
import { CHANNEL, drawFrom, streamOf, type Vec3 } from "../../math";
import type { Met } from "../../mesh";
import { sharesOf, type DensityMask } from "../gaps/density-mask";
import { ADDED_TAG, drawOnField, fieldHost, hostOfKey, keyOf, placeOfKey, tagOfKey, wordsOf, type Key } from "../keys";
import { Slots, withRoomFor } from "../slots";
import { eachThere } from "./packed";
import type { PropChoice } from "../what/what";
import type { Sowing } from "./schema";

/** What a place of a stroke is known by. */
export const sownKey = (number: number, index: number): Key => keyOf(fieldHost(ADDED_TAG, number), index);

/** The stroke that a key is of, and which of its places; null where it is of none. */
export function sownBy(key: Key): { number: number; index: number } | null {
  const number = hostOfKey(key) - fieldHost(ADDED_TAG, 0);
  return tagOfKey(key) === ADDED_TAG && number > 0 ? { number, index: placeOfKey(key) >>> 0 } : null;
}

/** The places of a stroke as they are on their field. */
export interface Located {
  count: number;
  /** Which of the stroke's places each is: n. */
  index: Uint32Array;
  /** World coordinates, metres: 3n. */
  position: Float64Array;
  normal: Float32Array;
  triangle: Uint32Array;
}

/** Finds the places of a stroke on the field that it lies on: the nearest of the surface, however that has changed. */
export function located({ from, places }: Pick<Sowing, "from" | "places">, field: Field): Located {
  const own: number[] = [];
  const index: number[] = [];
  eachThere(places, (i, x, y, z) => {
    index.push(i);
    own.push(from[0] + x, from[1] + y, from[2] + z);
  });
  const count = index.length;
  const position = new Float64Array(3 * count);
  const normal = new Float32Array(3 * count);
  const triangle = new Uint32Array(count);
  const met: Met = { triangle: -1, x: 0, y: 0, z: 0 };
  const face = new Float64Array(3);
  for (let k = 0; k < count; k++) {
    const [x, y, z]: Vec3 = fromOwn(field, [own[3 * k], own[3 * k + 1], own[3 * k + 2]]);
    position.set([x, y, z], 3 * k);
    normal[3 * k + 1] = 1;
    if (field.free) continue;
    field.ground.tree.nearest(x, y, z, met);
    if (met.triangle < 0) continue;
    position.set([met.x, met.y, met.z], 3 * k);
    triangle[k] = met.triangle;
    field.ground.flatNormal(met.triangle, face);
    normal.set(face, 3 * k);
  }
  return { count, index: Uint32Array.from(index), position, normal, triangle };
}

/** A stroke on one of a dressing's fields. */
export interface SownOn {
  number: number;
  /** Of the field, among those of the dressing. */
  field: number;
  located: Located;
}

/** What other steps say of it. */
export interface SownNeeds {
  choice: Pick<PropChoice, "fill" | "resolveMixes">;
  /** For each field what the gaps leave free; none where they say nothing of places that were picked by hand. */
  masks: readonly DensityMask[];
  seed: number;
  /** Keys that the artist has pegged, which stay whatever the gaps say. */
  pegged: ReadonlySet<Key>;
}

/** The slots of the rules, and behind them what was sown: as far as the limits let it stand. */
export function withSown(slots: Slots, sown: readonly SownOn[], { choice, masks, seed, pegged }: SownNeeds): Slots {
  const stream = streamOf(seed, CHANNEL.gapShade);
  const kept = sown.map(({ number, field, located: at }) => {
    const host = fieldHost(ADDED_TAG, number);
    const shares = masks[field] && sharesOf(masks[field], at);
    return at.index.map((_, k) => k).filter((k) => {
      if (!shares || shares[k] >= 1) return true;
      const index = at.index[k];
      return drawFrom(stream, drawOnField(index, host), 0) < shares[k] || pegged.has(sownKey(number, index));
    });
  }); // prettier-ignore
  const more = kept.reduce((sum, { length }) => sum + length, 0);
  if (more === 0) return slots;
  const out = withRoomFor(slots, more);
  const words = wordsOf(out.key);
  const spread = out.spread!;
  let o = slots.count;
  sown.forEach(({ number, field, located: at }, n) => {
    const host = fieldHost(ADDED_TAG, number);
    const { edge, edgeSize } = masks[field] ?? { edge: null, edgeSize: 0 };
    for (const k of kept[n]) {
      const index = at.index[k];
      words[2 * o] = index;
      words[2 * o + 1] = host;
      out.draw[o] = drawOnField(index, host);
      out.at[o] = NaN;
      out.line[o] = field;
      spread.ordinal[o] = index;
      spread.triangle[o] = at.triangle[k];
      for (let axis = 0; axis < 3; axis++) {
        spread.position[3 * o + axis] = at.position[3 * k + axis];
        spread.normal[3 * o + axis] = at.normal[3 * k + axis];
      }
      if (edge && edgeSize > 0) {
        spread.size ??= new Float32Array(out.count).fill(1);
        spread.size[o] = 1 - edgeSize * (1 - edge(at.position[3 * k], at.position[3 * k + 2]));
      }
      choice.fill(out.prop, out.draw, o, o + 1, index);
      o++;
    }
  });
  choice.resolveMixes(out.prop, out.draw, slots.count, out.count);
  return out;
}

/** Where each stroke lies among a dressing's fields; those whose field is not there are left out. */
export function strokesOn(sown: readonly Sowing[], fields: readonly Field[]): { sowing: Sowing; field: number }[] {
  const indexOf = new Map(fields.map(({ id }, i) => [id, i]));
  return sown.flatMap((sowing) => {
    const field = indexOf.get(sowing.on);
    return field === undefined ? [] : [{ sowing, field }];
  });
}
