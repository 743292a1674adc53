/**
 * *Lines that become tubes and bars*: a cross-section carried along, cut on the bisecting plane wherever the way bends, so that
 * it keeps its breadth round corners.
 */
import { distance, type Vec3 } from "../math";
import type { GuideLine } from "../line";
import { sweep, type Section } from "./sweep";
import { folds, nearsItself, piecesOf, runsOf, stationsOf, type TubeRules } from "./way";
import type { ClosedMesh } from "./closed";

/** What a line's tube came to. */
export interface TubeOfLine {
  bodies: ClosedMesh[];
  /** Whether the line bends more sharply than its tube is wide, which folds over itself there. */
  folded: boolean;
}

/**
 * The bodies of one line's tube: several where it turns too sharply to be cut for, or comes near itself.
 *
 * @param meets whether its start and its end meet another line's, and so are round
 */
export function tubeOf(
  made: TubeRules,
  section: Section,
  guide: GuideLine,
  meets: readonly [boolean, boolean],
): TubeOfLine {
  const bodies: ClosedMesh[] = [];
  if (!(guide.curve.length > 0)) return { bodies, folded: false };
  const { closed } = guide.curve;
  const runs = runsOf(stationsOf(guide, made), closed);
  runs.forEach(({ stations, ring }, r) => {
    const isEnd = [r === 0, r === runs.length - 1].map((outer) => outer && !closed);
    const round = isEnd.map((outer, end) => !outer || meets[end] || made.ends === "round");
    const near = nearsItself(stations, ring, made.radius);
    const pieces = near ? piecesOf(stations, ring) : [{ stations, ring, first: !ring, last: !ring }];
    for (const piece of pieces)
      bodies.push(sweep(piece, section, made.radius, [round[0] && piece.first, round[1] && piece.last]));
  });
  return { bodies, folded: runs.some(({ stations, ring }) => folds(stations, ring, made.radius)) };
}

/** For each line whether its start and its end meet an end of another, nearer than the radius. */
export function meetingEnds(guides: readonly GuideLine[], radius: number): (readonly [boolean, boolean])[] {
  const ends = guides.map((guide) => (guide.curve.closed || !(guide.curve.length > 0) ? [] : endsOf(guide)));
  const cell = Math.max(radius, 1e-9);
  const nameOf = (p: Vec3, k: number) =>
    p.map((x, axis) => Math.floor(x / cell) + (Math.floor(k / 3 ** axis) % 3) - 1).join(" ");
  const cells = new Map<string, Vec3[]>();
  for (const end of ends.flat()) {
    const name = nameOf(end, 13);
    cells.set(name, [...(cells.get(name) ?? []), end]);
  }
  // One of those that lie here is the end itself.
  const meets = (end: Vec3): boolean => {
    let here = 0;
    for (let k = 0; k < 27; k++)
      for (const other of cells.get(nameOf(end, k)) ?? []) if (distance(end, other) < radius) here++;
    return here > 1;
  };
  return ends.map((own) => (own.length === 0 ? [false, false] : [meets(own[0]), meets(own[1])]));
}

/**
 * The section of a tube; null for one that has an outline which is not there, or has no area.
 *
 * @param outline a closed line, seen from above
 */
export function sectionOf(made: TubeRules, outline: GuideLine | undefined): Section | null {
  const half = made.thickness / 2 / made.radius;
  if (made.section === "round")
    return Array.from({ length: made.sides }, (_, k) => {
      const angle = (2 * Math.PI * k) / made.sides;
      return [Math.cos(angle), Math.sin(angle)] as const;
    });
  if (made.section === "square") return rectangle(1);
  if (made.section === "flat") return rectangle(half);
  return outline?.curve.closed ? outlineOf(outline) : null;
}

const rectangle = (up: number): Section => [
  [1, -up],
  [1, up],
  [-1, up],
  [-1, -up],
];

/** A closed line seen from above, about its middle, its furthest place at 1. */
function outlineOf({ curve }: GuideLine): Section | null {
  const n = 64;
  const at = Float64Array.from([
    ...curve.knotAt,
    ...Array.from({ length: n }, (_, i) => (curve.length * i) / n),
  ]).sort();
  const kept = at.filter((value, i) => value < curve.length && (i === 0 || value - at[i - 1] > 1e-6 * curve.length));
  const P = new Float64Array(3 * kept.length);
  curve.sample(kept, kept.length, P, null);
  const flat = Array.from(kept, (_, i) => [P[3 * i], -P[3 * i + 2]] as const);
  const middle = [0, 1].map((k) => flat.reduce((sum, point) => sum + point[k], 0) / flat.length);
  const far = Math.max(...flat.map(([x, y]) => Math.hypot(x - middle[0], y - middle[1])));
  if (!(far > 0)) return null;
  const own = flat.map(([x, y]) => [(x - middle[0]) / far, (y - middle[1]) / far] as const);
  const area = own.reduce((sum, [x, y], i) => {
    const [a, b] = own[(i + 1) % own.length];
    return sum + x * b - y * a;
  }, 0);
  return area > 0 ? own : own.reverse();
}

/** Where a line begins and ends. */
function endsOf({ curve }: GuideLine): Vec3[] {
  const P = new Float64Array(6);
  curve.sample(Float64Array.of(0, curve.length), 2, P, null);
  return [0, 3].map((k): Vec3 => [P[k], P[k + 1], P[k + 2]]);
}
