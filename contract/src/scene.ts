import * as z from 'zod'
import { boundsSchema } from './facts/meshFacts'

/** Ways to take a scene of many objects apart; each groups its mesh nodes in another manner. */
/** What becomes of clips, collision and levels that a new version lacks: a person is asked, they are kept, or gone. */
export const absentFates = ['ask', 'keep', 'gone'] as const
export const absentFateSchema = z
  .enum(absentFates)
  .default('ask')
  .describe(
    'clips, collision and levels that the version before had and the new one lacks: a person is asked; they are ' +
      'kept where that can be; or they are accepted as gone',
  )

export const apartWays = ['top', 'groups', 'name', 'distance', 'nodes', 'whole'] as const
export const apartWaySchema = z.enum(apartWays)
export type ApartWay = z.infer<typeof apartWaySchema>

/** Where the origin of an asset lies that was taken out of a scene. */
export const partPivots = ['own', 'foot', 'scene'] as const
export const partPivotSchema = z.enum(partPivots)
export type PartPivot = z.infer<typeof partPivotSchema>

/** Path of the node that a part is known by, from one export to the next. */
const partKey = z.string().min(1)
const partName = z
  .string()
  .trim()
  .min(1)
  .max(120)
  .refine((name) => !/[/\\:*?"<>|\u0000-\u001f]/.test(name), 'a name holds no / \\ : * ? " < > |')

/** How a scene is taken apart: a way, and what a person changed of what it proposes. */
export const scenePlanSchema = z.strictObject({
  way: apartWaySchema.default('top'),
  words: z
    .int()
    .min(1)
    .max(6)
    .nullable()
    .default(null)
    .describe('by name: words that parts share; null: found'),
  distance: z
    .number()
    .min(0)
    .nullable()
    .default(null)
    .describe('by distance: metres up to which nodes belong together; null: by the size of the scene'),
  pivot: partPivotSchema
    .default('own')
    .describe("origin of each asset: its node's own place, the middle of its foot, or that of the scene"),
  copies: z.boolean().default(true).describe('what is there several times becomes one asset with placements'),
  joined: z.array(z.array(partKey).min(2)).default([]).describe('parts that are one asset'),
  split: z.array(partKey).default([]).describe('parts that are taken apart further'),
  left: z.array(partKey).default([]).describe('parts that are left out'),
  kept: z.array(partKey).default([]).describe('parts that would be left out, and are kept'),
  names: z.record(partKey, partName).default({}).describe('names that a person gave'),
})
export type ScenePlan = z.infer<typeof scenePlanSchema>

/** One place where a part stands: a 4×4 matrix, column by column, in metres. */
export const placementSchema = z.strictObject({
  node: z.string().describe('path of the node in the scene'),
  matrix: z.array(z.number()).length(16),
})
export type Placement = z.infer<typeof placementSchema>

/** A part of a scene: what becomes an asset, or is left out. */
export const scenePartSchema = z.strictObject({
  key: z.string().describe('path of its first node'),
  name: z.string().describe('of the asset that it becomes'),
  nodes: z.array(z.string()).describe('paths of its mesh nodes'),
  copies: z
    .array(z.strictObject({ key: z.string(), nodes: z.array(z.string()) }))
    .describe('further places where the same thing stands'),
  triangles: z.int().min(0).describe('of the finest level, of one copy'),
  vertices: z.int().min(0),
  slots: z.array(z.string()),
  levels: z.int().min(0),
  collision: z.boolean(),
  bounds: boundsSchema.nullable(),
  left: z
    .enum(['figure', 'asked'])
    .nullable()
    .describe('why it is left out: a reference figure by its name, or a person asked for it'),
  humanSize: z
    .boolean()
    .describe('it stands apart and is as large as a person: it may be a reference figure'),
})
export type ScenePart = z.infer<typeof scenePartSchema>

/** What a way makes of a scene. */
export const sceneProposalSchema = z.strictObject({
  way: apartWaySchema,
  words: z.int().nullable(),
  distance: z.number().nullable(),
  parts: z.array(scenePartSchema),
})
export type SceneProposal = z.infer<typeof sceneProposalSchema>

/** A part as it is kept from one export to the next. */
export const keptPartSchema = z.strictObject({
  key: z.string(),
  name: z.string(),
  left: z.boolean(),
  triangles: z.int().min(0),
  vertices: z.int().min(0),
  size: z.tuple([z.number(), z.number(), z.number()]).describe('metres'),
  placements: z.array(placementSchema),
})
export type KeptPart = z.infer<typeof keptPartSchema>

/** What a later export of a scene has that the one before had not, and the other way round. */
export const sceneChangesSchema = z.strictObject({
  fresh: z.array(z.string()).describe('names of new parts'),
  gone: z.array(z.string()).describe('names of parts that are no longer there'),
  renamed: z.array(z.strictObject({ from: z.string(), to: z.string(), name: z.string() })),
})
export type SceneChanges = z.infer<typeof sceneChangesSchema>
