/** Stills of several sets of placements as those of one. */
import { posesFrom, stillAt, type Poses, type Still } from "./variation/poses";

/** The stills of all that is written under something; the first of each prop is as at rest. */
export class StillsUnder {
  readonly #ofProp = new Map<number, Map<string, Still | null>>();

  /**
   * Which still of its prop each of some stills becomes.
   *
   * @param propAt what number each of their props has here
   */
  added(poses: Poses, propAt: (prop: number) => number): Uint16Array {
    const out = new Uint16Array(poses.moment.length);
    for (let prop = 0; prop + 1 < poses.from.length; prop++) {
      const known = this.#of(propAt(prop));
      for (let k = poses.from[prop]; k < poses.from[prop + 1]; k++) {
        const still = stillAt(poses, prop, k - poses.from[prop]);
        const name = still ? `${still.clip} ${still.moment}` : AT_REST;
        if (!known.has(name)) known.set(name, still);
        out[k] = [...known.keys()].indexOf(name);
      }
    }
    return out;
  }

  #of(prop: number): Map<string, Still | null> {
    let known = this.#ofProp.get(prop);
    if (!known) this.#ofProp.set(prop, (known = new Map([[AT_REST, null]])));
    return known;
  }

  poses(props: number): Poses {
    return posesFrom(Array.from({ length: props }, (_, prop) => [...this.#of(prop).values()]));
  }
}

const AT_REST = "at rest";
