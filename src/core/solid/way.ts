/** *The way of a tube*: where it is cut along its line, and parted where it cannot be one body. */
import { add, cross, distance, dot, lengthOf, rotate, scale, subtract, type Quat, type Vec3 } from "../math";
import type { GuideLine } from "../line";
import type { Tube } from "../made";

/** What of a tube each of its lines hangs on. */
export type TubeRules = Omit<Tube, "lines" | "outline">;

/** Pieces of the way stray from the line by no more than this share of the radius. */
const STRAY = 0.02;
/** A line is looked at in so many places, its knots aside. */
const [FEWEST, MOST] = [64, 4096];
/** Where a way turns by more than this, radians, it ends and begins anew, round. */
const SHARPEST = (2 / 3) * Math.PI;
/** A tube that comes near itself is cut into bodies that turn by little more than this, radians, and are joined like any others. */
const MOST_TURNED = Math.PI / 2;
export interface Station {
  at: number;
  position: Vec3;
  /** Across and up, square to the line, and along it. */
  across: Vec3;
  up: Vec3;
  forward: Vec3;
  /** How many times the radius. */
  times: number;
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
export function stationsOf(guide: GuideLine, made: TubeRules): Station[] {
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

export interface Run {
  stations: Station[];
  /** Whether its end is its start. */
  ring: boolean;
  /** Where the way comes from and goes on to, where it does. */
  before?: Vec3;
  after?: Vec3;
}

/** The way parted where it turns more sharply than its sides could be cut for. */
export function runsOf(all: readonly Station[], closed: boolean): Run[] {
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
export function piecesOf(stations: readonly Station[], ring: boolean): (Run & { first: boolean; last: boolean })[] {
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
export function nearsItself(stations: readonly Station[], ring: boolean, radius: number): boolean {
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
export function folds(stations: readonly Station[], ring: boolean, radius: number): boolean {
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
