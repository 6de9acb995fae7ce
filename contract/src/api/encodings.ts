import * as z from 'zod'
import { encodingFactsSchema, encodingPlanSchema, formatWishSchema } from '../encoding'

/** Which texture of an asset's output is encoded, and how. */
export const encodeRequestSchema = z.strictObject({
  texture: z.string().min(1).max(500).describe('name of a texture of the output'),
  plan: encodingPlanSchema,
})
export type EncodeRequest = z.infer<typeof encodeRequestSchema>

export const searchRequestSchema = z.strictObject({
  texture: z.string().min(1).max(500).describe('name of a texture of the output'),
  wish: formatWishSchema,
})
export type SearchRequest = z.input<typeof searchRequestSchema>

/** A texture as it was encoded; the same source and plan give the same, and are encoded once. */
export const encodingSchema = z.strictObject({
  texture: z.string(),
  facts: encodingFactsSchema,
  file: z.string().describe('address of the written file'),
  picture: z.string().describe('address of a PNG of what is read back from it'),
})
export type Encoding = z.infer<typeof encodingSchema>
