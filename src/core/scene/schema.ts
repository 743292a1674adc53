/** The Zod schema of the Scene, the only truth: everything else is derived from it and from the assets it names. */
import { z } from "zod";
import { coursesSchema } from "../course";
import { lineSchema } from "../line";
import { madeSchema } from "../made";
import { boundsSchema, layingSchema } from "../mesh";
import { moversSchema } from "../movers";
import { dressingSchema } from "../place";
import { assetHashSchema, idSchema, nameSchema, vec3Schema, within } from "../schema";
import { tieSchema } from "../tie";
import { overBudget } from "./budget";
import { preparationSchema } from "./prepare";
import { timeSchema } from "./time";

/** The version this program writes; older ones are brought up on load, newer ones refused. */
export const SCENE_VERSION = 13;

/** What was put right, or is not used, when a prop's file was brought in: see `files/prop.ts`. */
export const MENDS = [
  "scale",
  "uneven",
  "mirrored",
  "normals",
  "far",
  "moving",
  "lines",
  "morphs",
  "numbers",
  "instances",
  "missing",
  "extension",
] as const;

/** What a prop's file holds. */
const broughtSchema = z.object({
  parts: z.number().int().min(0).default(0),
  materials: z.number().int().min(0).default(0),
  textures: z.number().int().min(0).default(0),
  /** What it can play by itself. */
  clips: z
    .array(z.object({ name: z.string().max(120), seconds: z.number().min(0).max(1e9) }))
    .max(10_000)
    .default([]),
  /** Its nodes without a mesh, which may become snap points: where they are in the file, and their own up. */
  empties: z
    .array(z.object({ name: nameSchema, position: vec3Schema, direction: vec3Schema }))
    .max(200)
    .default([]),
  mended: z
    .array(z.object({ what: z.enum(MENDS), part: z.string().max(120) }))
    .max(40)
    .default([]),
});

export const propSchema = z.object({
  id: idSchema,
  name: nameSchema,
  asset: assetHashSchema,
  /** The box of the file, before the prop is prepared. */
  bounds: boundsSchema,
  prepared: preparationSchema.prefault({}),
  triangles: z.number().int().min(0),
  /** A lighter mesh that is drawn instead where there are very many, or far off; it is never exported. */
  light: z
    .object({ asset: assetHashSchema, triangles: z.number().int().min(0), file: z.string().max(260).default("") })
    .nullable()
    .default(null),
  brought: broughtSchema.prefault({}),
  /** The file that the artist brought, for telling props apart. */
  file: z.string().max(260).default(""),
});

/** A mix: several props in one, usable wherever a prop is; each slot draws one by its weight. */
export const mixSchema = z.object({
  id: idSchema,
  name: nameSchema,
  props: z
    .array(z.object({ prop: idSchema, weight: within(1_000_000).min(0).default(1) }))
    .min(1, "a mix needs a prop")
    .max(200),
});

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

export const viewSchema = z.object({
  id: idSchema,
  name: nameSchema,
  position: vec3Schema,
  target: vec3Schema,
});

export const sceneSchema = z
  .object({
    version: z.literal(SCENE_VERSION),
    name: nameSchema,
    props: z.array(propSchema).max(10_000).default([]),
    mixes: z.array(mixSchema).max(1_000).default([]),
    lines: z.array(lineSchema).max(65_535).default([]),
    surfaces: z.array(surfaceSchema).max(10_000).default([]),
    dressings: z.array(dressingSchema).max(10_000).default([]),
    views: z.array(viewSchema).max(1_000).default([]),
    time: timeSchema.prefault({}),
  })
  .superRefine((scene, context) => {
    for (const part of ["props", "mixes", "lines", "surfaces", "dressings", "views"] as const) {
      const seen = new Set<string>();
      scene[part].forEach(({ id }, i) => {
        if (seen.has(id)) context.addIssue({ code: "custom", path: [part, i, "id"], message: `“${id}” is used twice` });
        seen.add(id);
      });
    }
    const props = new Set(scene.props.map(({ id }) => id));
    scene.mixes.forEach(({ id }, i) => {
      if (props.has(id)) {
        context.addIssue({ code: "custom", path: ["mixes", i, "id"], message: `“${id}” is a prop's already` });
      }
    });
    const numbers = new Set<number>();
    scene.lines.forEach(({ number }, i) => {
      if (numbers.has(number)) {
        context.addIssue({ code: "custom", path: ["lines", i, "number"], message: `${number} is used twice` });
      }
      numbers.add(number);
    });
    const over = overBudget(scene as Parameters<typeof overBudget>[0]);
    if (over) context.addIssue({ code: "custom", path: [], message: over });
  });

export type Prop = z.infer<typeof propSchema>;
export type Brought = z.infer<typeof broughtSchema>;
export type Mix = z.infer<typeof mixSchema>;
export type Surface = z.infer<typeof surfaceSchema>;
export type View = z.infer<typeof viewSchema>;
export type Scene = z.infer<typeof sceneSchema>;
