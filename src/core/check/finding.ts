/** What a check is, and what it finds. One file a check, all with the same protocol. */
import type { Volume } from "../host";
import type { Footing } from "./footing";
import type { Row } from "./rows";
import type { GuideLine } from "../line";
import type { Body, WorldMesh, PropBounds } from "../mesh";
import type { Dressing, Placements } from "../place";

/** What can be done about a finding with one click. The interface knows how. */
export type Mend =
  /** Takes off the pegs at the finding's keys. */
  | "unpeg"
  /** Takes off the pegs of the finding's list that have no slot any more. */
  | "drop-pegs"
  /** Lets go of what was sown by the finding's strokes. */
  | "drop-sown"
  /** Lets go of pegs of an earlier version that found no slot. */
  | "drop-old-pegs"
  /** Pins what the finding names where it is now. */
  | "hold-here"
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
  /** Has props lie on smoothed copies of their surfaces. */
  | "smooth"
  /** Has props lean with the ground all the way. */
  | "lean"
  /** Has props rest on the highest ground under their footprint. */
  | "rest-highest"
  /** Drops what is spread onto the surfaces that it is spread over. */
  | "drop-on-it"
  /** Brings what has no ground under it to the nearest. */
  | "onto-nearest"
  /** Has what fills something keep from its walls by its own radius. */
  | "keep-from-walls"
  /** Makes a prop so many times smaller or larger. */
  | "hundredth"
  | "thousandth"
  | "hundredfold"
  | "thousandfold"
  /** Stands a prop up that lies on its back. */
  | "stand-up"
  /** Says of a prop that its size and how it lies are as they should be. */
  | "as-meant"
  /** Has a dressing no longer stand on one that stands on it. */
  | "leave-circle";

/** A sentence about things whose names are not in it yet: text, and the ids of things. */
export type Sentence = readonly (string | Named)[];

/** A thing in a sentence: a line, surface or area, a dressing, or a prop. */
interface Named {
  id: string;
  kind: "guide" | "dressing" | "prop";
}

export type NameOf = (id: string, kind: Named["kind"]) => string | undefined;

export const thing = (id: string, kind: Named["kind"] = "guide"): Named => ({ id, kind });

/** A sentence as a template, in which things stand by their ids. */
export function say(texts: TemplateStringsArray, ...values: readonly (string | number | Named | Sentence)[]): Sentence {
  const out: (string | Named)[] = [];
  let text = texts[0];
  values.forEach((value, i) => {
    if (typeof value === "object") {
      if (text) out.push(text);
      out.push(...("id" in value ? [value] : value));
      text = texts[i + 1];
    } else text += value + texts[i + 1];
  });
  if (text) out.push(text);
  return out;
}

/** “A”, “B” and “C”. */
export const list = (ids: readonly string[], kind: Named["kind"] = "dressing"): Sentence => [
  ...ids.flatMap((id, i) => [i === 0 ? "“" : i < ids.length - 1 ? "”, “" : "” and “", thing(id, kind)]),
  "”",
];

/** The sentence with the names that things have now. */
export const spoken = (sentence: Sentence, nameOf: NameOf): string =>
  sentence
    .map((part) => (typeof part === "string" ? part : (nameOf(part.id, part.kind) ?? "something that is gone")))
    .join("");

/** What a check has found: a fact about ids, which stays as it is when something gets another name. */
export interface Finding {
  check: string;
  /** Ids of the dressing and, where it is about one, the line, surface or area. */
  dressing: string;
  line?: string;
  /** The prop, where it is about one wherever it stands. */
  prop?: string;
  /** Keys of the placements that it names, at most {@link MAX_KEYS} of them. */
  keys: BigUint64Array;
  /** How many placements it is about. */
  count: number;
  /** The worst value, in metres, where there is one to give. */
  worst?: number;
  /** One sentence for the artist, with units. */
  message: Sentence;
  mend?: Mend;
  /** Another way of mending it. */
  orElse?: Mend;
  /** For pegs without a slot: their keys, as the dressing writes them. */
  pegs?: string[];
  /** For what was sown where the dressing lies on no more: the numbers of the strokes. */
  strokes?: number[];
}

export const MAX_KEYS = 1000;

/** The placements that a finding names: their keys, as far as they are listed, and how many they are. */
export const naming = ({ key }: Placements, members: readonly number[]): Pick<Finding, "keys" | "count"> => ({
  keys: BigUint64Array.from({ length: Math.min(MAX_KEYS, members.length) }, (_, n) => key[members[n]]),
  count: members.length,
});

/** What a finding names that is about no placement. */
export const NO_KEYS = new BigUint64Array(0);

/** What a check looks at: one dressing, what it came to, and what its scene says of lines and props. */
export interface Checked {
  dressing: Dressing;
  placements: Placements;
  line: (id: string) => GuideLine | undefined;
  /** The box that a prop takes up. */
  box: (prop: string) => PropBounds | undefined;
  /** A prop's mesh, as far as meshes are compared. */
  body: (prop: string) => Body | undefined;
  /** Corners of a prop's hull, as far as its mesh is known. */
  hull: (prop: string) => Float32Array | undefined;
  /** What is odd about a prop's size, or how it lies. */
  oddity: (prop: string) => OddProp | null;
  /** Whether the picture of a mask is known, by the hash of its bytes. */
  image: (asset: string) => boolean;
  /** What it is dropped onto, as far as that is known. */
  grounds: readonly WorldMesh[];
  /** What it is spread over, by ids. */
  fields: ReadonlyMap<string, WorldMesh>;
  /** The inside of a surface. */
  volume: (id: string) => Volume | undefined;
  /** The rows of what stands, and the same with blank slots, by line. */
  rows: readonly (readonly Row[])[];
  slots: readonly (readonly Row[])[];
  /** How the footprints of what was dropped lie over the ground. */
  footing: Footing;
  /** The dressings of the circle that it is part of, itself among them, in the order of the rail; none where it is in none. */
  circle: readonly string[];
  /** Those of the circle that do not count for it. */
  uncounted: readonly string[];
  /** Lines and surfaces that it lies on whose ties come to nothing. */
  ties: readonly LostTie[];
  /** How many things in its assemblies are not there, since they would be too many. */
  leftOut: number;
  /** The roles that nobody plays of the recipe of the assembly that it is in, by their names. */
  emptyRoles: readonly string[];
  /** Dressings under it whose boxes it stands on, by their ids. */
  boxed: readonly string[];
}

/** A tie that comes to nothing. */
export interface LostTie {
  held: string;
  holder: Named;
  trouble: "gone" | "circle";
}

/** What is odd about a prop as it came. */
export interface OddProp {
  kind: "large" | "small" | "lies";
  /** Its longest side, and that of the others in the middle, metres. */
  size: number;
  beside: number | null;
  /** What its size has to be multiplied by to be likely. */
  factor: number;
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
