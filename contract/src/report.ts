import * as z from 'zod'
import { carriedSettingSchema } from './carryOver'
import { faultSchema } from './fault'
import { findingSchema, sharedFindingSchema } from './finding'
import { tallySchema, verdictSchema } from './station'

export const assetKindSchema = z.enum(['mesh', 'texture-set'])
export type AssetKind = z.infer<typeof assetKindSchema>

export const classFromSchema = z.enum(['choice', 'folder', 'name', 'default'])
export type ClassFrom = z.infer<typeof classFromSchema>

export const assetReportSchema = z.strictObject({
  name: z.string(),
  kind: assetKindSchema,
  class: z.string(),
  classFrom: classFromSchema.describe('what gave the class'),
  files: z.array(z.string()),
  verdict: verdictSchema,
  tally: tallySchema,
  findings: z.array(findingSchema),
  carryOver: z
    .array(carriedSettingSchema)
    .default([])
    .describe('settings of its slots that not every target takes, with what becomes of them at this one'),
})
export type AssetReport = z.infer<typeof assetReportSchema>

/** What `stern-gate check --format json` prints. */
export const reportSchema = z.strictObject({
  format: z.literal('stern-gate-report/1'),
  version: z.string().describe('of stern-gate'),
  rulebook: z.string(),
  target: z.string(),
  verdict: verdictSchema,
  totals: z.strictObject({
    assets: z.int(),
    held: z.int(),
    stops: z.int(),
    cautions: z.int(),
    notes: z.int(),
    waived: z.int().default(0).describe('findings that a waiver accepts; they are in no other count'),
    refused: z.int(),
  }),
  assets: z.array(assetReportSchema),
  shared: z
    .array(sharedFindingSchema)
    .default([])
    .describe('what is the same for most of them; its assets are named by their main files'),
  refused: z.array(faultSchema).describe('files that could not be read'),
  setAside: z
    .array(z.strictObject({ path: z.string(), chosen: z.string(), why: z.string() }))
    .default([])
    .describe('files that hold a model once more, in another format or as a working file'),
  notRead: z
    .array(z.string())
    .describe('files of kinds that are not looked at, such as texts and working files'),
})
export type Report = z.infer<typeof reportSchema>
