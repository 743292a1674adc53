/** The surfaces of a scene, and which of them a dressing is dropped onto. */
import type { Ground } from "../mesh";
import type { Dressing } from "./schema";

/** A surface that may be dropped onto. */
export interface GroundSurface {
  mesh: Ground;
  /** Whether things stand on it without its being named. */
  ground: boolean;
}

/** The surfaces that a dressing is dropped onto: those named, or else all that are ground; and the props that it names. */
export function groundsFor(
  { onto }: Pick<Dressing["fit"], "onto">,
  surfaces: ReadonlyMap<string, GroundSurface>,
  heaps: readonly Ground[],
): Ground[] {
  const named = [...surfaces].filter(([id, { ground }]) => (onto.length > 0 ? onto.includes(id) : ground));
  return [...named.map(([, { mesh }]) => mesh), ...heaps];
}
