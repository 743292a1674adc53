/**
 * A line laid onto surfaces. It is followed in short pieces, and wherever it goes over an edge of the mesh these are halved
 * until the edge is met; so that between its points it lies on the surface as well, to a tenth of a millimetre.
 */
import { GuideLine, hasKnots, type LaidOnSurface, type LaidTrack, type Line } from "../line";
import { normalize, subtract, type Vec3 } from "../math";
import { Chart, type WorldMesh, type Met } from "../mesh";
import { onSheet, type Followed } from "./on-sheet";
import { sectionBetween } from "./section";

/** Pieces at first: about so long, metres, and so many. */
const PIECE = 0.05;
const [FEWEST, MOST] = [64, 4000];
/** What lies this far off is taken as lying on it; pieces shorter than this are not halved any more, metres. */
const TOLERANCE = 2e-5;
const LEAST = 5e-5;
/** There are no more points than this. */
const MOST_POINTS = 40_000;
const MAX_DEPTH = 40;
/** Normals that differ by no more are those of one plane. */
const SAME = 1 - 1e-12;
/** Edges bent by more than this keep the normals of their sides, as where things are spread. */
const CREASE = Math.cos(Math.PI / 4);

/** A place of the line on a surface. */
interface Spot {
  at: number;
  point: Vec3;
  normal: Vec3;
  /** Which triangle of which ground: -1 for none, where the line stays as it is. */
  triangle: number;
  ground: number;
  /** Whether one of the line's knots is there. */
  knot: boolean;
}

type Project = (point: Vec3) => Omit<Spot, "at" | "knot">;

export function trackOnto(
  line: Line,
  laid: LaidOnSurface,
  guide: GuideLine,
  grounds: readonly WorldMesh[],
  bends: boolean,
): LaidTrack | null {
  const project = projection(laid, grounds);
  const onto: Onto = { project, way: laid.way, grounds, bends };
  if (laid.how === "knots" && hasKnots(line)) return withKnots(line, onto);
  const chart = laid.how === "sheet" ? Chart.of(grounds[0]) : null;
  if (!chart) return tracked(guide.curve, onto, true);
  const { curve, toSurface } = onSheet(line, chart);
  return tracked(curve, { ...onto, project: spotOn(chart, toSurface, grounds[0]), way: "down" }, true);
}

/** The place of a surface that lies at a point of its sheet; beside the sheet the last one on the way there from its middle. */
const spotOn =
  (chart: Chart, toSurface: (flat: Vec3) => [x: number, y: number], ground: WorldMesh): Project =>
  (flat) => {
    const found = placeOn(chart, toSurface(flat));
    if (!found) return { point: flat, normal: [0, 1, 0], triangle: -1, ground: -1 };
    const { point, triangle } = found;
    const [x, y, z] = point;
    return { point, normal: normalAt(ground, { triangle, x, y, z }), triangle, ground: 0 };
  };

const HALVINGS = 30;

function placeOn(chart: Chart, [x, y]: readonly [number, number]): ReturnType<Chart["toWorld"]> {
  const { least, most } = chart;
  const [mx, my] = [0, 1].map((axis) => (least[axis] + most[axis]) / 2);
  let found = chart.toWorld(x, y);
  for (let k = 0, low = 0, high = 1; !found && k < HALVINGS; k++) {
    const share = (low + high) / 2;
    const there = chart.toWorld(mx + share * (x - mx), my + share * (y - my));
    if (there) low = share;
    else high = share;
    if (k === HALVINGS - 1) found = chart.toWorld(mx + low * (x - mx), my + low * (y - my));
  }
  return found;
}

/** How a line is laid onto what. */
interface Onto {
  project: Project;
  way: LaidOnSurface["way"];
  grounds: readonly WorldMesh[];
  /** Whether it needs a point wherever it goes over an edge of the mesh, even where that is flat. */
  bends: boolean;
}

/** Only the knots are laid; the line goes through them as its kind does, and its normals are those below it. */
function withKnots(line: Line, onto: Onto): LaidTrack | null {
  const knots = line.knots.map((knot) => ({ ...knot, position: onto.project(knot.position).point }));
  return tracked(new GuideLine({ ...line, knots } as Line).curve, onto, false);
}

/** @param laid whether the points themselves are laid, or only looked at for their normals */
function tracked(curve: Followed, { project, way, grounds, bends }: Onto, laid: boolean): LaidTrack | null {
  if (!(curve.length > 0)) return null;
  const place = new Float64Array(6);
  const spotAt = (at: number, knot = false): Spot => {
    curve.sampleAt(at, place);
    const own: Vec3 = [place[0], place[1], place[2]];
    const found = project(own);
    return { at, knot, ...found, point: laid ? found.point : own };
  };
  const spots = begun(curve.length, curve.knotAt, curve.closed).map(([at, knot]) => spotAt(at, knot));
  const leaps: Leaps = { grounds: way === "nearest" ? grounds : [], left: 0 };
  const all = laid ? refined(spots, spotAt, leaps, bends ? onOneTriangle : onOnePlane) : spots;
  const kept = bends ? all : simplified(all);
  if (curve.closed && kept.length > 3) kept.pop();
  const knots = kept.flatMap(({ knot }, i) => (knot ? [i] : []));
  return {
    points: Float64Array.from(kept.flatMap(({ point }) => point)),
    normals: Float32Array.from(kept.flatMap(({ normal }) => normal)),
    closed: curve.closed,
    knots: Uint32Array.from(knots),
    leaps: leaps.left,
  };
}

/** Where the nearest place leaps across a hollow the line follows the mesh between, on these grounds. */
interface Leaps {
  grounds: readonly WorldMesh[];
  /** How many are left, as the mesh leads nowhere there. */
  left: number;
}

/** The arc lengths at which a line is looked at first: at its knots, and evenly between them. */
function begun(length: number, knotAt: Float64Array, closed: boolean): [at: number, knot: boolean][] {
  const pieces = Math.max(FEWEST, Math.min(MOST, Math.ceil(length / PIECE)));
  const at: [number, boolean][] = Array.from({ length: pieces + 1 }, (_, i) => [(length * i) / pieces, false]);
  for (const knot of knotAt) if (!closed || knot < length) at.push([knot, true]);
  at.sort(([a, x], [b, y]) => a - b || Number(y) - Number(x));
  return at.filter(([s, knot], i) => knot || i === 0 || s - at[i - 1][0] > 1e-9 * length);
}

function refined(
  spots: readonly Spot[],
  spotAt: (at: number) => Spot,
  leaps: Leaps,
  together: (a: Spot, b: Spot) => boolean,
): Spot[] {
  const out: Spot[] = [spots[0]];
  const whole = Math.abs(spots[spots.length - 1].at - spots[0].at);
  const between = (a: Spot, b: Spot, depth: number): void => {
    const far = Math.hypot(...subtract(b.point, a.point));
    // As near to each other along the line as can be told, and yet not on the surface.
    if (leaps.grounds.length > 0 && far > LEAST && b.at - a.at < LEAP * whole) {
      out.push(...across(a, b, leaps), b);
      return;
    }
    if (out.length < MOST_POINTS && depth < MAX_DEPTH && far > LEAST) {
      const middle = spotAt((a.at + b.at) / 2);
      if (!(together(a, middle) && together(middle, b) && fromChord(middle.point, a.point, b.point) < TOLERANCE)) {
        between(a, middle, depth + 1);
        between(middle, b, depth + 1);
        return;
      }
    }
    out.push(b);
  };
  for (let i = 1; i < spots.length; i++) between(spots[i - 1], spots[i], 0);
  return out;
}

/** Spots that are nearer to each other than this share of the line, and apart on the surface, are a leap. */
const LEAP = 1e-9;

/** The way over the mesh from one side of a leap to the other. */
function across(a: Spot, b: Spot, leaps: Leaps): Spot[] {
  const ground = leaps.grounds[a.ground];
  const normal = a.normal.map((x, axis) => x + b.normal[axis]) as unknown as Vec3;
  const passed = a.ground === b.ground && a.ground >= 0 ? sectionBetween(ground, a, b, normal) : null;
  if (!passed) {
    leaps.left++;
    return [];
  }
  return passed.map(({ point, triangle }) => {
    const [x, y, z] = point;
    return { ...a, point, triangle, normal: normalAt(ground, { triangle, x, y, z }), knot: false };
  });
}

const onOneTriangle = (a: Spot, b: Spot): boolean => a.ground === b.ground && a.triangle === b.triangle;

const onOnePlane = (a: Spot, b: Spot): boolean =>
  a.ground === b.ground &&
  (a.triangle === b.triangle || (a.triangle >= 0 && b.triangle >= 0 && alike(a.normal, b.normal)));

const alike = (a: Vec3, b: Vec3): boolean => a[0] * b[0] + a[1] * b[1] + a[2] * b[2] > SAME;

function fromChord(point: Vec3, a: Vec3, b: Vec3): number {
  const way = subtract(b, a);
  const from = subtract(point, a);
  const squared = way[0] ** 2 + way[1] ** 2 + way[2] ** 2;
  const share = squared > 0 ? (from[0] * way[0] + from[1] * way[1] + from[2] * way[2]) / squared : 0;
  const held = Math.max(0, Math.min(1, share));
  return Math.hypot(from[0] - held * way[0], from[1] - held * way[1], from[2] - held * way[2]);
}

/** Without what lies on the straight way between others (D. H. Douglas, T. K. Peucker, 1973); ends and knots stay. */
function simplified(spots: readonly Spot[]): Spot[] {
  const keep = new Uint8Array(spots.length);
  keep[0] = keep[spots.length - 1] = 1;
  const stack: [number, number][] = [];
  let from = 0;
  spots.forEach(({ knot }, i) => {
    if (!knot && i < spots.length - 1) return;
    keep[i] = 1;
    if (i > from) stack.push([from, i]);
    from = i;
  });
  for (let next = stack.pop(); next; next = stack.pop()) {
    const [a, b] = next;
    let [worst, far] = [-1, TOLERANCE];
    for (let i = a + 1; i < b; i++) {
      const off = fromChord(spots[i].point, spots[a].point, spots[b].point);
      if (off > far) [worst, far] = [i, off];
    }
    if (worst < 0) continue;
    keep[worst] = 1;
    stack.push([a, worst], [worst, b]);
  }
  return spots.filter((_, i) => keep[i] === 1);
}

/** How a point is laid onto the nearest of some grounds. */
function projection({ way, axis }: LaidOnSurface, grounds: readonly WorldMesh[]): Project {
  const met: Met = { triangle: -1, x: 0, y: 0, z: 0 };
  const direction: Vec3 = way === "axis" ? normalize(axis, [0, -1, 0]) : [0, -1, 0];
  const [dx, dy, dz] = direction;
  const cast = (ground: WorldMesh, [x, y, z]: Vec3, sign: 1 | -1) =>
    ground.tree.first(x, y, z, sign * dx, sign * dy, sign * dz, met);
  return (point) => {
    let best: Omit<Spot, "at" | "knot"> = { point, normal: [0, 1, 0], triangle: -1, ground: -1 };
    let least = Infinity;
    const take = (ground: WorldMesh, index: number): void => {
      if (met.triangle < 0) return;
      const far = Math.hypot(met.x - point[0], met.y - point[1], met.z - point[2]);
      if (far >= least) return;
      least = far;
      best = { point: [met.x, met.y, met.z], normal: [0, 1, 0], triangle: met.triangle, ground: index };
      best.normal = normalAt(ground, met);
    };
    const all = (look: (ground: WorldMesh) => void) =>
      grounds.forEach((ground, index) => {
        look(ground);
        take(ground, index);
      });
    if (way === "nearest") all((ground) => ground.tree.nearest(...point, met));
    else {
      // Between its knots a line runs below the ground as well as above it.
      all((ground) => cast(ground, point, 1));
      all((ground) => cast(ground, point, -1));
    }
    return best;
  };
}

const flat = new Float64Array(3);
const smooth = new Float64Array(3);

/** The smooth normal of a surface, or a triangle's own where the mesh has an edge. */
function normalAt(ground: WorldMesh, { triangle, x, y, z }: Met): Vec3 {
  ground.flatNormal(triangle, flat);
  ground.smoothNormal(triangle, x, y, z, smooth);
  const near = flat[0] * smooth[0] + flat[1] * smooth[1] + flat[2] * smooth[2] >= CREASE;
  return Array.from(near ? smooth : flat) as unknown as Vec3;
}
