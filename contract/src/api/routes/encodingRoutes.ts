import * as z from 'zod'
import { formatSearchSchema } from '../../encoding'
import { encodeRequestSchema, encodingSchema, searchRequestSchema } from '../encodings'
import { defineRoute } from '../route'

/** Encoded textures: what each route takes and gives. */
export const encodingRoutes = {
  encodeTexture: defineRoute({
    method: 'post',
    path: '/assets/{asset}/encodings',
    group: 'Textures',
    does: 'Encodes a texture of the output and measures it as it is read back; what was encoded so before comes at once.',
    takes: encodeRequestSchema,
    gives: encodingSchema,
  }),
  searchFormats: defineRoute({
    method: 'post',
    path: '/assets/{asset}/format-search',
    group: 'Textures',
    does: 'Finds the smallest format and size of a texture that holds a wanted error: tried on windows, confirmed on the whole.',
    takes: searchRequestSchema,
    gives: formatSearchSchema,
  }),
  listEncodings: defineRoute({
    method: 'get',
    path: '/assets/{asset}/encodings',
    group: 'Textures',
    does: 'What was encoded of the textures of the output, by texture and format.',
    query: z.object({ texture: z.string().max(500).optional() }),
    gives: encodingSchema.array(),
  }),
}
