import * as z from 'zod'

const text = z.string().trim().max(400).default('')

/** Where an asset came from, and by which terms it may be used. */
export const originSchema = z.strictObject({
  source: text.describe('shop, archive, person or tool that it came from'),
  author: text,
  terms: z.string().trim().max(60).describe('one of the terms of the rulebook; empty: not known'),
  link: z.string().trim().max(600).default(''),
})
export type Origin = z.infer<typeof originSchema>

/** What terms allow when an asset is handed over. */
export const handOverSchema = z.enum(['allowed', 'with credit', 'refused'])
export const termsSchema = z.strictObject({
  title: z.string().min(1).max(80),
  handOver: handOverSchema.describe('whether what has these terms may be handed over, or only with a credit'),
})
export type Terms = z.infer<typeof termsSchema>

/** Terms that every project starts with. */
export const defaultTerms: Readonly<Record<string, Terms>> = {
  own: { title: 'our own work', handOver: 'allowed' },
  bought: { title: 'bought, may be shipped', handOver: 'allowed' },
  credit: { title: 'free with a credit', handOver: 'with credit' },
  practice: { title: 'for practice only', handOver: 'refused' },
}

/** How an origin is set: for assets, or for all that a delivery brought. Null takes it away. */
export const setOriginSchema = z.strictObject({
  assets: z.array(z.uuid()).min(1).max(20_000).nullable(),
  delivery: z.uuid().nullable().default(null),
  origin: originSchema.nullable(),
})
export type SetOrigin = z.input<typeof setOriginSchema>

/** Origin of an asset on the bench. */
export const knownOriginSchema = z.strictObject({
  given: originSchema.nullable().describe('by a person for the asset, or by the rulebook for its folder'),
  by: z.enum(['asset', 'rulebook']).nullable(),
  terms: termsSchema.nullable().describe('as the rulebook knows them; null: not known'),
})
export type KnownOrigin = z.infer<typeof knownOriginSchema>
