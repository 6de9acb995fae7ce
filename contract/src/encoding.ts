import * as z from 'zod'
import { textureRoleSchema } from './rulebook/rulebook'

/** Formats that textures are really encoded to. */
export const encodedFormats = [
  'BC1',
  'BC3',
  'BC4',
  'BC5',
  'BC7',
  'ETC2',
  'ASTC 4×4',
  'ASTC 5×5',
  'ASTC 6×6',
  'ASTC 8×8',
  'ETC1S',
  'UASTC',
] as const
export const encodedFormatSchema = z.enum(encodedFormats)
export type EncodedFormat = z.infer<typeof encodedFormatSchema>

/** Formats by the devices that read them. */
export const formatKinds = [
  { title: 'BC', has: (f: string) => f.startsWith('BC') },
  { title: 'ASTC, ETC2', has: (f: string) => f.startsWith('ASTC') || f === 'ETC2' },
  { title: 'Basis Universal', has: (f: string) => f === 'ETC1S' || f === 'UASTC' },
] as const

/** The kind that a format is of; the first where it is none, or plain texels. */
export const kindOfFormat = (format: string | null): (typeof formatKinds)[number] =>
  formatKinds.find((k) => k.has(format ?? '')) ?? formatKinds[0]

export const encodingQualities = ['fast', 'good', 'best'] as const
export const encodingQualitySchema = z.enum(encodingQualities)
export type EncodingQuality = z.infer<typeof encodingQualitySchema>

/** How a texture is to be encoded. */
export const encodingPlanSchema = z.strictObject({
  format: encodedFormatSchema,
  quality: encodingQualitySchema.default('good'),
  container: z.enum(['ktx2', 'dds']).default('ktx2'),
  mips: z.boolean().default(true).describe('all levels down to one texel, in the right light'),
  role: textureRoleSchema.nullable().default(null).describe('what it carries: light, vectors or data'),
  cutoff: z
    .number()
    .min(0)
    .max(1)
    .nullable()
    .default(null)
    .describe('threshold of a cutout, whose coverage mips keep; null: it is none'),
})
export type EncodingPlan = z.infer<typeof encodingPlanSchema>

const decibel = z.number().nullable().describe('dB; null: nothing differs')

/** What encoding made of a texture, measured on what was decoded from the written file. */
export const encodingFactsSchema = z.strictObject({
  plan: encodingPlanSchema,
  width: z.int(),
  height: z.int(),
  levels: z.int().min(1),
  fileBytes: z.int().min(0),
  memoryBytes: z.int().min(0).describe('of all levels in graphics memory'),
  seconds: z.number().describe('that encoding took'),
  compared: z
    .array(z.enum(['R', 'G', 'B', 'A']))
    .describe('channels that the format keeps and the source has'),
  psnr: z.array(decibel).describe('by compared channel'),
  psnrAll: decibel.describe('over all compared channels'),
  ssim: z.number().describe('of the luminance, windows of 8 × 8'),
  angle: z
    .strictObject({ mean: z.number(), p95: z.number(), most: z.number() })
    .nullable()
    .describe('degrees between vectors of a normal map'),
  coverage: z
    .strictObject({ source: z.number(), encoded: z.number() })
    .nullable()
    .describe('share of texels that a cutout draws'),
  used: z
    .number()
    .min(0)
    .max(1)
    .nullable()
    .default(null)
    .describe('share of the texels that were compared: those that UV islands use; null: all of them'),
  smaller: z
    .array(
      z.strictObject({
        width: z.int().min(1),
        height: z.int().min(1),
        psnr: decibel.describe('over all compared channels'),
        angle: z.number().nullable().describe('degrees, mean, of a normal map'),
        coverage: z.number().nullable().describe('share of texels that a cutout draws, as encoded'),
      }),
    )
    .default([])
    .describe(
      'levels after the largest against the mips they were encoded from; none where a library made them',
    ),
})
export type EncodingFacts = z.infer<typeof encodingFactsSchema>

/** What a texture loses in the block format that a target stores it in. */
export const storedErrorSchema = z.strictObject({
  format: encodedFormatSchema,
  windows: z
    .int()
    .min(1)
    .describe('of 256 texels a side that were encoded at their own size; a small picture is one'),
  psnr: decibel.describe('over all channels that say something and that the format keeps'),
  angle: z
    .strictObject({ mean: z.number(), p95: z.number().describe('of the worst window') })
    .nullable()
    .describe('degrees between vectors of a normal map'),
  lost: z
    .array(z.enum(['R', 'G', 'B', 'A']))
    .describe('channels that say something, and that the format does not keep'),
})
export type StoredError = z.infer<typeof storedErrorSchema>

/** What is wanted of a texture in blocks, and which formats may be tried. */
export const formatWishSchema = z.strictObject({
  formats: z.array(encodedFormatSchema).min(1).max(encodedFormats.length),
  role: textureRoleSchema.nullable().default(null),
  least: z
    .number()
    .min(0)
    .max(120)
    .nullable()
    .default(null)
    .describe('dB that it has to keep; of a normal map the degrees count'),
  degrees: z.number().min(0.05).max(45).default(2).describe('mean angle that a normal map may be off by'),
})
export type FormatWish = z.infer<typeof formatWishSchema>

/** One way to store a texture, as it was tried on windows of it. */
export const formatTryingSchema = z.strictObject({
  format: encodedFormatSchema,
  times: z.int().min(1).describe('by so much its sides are shorter'),
  memoryBytes: z.int().describe('of all levels in graphics memory'),
  error: z.number().nullable().describe('dB, or degrees for a normal map; null: nothing differs'),
  holds: z.boolean(),
})
export type FormatTrying = z.infer<typeof formatTryingSchema>

/** The smallest way to store a texture that holds what is wanted. */
export const formatSearchSchema = z.strictObject({
  unit: z.enum(['dB', 'degrees']),
  windows: z.int().min(1).describe('of 256 texels a side, on which it was tried'),
  tried: z.array(formatTryingSchema).describe('the smallest first'),
  best: z
    .strictObject({
      format: encodedFormatSchema,
      times: z.int().min(1),
      width: z.int(),
      height: z.int(),
      memoryBytes: z.int(),
      error: z.number().nullable().describe('over the whole picture'),
    })
    .nullable()
    .describe('the smallest that holds on the whole picture, too; null: none does'),
})
export type FormatSearch = z.infer<typeof formatSearchSchema>
