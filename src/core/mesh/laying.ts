/** *How an artist has a surface laid flat*: by what, which way round it lies on the sheet, and from which corner u and v go. */
import { z } from "zod";
import { choiceParam, idSchema, switchParam } from "../schema";

export const layingSchema = z.object({
  by: choiceParam({
    label: "Laid flat by",
    help: "What serves it best; its profile and the way it goes round, or the numbers by which it was made; its texture coordinates; or unrolling it with the least stretch.",
    default: "best",
    choices: { best: "What suits it", round: "Its profile", uv: "Its UVs", unrolled: "Unrolling" },
  }),
  /** Quarter turns to the left, after it was flipped. */
  quarters: z.number().int().min(0).max(3).default(0),
  flip: switchParam({ label: "Flipped", help: "Its sheet lies left for right.", default: false }),
  corner: choiceParam({
    label: "Begins at",
    help: "The corner of its sheet from which u and v go: u along the sheet's breadth, v along its height.",
    default: "bottom-left",
    choices: {
      "bottom-left": "Bottom left",
      "bottom-right": "Bottom right",
      "top-left": "Top left",
      "top-right": "Top right",
    },
  }),
  /** Lines along its edges at which it is cut open to be unrolled; without any, where it serves it best. */
  seams: z.array(idSchema).max(100).default([]),
});

export type Laying = z.infer<typeof layingSchema>;
export type LaidBy = Laying["by"];

export const AS_IT_COMES: Laying = layingSchema.parse({});

/** Which way u and v go on the sheet: 1 to the right and up. */
export const waysOf = ({ corner }: Pick<Laying, "corner">): readonly [u: 1 | -1, v: 1 | -1] => [
  corner.endsWith("left") ? 1 : -1,
  corner.startsWith("bottom") ? 1 : -1,
];

/** What becomes of x to the right and y downwards: x′ = a·x + b·y, y′ = c·x + d·y; its inverse is its transpose. */
export type Turned = readonly [a: number, b: number, c: number, d: number];

export function turnedOf({ quarters, flip }: Pick<Laying, "quarters" | "flip">): Turned {
  const [cosine, sine] = [
    [1, 0],
    [0, 1],
    [-1, 0],
    [0, -1],
  ][quarters];
  const right = flip ? -1 : 1;
  return [cosine * right, sine, -sine * right, cosine];
}
