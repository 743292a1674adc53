/** What stands already of other dressings, together with a dressing's own placements, for keeping clear of both. */
import { FLAG, NO_PROP } from "../slots";
import type { PropBounds } from "../../mesh";
import type { Placed } from "../compose";
import type { Placements } from "../placements";

/** Placements of several dressings in one, those of the dressing itself first, counted from its own origin. */
export interface Crowd {
  position: Float32Array;
  rotation: Float32Array;
  scale: Float32Array;
  prop: Uint16Array;
  flags: Uint16Array;
  /** The middle of each prop's box and half its extents: 6 numbers a prop. */
  boxes: Float64Array;
  /** Indices of those of other dressings. */
  others: Uint32Array;
}

/**
 * @param boxes of the dressing's own props: 6 numbers a prop
 * @param others what the other dressings came to
 */
export function crowdOf(
  placed: Placed,
  prop: Uint16Array,
  flags: Uint16Array,
  boxes: Float64Array,
  others: readonly Placements[],
  bounds: ReadonlyMap<string, PropBounds>,
): Crowd {
  const own = prop.length;
  const standing = others.map((p) => {
    const members: number[] = [];
    for (let i = 0; i < p.count; i++) {
      if (!(p.flags[i] & FLAG.blank) && p.prop[i] !== NO_PROP && bounds.has(p.props[p.prop[i]])) members.push(i);
    }
    return members;
  });
  const count = own + standing.reduce((sum, members) => sum + members.length, 0);
  const crowd: Crowd = {
    position: grown(placed.position, 3 * count),
    rotation: grown(placed.rotation, 4 * count),
    scale: grown(placed.scale, 3 * count),
    prop: new Uint16Array(count),
    flags: new Uint16Array(count),
    boxes: Float64Array.from([
      ...boxes,
      ...others.flatMap(({ props }) => props.flatMap((id) => boxOf(bounds.get(id)))),
    ]),
    others: Uint32Array.from({ length: count - own }, (_, k) => own + k),
  };
  crowd.prop.set(prop);
  crowd.flags.set(flags);
  let o = own;
  let firstProp = boxes.length / 6;
  others.forEach((p, which) => {
    for (const i of standing[which]) {
      for (let axis = 0; axis < 3; axis++) {
        crowd.position[3 * o + axis] = p.position[3 * i + axis] + (p.origin[axis] - placed.origin[axis]);
        crowd.scale[3 * o + axis] = p.scale[3 * i + axis];
      }
      crowd.rotation.set(p.rotation.subarray(4 * i, 4 * i + 4), 4 * o);
      crowd.prop[o] = firstProp + p.prop[i];
      crowd.flags[o] = p.flags[i];
      o++;
    }
    firstProp += p.props.length;
  });
  return crowd;
}

/** Takes over where one of the dressing's own placements has come to stand. */
export function takeOver({ position, rotation }: Crowd, placed: Placed, i: number): void {
  position.set(placed.position.subarray(3 * i, 3 * i + 3), 3 * i);
  rotation.set(placed.rotation.subarray(4 * i, 4 * i + 4), 4 * i);
}

function grown(array: Float32Array, length: number): Float32Array {
  const out = new Float32Array(length);
  out.set(array);
  return out;
}

const boxOf = (box: PropBounds | undefined): number[] =>
  box
    ? [...box.min.map((low, k) => (low + box.max[k]) / 2), ...box.min.map((low, k) => (box.max[k] - low) / 2)]
    : [0, 0, 0, 0, 0, 0];
