/** *The flat places of a patch*: those of its layout or of a pattern within outlines, and what was moved or added there by hand. */
import { emptyPlaces, placesOf, type Layout, type Places, type Sheet } from "../../layout";
import { fieldHost, keyOfHex, wordsOf, writeWords } from "../keys";
import { outlineMask } from "../gaps/density-mask";
import { over } from "./over";
import type { Field } from "../../host";
import type { Pegs } from "../pegs";
import type { Spacing } from "./schema";

/** *Places with keys*, in metres to the right and ahead of the handle. */
export interface FlatPlaces {
  count: number;
  x: Float64Array;
  y: Float64Array;
  key: BigUint64Array;
  /** 1 for what was added by hand: n. */
  added: Uint8Array;
  missing: number;
}

/** Where things were put in the layout by hand, by their keys: 2 numbers each. */
export interface FlatPegs {
  key: BigUint64Array;
  at: Float64Array;
  added: Uint8Array;
}

/** Places as they were found over a field: x and z, and what each is known by. */
export interface Pattern {
  position: Float64Array;
  name: Int32Array;
  missing: number;
}

/** A pattern within outlines, as it lies seen from above; nothing without an outline. */
export function patternWithin(field: Field | null, spacing: Spacing, seed: number): Pattern {
  if (!field) return { position: new Float64Array(0), name: new Int32Array(0), missing: 0 };
  const slots = over([field], spacing, { choice: NO_PROPS, masks: [outlineMask(field)], seed, pegged: new Set() });
  return { position: slots.spread!.position, name: new Int32Array(slots.words), missing: slots.missing };
}

/** The places of a pattern about a place of its outlines that is held: their middle where it is null. */
export function placesOfPattern(
  { position, name, missing }: Pattern,
  field: Field | null,
  held: Layout["middle"],
): Places {
  const { least, most } = field?.plan ?? NOWHERE;
  const [middleX, middleZ] = held ?? [0, 1].map((axis) => (least[axis] + most[axis]) / 2);
  const places = { ...emptyPlaces(position.length / 3, missing), name };
  for (let i = 0; i < places.count; i++) {
    // Ahead is south, as a surface's own front is, and west lies to the right of it.
    places.x[i] = middleX - position[3 * i];
    places.y[i] = position[3 * i + 2] - middleZ;
  }
  return places;
}

const NOWHERE = { least: [0, 0], most: [0, 0] } as const;
/** Only where they are is asked. */
const NO_PROPS = { fill: () => undefined, resolveMixes: () => undefined };

/** What pegs say of the layout. */
export function flatPegs(pegs: Pegs): FlatPegs {
  const flat = Object.entries(pegs).flatMap(([hex, { flat, added }]) => (flat ? [{ hex, flat, added }] : []));
  return {
    key: BigUint64Array.from(flat, ({ hex }) => keyOfHex(hex)),
    at: Float64Array.from(flat.flatMap(({ flat }) => flat)),
    added: Uint8Array.from(flat, ({ added }) => (added ? 1 : 0)),
  };
}

/** The places of a layout with their keys, those at their places that were put there by hand, and behind them those added. */
export function flatPlaces(layout: Layout, within: Places | null, sheet: Sheet | null, pegs: FlatPegs): FlatPlaces {
  const places = placesOf(layout, within, sheet);
  const added = pegs.added.reduce((sum, one) => sum + one, 0);
  const count = places.count + added;
  const out: FlatPlaces = {
    count,
    x: new Float64Array(count),
    y: new Float64Array(count),
    key: new BigUint64Array(count),
    added: new Uint8Array(count).fill(1, places.count),
    missing: places.missing,
  };
  out.x.set(places.x);
  out.y.set(places.y);
  const words = wordsOf(out.key);
  for (let i = 0; i < places.count; i++) {
    writeWords(words, 2 * i, places.name[2 * i], places.name[2 * i + 1], 0);
    words[2 * i + 1] = fieldHost(0, words[2 * i + 1]);
  }
  const moved = new Map<bigint, number>();
  let next = places.count;
  pegs.key.forEach((key, k) => {
    if (!pegs.added[k]) return void moved.set(key, k);
    out.key[next] = key;
    out.x[next] = pegs.at[2 * k];
    out.y[next++] = pegs.at[2 * k + 1];
  });
  if (moved.size === 0) return out;
  for (let i = 0; i < places.count; i++) {
    const k = moved.get(out.key[i]);
    if (k === undefined) continue;
    out.x[i] = pegs.at[2 * k];
    out.y[i] = pegs.at[2 * k + 1];
  }
  return out;
}
