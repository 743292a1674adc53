/**
 * *How full a field is at a place*: from 0, where nothing stands, to 1. Slope, height, facing, distances and the fade at the
 * edge each say a share, and all are multiplied. What stands is decided by each position's own lot, so a limit that is
 * changed leaves everything that still qualifies where it was.
 */
import { PointGrid, trianglesBeyond, Chart, type WorldMesh, type Met } from "../../mesh";
import { Cells, Plan, type Volume, type Field } from "../../host";
import { colourShare, imageShare } from "./image-mask";
import { NearLine } from "./near-line";
import { paintedOn } from "./paint";
import type { Reason, Spots } from "./spots";
import { FLAG } from "../slots";
import type { GuideLine } from "../../line";
import type { Raster } from "../../image";
import type { Placements } from "../placements";
import type { Gaps, Masking } from "./schema";

interface Rule {
  reason: Reason;
  /** Multiplies what `out` holds for each place by the share that this rule gives it. */
  apply(spots: Spots, out: Float32Array): void;
}

export interface DensityMask {
  rules: Rule[];
  /** How far from the edge a place is, as a share of the fade; null where nothing fades. */
  edge: ((x: number, z: number) => number) | null;
  /** By how much things are smaller at the very edge. */
  edgeSize: number;
}

/** Ground as level as this faces nowhere: the length of its normal seen from above. */
const LEVEL = 0.01;
/** Lines that things keep off are cut into so many pieces at most, each about so long. */
const MAX_PIECES = 20_000;
const PIECE = 0.25;
/** The same for distances in space. */
const IN_SPACE = 400;

/** What there is in a scene that shades hang on. */
export interface MaskSources {
  guides: ReadonlyMap<string, GuideLine>;
  surfaces: ReadonlyMap<string, WorldMesh>;
  /** Where the props of other dressings stand, by the ids of these. */
  placed: ReadonlyMap<string, Placements>;
  /** Pictures by the hashes of their bytes. */
  images: ReadonlyMap<string, Raster>;
}

/** What the gaps of a dressing say of one field. */
export function densityMaskOf(params: Masking, field: Field, around: MaskSources): DensityMask {
  const rules: Rule[] = [];
  const { plan, volume } = field;
  if (volume) return insideOf(params, volume, around);
  if (plan) rules.push(outsideRule(plan));
  if (params.slopeOn) rules.push(slopeRule(params));
  if (params.heightOn) rules.push(heightRule(params));
  if (params.facingOn) rules.push(facingRule(params));
  rules.push(...alongRules(params, field.ground));
  for (const distance of params.distances) rules.push(...distanceRules(distance, around, lineRule));
  for (const mask of params.images) {
    const share = imageShare(mask, around.images.get(mask.asset), field.ground);
    if (share) rules.push(each("mask", share));
  }
  const coloured = colourShare(params.colours, field.ground);
  if (coloured) rules.push(each("mask", coloured));
  const painted = paintedOn(params.paint, field);
  if (painted) {
    rules.push(each("paint", ({ position: P }, i) => painted(P[3 * i], P[3 * i + 1], P[3 * i + 2])));
  }
  const edge = params.edge > 0 ? edgeOf(field, params.edge) : null;
  if (edge) rules.push(each("edge", ({ position }, i) => edge(position[3 * i], position[3 * i + 2])));
  return { rules, edge, edgeSize: edge ? params.edgeSize : 0 };
}

const outsideRule = (plan: Plan): Rule =>
  each("outside", ({ position }, i) => (plan.contains(position[3 * i], position[3 * i + 2]) ? 1 : 0));

/** All within a field's outlines, and nothing else. */
export const outlineMask = ({ plan }: Field): DensityMask => ({
  rules: plan ? [outsideRule(plan)] : [],
  edge: null,
  edgeSize: 0,
});

/** The same of a volume, in which there is no slope and no edge, but walls; distances to lines are taken in space. */
function insideOf(params: Masking, volume: Volume, around: MaskSources): DensityMask {
  const { walls, heightOn, distances } = params;
  const rules: Rule[] = [];
  if (heightOn) rules.push(heightRule(params));
  if (walls > 0) {
    rules.push(
      each("walls", ({ position: P }, i) =>
        volume.toWall(...volume.inOwn([P[3 * i], P[3 * i + 1], P[3 * i + 2]]), walls) >= walls - ON_LIMIT ? 1 : 0,
      ),
    );
  }
  for (const distance of distances) rules.push(...distanceRules(distance, around, spaceRule));
  return { rules, edge: null, edgeSize: 0 };
}

/** The rule for the distance to a line, a surface or the props of a dressing; none where that is gone. */
function distanceRules(
  distance: Distance,
  { guides, surfaces, placed }: MaskSources,
  ofLine: (line: GuideLine, distance: Distance) => Rule,
): Rule[] {
  const { to, none, full } = distance;
  const line = guides.get(to);
  const surface = surfaces.get(to);
  const props = placed.get(to);
  if (line) return line.curve.length > 0 ? [ofLine(line, distance)] : [];
  if (surface) return [surfaceRule(surface, none, full)];
  return props ? [propsRule(props, none, full)] : [];
}

type Distance = Gaps["distances"][number];

/** The shares of all places: n. */
export function sharesOf({ rules }: DensityMask, spots: Spots): Float32Array {
  const out = new Float32Array(spots.count).fill(1);
  for (const rule of rules) rule.apply(spots, out);
  return out;
}

/** Looks no longer at what another rule has ruled out. */
const each = (reason: Reason, share: (spots: Spots, i: number) => number): Rule => ({
  reason,
  apply(spots, out) {
    for (let i = 0; i < spots.count; i++) if (out[i] > 0) out[i] *= share(spots, i);
  },
});

/** From 0 at `none` to 1 at `full`, whichever lies lower; a smooth curve between them. */
function between(value: number, none: number, full: number): number {
  if (none === full) return value >= full - ON_LIMIT ? 1 : 0;
  const share = Math.max(0, Math.min(1, (value - none) / (full - none)));
  return share * share * (3 - 2 * share);
}

/** Limits belong to what they let stand: what misses one by no more than this, metres or radians, lies on it. */
const ON_LIMIT = 1e-5;

/** 1 within a range, and thinning out beyond it over `soft`. */
function within(value: number, [low, high]: readonly [number, number], soft: number): number {
  const beyond = Math.max(low - value, value - high);
  return beyond <= ON_LIMIT ? 1 : soft > 0 ? 1 - between(beyond, 0, soft) : 0;
}

const slopeRule = ({ slope, slopeSoft }: Masking): Rule =>
  each("slope", ({ normal: N }, i) =>
    within(Math.atan2(Math.hypot(N[3 * i], N[3 * i + 2]), N[3 * i + 1]), slope, slopeSoft),
  );

const heightRule = ({ height, heightSoft }: Masking): Rule =>
  each("height", ({ position }, i) => within(position[3 * i + 1], height, heightSoft));

const facingRule = ({ facing, facingWithin }: Masking): Rule => {
  const [x, z] = [Math.sin(facing), -Math.cos(facing)];
  const least = Math.cos(Math.min(Math.PI, facingWithin + ON_LIMIT));
  return each("facing", ({ normal }, i) => {
    const [a, b] = [normal[3 * i], normal[3 * i + 2]];
    const level = Math.hypot(a, b);
    return level > LEVEL && (a * x + b * z) / level >= least ? 1 : 0;
  });
};

/** Between two places along a surface's own u or v; nothing where it has no texture coordinates. */
function alongRules(params: Masking, ground: WorldMesh): Rule[] {
  if (!params.uOn && !params.vOn) return [];
  const chart = Chart.of(ground);
  if (!chart) return [];
  const [least, most] = [chart.least, chart.most];
  return (["u", "v"] as const).flatMap((which, axis) => {
    if (!params[`${which}On`]) return [];
    const long = most[axis] - least[axis];
    const unit = params[`${which}By`] === "share" && long > 0 ? long : 1;
    const [range, soft] = [params[which], params[`${which}Soft`]];
    return each("uv", ({ position: P, triangle }, i) => {
      const place = chart.placeIn(triangle[i], P[3 * i], P[3 * i + 1], P[3 * i + 2]);
      return within((place[axis] - least[axis]) / unit, range, soft);
    });
  });
}

/** Distance to a line as seen from above. */
function lineRule(line: GuideLine, { none, full, within }: Distance): Rule {
  const { curve } = line;
  const pieces = Math.max(8, Math.min(MAX_PIECES, Math.ceil(curve.length / PIECE)));
  const at = Float64Array.from({ length: pieces + 1 }, (_, i) => (curve.length * i) / pieces);
  const points = new Float64Array(3 * (pieces + 1));
  curve.sample(at, pieces + 1, points, new Float64Array(3 * (pieces + 1)));
  const edges = new Float64Array(4 * pieces);
  for (let k = 0; k < pieces; k++) {
    edges.set([points[3 * k], points[3 * k + 2], points[3 * k + 3], points[3 * k + 5]], 4 * k);
  }
  const cells = new Cells(edges);
  const most = Math.max(none, full) + 1e-6;
  const inner = within ? Plan.of([line], []) : null;
  return each("distance", ({ position }, i) => {
    const [x, z] = [position[3 * i], position[3 * i + 2]];
    return between(inner?.contains(x, z) ? 0 : cells.nearest(x, z, most), none, full);
  });
}

/** Distance to the nearest prop of another dressing that stands, from where the one would to where the other does. */
function propsRule(placements: Placements, none: number, full: number): Rule {
  const { count, origin, position, flags } = placements;
  const most = Math.max(none, full) + 1e-6;
  const standing = new PointGrid(count);
  for (let i = 0; i < count; i++) {
    if ((flags[i] & FLAG.blank) !== 0) continue;
    standing.push(origin[0] + position[3 * i], origin[1] + position[3 * i + 1], origin[2] + position[3 * i + 2]);
  }
  standing.resize(most);
  return each("distance", ({ position: P }, i) =>
    between(standing.nearest(P[3 * i], P[3 * i + 1], P[3 * i + 2], most), none, full),
  );
}

/** Distance to a line in space. */
function spaceRule({ curve }: GuideLine, { none, full }: Distance): Rule {
  const pieces = Math.max(8, Math.min(IN_SPACE, Math.ceil(curve.length / PIECE)));
  const near = new NearLine(curve, pieces, Math.max(none, full) + 1e-6);
  return each("distance", ({ position: P }, i) =>
    between(near.distance(P[3 * i], P[3 * i + 1], P[3 * i + 2]), none, full),
  );
}

/** Distance to a surface in space. */
function surfaceRule(ground: WorldMesh, none: number, full: number): Rule {
  const met: Met = { triangle: -1, x: 0, y: 0, z: 0 };
  return each("distance", ({ position }, i) => {
    const [x, y, z] = position.subarray(3 * i, 3 * i + 3);
    ground.tree.nearest(x, y, z, met);
    return met.triangle < 0 ? 1 : between(Math.hypot(met.x - x, met.y - y, met.z - z), none, full);
  });
}

/** How far a place lies from the outline, or without one from the rim of the mesh: from 0 to 1 over the fade. */
function edgeOf({ plan, ground }: Field, fade: number): DensityMask["edge"] {
  if (plan?.bounded) return (x, z) => between(plan.toEdge(x, z, fade), 0, fade);
  const rim = rimOf(ground);
  if (rim.length === 0 && !plan) return null;
  const cells = rim.length > 0 ? new Cells(rim) : null;
  return (x, z) => {
    const far = cells ? cells.nearest(x, z, fade) : fade;
    return between(plan ? Math.min(far, plan.toEdge(x, z, fade)) : far, 0, fade);
  };
}

/** The edges of a mesh that have a triangle on one side only, seen from above. */
function rimOf({ position: P, index }: WorldMesh): Float64Array {
  const beyond = trianglesBeyond(P, index);
  const edges: number[] = [];
  for (let e = 0; e < beyond.length; e++) {
    if (beyond[e] >= 0) continue;
    const [a, b] = [3 * index[e], 3 * index[e - (e % 3) + ((e + 1) % 3)]];
    edges.push(P[a], P[a + 2], P[b], P[b + 2]);
  }
  return Float64Array.from(edges);
}
