import * as z from 'zod'
import {
  assetKindSchema,
  encodingPlanSchema,
  filePartSchema,
  formatWishSchema,
  recipeSchema,
  scenePartSchema,
  scenePlanSchema,
} from '@stern-gate/contract'
import type { SceneNodeFacts } from '@stern-gate/core'

/** A file of a delivery and where its bytes lie on this machine. */
export const placedFileSchema = z.strictObject({
  path: z.string(),
  file: z.string().describe('absolute path of the bytes'),
})
export type PlacedFile = z.infer<typeof placedFileSchema>

export const measureTaskSchema = z.strictObject({
  kind: z.literal('measure'),
  path: z.string(),
  file: z.string(),
  sha256: z.string().describe('of the content'),
  thumbnail: z.boolean(),
})

export const assetFilesSchema = z.strictObject({
  name: z.string(),
  assetKind: assetKindSchema,
  main: z.string(),
  files: z.array(z.strictObject({ path: z.string(), part: filePartSchema, file: z.string() })),
})
export type AssetFiles = z.infer<typeof assetFilesSchema>

export const mendTaskSchema = assetFilesSchema.extend({
  kind: z.literal('mend'),
  recipe: recipeSchema,
  stepData: z
    .array(z.strictObject({ sha256: z.string(), file: z.string().describe('absolute path of the bytes') }))
    .describe('what steps keep outside their options'),
  thumbnail: z.boolean(),
  known: z
    .array(z.string())
    .describe('SHA-256 of files that are measured already; they are not measured again'),
})
export const stageTaskSchema = assetFilesSchema.extend({ kind: z.literal('stage') })

export const pictureTaskSchema = z.strictObject({
  kind: z.literal('picture'),
  path: z.string().describe('name, for formats without a mark of their own'),
  file: z.string(),
})

export const usedTaskSchema = z.strictObject({
  kind: z.literal('used'),
  path: z.string().describe('name, for formats without a mark of their own'),
  file: z.string(),
  cells: z.array(z.string()).describe('of the islands that use it, packed'),
})

export const validateTaskSchema = z.strictObject({
  kind: z.literal('validate'),
  path: z.string(),
  file: z.string(),
})

export const encodeTaskSchema = z.strictObject({
  kind: z.literal('encode'),
  path: z.string().describe('name, for formats without a mark of their own'),
  file: z.string(),
  plan: encodingPlanSchema,
  cells: z.array(z.string()).nullable().describe('of the islands that use it, packed; null: not known'),
})

export const storedErrorTaskSchema = encodeTaskSchema.omit({ plan: true }).extend({
  kind: z.literal('stored-error'),
  picture: z.string().optional().describe('where the file is a mesh: hash of the picture inside it'),
  as: encodingPlanSchema.pick({ format: true, role: true }),
})

export const searchTaskSchema = z.strictObject({
  kind: z.literal('search'),
  path: z.string().describe('name, for formats without a mark of their own'),
  file: z.string(),
  wish: formatWishSchema,
  cells: z.array(z.string()).nullable().describe('of the islands that use it, packed; null: not known'),
})

/** Takes a scene apart whose nodes were measured, or draws its parts. */
const sceneTaskSchema = z.strictObject({
  path: z.string(),
  file: z.string(),
  nodes: z.array(z.custom<SceneNodeFacts>()),
  parts: z.array(scenePartSchema),
})
export const apartTaskSchema = sceneTaskSchema.extend({ kind: z.literal('apart'), plan: scenePlanSchema })
export const drawPartsTaskSchema = sceneTaskSchema.extend({ kind: z.literal('draw-parts') })

/** What a worker thread is asked to do. */
export const taskSchema = z.discriminatedUnion('kind', [
  measureTaskSchema,
  mendTaskSchema,
  stageTaskSchema,
  pictureTaskSchema,
  usedTaskSchema,
  validateTaskSchema,
  encodeTaskSchema,
  searchTaskSchema,
  storedErrorTaskSchema,
  apartTaskSchema,
  drawPartsTaskSchema,
])
export type Task = z.infer<typeof taskSchema>
export type MeasureTask = z.infer<typeof measureTaskSchema>
export type MendTask = z.infer<typeof mendTaskSchema>
export type StageTask = z.infer<typeof stageTaskSchema>
export type ApartTask = z.infer<typeof apartTaskSchema>
export type DrawPartsTask = z.infer<typeof drawPartsTaskSchema>
