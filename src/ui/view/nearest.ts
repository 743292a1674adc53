/** The nearest place of any surface that is seen, for those who have no pointer; the view says what it is once it is there. */
import type { Vec3 } from "@/core/math";
import type { PinPlace } from "../state";

export const nearestIn: { surfaces: (point: Vec3) => PinPlace | null } = { surfaces: () => null };
