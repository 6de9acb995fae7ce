import * as z from 'zod'

const text = z.string().min(1).max(300)

/** How far a waiver reaches. An asset is known by its id on the server and by its path on the command line. */
export const waiverScopeSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('finding'),
    asset: text,
    fingerprint: text.describe('identity of the finding within the asset'),
  }),
  z.strictObject({ kind: z.literal('asset'), asset: text }),
  z.strictObject({ kind: z.literal('class'), class: text }),
  z.strictObject({ kind: z.literal('files'), glob: text.describe('of paths, such as props/old/**') }),
])
export type WaiverScope = z.infer<typeof waiverScopeSchema>

/** A finding that a person accepted, with the reason. */
export const waiverSchema = z.strictObject({
  rule: z.string(),
  scope: waiverScopeSchema,
  reason: z.string().trim().min(1).max(500),
  until: z.iso.date().nullable().default(null).describe('last day on which it holds; null: without end'),
  by: z.string().default(''),
  given: z.iso.date().nullable().default(null),
  value: z
    .number()
    .nullable()
    .default(null)
    .describe('the measured value that was accepted: it falls when that gets worse; null: whatever it is'),
})
export type Waiver = z.infer<typeof waiverSchema>

/** What `waivers.json` holds. */
export const waiversFileSchema = z.strictObject({
  $schema: z.string().optional(),
  waivers: z.array(waiverSchema),
})

/** Why a waiver holds no longer. */
export const fallenSchema = z.enum(['ended', 'worse']).describe('its day is past, or the value got worse')
export type Fallen = z.infer<typeof fallenSchema>

/** What a finding says of the waiver that is for it. */
export const waivedSchema = z.strictObject({
  reason: z.string(),
  until: z.string().nullable(),
  by: z.string(),
  given: z.string().nullable(),
  scope: z.enum(['finding', 'asset', 'class', 'files']),
  value: z.number().nullable(),
  fallen: fallenSchema.nullable().describe('null: it holds, and the finding counts as waived'),
})
export type Waived = z.infer<typeof waivedSchema>
