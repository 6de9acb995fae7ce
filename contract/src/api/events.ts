import * as z from 'zod'

/** What the pages follow; stored events carry an id to resume from, progress passes by without one. */
export const eventSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('delivery'), delivery: z.string(), state: z.string() }),
  z.strictObject({ kind: z.literal('file'), delivery: z.string(), file: z.string(), state: z.string() }),
  z.strictObject({ kind: z.literal('asset'), asset: z.string() }),
  z.strictObject({ kind: z.literal('rulebook'), revision: z.int() }),
  z.strictObject({ kind: z.literal('dispatch'), dispatch: z.string(), state: z.string() }),
  z.strictObject({ kind: z.literal('progress'), delivery: z.string(), file: z.string(), doing: z.string() }),
])
export type LiveEvent = z.infer<typeof eventSchema>
