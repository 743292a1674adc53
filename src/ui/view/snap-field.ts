/** The snap points of props near the pointer: what is moved or drawn catches on them. */
import { snapFrame } from "@/core/tie";
import { lengthOf, type Vec3 } from "@/core/math";
import { FLAG, hexOf, NO_PROP, standingAt, type Key, type Placements } from "@/core/place";
import { preparedBounds, snapPointsOf, type Prop } from "@/core/scene";
import { useSceneStore } from "@/store";
import { useResults } from "../state";
import type { Aim } from "./aim";
import type { SnapTarget } from "./snap";

/** Snap points of so many placements are looked at, the nearest to the pointer. */
const MOST_NEAR = 6;
/** Those count as near that the pointer is no farther from than their own extent on screen and so many pixels. */
const NEAR = 28;

/** What is held, and so is not caught on: all of some dressings, and placements of one, by their keys. */
export interface But {
  dressings: ReadonlySet<string>;
  dressing: string | null;
  keys: ReadonlySet<Key>;
}

/** Placements on screen, which stay where they are as long as nothing but what is held moves. */
interface OnScreen {
  dressing: string;
  placements: Placements;
  /** Pixels: 2n, NaN for what is not seen. */
  pixel: Float32Array;
  /** How far each reaches on screen, pixels: n. */
  reach: Float32Array;
}

export class SnapField {
  readonly #all: readonly OnScreen[];
  readonly #props: ReadonlyMap<string, Prop>;

  constructor(aim: Aim, but: But | null = null) {
    this.#props = new Map(useSceneStore.getState().shown.props.map((prop) => [prop.id, prop as Prop]));
    const all = [...useResults.getState().byDressing].filter(([id]) => !but?.dressings.has(id));
    this.#all = all.map(([dressing, { placements }]) => {
      const { count, props, prop, flags, key, position, scale, origin } = placements;
      const sizes = props.map((id) => sizeOf(this.#props.get(id)));
      const [pixel, reach] = [new Float32Array(2 * count), new Float32Array(count)];
      aim.writePixels(position, origin, count, pixel, reach);
      const held = but?.dressing === dressing ? but.keys : null;
      for (let i = 0; i < count; i++) {
        if (prop[i] === NO_PROP || flags[i] & FLAG.blank || held?.has(key[i])) pixel[2 * i] = NaN;
        else reach[i] *= sizes[prop[i]] * Math.max(scale[3 * i], scale[3 * i + 1], scale[3 * i + 2]);
      }
      return { dressing, placements, pixel, reach };
    });
  }

  /** The snap points of the placements that are nearest to a pixel. */
  near(x: number, y: number): SnapTarget[] {
    const found: { far: number; of: OnScreen; i: number }[] = [];
    for (const of of this.#all) {
      for (let i = 0; i < of.reach.length; i++) {
        const far = Math.hypot(of.pixel[2 * i] - x, of.pixel[2 * i + 1] - y);
        if (far < of.reach[i] + NEAR) found.push({ far, of, i });
      }
    }
    found.sort((a, b) => a.far - b.far);
    return found.slice(0, MOST_NEAR).flatMap(({ of, i }) => this.#snapsOf(of, i));
  }

  #snapsOf({ dressing, placements }: OnScreen, i: number): SnapTarget[] {
    const standing = standingAt(placements, i);
    const prop = this.#props.get(standing.prop ?? "");
    if (!prop) return [];
    return snapPointsOf(prop).map((snap): SnapTarget => {
      const frame = snapFrame(standing, snap);
      const key = hexOf(placements.key[i]);
      return {
        position: frame.position,
        frame,
        free: snap.free,
        what: `${snap.name} of ${prop.name}`,
        ...(snap.own && { name: snap.name }),
        tie: () => ({ kind: "placement", dressing, key, snap: snap.name, stood: frame }),
      };
    });
  }
}

/** How far a prop reaches from its pivot at most, metres. */
function sizeOf(prop: Prop | undefined): number {
  if (!prop) return 0;
  const { min, max } = preparedBounds(prop);
  return lengthOf([0, 1, 2].map((k) => Math.max(-min[k], max[k])) as unknown as Vec3);
}
