/** A simulation's vertices, picture by picture. */
import { cachedVertices, clipTime } from "../rig";
import type { Moves } from "./moving";
import type { Replay } from "./schema";

export const replay: Moves<Replay> = {
  move({ times, gone = 0, up, unit }, moving, weight, cache) {
    // Another number of vertices says nothing of where these are.
    if (!cache || cache.vertices !== moving.vertices) return;
    const position = cachedVertices(cache, clipTime(gone, cache.pictures - 1, times));
    const to = new Float64Array(position.length);
    for (let p = 0; p < to.length; p += 3) {
      to[p] = unit * position[p];
      to[p + 1] = unit * position[p + (up === "z" ? 2 : 1)];
      to[p + 2] = up === "z" ? -unit * position[p + 1] : unit * position[p + 2];
    }
    moving.goTo(to, weight);
  },
};
