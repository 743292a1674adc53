/** The lines of the demo scene, as they are written in a file. */
import type { Vec3 } from "@/core/math";
import { MAST_ROPE, QUAY_HEIGHT } from "./harbour";
import { FIELD_KNOTS, PATH_KNOTS, TERRACE_KNOTS } from "./hillside";
import { BELT, ROLLER } from "./moving";
import { FRONT, LIFEBUOY, LIGHTHOUSE, LOBSTER_POT, MARKET_BELT, MASTS, OAR_RACK, PETREL } from "./places";
import { AWNING_HEIGHT } from "./quayside";
import { BOATYARD_LINES } from "./boatyard";
import { STALL_LINES } from "./stall";

const knots = (...positions: Vec3[]) => positions.map((position) => ({ position }));
const top = ([x, y, z]: Vec3): Vec3 => [x, y + MAST_ROPE, z];

/** A round over the harbour. */
const GULL_ROUND: readonly Vec3[] = [
  [-6, 5.6, -6],
  [1, 4.7, -3],
  [7, 5.4, -7],
  [6, 6.6, -14],
  [-1, 7.2, -16],
  [-7, 6.6, -12],
];

/** How far out the lobster pot's bell is at which height, metres. */
const POT_PROFILE: readonly (readonly [out: number, high: number])[] = [
  [0.34, -0.05],
  [0.35, 0.09],
  [0.27, 0.33],
  [0.15, 0.49],
];
/** The hoops run through its lowest and its highest rings. */
const POT_HOOPS: readonly (readonly [out: number, high: number])[] = [
  [0.351, 0.03],
  [0.205, 0.43],
];

export const LINES = [
  {
    id: "rope-a",
    number: 1,
    name: "Mast rope A",
    kind: "hanging",
    knots: knots(top(MASTS[0]), top(MASTS[1])),
    sag: 1.05,
  },
  {
    id: "rope-b",
    number: 2,
    name: "Mast rope B",
    kind: "hanging",
    knots: knots(top(MASTS[1]), top(MASTS[2])),
    sag: 1.05,
  },
  {
    id: "rope-lighthouse",
    number: 3,
    name: "Lighthouse rope",
    kind: "hanging",
    knots: knots(top(MASTS[0]), [LIGHTHOUSE[0] + 1.2, 10.1, LIGHTHOUSE[2] + 1.2]),
    sag: 1.9,
  },
  {
    id: "quay-edge",
    number: 4,
    name: "Quay edge",
    kind: "polyline",
    knots: knots([-23, QUAY_HEIGHT + 0.04, 0.42], [23, QUAY_HEIGHT + 0.04, 0.42]),
  },
  {
    id: "crate-line",
    number: 5,
    name: "Crate line",
    kind: "smooth",
    knots: knots([3.4, QUAY_HEIGHT, 5.4], [5.4, QUAY_HEIGHT, 6.4], [8.6, QUAY_HEIGHT, 6.2]),
  },
  {
    id: "course",
    number: 6,
    name: "Race course",
    kind: "smooth",
    closed: true,
    laid: { kind: "surface", on: ["water"] },
    knots: knots([-2, 0, -7], [9, 0, -8], [20, 0, -15], [17, 0, -27], [4, 0, -31], [-2, 0, -20]),
  },
  {
    id: "rail-line",
    number: 7,
    name: "Quay rail",
    kind: "polyline",
    knots: knots([-6.8, QUAY_HEIGHT, 3.4], [-1.73, QUAY_HEIGHT, 3.4], [-1.73, QUAY_HEIGHT, 8.9]),
  },
  {
    id: "lifebuoy-winding",
    number: 8,
    name: "Lifebuoy winding",
    kind: "coil",
    knots: knots(LIFEBUOY),
    radius: 0.13,
    endRadius: 0.13,
    height: 2 * Math.PI * 0.45,
    turns: 12,
    ring: true,
    ringRadius: 0.45,
  },
  {
    id: "front-line",
    number: 9,
    name: "Harbour front",
    kind: "polyline",
    knots: knots(
      [FRONT[0] - 0.02, QUAY_HEIGHT + AWNING_HEIGHT, FRONT[2]],
      [FRONT[0] - 0.02, QUAY_HEIGHT + AWNING_HEIGHT, FRONT[2] - 12],
    ),
  },
  {
    id: "rack-line",
    number: 10,
    name: "Oar rack bar",
    kind: "polyline",
    knots: knots(
      [OAR_RACK[0] - 1.05, QUAY_HEIGHT, OAR_RACK[2] + 0.3],
      [OAR_RACK[0] + 1.05, QUAY_HEIGHT, OAR_RACK[2] + 0.3],
    ),
  },
  {
    id: "net-rope",
    number: 11,
    name: "Net rope",
    kind: "smooth",
    knots: knots(
      [-0.9, QUAY_HEIGHT, 5.6],
      [0.1, QUAY_HEIGHT, 7.2],
      [2.1, QUAY_HEIGHT, 7.7],
      [4, QUAY_HEIGHT, 7.1],
      [6.2, QUAY_HEIGHT, 7.6],
    ),
  },
  {
    id: "hill-path",
    number: 12,
    name: "Hill path",
    kind: "smooth",
    knots: knots(...PATH_KNOTS),
  },
  {
    id: "terrace",
    number: 13,
    name: "Terrace",
    kind: "smooth",
    knots: knots(...TERRACE_KNOTS),
  },
  {
    id: "lavender-field",
    number: 14,
    name: "Lavender field",
    kind: "smooth",
    closed: true,
    knots: knots(...FIELD_KNOTS),
  },
  {
    id: "start-area",
    number: 15,
    name: "Start area",
    kind: "polyline",
    closed: true,
    cornerRadius: 1.4,
    knots: knots([-9, 0, -5], [-2.6, 0, -4.4], [-3.2, 0, -12], [-10, 0, -11]),
  },
  {
    id: "cobbles",
    number: 16,
    name: "Cobbles",
    kind: "polyline",
    closed: true,
    cornerRadius: 1,
    knots: knots([15.6, QUAY_HEIGHT, 2.6], [20.2, QUAY_HEIGHT, 2.2], [20.4, QUAY_HEIGHT, 7.6], [9.8, QUAY_HEIGHT, 8]),
  },
  {
    id: "cable",
    number: 17,
    name: "Cable",
    kind: "hanging",
    knots: knots([LIGHTHOUSE[0] + 1.4, 8.6, LIGHTHOUSE[2] + 0.8], top(MASTS[2])),
    sag: 1.5,
  },
  {
    id: "belt-loop",
    number: 19,
    name: "Belt",
    kind: "rectangle",
    knots: knots(MARKET_BELT),
    length: BELT + 2 * ROLLER,
    width: 2 * ROLLER,
    corner: ROLLER,
    lean: Math.PI / 2,
  },
  {
    id: "leech",
    number: 20,
    name: "Leech of the sail",
    kind: "polyline",
    knots: knots(PETREL, [PETREL[0] - 2, PETREL[1] + 1, PETREL[2]]),
    laid: { kind: "edges", on: "petrel-sail", follow: "u", value: 0.03, at: [-1, 3, 0.05] },
  },
  {
    id: "gull-round",
    number: 18,
    name: "Gull's round",
    kind: "smooth",
    closed: true,
    knots: knots(...GULL_ROUND),
  },
  {
    id: "ducks-round",
    number: 21,
    name: "Ducks' round",
    kind: "smooth",
    closed: true,
    knots: knots([-1.6, 0, -9.2], [1.6, 0, -9.8], [3.4, 0, -11.2], [1.2, 0, -12.2], [-1.4, 0, -11]),
    laid: { kind: "surface", on: ["water"], way: "down" },
  },
  {
    id: "pot-profile",
    number: 22,
    name: "Pot's profile",
    kind: "smooth",
    knots: knots(...POT_PROFILE.map(([r, y]): Vec3 => [LOBSTER_POT[0] + r, LOBSTER_POT[1] + y, LOBSTER_POT[2]])),
  },
  ...POT_HOOPS.map(([radius, high], i) => ({
    id: `pot-hoop-${i + 1}`,
    number: 23 + i,
    name: i === 0 ? "Pot's foot" : "Pot's mouth",
    kind: "circle",
    radius,
    knots: knots([LOBSTER_POT[0], LOBSTER_POT[1] + high, LOBSTER_POT[2]]),
  })),
  ...STALL_LINES,
  ...BOATYARD_LINES,
];
