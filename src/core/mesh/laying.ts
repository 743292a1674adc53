/** *How an artist has a surface laid flat*: by what, and which way round it lies on the sheet. */

/** By what serves it, its UVs, the way it goes round, or unrolled. */
export type LaidBy = "best" | "uv" | "round" | "unrolled";

export interface Laying {
  by: LaidBy;
  /** Quarter turns to the left, after it was flipped. */
  quarters: number;
  /** Left for right. */
  flip: boolean;
}

export const AS_IT_COMES: Laying = { by: "best", quarters: 0, flip: false };

/** What becomes of x to the right and y downwards: x′ = a·x + b·y, y′ = c·x + d·y; its inverse is its transpose. */
export type Turned = readonly [a: number, b: number, c: number, d: number];

export function turnedOf({ quarters, flip }: Pick<Laying, "quarters" | "flip">): Turned {
  const [cosine, sine] = [
    [1, 0],
    [0, 1],
    [-1, 0],
    [0, -1],
  ][((quarters % 4) + 4) % 4];
  const right = flip ? -1 : 1;
  return [cosine * right, sine, -sine * right, cosine];
}
