import * as z from 'zod'

const index = z.int().min(0)
const list = <T extends z.ZodType>(item: T) => z.array(item).optional().default([])

/** The part of glTF 2.0 that reading relies upon; everything else passes through untouched. */
export const gltfSchema = z.looseObject({
  asset: z.looseObject({
    version: z.string(),
    generator: z.string().optional(),
    minVersion: z.string().optional(),
  }),
  extensionsUsed: list(z.string()),
  extensionsRequired: list(z.string()),
  scene: index.optional(),
  scenes: list(z.looseObject({ nodes: list(index) })),
  nodes: list(
    z.looseObject({
      children: list(index),
      mesh: index.optional(),
      skin: index.optional(),
      camera: index.optional(),
    }),
  ),
  meshes: list(
    z.looseObject({
      primitives: z.array(
        z.looseObject({
          attributes: z.record(z.string(), index),
          indices: index.optional(),
          material: index.optional(),
          mode: z.int().min(0).max(6).optional(),
          targets: list(z.record(z.string(), index)),
          extensions: z.record(z.string(), z.unknown()).optional(),
        }),
      ),
    }),
  ),
  skins: list(
    z.looseObject({
      joints: z.array(index),
      inverseBindMatrices: index.optional(),
      skeleton: index.optional(),
    }),
  ),
  materials: list(z.looseObject({})),
  textures: list(z.looseObject({ source: index.optional() })),
  images: list(
    z.looseObject({
      uri: z.string().optional(),
      bufferView: index.optional(),
      mimeType: z.string().optional(),
      name: z.string().optional(),
    }),
  ),
  buffers: list(z.looseObject({ byteLength: z.int().min(0), uri: z.string().optional() })),
  bufferViews: list(
    z.looseObject({
      buffer: index,
      byteOffset: z.int().min(0).optional(),
      byteLength: z.int().min(0),
      byteStride: z.int().min(4).max(252).optional(),
      extensions: z.record(z.string(), z.unknown()).optional(),
    }),
  ),
  accessors: list(
    z.looseObject({
      bufferView: index.optional(),
      byteOffset: z.int().min(0).optional(),
      componentType: z.union([
        z.literal(5120),
        z.literal(5121),
        z.literal(5122),
        z.literal(5123),
        z.literal(5125),
        z.literal(5126),
      ]),
      count: z.int().min(0),
      type: z.enum(['SCALAR', 'VEC2', 'VEC3', 'VEC4', 'MAT2', 'MAT3', 'MAT4']),
      sparse: z
        .looseObject({
          count: z.int().min(0),
          indices: z.looseObject({
            bufferView: index,
            byteOffset: z.int().min(0).optional(),
            componentType: z.union([z.literal(5121), z.literal(5123), z.literal(5125)]),
          }),
          values: z.looseObject({ bufferView: index, byteOffset: z.int().min(0).optional() }),
        })
        .optional(),
    }),
  ),
  animations: list(
    z.looseObject({
      name: z.string().optional(),
      channels: list(z.looseObject({ sampler: index, target: z.looseObject({ node: index.optional() }) })),
      samplers: list(z.looseObject({ input: index, output: index })),
    }),
  ),
})

/** glTF JSON after the door. */
export type GltfJson = z.infer<typeof gltfSchema>
