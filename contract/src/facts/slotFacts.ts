import * as z from 'zod'

/** The inputs of a material slot that a texture can feed. */
export const slotInputs = [
  'basecolor',
  'normal',
  'orm',
  'metallic-roughness',
  'occlusion',
  'emissive',
  'other',
] as const
export const slotInputSchema = z.enum(slotInputs)
export type SlotInput = z.infer<typeof slotInputSchema>

const vec3 = z.tuple([z.number(), z.number(), z.number()])
const colour = z.tuple([z.number(), z.number(), z.number()]).describe('linear RGB')

/** What extensions say of a slot, and how strongly its textures count; as glTF has it where nothing is said. */
export const slotValuesSchema = z.strictObject({
  normalStrength: z.number(),
  occlusionStrength: z.number(),
  emissiveStrength: z.number(),
  transmission: z.number().describe('share of the light that goes through'),
  ior: z.number().describe('refraction index'),
  thickness: z.number().describe('metres; 0: thin walled'),
  attenuationColour: colour.describe(
    'what is left of white light after the attenuation distance, linear RGB',
  ),
  attenuationDistance: z.number().nullable().describe('metres; null: nothing is taken away'),
  specular: z.number().describe('how strongly what is no metal mirrors, against what the index gives'),
  specularColour: colour,
  coat: z.number().describe('clear coat over it, 0 to 1'),
  coatRoughness: z.number(),
  scatter: z
    .number()
    .default(0)
    .describe(
      'share of the light that is scattered through to the other side (KHR_materials_diffuse_transmission)',
    ),
  scatterColour: colour.default([1, 1, 1]).describe('of the light that is scattered through, linear RGB'),
})
export type SlotValues = z.infer<typeof slotValuesSchema>

/** How a texture lies on the UV channel: scaled, turned and moved, in this order (KHR_texture_transform). */
export const texturePlacementSchema = z.strictObject({
  tiling: z.tuple([z.number(), z.number()]),
  offset: z.tuple([z.number(), z.number()]),
  turn: z.number().describe('radians, counter-clockwise'),
})
export type TexturePlacement = z.infer<typeof texturePlacementSchema>

export const tintChannels = ['R', 'G', 'B', 'A'] as const
export type TintChannel = (typeof tintChannels)[number]

/** What one channel of a slot's mask colours: the base colour is multiplied by it, as strongly as the mask says there. */
export const tintSchema = z.strictObject({
  channel: z.enum(tintChannels),
  colour,
  strength: z.number().min(0).max(1).describe('of what the mask says'),
})
export type Tint = z.infer<typeof tintSchema>

export const layerModes = ['mix', 'multiply', 'add'] as const

/** What the alpha of a slot's base colour can stand for. */
export const alphaMeanings = ['opacity', 'tint', 'gloss', 'none'] as const
export const alphaMeaningSchema = z.enum(alphaMeanings)
export type AlphaMeaning = z.infer<typeof alphaMeaningSchema>

/**
 * A second layer that lies over a slot's surface. How much of it there is at a place says a channel of the vertex
 * colours, a channel of the slot's mask, or a ramp along a UV channel.
 */
export const secondLayerSchema = z.strictObject({
  by: z.discriminatedUnion('kind', [
    z.strictObject({
      kind: z.literal('vertex'),
      set: z.int().min(0).max(3).describe('set of vertex colours, counted from 0'),
      channel: z.enum(tintChannels),
    }),
    z.strictObject({ kind: z.literal('mask'), channel: z.enum(tintChannels) }),
    z.strictObject({
      kind: z.literal('ramp'),
      axis: z.enum(['u', 'v']),
      from: z.number().describe('where there is none of it, in UV'),
      to: z.number().describe('where it is whole'),
    }),
  ]),
  inverted: z.boolean(),
  strength: z.number().min(0).max(1),
  mode: z.enum(layerModes).describe('how its colour meets the one below'),
  colour,
  roughness: z
    .number()
    .min(0)
    .max(1)
    .nullable()
    .describe('where its roughness map is black, or everywhere without one; null: that of the surface below'),
  roughnessMost: z
    .number()
    .min(0)
    .max(1)
    .nullable()
    .default(null)
    .describe('where its roughness map is white; null: 1'),
  roughnessChannel: z.enum(tintChannels).default('G').describe('of its roughness map'),
  normal: z.number().min(0).max(10).default(1).describe('strength of its normal map'),
  metallic: z.number().min(0).max(1).nullable().describe('null: that of the surface below'),
  uv: z.int().min(0).max(7).describe('UV channel of its textures and ramp, counted from 0'),
  tiling: z.number().positive().describe('of its textures, against the UV channel'),
})
export type SecondLayer = z.infer<typeof secondLayerSchema>

/**
 * A detail map: fine structure that repeats over the whole surface. Its colour multiplies the base colour, the grey of
 * 50 % (128 of 255) leaving it as it is; its normals lie on those of the surface.
 */
export const detailSchema = z.strictObject({
  uv: z.int().min(0).max(7).describe('UV channel that its textures lie on, counted from 0'),
  tiling: z.number().positive().describe('how often they repeat on that channel'),
  colour: z.number().min(0).max(1).describe('how strongly its colour counts'),
  normal: z.number().min(0).max(10).describe('strength of its normals'),
})
export type Detail = z.infer<typeof detailSchema>

export const slotFactsSchema = z.strictObject({
  name: z.string(),
  index: z.int().min(0),
  baseColour: z.tuple([z.number(), z.number(), z.number(), z.number()]).describe('factor, linear RGBA'),
  metallic: z.number(),
  roughness: z.number(),
  emissive: vec3,
  alphaMode: z.enum(['opaque', 'cutout', 'blend']),
  alphaCutoff: z.number(),
  doubleSided: z.boolean(),
  extensions: z.array(z.string()),
  surface: z
    .string()
    .nullable()
    .default(null)
    .describe('name of a surface of values that a step gave it; null: none did'),
  sameAs: z.string().nullable().describe('an earlier slot that equals it in everything but the name'),
  textures: z.array(
    z.strictObject({
      input: slotInputSchema,
      field: z.string().describe('name of the input in the format'),
      image: z.int().min(0).nullable(),
      channel: z.int().min(0).describe('UV channel, counted from 0'),
      placement: texturePlacementSchema.nullable().default(null).describe('null: as the UV channel says'),
    }),
  ),
  tints: z
    .array(tintSchema)
    .default([])
    .describe(
      'channels of the mask that the slot declares, each with the colour that it is handed over with',
    ),
  alphaMeaning: alphaMeaningSchema
    .nullable()
    .default(null)
    .describe('what the alpha of the base colour is declared to mean; null: nothing is declared'),
  layer: secondLayerSchema.nullable().default(null).describe('a second layer over it; null: none'),
  detail: detailSchema.nullable().default(null).describe('a detail map over it; null: none'),
  heightDepth: z
    .number()
    .nullable()
    .default(null)
    .describe('metres between black and white of its height map; null: nothing is said'),
  adds: z
    .boolean()
    .default(false)
    .describe('what is blended is added to what stands behind, and takes nothing of it away'),
  values: slotValuesSchema.nullable().default(null).describe('null: measured before these were'),
})
export type SlotFacts = z.infer<typeof slotFactsSchema>

/** What a file shows under one of its variants (KHR_materials_variants). */
export const variantFactsSchema = z.strictObject({
  name: z.string(),
  choices: z.array(
    z.strictObject({
      slot: z.string().describe('the slot that is exchanged'),
      wears: z.string().describe('the slot in its place'),
      parts: z.int().min(1).describe('parts of meshes on which it is exchanged'),
      of: z.int().min(1).describe('parts that have the slot'),
    }),
  ),
})
export type VariantFacts = z.infer<typeof variantFactsSchema>

/** Which part of a UV channel's sheet a slot uses. */
export const islandFactsSchema = z.strictObject({
  slot: z.string(),
  channel: z.int().min(0).describe('UV channel, counted from 0'),
  cells: z
    .string()
    .describe('256 × 256 cells, row by row from v = 0: lengths of runs, first of unused ones, as base64'),
})
export type IslandFacts = z.infer<typeof islandFactsSchema>

/** A slot whose surface is not opaque and lies over another: how far, along its normal. */
export const decalFactsSchema = z.strictObject({
  slot: z.string(),
  samples: z.int().min(0).describe('points spread over the slot by area, seeded'),
  over: z.number().min(0).max(1).describe('share of them with another surface under them, within reach'),
  reach: z.number().describe('metres that were looked, to both sides'),
  least: z.number().describe('1 % of the gaps, metres; below 0: the other surface lies over it'),
  middle: z.number().describe('50 % of the gaps, metres'),
  most: z.number().describe('99 % of the gaps, metres'),
})
export type DecalFacts = z.infer<typeof decalFactsSchema>
