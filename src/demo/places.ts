/** Where things stand in the demo scene, metres. */
import type { Vec3 } from "@/core/math";
import { QUAY_HEIGHT } from "./harbour";

/** Feet of the three masts along the quay's edge. */
export const MASTS: readonly Vec3[] = [
  [-6.4, QUAY_HEIGHT, 1.5],
  [0.2, QUAY_HEIGHT, 1.5],
  [6.8, QUAY_HEIGHT, 1.5],
];
export const LIGHTHOUSE: Vec3 = [-9, 0, -17];
/** The middle of the lifebuoy, the foot of the oar rack, the inland corner of the harbour front, which looks along the quay. */
export const LIFEBUOY: Vec3 = [2.2, QUAY_HEIGHT + 1.35, 3.2];
/** Where the mooring buoy stands ashore, to be painted and studded. */
export const MOORING_BUOY: Vec3 = [-2.9, QUAY_HEIGHT, 4.6];
/** Where a float stands beside it that bears the regatta's crest. */
export const CREST_FLOAT: Vec3 = [-4.5, QUAY_HEIGHT, 5.1];
/** A lobster pot, its bell a lattice of rings. */
export const LOBSTER_POT: Vec3 = [-3.75, QUAY_HEIGHT, 6.05];
/** The harbour master's barrel, with the town's name round it. */
export const BARREL: Vec3 = [-4.05, QUAY_HEIGHT, 4.05];
/** The front of the stall with jars and loaves, which faces inland. */
export const STALL: Vec3 = [9.1, QUAY_HEIGHT, 4.4];
/** Below the keel of the boat that is being built, in the middle of its length. */
export const BOATYARD: Vec3 = [-11.2, QUAY_HEIGHT, 6.2];
export const OAR_RACK: Vec3 = [5.6, QUAY_HEIGHT, 3.4];
/** The boat with the sail that billows, the foot of the flagstaff, the middle of the market's belt. */
export const PETREL: Vec3 = [9, 0, -22];
export const FLAGSTAFF: Vec3 = [10.4, QUAY_HEIGHT, 1.5];
export const MARKET_BELT: Vec3 = [14.2, QUAY_HEIGHT + 0.95, 9.6];
export const FRONT: Vec3 = [22.6, QUAY_HEIGHT, 13.4];
