/** *Which places a family goes between*: divisions of lines, or ends picked by hand; snap points are in `core/place`. */
import { vectorAt } from "../math";
import type { Curve } from "./curve";
import type { Knot } from "./schema";
import { shortName, type Pair } from "./members";
import type { Between } from "./between";

/** Pairs beyond so many are not looked for. */
export const MOST_PAIRS = 100_000;

/** The divisions of a line: its places (3n, metres), how many, and whether they go round. */
interface Divisions {
  name: string;
  places: Float64Array;
  count: number;
  closed: boolean;
}

/** A line as far as it is divided. */
interface DividedLine {
  id: string;
  curve: Curve;
  marks: Float64Array;
}

/** The places at which a line is divided: into so many parts; else by its own marks; else by its knots. */
function divisionsOf({ id, curve, marks }: DividedLine, parts: number): Divisions {
  const { closed, length, knotAt } = curve;
  const even = () => Float64Array.from({ length: closed ? parts : parts + 1 }, (_, k) => (length * k) / parts);
  const at = parts > 0 ? even() : marks.length > 0 ? marks : knotAt;
  const places = new Float64Array(3 * at.length);
  curve.sample(at, at.length, places, null);
  return { name: id, places, count: at.length, closed };
}

/** Pairs of divisions of lines; of very many the first. */
export function pairsOfDivisions(
  { pairs, parts, skip, shift, around }: Pick<Between, "pairs" | "parts" | "skip" | "shift" | "around">,
  guides: readonly DividedLine[],
): Pair[] {
  const out = new Map<string, Pair>();
  /** From the `i`th place of one to the `j`th of another, round those that are closed; the same two are one pair. */
  const join = (a: Divisions, i: number, b: Divisions, j: number): void => {
    const [first, last] = [wrapped(a, i), wrapped(b, j)];
    if (first < 0 || last < 0 || (a === b && first === last) || out.size >= MOST_PAIRS) return;
    if (a === b && out.has(shortName(`${b.name}.${last} ${a.name}.${first}`))) return;
    const name = shortName(`${a.name}.${first} ${b.name}.${last}`);
    out.set(name, { name, from: vectorAt(a.places, first), to: vectorAt(b.places, last) });
  };
  const n = guides.length;
  if (pairs === "along")
    for (let k = 0; k < n && out.size < MOST_PAIRS; k++) {
      const one = divisionsOf(guides[k], parts);
      for (let i = 0; i < one.count; i++) join(one, i, one, i + skip);
    }
  else {
    const last = around && n > 2 ? n : n - 1;
    const by = pairs === "crossing" ? shift || 1 : shift;
    for (let k = 0; k < last && out.size < MOST_PAIRS; k++) {
      const [a, b] = [divisionsOf(guides[k], parts), divisionsOf(guides[(k + 1) % n], parts)];
      for (let i = 0; i < a.count; i++) join(a, i, b, i + by);
      if (pairs === "crossing") for (let i = 0; i < a.count; i++) join(a, i + by, b, i);
    }
  }
  return [...out.values()];
}

/** The number of a division, going round where its line is closed; -1 where there is none. */
function wrapped({ count, closed }: Divisions, i: number): number {
  if (closed && count > 0) return ((i % count) + count) % count;
  return i >= 0 && i < count ? i : -1;
}

/** Pairs of knots two by two. */
export function pairsPicked(knots: readonly Knot[]): Pair[] {
  return Array.from({ length: Math.floor(knots.length / 2) }, (_, k) => {
    const [a, b] = [knots[2 * k], knots[2 * k + 1]];
    return { name: `${a.id}-${b.id}`, from: a.position, to: b.position };
  });
}
