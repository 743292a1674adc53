/**
 * *Lines that become tubes and bars*: a cross-section carried along, cut on the bisecting plane wherever the way bends, so that
 * it keeps its breadth round corners.
 */
import { add, cross, distance, dot, lengthOf, normalize, rotate, scale, subtract, type Quat, type Vec3 } from "../math";
import type { GuideLine } from "../line";
import type { Tube } from "../made";
import type { ClosedMesh } from "./closed";

/** What a line's tube came to. */
export interface TubeOfLine {
  bodies: ClosedMesh[];
  /** Whether the line bends more sharply than its tube is wide, which folds over itself there. */
  folded: boolean;
}

/** Pieces of the way stray from the line by no more than this share of the radius. */
const STRAY = 0.02;
/** A line is looked at in so many places, its knots aside. */
const [FEWEST, MOST] = [64, 4096];
/** Where a way turns by more than this, radians, it ends and begins anew, round. */
const SHARPEST = (2 / 3) * Math.PI;
/** A tube that comes near itself is cut into bodies that turn by little more than this, radians, and are joined like any others. */
const MOST_TURNED = Math.PI / 2;
/** A round end has so many rings for a quarter of the way round the section. */
const CAP = 4;

interface Station {
  at: number;
  position: Vec3;
  /** Across and up, square to the line, and along it. */
  across: Vec3;
  up: Vec3;
  forward: Vec3;
  /** How many times the radius. */
  times: number;
}

/** The outline of a cut across, counter-clockwise looking along the line, at radius 1. */
export type Section = readonly (readonly [across: number, up: number])[];

/** What of a tube each of its lines hangs on. */
export type TubeRules = Omit<Tube, "lines" | "outline">;

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

/** The value of a curve of points at a share, going evenly between them. */
function valueAt(course: Tube["course"], share: number): number {
  const after = course.findIndex(([at]) => at >= share);
  if (after < 0) return course[course.length - 1][1];
  if (after === 0) return course[0][1];
  const [[from, a], [to, b]] = [course[after - 1], course[after]];
  return to > from ? a + ((share - from) / (to - from)) * (b - a) : b;
}

/** Where the way is cut: nowhere further from the line than a share of the radius, at all knots and points of the course. */
function stationsOf(guide: GuideLine, made: TubeRules): Station[] {
  const { curve } = guide;
  const n = Math.max(FEWEST, Math.min(MOST, Math.ceil(curve.length / (made.radius / 2))));
  const must = [...curve.knotAt, ...made.course.map(([share]) => share * curve.length), 0, curve.length];
  const fixed = sortedApart(must, 1e-6 * made.radius);
  const looked = stationsAt(
    guide,
    made,
    sortedApart([...fixed, ...Array.from({ length: n }, (_, i) => (curve.length * i) / n)], 0),
  );
  const at = fixed.slice(1).flatMap((to, k) => {
    const within = looked.filter((one) => one.at >= fixed[k] && one.at <= to);
    return evenedOut(piecesWithin(within, STRAY * made.radius), fixed[k], to);
  });
  const stations = stationsAt(guide, made, [fixed[0], ...at]);
  // A closed line begins where it ends.
  if (curve.closed && stations.length > 1) stations.pop();
  return stations;
}

/** Numbers in their order, without those that are nearer than so much to the one before. */
const sortedApart = (values: readonly number[], least: number): number[] =>
  [...values].sort((a, b) => a - b).filter((value, i, all) => i === 0 || value - all[i - 1] > least);

/** How long pieces of a way may be, one after the other, so that none strays from it; the last is what is left over. */
function piecesWithin(all: readonly Station[], stray: number): number[] {
  const ends = [0];
  for (let i = 1; i < all.length - 1; i++) if (strays(all, ends[ends.length - 1], i + 1, stray)) ends.push(i);
  ends.push(all.length - 1);
  return ends.slice(1).map((end, k) => all[end].at - all[ends[k]].at);
}

/** The same pieces with what the last one falls short of shared among all: where they end. */
function evenedOut(pieces: readonly number[], from: number, to: number): number[] {
  const count = pieces.length;
  if (count < 2) return [to];
  const whole = count - 1 + Math.min(1, pieces[count - 1] / pieces[count - 2]);
  const ends: number[] = [];
  let [piece, start] = [0, from];
  for (let k = 1; k < count; k++) {
    const wanted = (k * whole) / count;
    while (piece < count - 1 && piece + 1 <= wanted) start += pieces[piece++];
    const length = piece < count - 1 ? pieces[piece] : pieces[count - 2];
    ends.push(start + (wanted - piece) * length);
  }
  return [...ends, to];
}

function stationsAt(guide: GuideLine, made: TubeRules, arcs: readonly number[]): Station[] {
  const at = Float64Array.from(arcs);
  const P = new Float64Array(3 * at.length);
  const R = new Float64Array(4 * at.length);
  guide.frames("line", at, at.length, P, R);
  const [c, s] = [Math.cos(made.turn), Math.sin(made.turn)];
  return arcs.map((where, i): Station => {
    const turn: Quat = [R[4 * i], R[4 * i + 1], R[4 * i + 2], R[4 * i + 3]];
    const [x, y] = [rotate(turn, [1, 0, 0]), rotate(turn, [0, 1, 0])];
    return {
      at: where,
      position: [P[3 * i], P[3 * i + 1], P[3 * i + 2]],
      across: add(scale(x, c), scale(y, s)),
      up: add(scale(x, -s), scale(y, c)),
      forward: cross(x, y),
      times: Math.max(1e-3, valueAt(made.course, where / guide.curve.length)),
    };
  });
}

const apart = (a: Station, b: Station): number => distance(a.position, b.position);

/** Whether anything between two places lies further from the straight way between them than so many metres, or is turned by much. */
function strays(all: readonly Station[], from: number, to: number, most: number): boolean {
  const way = subtract(all[to].position, all[from].position);
  const far = lengthOf(way);
  if (isTwisted(all[from], all[to])) return true;
  for (let i = from + 1; i < to; i++) {
    const beside = subtract(all[i].position, all[from].position);
    const off = far > 0 ? lengthOf(cross(beside, way)) / far : lengthOf(beside);
    if (off > most) return true;
  }
  return false;
}

/** Cosine of how far the section turns about the line from one station to the next, at most. */
const LEAST_ALIKE = Math.cos(0.2);

function isTwisted(a: Station, b: Station): boolean {
  // As it would be if it were only turned along with the line, by the shortest way.
  const share = dot(b.forward, a.across) / Math.max(1e-9, 1 + dot(a.forward, b.forward));
  return dot(subtract(a.across, scale(add(a.forward, b.forward), share)), b.across) < LEAST_ALIKE;
}

interface Run {
  stations: Station[];
  /** Whether its end is its start. */
  ring: boolean;
  /** Where the way comes from and goes on to, where it does. */
  before?: Vec3;
  after?: Vec3;
}

/** The way parted where it turns more sharply than its sides could be cut for. */
function runsOf(all: readonly Station[], closed: boolean): Run[] {
  const n = all.length;
  const turnsAt = (i: number): boolean => {
    const [a, b, c] = [all[(i + n - 1) % n], all[i], all[(i + 1) % n]];
    return angleBetween(subtract(b.position, a.position), subtract(c.position, b.position)) > SHARPEST;
  };
  const cuts = all.flatMap((_, i) => ((closed || (i > 0 && i < n - 1)) && n > 2 && turnsAt(i) ? [i] : []));
  if (cuts.length === 0) return [{ stations: [...all], ring: closed && n > 2 }];
  if (!closed) {
    const ends = [0, ...cuts, n - 1];
    return ends.slice(1).map((end, k) => ({ stations: all.slice(ends[k], end + 1), ring: false }));
  }
  return cuts.map((from, k) => {
    const to = cuts[(k + 1) % cuts.length] + (k + 1 === cuts.length ? n : 0);
    return { stations: Array.from({ length: to - from + 1 }, (_, j) => all[(from + j) % n]), ring: false };
  });
}

const angleBetween = (a: Vec3, b: Vec3): number => Math.atan2(lengthOf(cross(a, b)), dot(a, b));

/** Pieces of a way that share the ring where they part, none of which comes near itself. */
function piecesOf(stations: readonly Station[], ring: boolean): (Run & { first: boolean; last: boolean })[] {
  const whole = ring ? [...stations, stations[0]] : stations;
  const ends = [0];
  let turned = 0;
  for (let i = 1; i < whole.length - 1; i++) {
    turned += turnAt(whole[i - 1], whole[i], whole[i + 1]);
    if (turned < MOST_TURNED) continue;
    ends.push(i);
    turned = 0;
  }
  ends.push(whole.length - 1);
  return ends.slice(1).map((to, k) => ({
    stations: whole.slice(ends[k], to + 1),
    ring: false,
    first: !ring && k === 0,
    last: !ring && k === ends.length - 2,
    before: whole[ends[k] - 1]?.position ?? (ring ? stations[stations.length - 1].position : undefined),
    after: whole[to + 1]?.position ?? (ring ? stations[1].position : undefined),
  }));
}

const turnAt = (a: Station, b: Station, c: Station): number =>
  angleBetween(subtract(b.position, a.position), subtract(c.position, b.position));

/** Whether a way comes so near to itself that its tube would reach into itself. */
function nearsItself(stations: readonly Station[], ring: boolean, radius: number): boolean {
  const reach = 2 * radius * Math.max(...stations.map(({ times }) => times));
  const cells = new Map<string, { at: number; position: Vec3 }[]>();
  const nameOf = (p: Vec3, k: number) =>
    p.map((x, axis) => Math.floor(x / reach) + (Math.floor(k / 3 ** axis) % 3) - 1).join(" ");
  const whole = ring ? [...stations, stations[0]] : stations;
  let far = 0;
  const points = whole.flatMap((station, i) => {
    if (i === 0) return [{ at: 0, position: station.position }];
    const before = whole[i - 1];
    const way = apart(before, station);
    const steps = Math.max(1, Math.min(MOST, Math.ceil((2 * way) / reach)));
    const from = far;
    far += way;
    return Array.from({ length: steps }, (_, k) => ({
      at: from + (way * (k + 1)) / steps,
      position: add(before.position, scale(subtract(station.position, before.position), (k + 1) / steps)),
    }));
  });
  for (const own of points) {
    for (let k = 0; k < 27; k++)
      for (const other of cells.get(nameOf(own.position, k)) ?? []) {
        const along = own.at - other.at;
        // What is half a turn of the tightest bend further along is another part of the way.
        const away = ring ? Math.min(along, far - along) : along;
        if (away > (Math.PI / 2) * reach && distance(own.position, other.position) < 1.1 * reach) return true;
      }
    const name = nameOf(own.position, 13);
    cells.set(name, [...(cells.get(name) ?? []), own]);
  }
  return false;
}

/** Whether a way bends so sharply that the inner sides of its tube would pass each other. */
function folds(stations: readonly Station[], ring: boolean, radius: number): boolean {
  const n = stations.length;
  /** How much of the ways beside it a bend takes on its inner side. */
  const taken = stations.map((one, i) => {
    if (!ring && (i === 0 || i === n - 1)) return 0;
    return radius * one.times * Math.tan(turnAt(stations[(i + n - 1) % n], one, stations[(i + 1) % n]) / 2);
  });
  return stations.some(
    (one, i) => (ring || i < n - 1) && taken[i] + taken[(i + 1) % n] > 1.0001 * apart(one, stations[(i + 1) % n]),
  );
}

/** Where a line begins and ends. */
function endsOf({ curve }: GuideLine): Vec3[] {
  const P = new Float64Array(6);
  curve.sample(Float64Array.of(0, curve.length), 2, P, null);
  return [0, 3].map((k): Vec3 => [P[k], P[k + 1], P[k + 2]]);
}

/** The body that a section leaves behind along a way. */
function sweep(
  { stations, ring, before: from, after: onTo }: Run,
  section: Section,
  radius: number,
  round: readonly [boolean, boolean],
): ClosedMesh {
  const [n, m] = [stations.length, section.length];
  const position: number[] = [];
  const index: number[] = [];
  const way = (i: number): Vec3 | null => {
    if (!ring && i < 0) return from ? normalize(subtract(stations[0].position, from)) : null;
    if (!ring && i >= n - 1) return onTo ? normalize(subtract(onTo, stations[n - 1].position)) : null;
    return normalize(subtract(stations[(i + 1) % n].position, stations[(i + n) % n].position));
  };
  const ringAt = (centre: Vec3, at: (across: number, up: number) => Vec3): void => {
    for (const [a, u] of section) position.push(...add(centre, at(a, u)));
  };
  const point = (p: Vec3): number => {
    position.push(...p);
    return position.length / 3 - 1;
  };
  /** Rings from `a` to `b` become a wall. */
  const wall = (a: number, b: number): void => {
    for (let k = 0; k < m; k++) {
      const l = (k + 1) % m;
      index.push(a + k, a + l, b + l, a + k, b + l, b + k);
    }
  };
  const cap = (ringStart: number, tip: number, atEnd: boolean): void => {
    for (let k = 0; k < m; k++) {
      const l = (k + 1) % m;
      if (atEnd) index.push(tip, ringStart + k, ringStart + l);
      else index.push(tip, ringStart + l, ringStart + k);
    }
  };
  /** A ring square to the way at one of its ends, drawn in and set back by an angle from 0 to a quarter turn. */
  const capRing = (i: number, forward: Vec3, way: 1 | -1, angle: number): void => {
    const { position: p, across, up, times } = squared(stations[i], forward);
    const size = radius * times;
    const centre = add(p, scale(forward, way * size * Math.sin(angle)));
    ringAt(centre, (a, u) => scale(add(scale(across, a), scale(up, u)), size * Math.cos(angle)));
  };
  const rings: number[] = [];
  const begin = () => rings.push(position.length / 3);
  if (!ring && round[0]) {
    for (let c = CAP - 1; c > 0; c--) {
      begin();
      capRing(0, way(0)!, -1, (Math.PI / 2) * (c / CAP));
    }
  }
  for (let i = 0; i < n; i++) {
    const [before, after] = [way(i - 1) ?? way(i)!, way(i) ?? way(i - 1)!];
    const tangent = normalize(add(before, after));
    const own = squared(stations[i], tangent);
    const bend = subtract(after, before);
    const turn = lengthOf(bend);
    const wider = 1 / Math.max(0.25, dot(tangent, after));
    begin();
    ringAt(own.position, (a, u) => {
      const beside = scale(add(scale(own.across, a), scale(own.up, u)), radius * own.times);
      if (turn < 1e-9) return beside;
      const towards = scale(bend, 1 / turn);
      return add(beside, scale(towards, (wider - 1) * dot(beside, towards)));
    });
  }
  if (!ring && round[1]) {
    for (let c = 1; c < CAP; c++) {
      begin();
      capRing(n - 1, way(n - 2)!, 1, (Math.PI / 2) * (c / CAP));
    }
  }
  for (let r = 0; r + 1 < rings.length; r++) wall(rings[r], rings[r + 1]);
  if (ring) wall(rings[rings.length - 1], rings[0]);
  else {
    const [first, last] = [stations[0], stations[n - 1]];
    const tip = (s: Station, forward: Vec3, isRound: boolean) =>
      point(isRound ? add(s.position, scale(forward, radius * s.times)) : s.position);
    cap(rings[0], tip(first, scale(way(0)!, -1), round[0]), false);
    cap(rings[rings.length - 1], tip(last, way(n - 2)!, round[1]), true);
  }
  return { position: Float32Array.from(position), index: Uint32Array.from(index) };
}

/** A station with its directions square to the way. */
function squared(station: Station, tangent: Vec3): Station {
  const across = normalize(subtract(station.across, scale(tangent, dot(station.across, tangent))));
  return { ...station, across, up: cross(tangent, across) };
}
