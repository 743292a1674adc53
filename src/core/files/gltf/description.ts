/**
 * *The description of a glTF*, checked before anything is made of it: which fields there may be and of what kind. Whatever is
 * not used here is left out (cameras, extras), so nothing later has to mind it.
 *
 * Source: Khronos Group, glTF 2.0 Specification (ISO/IEC 12113:2022).
 */
import { z } from "zod";
import { InputError } from "../../schema";

const count = z.int().min(0).max(0xffffffff);
const index = z.int().min(0).max(0xffffff);
const number = z.number().min(-3.5e38).max(3.5e38);
/** Names are for people: any length comes in, a readable one stays. */
const name = z.string().transform((text) => text.slice(0, 200));
const many = <T extends z.ZodType>(item: T) => z.array(item).max(1_000_000).default([]);

const textureInfo = z.looseObject({ index, texCoord: z.int().min(0).max(31).optional() });
/** Extensions are read by what knows them; only their numbers and indices are looked at here. */
const extensions = z.record(z.string(), z.looseObject({})).optional();

const bufferView = z.object({
  buffer: index,
  byteOffset: count.default(0),
  byteLength: count,
  byteStride: z.int().min(1).max(65536).optional(),
  extensions: z
    .object({
      EXT_meshopt_compression: meshopt().optional(),
      KHR_meshopt_compression: meshopt().optional(),
    })
    .optional(),
});

function meshopt() {
  return z.object({
    buffer: index,
    byteOffset: count.default(0),
    byteLength: count,
    byteStride: z.int().min(1).max(256),
    count,
    mode: z.enum(["ATTRIBUTES", "TRIANGLES", "INDICES"]),
    filter: z.enum(["NONE", "OCTAHEDRAL", "QUATERNION", "EXPONENTIAL", "COLOR"]).optional(),
  });
}

export const COMPONENT_BYTES: Readonly<Record<number, number>> = {
  5120: 1,
  5121: 1,
  5122: 2,
  5123: 2,
  5125: 4,
  5126: 4,
};
export const ELEMENT_SIZE: Readonly<Record<string, number>> = {
  SCALAR: 1,
  VEC2: 2,
  VEC3: 3,
  VEC4: 4,
  MAT2: 4,
  MAT3: 9,
  MAT4: 16,
};

const componentType = z.literal([5120, 5121, 5122, 5123, 5125, 5126]);
const accessor = z.object({
  bufferView: index.optional(),
  byteOffset: count.default(0),
  componentType,
  normalized: z.boolean().optional(),
  count,
  type: z.literal(["SCALAR", "VEC2", "VEC3", "VEC4", "MAT2", "MAT3", "MAT4"]),
  sparse: z
    .object({
      count: z.int().min(1).max(0xffffffff),
      indices: z.object({
        bufferView: index,
        byteOffset: count.default(0),
        componentType: z.literal([5121, 5123, 5125]),
      }),
      values: z.object({ bufferView: index, byteOffset: count.default(0) }),
    })
    .optional(),
});

const image = z.object({
  name: name.optional(),
  uri: z
    .string()
    .max(1 << 30)
    .optional(),
  bufferView: index.optional(),
  mimeType: z.string().max(100).optional(),
});

const texture = z.object({
  name: name.optional(),
  sampler: index.optional(),
  source: index.optional(),
  extensions: z.record(z.string(), z.object({ source: index })).optional(),
});

const material = z.object({
  name: name.optional(),
  pbrMetallicRoughness: z
    .object({
      baseColorFactor: z.array(number).length(4).optional(),
      baseColorTexture: textureInfo.optional(),
      metallicFactor: number.optional(),
      roughnessFactor: number.optional(),
      metallicRoughnessTexture: textureInfo.optional(),
    })
    .optional(),
  normalTexture: textureInfo.optional(),
  occlusionTexture: textureInfo.optional(),
  emissiveTexture: textureInfo.optional(),
  emissiveFactor: z.array(number).length(3).optional(),
  alphaMode: z.enum(["OPAQUE", "MASK", "BLEND"]).optional(),
  alphaCutoff: number.optional(),
  doubleSided: z.boolean().optional(),
  extensions,
});

const primitive = z.object({
  attributes: z.record(z.string(), index),
  indices: index.optional(),
  material: index.optional(),
  mode: z.int().min(0).max(6).default(4),
  targets: z.array(z.record(z.string(), index)).max(10_000).optional(),
  extensions: z
    .object({
      KHR_draco_mesh_compression: z.object({ bufferView: index, attributes: z.record(z.string(), index) }).optional(),
    })
    .optional(),
});

const weights = z.array(number).max(10_000).optional();

const node = z.object({
  name: name.optional(),
  children: z.array(index).default([]),
  mesh: index.optional(),
  skin: index.optional(),
  weights,
  matrix: z.array(number).length(16).optional(),
  translation: z.array(number).length(3).optional(),
  rotation: z.array(number).length(4).optional(),
  scale: z.array(number).length(3).optional(),
  extensions: z
    .object({ EXT_mesh_gpu_instancing: z.object({ attributes: z.record(z.string(), index) }).optional() })
    .optional(),
});

const skin = z.object({
  name: name.optional(),
  inverseBindMatrices: index.optional(),
  skeleton: index.optional(),
  joints: z.array(index).min(1).max(65_535),
});

const animation = z.object({
  name: name.optional(),
  channels: many(
    z.object({
      sampler: index,
      // Another path is an extension's, and passed over.
      target: z.object({ node: index.optional(), path: z.string().max(100) }),
    }),
  ),
  samplers: many(
    z.object({
      input: index,
      interpolation: z.enum(["LINEAR", "STEP", "CUBICSPLINE"]).default("LINEAR"),
      output: index,
    }),
  ),
});

const descriptionSchema = z.object({
  asset: z.object({ version: z.string().regex(/^2\.\d+$/) }),
  extensionsUsed: z.array(z.string().max(200)).max(1000).default([]),
  extensionsRequired: z.array(z.string().max(200)).max(1000).default([]),
  buffers: many(z.object({ name: name.optional(), uri: z.string().optional(), byteLength: count.default(0) })),
  bufferViews: many(bufferView),
  accessors: many(accessor),
  images: many(image),
  samplers: many(
    z.object({
      magFilter: z.int().optional(),
      minFilter: z.int().optional(),
      wrapS: z.int().optional(),
      wrapT: z.int().optional(),
    }),
  ),
  textures: many(texture),
  materials: many(material),
  meshes: many(z.object({ name: name.optional(), primitives: z.array(primitive).max(100_000).default([]), weights })),
  nodes: many(node),
  scenes: many(z.object({ name: name.optional(), nodes: z.array(index).default([]) })),
  scene: index.optional(),
  skins: many(skin),
  animations: many(animation),
});

export type Description = z.infer<typeof descriptionSchema>;

/** @throws InputError that says which field is not as it should be */
export function checkedDescription(json: unknown, file: string): Description {
  const { success, data, error } = descriptionSchema.safeParse(json);
  if (success) return data;
  const path = error.issues[0].path.map(String).join(".").slice(0, 80);
  throw new InputError(`“${file}” cannot be read: its description is damaged${path ? ` (at ${path})` : ""}.`);
}
