/** The surfaces of a scene, and which of them something is dropped or laid onto. */
import type { WorldMesh } from "./world-mesh";

export interface Grounds {
  /** A surface as it stands in the world; undefined where it is gone, or its mesh is not known yet. */
  surface(id: string): WorldMesh | undefined;
  /** The ids of those on which things stand without their being named. */
  grounds(): readonly string[];
}

/** The surfaces that something is dropped or laid onto: those it names, or else all that are ground. */
export const groundsUnder = (onto: readonly string[], from: Grounds): WorldMesh[] =>
  [...new Set(onto.length > 0 ? onto : from.grounds())].flatMap((id) => from.surface(id) ?? []);
