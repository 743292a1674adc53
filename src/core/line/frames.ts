/**
 * Frames along a curve: forward is the tangent (+Z), up is +Y, across is +X = up × forward. One kernel for each rule that
 * says where up comes from.
 */
import { vectorAt, writeFromBasis, type Vec3 } from "../math";
import { arcLengthWithin, type Curve } from "./curve";
import type { Normals } from "./track";
import { PARALLEL, reflectTwice, stationAt, type Stations } from "./stations";

/** Where up comes from: a rule, or a point that it leads away from. */
export type UpRule = "world" | "plumb" | "line" | "roll" | "normal" | Vec3;
/** The same with normals in hand. */
type UpSource = Exclude<UpRule, "normal"> | Normals;

/** Places a piece of work: what belongs to them fits the processor's nearest cache. */
const CHUNK = 1024;

/** What the pieces are worked out in. */
const room = {
  tangent: new Float64Array(3 * CHUNK),
  places: new Float64Array(2 * CHUNK),
};

/** What has the stations of a curve as soon as they are asked for: only frames that never twist, and what is upright, need them. */
interface Stationed {
  readonly stations: Stations;
}

/**
 * Writes positions (3n, metres) and frames (4n, quaternions) at `n` arc lengths.
 *
 * - `line`: the rotation-minimizing frame of the stations.
 * - `world`: forward along the line; up is the world's made perpendicular to it, and where the line runs straight up or
 *   down, the line's own.
 * - `plumb`: up is the world's; forward is the line's heading on the level, and where it has none, the heading that the
 *   line's own frame had on the way there.
 * - `roll`: as `world`; the line's roll comes on top of it, see `roll.ts`.
 * - a point: forward along the line, up away from the point as far as that allows; where the line runs straight to or from
 *   it, the line's own.
 * - normals: forward along the line, up as near to them as that allows; where the line runs straight along one, its own.
 */
export function writeFrames(
  curve: Curve,
  line: Stationed,
  rule: UpSource,
  at: Float64Array,
  n: number,
  position: Float64Array,
  rotation: Float64Array,
): void {
  const { tangent } = room;
  for (let from = 0; from < n; from += CHUNK) {
    const to = Math.min(n, from + CHUNK);
    const places = { at: at.subarray(from, to), position: position.subarray(3 * from, 3 * to), tangent };
    curve.sample(places.at, to - from, places.position, tangent);
    kernelOf(rule)(curve, line, places, rotation.subarray(4 * from, 4 * to));
  }
}

/**
 * As {@link writeFrames}, for props that reach from one arc length to another (2n): positions halfway between both ends,
 * forward from one end straight to the other. A span of NaN is the single place `at`.
 */
export function writeSpanFrames(
  curve: Curve,
  line: Stationed,
  rule: UpSource,
  at: Float64Array,
  span: Float64Array,
  n: number,
  position: Float64Array,
  rotation: Float64Array,
): void {
  const { tangent, places } = room;
  for (let from = 0; from < n; from += CHUNK) {
    const to = Math.min(n, from + CHUNK);
    const count = to - from;
    for (let i = 0, o = 2 * from; i < 2 * count; i += 2, o += 2) {
      const whole = span[o] === span[o];
      const alone = at[o >> 1];
      places[i] = whole ? span[o] : alone;
      places[i + 1] = whole ? span[o + 1] : alone;
    }
    const middles = position.subarray(3 * from, 3 * to);
    curve.chords(places, count, middles, tangent);
    const chords = { at: at.subarray(from, to), position: middles, tangent };
    kernelOf(rule)(curve, line, chords, rotation.subarray(4 * from, 4 * to));
  }
}

/** Places along a curve, n of them: arc lengths n, positions 3n, unit tangents 3n or more. */
interface Places {
  at: Float64Array;
  position: Float64Array;
  tangent: Float64Array;
}

type Kernel = (curve: Curve, line: Stationed, places: Places, rotation: Float64Array) => void;

const KERNELS = { line: writeOwn, world: writeWorld, plumb: writePlumb, roll: writeWorld };

const kernelOf = (rule: UpSource): Kernel =>
  typeof rule === "string" ? KERNELS[rule] : "normal" in rule ? squareTo(rule) : awayFrom(rule);

/**
 * The line's own frame. Two reflections after each other are a rotation, and as a quaternion it is the product of their
 * normals: so the station's frame is carried over by one product, and only its length has to be put right.
 */
function writeOwn(
  curve: Curve,
  { stations }: Stationed,
  { at, position, tangent }: Places,
  rotation: Float64Array,
): void {
  const n = at.length;
  const lastStation = stations.at.length - 1;
  const near = (1e-12 * curve.length) ** 2;
  for (let i = 0; i < n;) {
    let s = arcLengthWithin(curve, at[i]);
    // Neighbours mostly share a station, which is read once for all of them.
    const station = stationAt(stations, curve.length, s);
    const from = stations.at[station];
    const to = station < lastStation ? stations.at[station + 1] : Infinity;
    const a = 3 * station;
    const px = stations.position[a];
    const py = stations.position[a + 1];
    const pz = stations.position[a + 2];
    const sx = stations.tangent[a];
    const sy = stations.tangent[a + 1];
    const sz = stations.tangent[a + 2];
    const b = 4 * station;
    const qx = stations.rotation[b];
    const qy = stations.rotation[b + 1];
    const qz = stations.rotation[b + 2];
    const qw = stations.rotation[b + 3];
    do {
      const o = 3 * i;
      const tx = tangent[o];
      const ty = tangent[o + 1];
      const tz = tangent[o + 2];

      // The first reflection halves the way from the station; where there is no way, it turns the tangent round.
      let vx = position[o] - px;
      let vy = position[o + 1] - py;
      let vz = position[o + 2] - pz;
      let squared = vx * vx + vy * vy + vz * vz;
      if (!(squared > near)) {
        vx = sx;
        vy = sy;
        vz = sz;
        squared = 1;
      }
      // The second one halves the angle between the reflected tangent and the one there.
      const k = (2 * (vx * sx + vy * sy + vz * sz)) / squared;
      const wx = tx - sx + k * vx;
      const wy = ty - sy + k * vy;
      const wz = tz - sz + k * vz;

      const rx = wy * vz - wz * vy;
      const ry = wz * vx - wx * vz;
      const rz = wx * vy - wy * vx;
      const rw = -(wx * vx + wy * vy + wz * vz);
      const length = rx * rx + ry * ry + rz * rz + rw * rw;
      const q = 4 * i;
      if (length > 1e-20 * squared) {
        const inverse = 1 / Math.sqrt(length);
        rotation[q] = (rw * qx + rx * qw + ry * qz - rz * qy) * inverse;
        rotation[q + 1] = (rw * qy - rx * qz + ry * qw + rz * qx) * inverse;
        rotation[q + 2] = (rw * qz + rx * qy - ry * qx + rz * qw) * inverse;
        rotation[q + 3] = (rw * qw - rx * qx - ry * qy - rz * qz) * inverse;
      } else {
        writeReflected(stations, station, position, tangent, i, rotation);
      }
      i++;
      s = i < n ? at[i] : NaN;
    } while (s >= from && s < to && s <= curve.length);
  }
  if (stations.twist !== 0) untwist(curve, stations.twist, at, rotation);
}

/** Where the curve turns right back there is no second reflection: up stays as the first one left it. */
function writeReflected(
  stations: Stations,
  station: number,
  position: Float64Array,
  tangent: Float64Array,
  i: number,
  rotation: Float64Array,
): void {
  const up = new Float64Array(3);
  reflectTwice(stations.position, stations.tangent, stations.up, station, position, tangent, i, up, 0);
  const [tx, ty, tz] = vectorAt(tangent, i);
  const [ux, uy, uz] = vectorAt(up, 0);
  writeFromBasis(rotation, i, uy * tz - uz * ty, uz * tx - ux * tz, ux * ty - uy * tx, ux, uy, uz, tx, ty, tz);
}

/** Turns each frame about its own forward by the share of the twist that belongs to its place. */
function untwist(curve: Curve, twist: number, at: Float64Array, rotation: Float64Array): void {
  const half = -0.5 * twist;
  for (let i = 0; i < at.length; i++) {
    const angle = (half * arcLengthWithin(curve, at[i])) / curve.length;
    const c = Math.cos(angle);
    const k = Math.sin(angle);
    const q = 4 * i;
    const x = rotation[q];
    const y = rotation[q + 1];
    const z = rotation[q + 2];
    const w = rotation[q + 3];
    rotation[q] = x * c + y * k;
    rotation[q + 1] = y * c - x * k;
    rotation[q + 2] = z * c + w * k;
    rotation[q + 3] = w * c - z * k;
  }
}

/** Forward along the line, up as near to the world's as that allows: a heading about Y, then a pitch about X. */
function writeWorld(curve: Curve, line: Stationed, places: Places, rotation: Float64Array): void {
  const { at, tangent } = places;
  for (let i = 0; i < at.length; i++) {
    const tx = tangent[3 * i];
    const ty = tangent[3 * i + 1];
    const tz = tangent[3 * i + 2];
    const squared = tx * tx + tz * tz;
    if (squared <= PARALLEL * PARALLEL) {
      writeOwn(curve, line, placeAt(places, i), rotation.subarray(4 * i, 4 * i + 4));
      continue;
    }
    const level = Math.sqrt(squared);
    const pitchCos = Math.sqrt(0.5 + 0.5 * level);
    const pitchSin = (-0.5 * ty) / pitchCos;
    const sine = tx / level;
    const cosine = tz / level;
    const larger = Math.sqrt(0.5 + 0.5 * Math.abs(cosine));
    const smaller = (0.5 * sine) / larger;
    const yawCos = cosine >= 0 ? larger : smaller;
    const yawSin = cosine >= 0 ? smaller : larger;
    rotation[4 * i] = yawCos * pitchSin;
    rotation[4 * i + 1] = yawSin * pitchCos;
    rotation[4 * i + 2] = -yawSin * pitchSin;
    rotation[4 * i + 3] = yawCos * pitchCos;
  }
}

/** Up is the world's, so there is a heading only. */
function writePlumb(curve: Curve, line: Stationed, places: Places, rotation: Float64Array): void {
  const { at, tangent } = places;
  for (let i = 0; i < at.length; i++) {
    let tx = tangent[3 * i];
    let tz = tangent[3 * i + 2];
    let squared = tx * tx + tz * tz;
    if (squared <= PARALLEL * PARALLEL) {
      [tx, tz] = headingOf(curve, line, placeAt(places, i), tangent[3 * i + 1]);
      squared = tx * tx + tz * tz;
    }
    const cosine = tz / Math.sqrt(squared);
    const larger = Math.sqrt(0.5 + 0.5 * Math.abs(cosine));
    const smaller = (0.5 * tx) / (Math.sqrt(squared) * larger);
    rotation[4 * i] = 0;
    rotation[4 * i + 1] = cosine >= 0 ? smaller : larger;
    rotation[4 * i + 2] = 0;
    rotation[4 * i + 3] = cosine >= 0 ? larger : smaller;
  }
}

/** Up away from a point. */
const awayFrom = ([px, py, pz]: Vec3): Kernel =>
  leaning((_, { position }, i, out) => {
    out[0] = position[3 * i] - px;
    out[1] = position[3 * i + 1] - py;
    out[2] = position[3 * i + 2] - pz;
  });

/** Up as the surface faces there, between the normals that are known. */
const squareTo = ({ at: known, normal }: Normals): Kernel =>
  leaning((curve, { at }, i, out) => {
    const s = arcLengthWithin(curve, at[i]);
    let [low, high] = [0, known.length - 1];
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (known[middle] <= s) low = middle;
      else high = middle;
    }
    const way = known[high] - known[low];
    const share = way > 0 ? (s - known[low]) / way : 0;
    for (let axis = 0; axis < 3; axis++) {
      out[axis] = normal[3 * low + axis] + share * (normal[3 * high + axis] - normal[3 * low + axis]);
    }
  });

type WriteUp = (curve: Curve, places: Places, i: number, out: Float64Array) => void;

/** Up as it is wished for, made perpendicular to forward. */
function leaning(writeUp: WriteUp): Kernel {
  const up = new Float64Array(3);
  return (curve, line, places, rotation) => {
    const { at, tangent } = places;
    for (let i = 0; i < at.length; i++) {
      const o = 3 * i;
      const [tx, ty, tz] = [tangent[o], tangent[o + 1], tangent[o + 2]];
      writeUp(curve, places, i, up);
      let [ux, uy, uz] = up;
      const away = ux * ux + uy * uy + uz * uz;
      const on = ux * tx + uy * ty + uz * tz;
      ux -= on * tx;
      uy -= on * ty;
      uz -= on * tz;
      const squared = ux * ux + uy * uy + uz * uz;
      if (squared <= PARALLEL * PARALLEL * away || away === 0) {
        writeOwn(curve, line, placeAt(places, i), rotation.subarray(4 * i, 4 * i + 4));
        continue;
      }
      const inverse = 1 / Math.sqrt(squared);
      ux *= inverse;
      uy *= inverse;
      uz *= inverse;
      writeFromBasis(rotation, i, uy * tz - uz * ty, uz * tx - ux * tz, ux * ty - uy * tx, ux, uy, uz, tx, ty, tz);
    }
  };
}

const placeAt = ({ at, position, tangent }: Places, i: number): Places => ({
  at: at.subarray(i, i + 1),
  position: position.subarray(3 * i, 3 * i + 3),
  tangent: tangent.subarray(3 * i, 3 * i + 3),
});

/** Where the line runs straight up or down: its own up leans back on the way it came, so that way is on. */
function headingOf(curve: Curve, line: Stationed, place: Places, rise: number): [number, number] {
  const rotation = new Float64Array(4);
  writeOwn(curve, line, place, rotation);
  const [x, y, z, w] = rotation;
  const upX = 2 * (x * y - w * z);
  const upZ = 2 * (y * z + w * x);
  return rise > 0 ? [-upX, -upZ] : [upX, upZ];
}
