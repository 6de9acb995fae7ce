import * as z from 'zod'
import { remedyOptionsSchema } from '../finding'

const id = z.uuid()
const time = z.iso.datetime()

/** So many assets may be named at once. */
const MOST_ASSETS = 50_000
/** What chosen assets could take: remedies that several have in common come first. */
export const offersSchema = z.strictObject({
  remedies: z.array(
    z.strictObject({
      rule: z.string(),
      title: z.string(),
      remedy: z.string(),
      remedyTitle: z.string(),
      assets: z.int().describe('of the chosen ones that have such a finding'),
      findings: z.int(),
    }),
  ),
  renamed: z.int().describe('chosen assets with names that could be others'),
})
export type Offers = z.infer<typeof offersSchema>
export const offersRequestSchema = z.strictObject({ assets: z.array(id).min(1).max(MOST_ASSETS) })

export const bulkRequestSchema = z.union([
  z.strictObject({ rule: z.string(), remedy: z.string(), assets: z.array(id).min(1).max(MOST_ASSETS) }),
  z.strictObject({
    remedy: z.string(),
    steps: z
      .array(z.strictObject({ asset: id, rule: z.string(), options: remedyOptionsSchema }))
      .min(1)
      .max(20_000)
      .describe('steps as a person looked them over, in the place of those that findings offer'),
  }),
  z.strictObject({
    safe: z.literal(true).describe('every safe remedy that findings offer'),
    assets: z.array(id).min(1).max(MOST_ASSETS),
    without: z.array(z.string().max(100)).max(100).default([]).describe('remedies that are left out'),
  }),
])
export type BulkRequest = z.infer<typeof bulkRequestSchema>
/** Stands where a change of many has its remedy, for all that are safe. */
export const EVERY_SAFE = 'every-safe'

/** What goes along with a new name: `from` is called by the new name and `rest` then. */
export const renameFollowSchema = z.strictObject({
  what: z.enum(['file', 'node', 'mesh', 'texture', 'reference', 'clip']),
  from: z.string(),
  rest: z.string().describe('what stands behind the new name'),
})
export type RenameFollow = z.infer<typeof renameFollowSchema>
/** Names of one asset that do not do, with what they would be called and all that goes along. */
export const renamePlanSchema = z.strictObject({
  asset: id,
  name: z.string(),
  renames: z.array(
    z.strictObject({
      rule: z.string(),
      what: z.enum(['asset', 'node', 'texture', 'slot', 'clip']),
      from: z.string(),
      to: z.string(),
      follows: z.array(renameFollowSchema),
    }),
  ),
})
export type RenamePlan = z.infer<typeof renamePlanSchema>
export const renamePlanRequestSchema = z.strictObject({ assets: z.array(id).min(1).max(5000) })
/** Of an act on many assets; `undoing` while it is taken back. */
export const bulkStates = ['working', 'done', 'undoing'] as const
/** One remedy applied to many assets, undone as one. */
export const bulkChangeSchema = z.strictObject({
  id,
  rule: z.string(),
  remedy: z.string(),
  remedyTitle: z.string(),
  state: z.enum(bulkStates),
  done: z.int().describe('assets looked at so far'),
  total: z.int().describe('assets to look at'),
  assets: z.int(),
  steps: z.int(),
  skipped: z.int().describe('assets that no longer had the finding'),
  kept: z.int().describe('assets that undoing left alone, for their recipe was changed since'),
  created: time,
  undone: z.boolean(),
  open: z.int().describe('assets whose output is still to be made'),
})
export type BulkChange = z.infer<typeof bulkChangeSchema>
