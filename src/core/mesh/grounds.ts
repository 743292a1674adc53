/** The surfaces of a scene, and which of them a dressing is dropped onto. */
import type { WorldMesh } from "./world-mesh";

/** A surface that may be dropped onto. */
export interface GroundSurface {
  mesh: WorldMesh;
  /** Whether things stand on it without its being named. */
  ground: boolean;
}

/** The surfaces that something is dropped or laid onto: those it names, or else all that are ground; and the props below it. */
export function groundsFor(
  { onto }: { onto: readonly string[] },
  surfaces: ReadonlyMap<string, GroundSurface>,
  propGrounds: readonly WorldMesh[],
): WorldMesh[] {
  const named = [...surfaces].filter(([id, { ground }]) => (onto.length > 0 ? onto.includes(id) : ground));
  return [...named.map(([, { mesh }]) => mesh), ...propGrounds];
}
