/** *Which places a family goes between*: divisions of lines, or ends picked by hand; snap points are in `core/place`. */
import { vectorAt, type Vec3 } from "../math";
import type { Curve } from "./curve";
import type { Knot } from "./schema";
import { shortName, type Pair } from "./members";
import type { Between } from "./between";

/** Pairs beyond so many are only counted. */
const MOST_PAIRS = 1_000_000;

/** A line as far as it is divided. */
interface DividedLine {
  id: string;
  curve: Curve;
  marks: Float64Array;
}

/** The divisions of a line: its places, and whether they go round. */
interface Divisions {
  name: string;
  places: readonly Vec3[];
  closed: boolean;
}

/** The places at which a line is divided: into so many parts; else by its own marks; else by its knots. */
function divisionsOf(guide: DividedLine, parts: number): Divisions {
  const { curve, marks } = guide;
  const { closed, length, knotAt } = curve;
  const even = Array.from({ length: closed ? parts : parts + 1 }, (_, k) => (length * k) / parts);
  const at = parts > 0 ? Float64Array.from(even) : marks.length > 0 ? marks : knotAt;
  const position = new Float64Array(3 * at.length);
  curve.sample(at, at.length, position, null);
  return { name: guide.id, places: Array.from(at, (_, i) => vectorAt(position, i)), closed };
}

/** Pairs of divisions of lines. */
export function pairsOfDivisions(
  { pairs, parts, skip, shift, around }: Pick<Between, "pairs" | "parts" | "skip" | "shift" | "around">,
  guides: readonly DividedLine[],
): Pair[] {
  const all = guides.map((guide) => divisionsOf(guide, parts));
  const out = new Map<string, Pair>();
  const join = (a: Divisions, i: number, b: Divisions, j: number): void => {
    const [first, last] = [wrapped(a, i), wrapped(b, j)];
    if (first < 0 || last < 0 || (a === b && first === last) || out.size >= MOST_PAIRS) return;
    const name = shortName(`${a.name}.${first} ${b.name}.${last}`);
    // The same two the other way round are the same pair.
    if (a === b && out.has(shortName(`${b.name}.${last} ${a.name}.${first}`))) return;
    out.set(name, { name, from: a.places[first], to: b.places[last] });
  };
  if (pairs === "along") for (const one of all) one.places.forEach((_, i) => join(one, i, one, i + skip));
  else {
    const last = around && all.length > 2 ? all.length : all.length - 1;
    for (let k = 0; k < last; k++) {
      const [a, b] = [all[k], all[(k + 1) % all.length]];
      const by = pairs === "crossing" ? shift || 1 : shift;
      a.places.forEach((_, i) => join(a, i, b, i + by));
      if (pairs === "crossing") a.places.forEach((_, i) => join(a, i + by, b, i));
    }
  }
  return [...out.values()];
}

/** The number of a division, going round where its line is closed; -1 where there is none. */
function wrapped({ places, closed }: Divisions, i: number): number {
  const n = places.length;
  if (closed && n > 0) return ((i % n) + n) % n;
  return i >= 0 && i < n ? i : -1;
}

/** Pairs of knots two by two. */
export function pairsPicked(knots: readonly Knot[]): Pair[] {
  return Array.from({ length: Math.floor(knots.length / 2) }, (_, k) => {
    const [a, b] = [knots[2 * k], knots[2 * k + 1]];
    return { name: `${a.id}-${b.id}`, from: a.position, to: b.position };
  });
}
