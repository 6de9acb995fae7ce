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
})
export type EncodingFacts = z.infer<typeof encodingFactsSchema>
