import * as z from 'zod'
import { encodeRequestSchema, encodingSchema } from '../encodings'
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
  listEncodings: defineRoute({
    method: 'get',
    path: '/assets/{asset}/encodings',
    group: 'Textures',
    does: 'What was encoded of the textures of the output, by texture and format.',
    query: z.object({ texture: z.string().max(500).optional() }),
    gives: encodingSchema.array(),
  }),
}
