/** Step 5, Fit: how far a placement stands from its slot, the same for every slot of the dressing. */
import type { Fit } from "./schema";

/** Metres along the line, across it and up. */
export type Offset = readonly [along: number, across: number, up: number];

export const fit = (params: Fit): Offset => [params.along, params.across, params.up];
