/** The Zod schema of the Scene, the only truth: everything else is derived from it and from the assets it names. */
import { z } from "zod";
import { lineSchema } from "../line";
import { boundsSchema } from "../mesh";
import { dressingSchema } from "../place";
import { assetHashSchema, idSchema, nameSchema, vec3Schema, within } from "../schema";
import { allParts, nestingTrouble } from "./assemblies";
import { PARTS } from "./assembly-shape";
import { assemblySchema } from "./assembly-schema";
import { overBudget } from "./budget";
import { preparationSchema } from "./prepare";
import { surfaceSchema } from "./surface-schema";
import { timeSchema } from "./time";

/** The version this program writes; older ones are brought up on load, newer ones refused. */
export const SCENE_VERSION = 14;

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

export const propShape = z.object({
  id: idSchema,
  name: nameSchema,
  /** The file that holds its mesh; null for an assembly. */
  asset: assetHashSchema.nullable(),
  /** What it is put together of; null for one from a file. */
  assembly: assemblySchema.nullable().default(null),
  /** The box of the file, before the prop is prepared. Of an assembly as it was when it was made; how large it is follows from what is in it. */
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

export const propSchema = propShape.refine(({ asset, assembly }) => (asset === null) !== (assembly === null), {
  error: "a prop has either a file or what it is put together of",
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
    const complain = (path: (string | number)[], message: string) =>
      context.addIssue({ code: "custom", path, message });
    const once = (list: readonly { id: string }[], path: (string | number)[], seen: Set<string>): void =>
      list.forEach(({ id }, i) => {
        if (seen.has(id)) complain([...path, i, "id"], `“${id}” is used twice`);
        seen.add(id);
      });
    for (const part of ["props", "mixes", "views"] as const) once(scene[part], [part], new Set());
    const props = new Set(scene.props.map(({ id }) => id));
    scene.mixes.forEach(({ id }, i) => {
      if (props.has(id)) complain(["mixes", i, "id"], `“${id}” is a prop's already`);
    });
    // Things in assemblies are known by their ids like all others, and lines by their numbers among those beside them.
    const seen = { lines: new Set<string>(), surfaces: new Set<string>(), dressings: new Set<string>() };
    const lists = (parts: z.infer<typeof assemblySchema> | typeof scene, path: (string | number)[]): void => {
      for (const part of PARTS) once(parts[part], [...path, part], seen[part]);
      const numbers = new Set<number>();
      parts.lines.forEach(({ number }, i) => {
        if (numbers.has(number)) complain([...path, "lines", i, "number"], `${number} is used twice`);
        numbers.add(number);
      });
    };
    lists(scene, []);
    scene.props.forEach(({ assembly }, i) => assembly && lists(assembly, ["props", i, "assembly"]));
    const nested = nestingTrouble(scene as Parameters<typeof nestingTrouble>[0]);
    if (nested) complain([], nested);
    const all = allParts(scene as Parameters<typeof allParts>[0]);
    const over = overBudget(all as Parameters<typeof overBudget>[0]);
    if (over) complain([], over);
  });

export type Prop = z.infer<typeof propSchema>;
export type Brought = z.infer<typeof broughtSchema>;
export type Mix = z.infer<typeof mixSchema>;
export type View = z.infer<typeof viewSchema>;
export type Scene = z.infer<typeof sceneSchema>;
