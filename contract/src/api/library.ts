import * as z from 'zod'
import { assetKindSchema } from '../report'
import { stationSchema, tallySchema, verdictSchema, versionStateSchema } from '../station'

const id = z.uuid()
const time = z.iso.datetime()

/** A line of a list of assets. */
export const assetRowSchema = z.strictObject({
  id,
  name: z.string(),
  kind: assetKindSchema,
  class: z.string(),
  classTitle: z.string(),
  version: z.int(),
  state: versionStateSchema,
  verdict: verdictSchema.nullable().describe('null: not judged, or not by the newest recipe'),
  tally: tallySchema,
  stops: z.int(),
  cautions: z.int(),
  notes: z.int(),
  waived: z.int().describe('findings that a waiver accepts'),
  headline: z.string().describe('what holds it, in one line'),
  thumbnail: z.string().nullable(),
  by: z.string(),
  updated: time,
  steps: z.int(),
})
export type AssetRow = z.infer<typeof assetRowSchema>

/** Which assets of a project a list shows; what is left out shows all. */
export const libraryFilterSchema = z.object({
  find: z
    .string()
    .trim()
    .min(1)
    .max(120)
    .optional()
    .describe('part of a name, a finding, a class or a person'),
  verdict: z.enum(['held', 'clear', 'unjudged', 'failed']).optional(),
  station: stationSchema.optional().describe('with findings at this station'),
  class: z.string().max(100).optional().describe('id of a class, or texture-set'),
  family: z.string().max(100).optional().describe('first part of the name'),
  fresh: z.stringbool().optional().describe('only what changed within a day'),
  stays: z.stringbool().optional().describe('only what is held, or could not be judged'),
})
export type LibraryFilter = z.infer<typeof libraryFilterSchema>
export const librarySorts = ['newest', 'name'] as const
export const libraryQuerySchema = libraryFilterSchema.extend({
  sort: z.enum(librarySorts).default('newest'),
  offset: z.coerce.number().int().min(0).max(10_000_000).default(0),
  limit: z.coerce.number().int().min(1).max(200).default(60),
})
/** A window of a list. */
export const libraryPageSchema = z.strictObject({
  total: z.int().describe('assets that fit the filter'),
  offset: z.int(),
  rows: z.array(assetRowSchema),
})
export type LibraryPage = z.infer<typeof libraryPageSchema>
const facetSchema = z.array(z.strictObject({ value: z.string(), count: z.int() }))
/** How many assets have each value, with the other filters on. */
export const facetsSchema = z.strictObject({
  all: z.int().describe('assets of the project'),
  held: z.int().describe('of these held, or not judged because judging failed'),
  fresh: z.int().describe('of these changed within a day'),
  verdict: facetSchema,
  station: facetSchema,
  class: facetSchema,
  family: facetSchema,
})
export type Facets = z.infer<typeof facetsSchema>

/** Something of an asset that has a name. */
export const namedPartSchema = z.strictObject({
  what: z.enum(['asset', 'node', 'texture', 'slot', 'clip']),
  name: z.string(),
})
export type NamedPart = z.infer<typeof namedPartSchema>

export const foundKinds = ['asset', 'texture', 'slot', 'node', 'clip', 'file'] as const
/** A name of the project that holds what was typed. */
export const foundSchema = z.strictObject({
  what: z.enum(foundKinds),
  name: z.string(),
  asset: id,
  assetName: z.string(),
  verdict: verdictSchema.nullable().describe('null: not judged'),
})
export type Found = z.infer<typeof foundSchema>
export const findRequestSchema = z.object({
  find: z.string().trim().min(1).max(120).describe('part of a name'),
  what: z.enum(foundKinds).optional().describe('all kinds without it'),
})
