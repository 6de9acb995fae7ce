import * as z from 'zod'
import { faultSchema } from '../fault'
import { textureFormats } from '../formats'

export const colourSpaceSchema = z.enum(['srgb', 'linear', 'unstated', 'other'])
export type ColourSpace = z.infer<typeof colourSpaceSchema>

/** What the header says; nothing is decoded for it. */
export const textureHeaderSchema = z.strictObject({
  format: z.enum(textureFormats),
  width: z.int().min(1),
  height: z.int().min(1),
  channels: z.int().min(1).max(4).describe('after a palette is looked up'),
  depth: z.union([z.literal(8), z.literal(16), z.literal(32)]).describe('bits a channel after decoding'),
  mips: z.int().min(1).describe('levels that the file stores'),
  blockFormat: z
    .string()
    .nullable()
    .describe('block compression that the file is stored in; null: plain texels'),
  statedRole: z.string().nullable().describe('what the file itself says that it carries'),
  decodes: z.boolean().describe('whether its texels can be read here'),
  palette: z.boolean(),
  alpha: z.boolean(),
  colourSpace: colourSpaceSchema,
  colourEvidence: z.array(z.string()).describe('the chunks that say so'),
  sizeBytes: z.int().min(0),
})
export type TextureHeader = z.infer<typeof textureHeaderSchema>

export const channelFactsSchema = z.strictObject({
  name: z.enum(['R', 'G', 'B', 'A', 'grey']),
  min: z.number(),
  max: z.number(),
  mean: z.number().describe('0 to 1, as stored'),
  deviation: z.number(),
  histogram: z
    .array(z.int())
    .length(256)
    .describe('texels by value; of a picture with more than 2048² texels of 8 bits, of a sixteenth of them'),
})
export type ChannelFacts = z.infer<typeof channelFactsSchema>

export const greenFactsSchema = z.strictObject({
  direction: z.enum(['up', 'down', 'undecided']),
  energyUp: z.number().describe('mean squared curl when green is taken to point up'),
  energyDown: z.number(),
  confidence: z.number().min(0).max(1),
  texels: z.int().describe('texels with enough slope to say something'),
})

export const normalFactsSchema = z.strictObject({
  shareUnitLength: z.number().describe('texels whose length is within 0.1 of 1'),
  sharePlausible: z.number().describe('texels whose length lies between 0.6 and 1.1 and whose z is above 0'),
  correlation: z.number().describe('of red with green over the map, −1 to 1; 0 where one of them is flat'),
  meanDirection: z.tuple([z.number(), z.number(), z.number()]),
  meanLength: z.number(),
  shareFacingAway: z.number().describe('texels with z below 0'),
  shareGrey: z.number().min(0).max(1).describe('texels with R = G = B within 2 of 255'),
  spreadGrey: z.number().describe('deviation of the grey among them, 0 to 1'),
  sampled: z.int().min(1).describe('texels that these figures are from; see docs/measurements'),
  isNormalMap: z.number().min(0).max(1).describe('how sure, from the pixels alone'),
  green: greenFactsSchema,
})
export type NormalFacts = z.infer<typeof normalFactsSchema>

/** Brightness of colour maps, over texels that are not clear. */
export const rangeFactsSchema = z.strictObject({
  dark: z.number().min(0).max(1).describe('share whose every channel is below 30 of 255'),
  bright: z.number().min(0).max(1).describe('share whose every channel is above 240 of 255'),
  sampled: z.int().min(0),
})

/** Values of a floating-point format before they were cut to 0 … 1, which the other figures are of. */
export const floatFactsSchema = z.strictObject({
  min: z.number(),
  max: z.number(),
  above: z.number().min(0).max(1).describe('share of values above 1'),
  below: z.number().min(0).max(1).describe('share of values below 0'),
  notFinite: z.int().min(0).describe('values that are no number or endless'),
})
export type FloatFacts = z.infer<typeof floatFactsSchema>

/** What fills a texture outside of its islands. */
export const groundFactsSchema = z.strictObject({
  kind: z.enum(['black', 'white', 'flat-normal', 'transparent', 'flat']),
  value: z.array(z.number()).describe('of each colour channel, 0 to 255; of what is transparent none'),
  share: z.number().min(0).max(1).describe('of the picture'),
  cells: z
    .string()
    .nullable()
    .default(null)
    .describe(
      'which of 256 × 256 cells are mostly ground, row by row from the top: lengths of runs, first of others, ' +
        'as base64; null: not measured',
    ),
})
export type GroundFacts = z.infer<typeof groundFactsSchema>

/** Figures that tell what a texture carries; over used texels, values 0 to 1. */
export const contentFactsSchema = z.strictObject({
  grey: z.number().describe('share of texels whose channels are alike; 1 for a single channel'),
  colourful: z.number().describe('mean difference of the greatest and the least channel'),
  mean: z.array(z.number()),
  deviation: z.array(z.number()),
  extreme: z.array(z.number()).describe('share of values near 0 or near 1, by channel'),
  low: z.number().describe('share of texels whose brightness is near 0'),
  high: z.number().describe('share near 1'),
  correlation: z
    .array(z.number())
    .describe('of red with green, red with blue, green with blue; 0 for one channel'),
  detail: z.array(z.number()).describe('mean difference of neighbours, by channel'),
  bend: z.number().describe('second differences against first ones, of the first channel: 1.7 is noise'),
  apart: z.number().describe('share of neighbours that differ by a quarter and more, of the first channel'),
  channelsDiffer: z.number().describe('mean difference between channels of their detail'),
  used: z.number().min(0).max(1).describe('share of texels that are not ground'),
  alphaVaries: z.boolean(),
})
export type ContentFacts = z.infer<typeof contentFactsSchema>

/** How much smaller it can be and still carry the same. */
export const resolutionFactsSchema = z.strictObject({
  times: z.int().min(1).describe('sides can be so many times shorter; 1: nothing is empty'),
  psnr: z
    .number()
    .nullable()
    .describe('dB between it and itself shrunk and enlarged again; null: nothing differs, or not asked'),
  worst: z.number().nullable().describe('dB in the window of 32 × 32 texels that differs most'),
})
export type ResolutionFacts = z.infer<typeof resolutionFactsSchema>

/** The figures of a texture over the texels that UV islands use, in place of those over the whole picture. */
export const usedFactsSchema = z.strictObject({
  share: z.number().min(0).max(1).describe('of the texels that islands use'),
  channels: z.array(channelFactsSchema),
  normal: normalFactsSchema.nullable(),
  range: rangeFactsSchema.nullable(),
  content: contentFactsSchema,
})
export type UsedFacts = z.infer<typeof usedFactsSchema>

export const textureFactsSchema = z.strictObject({
  kind: z.literal('texture'),
  header: textureHeaderSchema,
  range: rangeFactsSchema.nullable(),
  channels: z.array(channelFactsSchema).nullable(),
  normal: normalFactsSchema.nullable().describe('null for fewer than three channels or when not measured'),
  ground: groundFactsSchema.nullable().describe('null: none was found, or not measured'),
  content: contentFactsSchema.nullable(),
  floats: floatFactsSchema.nullable().describe('null: whole numbers, or not measured'),
  resolution: resolutionFactsSchema.nullable().default(null).describe('null: not measured'),
  used: z
    .number()
    .nullable()
    .default(null)
    .describe(
      'share of the texels that UV islands use, which channels, range, normal and content are of; ' +
        'null: they are of the whole picture',
    ),
  notMeasured: z.array(faultSchema),
})
export type TextureFacts = z.infer<typeof textureFactsSchema>
