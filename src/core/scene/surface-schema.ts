/** The Zod schema of a surface. */
import { z } from "zod";
import { coursesSchema } from "../course";
import { madeSchema } from "../made";
import { layingSchema } from "../mesh";
import { moversSchema } from "../movers";
import { assetHashSchema, idSchema, nameSchema, vec3Schema, within } from "../schema";
import { tieSchema } from "../tie";

/** Unit quaternion x y z w. */
const rotationSchema = z
  .tuple([within(2), within(2), within(2), within(2)])
  .readonly()
  .default([0, 0, 0, 1]);

const standSchema = z.object({
  position: vec3Schema,
  rotation: rotationSchema,
  scale: within(1_000_000).positive(),
});

const surfaceShape = z.object({
  id: idSchema,
  name: nameSchema,
  /** The file that holds its mesh; null for one that is made. */
  asset: assetHashSchema.nullable().default(null),
  /** A lighter mesh that stands in for it wherever something is reckoned; it is the file that is drawn. */
  standIn: assetHashSchema.nullable().default(null),
  /** The name of the stand-in's file. */
  standInFile: z.string().max(260).default(""),
  /** How it is made; null for one from a file. */
  made: madeSchema.nullable().default(null),
  position: vec3Schema.default([0, 0, 0]),
  rotation: rotationSchema,
  scale: within(1_000_000).positive().default(1),
  /** What gives it another shape over time, in the artist's order. */
  movers: moversSchema,
  /** Where it is at the first moment, where it goes about: what lies on it is worked out there. Only at a moment, never in a file. */
  rest: standSchema.optional(),
  courses: coursesSchema,
  /** What it goes along with; null for nothing. */
  held: tieSchema.nullable().default(null),
  /** How it is laid flat for the sheet, and for what is wrapped round it. */
  laying: layingSchema.prefault({}),
  /** Whether lines are drawn on it and things can stand on it. */
  ground: z.boolean().default(true),
  /** Whether it is a finding when props poke through it, as through walls, other than through water. */
  solid: z.boolean().default(true),
  /** Drawn by its edges alone, as a space that things fill. */
  outline: z.boolean().default(false),
  /** Not drawn; what stands on it stands there all the same. */
  hidden: z.boolean().default(false),
  /** Of one in an assembly: seen wherever that is used, as well as what stands on it. */
  part: z.boolean().default(false),
  /** Not to be moved by hand. */
  locked: z.boolean().default(false),
  triangles: z.number().int().min(0).default(0),
  /** The file that the artist brought. */
  file: z.string().max(260).default(""),
});

export const surfaceSchema = surfaceShape.refine(({ asset, made }) => (asset === null) !== (made === null), {
  error: "a surface has either a file or a way in which it is made",
});

/** The file whose mesh is reckoned with: the stand-in's, but of a surface with movers the one whose vertices are drawn. */
export const meshAssetOf = ({ asset, standIn, movers }: Surface): string | null =>
  movers.length > 0 ? asset : (standIn ?? asset);

export type Surface = z.infer<typeof surfaceSchema>;
