import * as z from 'zod'
import { levelSchema, stationSchema } from './station'
import { waivedSchema } from './waiver'

/** Where a finding stands, by stable names, so that the stage can show it. */
export const placeSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('asset') }),
  z.strictObject({ kind: z.literal('file'), file: z.string() }),
  z.strictObject({ kind: z.literal('node'), node: z.string() }),
  z.strictObject({ kind: z.literal('slot'), slot: z.string(), input: z.string().optional() }),
  z.strictObject({ kind: z.literal('texture'), texture: z.string() }),
  z.strictObject({
    kind: z.literal('triangles'),
    node: z.string(),
    primitive: z.int(),
    evidence: z.string().describe('name of the evidence entry'),
  }),
  z.strictObject({
    kind: z.literal('channel'),
    node: z.string(),
    channel: z.int().describe('counted from 0'),
  }),
  z.strictObject({
    kind: z.literal('name'),
    what: z.enum(['asset', 'node', 'texture', 'slot', 'clip']),
    name: z.string(),
    span: z.tuple([z.int(), z.int()]).describe('from and to, in characters, of the part that is wrong'),
  }),
])
export type Place = z.infer<typeof placeSchema>

export const gaugeUnits = [
  'm',
  'triangles',
  'texels',
  'share',
  'count',
  'sure',
  'bytes',
  'texelsPerMetre',
] as const
export type GaugeUnit = (typeof gaugeUnits)[number]

/** The measured value on a small scale against its limit. */
export const gaugeSchema = z.strictObject({
  value: z.number(),
  unit: z.enum(gaugeUnits),
  min: z.number().optional().describe('least good value'),
  max: z.number().optional().describe('greatest good value'),
  stopAt: z.number().optional(),
  scale: z.enum(['linear', 'log']),
})
export type Gauge = z.infer<typeof gaugeSchema>

/** A plain value of an option; numbers of one kind may stand in a list, as one for each level. */
export const optionValueSchema = z.union([
  z.string(),
  z.number(),
  z.boolean(),
  z.null(),
  z.array(z.number()).max(64),
])
export type OptionValue = z.infer<typeof optionValueSchema>
/** Options of a remedy, by name. */
export const remedyOptionsSchema = z.record(z.string(), optionValueSchema)
export type RemedyOptions = z.infer<typeof remedyOptionsSchema>

/** A remedy that a finding offers, with the options that would mend it. */
export const remedyOfferSchema = z.strictObject({
  remedy: z.string(),
  options: remedyOptionsSchema,
  label: z.string().describe('what it will change, in a few words'),
  also: z
    .array(remedyOptionsSchema)
    .default([])
    .describe('the same remedy with other options, for the other places of the finding'),
})
export type RemedyOffer = z.infer<typeof remedyOfferSchema>

/** The options of every step that an offer stands for: one for each place of its finding. */
export const optionsOfOffer = (offer: RemedyOffer): RemedyOptions[] => [offer.options, ...offer.also]

export const findingDataSchema = z.record(z.string(), z.union([z.string(), z.number(), z.boolean()]))
export type FindingData = z.infer<typeof findingDataSchema>

/** What a rule has to say about one place. */
export const findingSchema = z.strictObject({
  rule: z.string(),
  station: stationSchema,
  level: levelSchema,
  message: z.string().describe("key of the rule's message"),
  text: z.string(),
  data: findingDataSchema,
  place: placeSchema,
  also: z
    .array(placeSchema)
    .default([])
    .describe('further places of which the same holds: nodes with the same mesh'),
  gauge: gaugeSchema.nullable(),
  remedies: z.array(remedyOfferSchema),
  value: z.number().nullable().default(null).describe('the measured value that it is about'),
  fingerprint: z
    .string()
    .describe(
      'identity within the asset: rule, message, place by name; survives a re-export, a renaming of the asset and another value',
    ),
  alike: z.array(z.string()).default([]).describe('identities of the further places'),
  waived: waivedSchema
    .nullable()
    .default(null)
    .describe('the waiver that is for it; one that has fallen no longer counts'),
})
export type Finding = z.infer<typeof findingSchema>

/** What is the same for most assets that came together, said once. */
export const sharedFindingSchema = z.strictObject({
  rule: z.string(),
  message: z.string(),
  text: z.string(),
  assets: z.array(z.string()).describe('that it holds of'),
  of: z.int(),
  act: z.strictObject({
    kind: z.enum(['remedy', 'fit']).describe('one remedy mends all, or the rulebook is fitted'),
    remedy: z.string().nullable(),
  }),
})
export type SharedFinding = z.infer<typeof sharedFindingSchema>

/** Whether a finding counts: it is not waived, or its waiver has fallen. */
export const counts = ({ waived }: Pick<Finding, 'waived'>): boolean =>
  waived === null || waived.fallen !== null
