/** What placements lie on, told from their keys. */
import {
  fieldHost,
  hexOf,
  hostOfKey,
  keyOf,
  lineKey,
  lineNumberOfKey,
  placeOfKey,
  rowOfKey,
  tagOfKey,
  type Key,
} from "./keys";
import { sownBy } from "./sown/sown";
import { tagsOf } from "./where/fields";
import { kindOf } from "./where/kinds";
import type { Dressing } from "./schema";
import type { Line } from "../line";

type Numbered = readonly Pick<Line, "id" | "number">[];

/** The id of the line or field that one of a dressing's placements lies on; undefined where that has gone. */
export function onOf(
  { where, pegs, sown = [] }: Pick<Dressing, "where" | "pegs"> & Partial<Pick<Dressing, "sown">>,
  key: Key,
  lines: Numbered,
): string | undefined {
  const peg = pegs[hexOf(key)];
  if (peg) return peg.on;
  if (kindOf(where).ordered) return lines.find(({ number }) => number === lineNumberOfKey(key))?.id;
  const by = sownBy(key);
  if (by) return sown.find(({ number }) => number === by.number)?.on;
  const tag = tagOfKey(key);
  return [...tagsOf(where)].find(([, own]) => own === tag)?.[0];
}

/** The key of the same place on another line, or on another field of those that a Where names; null where it names it not. */
export function keyOnOther(key: Key, on: string, where: Dressing["where"], lines: Numbered): Key | null {
  if (kindOf(where).ordered) {
    const line = lines.find(({ id }) => id === on);
    return line ? lineKey(line.number, placeOfKey(key), rowOfKey(key)) : null;
  }
  const tag = tagsOf(where).get(on);
  return tag === undefined ? null : keyOf(fieldHost(tag, hostOfKey(key)), placeOfKey(key));
}
