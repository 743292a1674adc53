/** Version 5's: kept as it was, see `index.ts`. What fields, samples and keys over them were. */
import { areasOf, type WorldMesh } from "../../mesh";
import { tagsOf } from "../where/fields";
import type { Field, Plan } from "../../host";
import type { Where } from "../where/schema";

/** A field with the tag and the region that it had. */
export interface OldField extends Omit<Field, "region"> {
  region: OldRegion;
}

interface OldRegion {
  position: Float64Array;
  index: Uint32Array;
  numbers: Uint32Array | null;
  area: number;
}

/** Positions on a field, known by 26 bits each. */
export interface OldSamples {
  count: number;
  position: Float64Array;
  normal: Float32Array;
  triangle: Uint32Array;
  id: Uint32Array;
  joinOrder: Float64Array | null;
}

export const emptySamples = (count: number): OldSamples => ({
  count,
  position: new Float64Array(3 * count),
  normal: new Float32Array(3 * count),
  triangle: new Uint32Array(count),
  id: new Uint32Array(count),
  joinOrder: null,
});

export const LOCAL_BITS = 26;
export const overKey = (tag: number, local: number): number => ((tag << LOCAL_BITS) | local) >>> 0;

const TAGS = 63;

export function oldFieldsOf(where: Where, fields: readonly Field[]): OldField[] {
  const tags = tagsOf(where, TAGS);
  return fields.flatMap((field) => {
    const tag = tags.get(field.id);
    return tag === undefined ? [] : [{ ...field, tag, region: regionOf(field.ground, field.plan) }];
  });
}

/** Of a mesh, a region smaller than this share of its triangles is taken out. */
const WORTH = 0.7;

/**
 * The triangles that lie over a plan's box. The box is taken in large steps, so that an outline may be edited a little
 * without its region becoming another.
 */
function regionOf(ground: WorldMesh, plan: Plan | null): OldRegion {
  const position = ground.own;
  const whole = (): OldRegion => region(position, ground.index, null);
  if (!plan?.bounded) return whole();
  const [least, most] = snapped(plan);
  const P = ground.position;
  const inside: number[] = [];
  for (let t = 0; 3 * t < ground.index.length; t++) {
    const [a, b, c] = [3 * ground.index[3 * t], 3 * ground.index[3 * t + 1], 3 * ground.index[3 * t + 2]];
    const apart =
      Math.max(P[a], P[b], P[c]) < least[0] ||
      Math.min(P[a], P[b], P[c]) > most[0] ||
      Math.max(P[a + 2], P[b + 2], P[c + 2]) < least[1] ||
      Math.min(P[a + 2], P[b + 2], P[c + 2]) > most[1];
    if (!apart) inside.push(t);
  }
  if (inside.length >= WORTH * ground.triangles) return whole();
  const index = new Uint32Array(3 * inside.length);
  inside.forEach((t, i) => index.set(ground.index.subarray(3 * t, 3 * t + 3), 3 * i));
  return region(position, index, Uint32Array.from(inside));
}

function region(position: Float64Array, index: Uint32Array, numbers: Uint32Array | null): OldRegion {
  const area = areasOf({ position, index }).reduce((total, one) => total + one, 0);
  return { position, index, numbers, area };
}

/** A plan's box, out to whole steps: quarters of the power of two above its longer side. */
function snapped({ least, most }: Pick<Plan, "least" | "most">): [[number, number], [number, number]] {
  const long = Math.max(most[0] - least[0], most[1] - least[1], 1e-6);
  const step = 2 ** Math.ceil(Math.log2(long)) / 4;
  const down = (x: number) => Math.floor(x / step) * step;
  const up = (x: number) => Math.ceil(x / step) * step;
  return [
    [down(least[0]), down(least[1])],
    [up(most[0]), up(most[1])],
  ];
}
