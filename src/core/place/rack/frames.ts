/** The frames of a rack's columns: all of one are in the frame of its first, so each is worked out once. */
import { framesAt, type Frames, type Moves } from "../frames";
import { Slots } from "../slots";
import type { GuideLine } from "../../line";

/** The same as {@link framesAt}, for slots that nothing moves apart from others of their column. */
export function framesOfColumns(
  lines: readonly GuideLine[],
  slots: Slots,
  hold: Parameters<typeof framesAt>[2],
  moves: Moves,
): Frames {
  const { count, rack } = slots;
  const { deep, high } = rack!;
  const first = new Uint32Array(count);
  let columns = 0;
  for (let i = 0; i < count; i++) if (deep[i] === 0 && high[i] === 0) first[columns++] = i;
  const heads = new Slots(columns, slots.span !== null);
  heads.halted = slots.halted;
  for (let c = 0; c < columns; c++) {
    const i = first[c];
    heads.line[c] = slots.line[i];
    heads.row[c] = slots.row[i];
    heads.at[c] = slots.at[i];
    if (slots.span) heads.span!.set(slots.span.subarray(2 * i, 2 * i + 2), 2 * c);
  }
  const own = framesAt(lines, heads, hold, moves);
  const each = (from: Float32Array, width: number): Float32Array => {
    const out = new Float32Array(width * count);
    for (let c = 0; c < columns; c++) {
      const end = width * (c + 1 < columns ? first[c + 1] : count);
      for (let o = width * first[c]; o < end; o += width)
        for (let k = 0; k < width; k++) out[o + k] = from[width * c + k];
    }
    return out;
  };
  const rotation = each(own.rotation, 4);
  const facing = own.facing === own.rotation ? rotation : each(own.facing, 4);
  return { origin: own.origin, feet: each(own.feet, 3), rotation, facing };
}
