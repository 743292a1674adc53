/** What a check is, and what it finds. One file a check, all with the same protocol. */
import type { GuideLine } from "../line";
import type { Body, Ground, PropBounds } from "../mesh";
import type { Dressing, Placements } from "../place";

/** What can be done about a finding with one click. The interface knows how. */
export type Mend =
  /** Takes off the pegs at the finding's keys. */
  | "unpeg"
  /** Takes off the pegs of the finding's list that have no slot any more. */
  | "drop-pegs"
  /** Leaves blank what the finding names. */
  | "leave-blank"
  /** Has the dressing keep its props clear of each other. */
  | "keep-clear"
  /** Has the spacing keep props inside the ends. */
  | "keep-inside"
  /** Takes up from the line, whose own frame never flips. */
  | "up-from-line"
  /** Takes up from the normals of the surface that props are spread over. */
  | "up-from-normal"
  /** Lets props stay stiff. */
  | "stiff"
  /** Has props lean with the ground all the way. */
  | "lean"
  /** Has props rest on the highest ground under their footprint. */
  | "rest-highest"
  /** Drops what is spread onto the surfaces that it is spread over. */
  | "drop-on-it"
  /** Brings what has no ground under it to the nearest. */
  | "onto-nearest"
  /** Has a dressing no longer stand on one that stands on it. */
  | "leave-circle";

export interface Finding {
  check: string;
  /** Ids of the dressing and, where it is about one, the line, surface or area. */
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
  mend?: Mend;
  /** Another way of mending it. */
  orElse?: Mend;
  /** For pegs without a slot: their indices in the dressing. */
  pegs?: number[];
}

export const MAX_KEYS = 1000;

/** The placements that a finding names: their keys, as far as they are listed, and how many they are. */
export const naming = ({ key }: Placements, members: readonly number[]): Pick<Finding, "keys" | "count"> => ({
  keys: members.slice(0, MAX_KEYS).map((i) => key[i]),
  count: members.length,
});

/** What a check looks at: one dressing, what it came to, and what its scene says of lines and props. */
export interface Checked {
  dressing: Dressing;
  placements: Placements;
  lineName: (id: string) => string;
  line: (id: string) => GuideLine | undefined;
  /** The box that a prop takes up. */
  box: (prop: string) => PropBounds | undefined;
  /** A prop's mesh, as far as meshes are compared. */
  body: (prop: string) => Body | undefined;
  /** Whether the picture of a mask is known, by the hash of its bytes. */
  image: (asset: string) => boolean;
  /** What it is dropped onto, as far as that is known. */
  grounds: readonly Ground[];
  /** What it is spread over, by ids. */
  fields: ReadonlyMap<string, Ground>;
  /** The dressing that is not counted as its ground because it stands on it in turn. */
  circle?: string;
  /** Dressings under it whose boxes it stands on. */
  boxed: readonly string[];
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

export const props = (count: number): string => (count === 1 ? "1 prop" : `${count.toLocaleString("en")} props`);
