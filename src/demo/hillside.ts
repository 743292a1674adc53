/** The hillside to the left of the quay, in terraces, with a path that winds up it. */
import { squaredToSegment, type Vec3 } from "@/core/math";
import { QUAY_HEIGHT } from "./harbour";
import { hex, MeshBuilder, type Paint } from "./shapes";

const smooth = (t: number): number => {
  const x = Math.min(1, Math.max(0, t));
  return x * x * (3 - 2 * x);
};

/** Where the hill begins, how far it goes inland of the quay, and its terraces. */
const FOOT = -24;
const TOP = -60;
const TERRACES = 5;
const RISE = 2.1;
const ACROSS: readonly [number, number] = [-16, 30];

/** Knots of the middle of the path, from the quay up: x and z. */
const PATH: readonly (readonly [number, number])[] = [
  [-24.6, 6.6],
  [-29, 9.6],
  [-34, 6.2],
  [-39.5, 2.6],
  [-44.5, 5.4],
  [-50, 8.6],
  [-56, 6.4],
];

/** Where the path has steps: by the numbers of the knots that they lie between. */
const FLIGHTS: readonly (readonly [number, number])[] = [
  [2, 3],
  [4, 5],
];
/** Steps of stone: half as broad as they are, how deep, how thick, how far apart, and how far from the ends of their stretch, metres. */
const STEP = { half: 0.62, deep: 0.52, thick: 0.34, every: 0.6, margin: 0.9 };

/** How far a place lies from the path, metres, seen from above. */
function fromPath(x: number, z: number): number {
  let least = Infinity;
  for (let i = 1; i < PATH.length; i++) {
    const [[ax, az], [bx, bz]] = [PATH[i - 1], PATH[i]];
    least = Math.min(least, squaredToSegment(x - ax, 0, z - az, bx - ax, 0, bz - az));
  }
  return Math.sqrt(least);
}

/** The height of the hill: terraces that are steep between and nearly level on top, evened out along the path. */
export function hillHeight(x: number, z: number): number {
  const bulge = 1.6 * Math.sin(0.17 * z + 0.6) + 0.7 * Math.sin(0.41 * z);
  const up = Math.max(0, (FOOT - x + bulge * smooth((FOOT - x) / 6)) / ((FOOT - TOP) / TERRACES));
  const step = Math.floor(up);
  const terraced = step + 0.16 * (up - step) + 0.84 * smooth((up - step - 0.62) / 0.38);
  const even = up;
  const path = 1 - smooth((fromPath(x, z) - 1.3) / 1.5);
  const shoulder = smooth((z - ACROSS[0]) / 12) * smooth((ACROSS[1] - z) / 12);
  const rough = 0.07 * Math.sin(1.3 * x + 0.4 * z) * Math.sin(0.9 * z) * (1 - path) * smooth((FOOT - x) / 3);
  const height = RISE * (terraced + path * (even - terraced)) * shoulder + rough;
  // It goes down into the water towards the bay.
  return QUAY_HEIGHT - 0.02 + height - 4.2 * smooth((-1.5 - z) / 9);
}

/** A place on the hill, a little above it: what is dropped from there finds the ground. */
const above = ([x, z]: readonly [number, number]): Vec3 => [x, hillHeight(x, z) + 0.25, z];

/** The path as a line's knots. */
export const PATH_KNOTS: readonly Vec3[] = PATH.map(above);

/** Along the lowest terrace, across the path. */
export const TERRACE_KNOTS: readonly Vec3[] = (
  [
    [-27.3, -3],
    [-26.9, 1.2],
    [-28.2, 6.4],
    [-27.6, 12.6],
    [-27.4, 18],
  ] as const
).map(above);

/** Round the terraces on both sides of the path. */
export const FIELD_KNOTS: readonly Vec3[] = (
  [
    [-27, 16],
    [-26.5, -4],
    [-37, -7],
    [-48, -2],
    [-51, 10],
    [-40, 19],
  ] as const
).map(above);

export function hillside(): MeshBuilder {
  const earth: Paint = { color: [1, 1, 1], roughness: 0.97 };
  const [grass, dry, wall, gravel] = [hex("#9fae78"), hex("#bdb583"), hex("#b9a37c"), hex("#dcc69c")];
  const mix = (a: Vec3, b: Vec3, share: number): Vec3 => [0, 1, 2].map((k) => a[k] + share * (b[k] - a[k])) as never;
  const tint = (x: number, z: number): Vec3 => {
    const slope = Math.hypot(
      (hillHeight(x + 0.2, z) - hillHeight(x - 0.2, z)) / 0.4,
      (hillHeight(x, z + 0.2) - hillHeight(x, z - 0.2)) / 0.4,
    );
    const meadow = mix(grass, dry, 0.5 + 0.5 * Math.sin(0.6 * x + 1.2 * Math.sin(0.35 * z)) * Math.sin(0.5 * z));
    const stony = mix(meadow, wall, smooth((slope - 0.45) / 0.5));
    return mix(stony, gravel, 1 - smooth((fromPath(x, z) - 0.75) / 0.5));
  };
  const evenly = (from: number, to: number, n: number) =>
    Array.from({ length: n + 1 }, (_, i) => from + ((to - from) * i) / n);
  return new MeshBuilder().field(earth, evenly(TOP - 4, FOOT, 88), evenly(...ACROSS, 80), hillHeight, tint);
}

/** The flights of steps on the path, each step level across it and as high as the ground there. */
export function steps(): MeshBuilder {
  const stone: Paint = { color: hex("#d9c8a6"), roughness: 0.9 };
  const mesh = new MeshBuilder();
  for (const [from, to] of FLIGHTS) {
    const [[ax, az], [bx, bz]] = [PATH[from], PATH[to]];
    const length = Math.hypot(bx - ax, bz - az);
    const [dx, dz] = [(bx - ax) / length, (bz - az) / length];
    const count = Math.floor((length - 2 * STEP.margin) / STEP.every) + 1;
    for (let n = 0; n < count; n++) {
      const along = STEP.margin + n * STEP.every;
      const [x, z] = [ax + along * dx, az + along * dz];
      const top = hillHeight(x, z) + 0.06;
      // Left and right of the middle, on the way up.
      const corner = (side: number, end: number, y: number): Vec3 => [
        x + end * STEP.deep * dx - side * STEP.half * dz,
        y,
        z + end * STEP.deep * dz + side * STEP.half * dx,
      ];
      const grey = 0.9 + 0.1 * Math.sin(7.3 * n + from);
      const ring = (y: number) => [corner(-1, -0.5, y), corner(1, -0.5, y), corner(1, 0.5, y), corner(-1, 0.5, y)];
      const [upper, lower] = [ring(top), ring(top - STEP.thick)];
      mesh.polygon(stone, upper, [grey, grey, grey]);
      for (let k = 0; k < 4; k++) {
        const next = (k + 1) % 4;
        mesh.polygon(stone, [lower[k], lower[next], upper[next], upper[k]], [0.9 * grey, 0.9 * grey, 0.9 * grey]);
      }
    }
  }
  return mesh;
}
