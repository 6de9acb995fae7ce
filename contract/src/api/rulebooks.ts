import * as z from 'zod'
import { faultSchema } from '../fault'
import { gaugeUnits } from '../finding'
import { proposalSchema } from '../fitting'
import { rulebookSchema } from '../rulebook/rulebook'
import { levelSchema, stationSchema, verdictSchema } from '../station'
import { waiverSchema } from '../waiver'
import { ruleFieldSchema } from './api'

const id = z.uuid()
const time = z.iso.datetime()
const revisionNumber = z.int().min(1).max(2_147_483_647)

/** A rule as the Rulebook shows it. */
export const ruleInfoSchema = z.strictObject({
  id: z.string(),
  station: stationSchema,
  title: z.string(),
  why: z.string(),
  level: levelSchema.describe('without a setting'),
  reads: z.array(z.string()).describe('facts that it reads'),
  fields: z.array(ruleFieldSchema),
  sounding: z
    .enum(['class', 'option'])
    .nullable()
    .describe('its limit stands on what the library measures: that of a class, or an option'),
})
export type RuleInfo = z.infer<typeof ruleInfoSchema>

export const revisionSchema = z.strictObject({
  number: revisionNumber,
  author: z.string(),
  note: z.string(),
  created: time,
  changes: z.array(z.string()).describe('what differs from the one before, in words'),
})
export type Revision = z.infer<typeof revisionSchema>

export const rulebookReplySchema = z.strictObject({
  revision: revisionNumber,
  rulebook: rulebookSchema,
  rules: z.array(ruleInfoSchema),
  found: z.record(z.string(), z.int()).describe('assets with a finding that counts, by rule'),
})
export type RulebookReply = z.infer<typeof rulebookReplySchema>

/** The body is checked by hand, so that a mistake is told with its place. */
export const rulebookDraftSchema = z.strictObject({ rulebook: z.record(z.string(), z.unknown()) })
export const saveRulebookSchema = rulebookDraftSchema.extend({
  revision: revisionNumber.describe('the one that was changed: refused when another is in force by now'),
  note: z.string().trim().max(300).default(''),
})

const changedAssetSchema = z.strictObject({
  id,
  name: z.string(),
  was: verdictSchema,
  now: verdictSchema,
  /** What it gets or loses, in a few words. */
  words: z.string(),
})
/** What a draft would do. */
export const effectSchema = z.strictObject({
  assets: z.int().describe('that were judged by it'),
  milliseconds: z.number(),
  held: z.int().describe('assets that become held'),
  clear: z.int().describe('that become clear'),
  more: z.int().describe('that keep their verdict and get more findings'),
  fewer: z.int(),
  other: z.int().describe('that keep their verdict and have as many findings, but others'),
  changed: z.array(changedAssetSchema).max(60).describe('the first of them'),
  differences: z.array(z.string()).describe('what the draft changes, in words'),
})
export type Effect = z.infer<typeof effectSchema>

export const soundingRequestSchema = z.strictObject({
  rule: z.string().max(100),
  class: z.string().max(100).nullable().default(null),
  rulebook: z
    .record(z.string(), z.unknown())
    .optional()
    .describe('a draft, which may have other classes; the one in force without it'),
})
/** Stands in the path of a limit for the class that is sounded. */
export const SOUNDED_CLASS = '{class}'
/** A limit that stands on what the library measures. */
export const soundingLimitSchema = z.strictObject({
  words: z.string(),
  side: z.enum(['least', 'most']),
  path: z.array(z.string()).describe('where it stands in the rulebook; {class} for the class'),
  initial: z.number().nullable().describe('what holds where nothing stands there'),
})
export type SoundingLimit = z.infer<typeof soundingLimitSchema>

export const soundingReplySchema = z.strictObject({
  rule: z.string(),
  of: z.string(),
  unit: z.enum(gaugeUnits),
  scale: z.enum(['linear', 'log']),
  byClass: z.boolean(),
  limits: z.array(soundingLimitSchema),
  values: z
    .array(z.strictObject({ asset: id, name: z.string(), value: z.number() }))
    .describe('of all things that were measured, passing ones too, the least first'),
})
export type SoundingReply = z.infer<typeof soundingReplySchema>

export const patternNamesQuerySchema = z.object({
  kind: z.enum(['mesh', 'lod', 'collision', 'texture', 'slot', 'clip']),
})
export const patternNamesSchema = z.strictObject({
  total: z.int().describe('different names of that kind'),
  names: z.array(z.string()).max(2000),
})

export const fitRequestSchema = z.strictObject({
  assets: z.array(id).min(1).max(50_000).nullable().describe('the good ones; null: all'),
})
export const fitReplySchema = z.strictObject({ assets: z.int(), proposals: z.array(proposalSchema) })

export const importRulebookSchema = z.strictObject({ text: z.string().max(4_000_000) })
export const importReplySchema = z.strictObject({
  rulebook: rulebookSchema.nullable(),
  fault: faultSchema.nullable(),
})

/** A waiver of a project, with the asset that it is for and how it stands. */
export const projectWaiverSchema = z.strictObject({
  id,
  waiver: waiverSchema,
  assetName: z.string().nullable(),
  state: z.enum(['holds', 'ended', 'worse', 'unused']).describe('unused: nothing speaks of it now'),
  act: id.describe('given together with others'),
})
export type ProjectWaiver = z.infer<typeof projectWaiverSchema>

export const giveWaiversSchema = z.strictObject({
  findings: z
    .array(z.strictObject({ asset: id, fingerprint: z.string().min(1).max(300) }))
    .max(5000)
    .default([])
    .describe('findings of these assets, each waived as it is'),
  assets: z
    .array(id)
    .max(50_000)
    .default([])
    .describe('with rule: its findings on these assets, each as it is'),
  rule: z.string().max(100).optional().describe('with scope: all findings of this rule'),
  scope: z
    .discriminatedUnion('kind', [
      z.strictObject({ kind: z.literal('asset'), asset: id }),
      z.strictObject({ kind: z.literal('class'), class: z.string().min(1).max(100) }),
      z.strictObject({ kind: z.literal('files'), glob: z.string().min(1).max(300) }),
    ])
    .optional(),
  reason: z.string().trim().min(1).max(500),
  until: z.iso.date().nullable().default(null),
})
export type GiveWaivers = z.input<typeof giveWaiversSchema>

/** What safe remedies would do. */
export const mendRequestSchema = z.strictObject({
  assets: z.array(id).min(1).max(50_000).nullable().describe('null: all that have something safe to mend'),
  delivery: id.optional().describe('only assets that this delivery brought'),
  without: z.array(z.string().max(100)).max(100).default([]).describe('remedies to leave out'),
})
export type MendRequest = z.input<typeof mendRequestSchema>
export const mendPlanSchema = z.strictObject({
  assets: z.int(),
  steps: z.int(),
  remedies: z.array(
    z.strictObject({
      remedy: z.string(),
      title: z.string(),
      about: z.string(),
      assets: z.int(),
      steps: z.int(),
    }),
  ),
  left: z.strictObject({ stops: z.int(), cautions: z.int(), notes: z.int() }).describe('findings that stay'),
})
export type MendPlan = z.infer<typeof mendPlanSchema>
