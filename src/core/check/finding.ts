/** What a check is, and what it finds. One file a check, all with the same protocol. */
import type { Dressing, Placements } from "../place";

export interface Finding {
  check: string;
  /** Ids of the dressing and, where it is about one, the line. */
  dressing: string;
  line?: string;
  /** Keys of the placements that it names, at most {@link MAX_KEYS} of them. */
  keys: number[];
  /** How many placements it is about. */
  count: number;
  /** The worst value, in metres, where there is one to give. */
  worst?: number;
  /** One sentence for the artist, with units. */
  message: string;
}

export const MAX_KEYS = 1000;

/** What a check looks at: one dressing, what it came to, and the names to speak of it by. */
export interface Checked {
  dressing: Dressing;
  placements: Placements;
  lineName: (id: string) => string;
}

export interface Check {
  /** Its stable name in files. */
  name: string;
  /** Its name for the artist. */
  label: string;
  find(checked: Checked): Finding[];
}

/** Metres for a sentence: millimetres below 10 cm, two decimals above. */
export const metres = (value: number): string =>
  Math.abs(value) < 0.1 ? `${Number((value * 1000).toPrecision(2))} mm` : `${value.toFixed(2)} m`;
