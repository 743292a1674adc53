/** The Zod schema of the Scene, the only truth: everything else is derived from it and from the assets it names. */
import { z } from "zod";
import { lineSchema } from "../line/schema";
import { boundsSchema } from "../place/bounds";
import { dressingSchema } from "../place/schema";
import { idSchema, nameSchema, vec3Schema } from "./param";

/** The version this program writes; older ones are brought up on load, newer ones refused. */
export const SCENE_VERSION = 1;

/** An asset is named by the SHA-256 of its bytes, in hexadecimal; its file is `assets/<hash>.glb`. */
export const assetHashSchema = z.string().regex(/^[0-9a-f]{64}$/, "an asset is named by 64 hexadecimal digits");

export const propSchema = z.object({
  id: idSchema,
  name: nameSchema,
  asset: assetHashSchema,
  bounds: boundsSchema,
  triangles: z.number().int().min(0),
  /** The file that the artist brought, for telling props apart. */
  file: z.string().max(260).default(""),
});

export const surfaceSchema = z.object({
  id: idSchema,
  name: nameSchema,
  asset: assetHashSchema,
  position: vec3Schema.default([0, 0, 0]),
  /** Unit quaternion x y z w. */
  rotation: z.tuple([z.number(), z.number(), z.number(), z.number()]).readonly().default([0, 0, 0, 1]),
  scale: z.number().positive().default(1),
  /** Whether lines are drawn on it and things can stand on it. */
  ground: z.boolean().default(true),
});

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
    lines: z.array(lineSchema).max(4095).default([]),
    surfaces: z.array(surfaceSchema).max(10_000).default([]),
    dressings: z.array(dressingSchema).max(10_000).default([]),
    views: z.array(viewSchema).max(1_000).default([]),
  })
  .superRefine((scene, context) => {
    for (const part of ["props", "lines", "surfaces", "dressings", "views"] as const) {
      const seen = new Set<string>();
      scene[part].forEach(({ id }, i) => {
        if (seen.has(id)) context.addIssue({ code: "custom", path: [part, i, "id"], message: `“${id}” is used twice` });
        seen.add(id);
      });
    }
    const numbers = new Set<number>();
    scene.lines.forEach(({ number }, i) => {
      if (numbers.has(number)) {
        context.addIssue({ code: "custom", path: ["lines", i, "number"], message: `${number} is used twice` });
      }
      numbers.add(number);
    });
  });

export type Prop = z.infer<typeof propSchema>;
export type Surface = z.infer<typeof surfaceSchema>;
export type View = z.infer<typeof viewSchema>;
export type Scene = z.infer<typeof sceneSchema>;
