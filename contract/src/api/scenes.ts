import * as z from 'zod'
import { nodeFactsSchema, primitiveFactsSchema } from '../facts/meshFacts'
import { faultSchema } from '../fault'
import { keptPartSchema, sceneChangesSchema, scenePlanSchema } from '../scene'

/** What taking apart looks at of a node. */
export const sceneNodeSchema = nodeFactsSchema
  .pick({
    path: true,
    name: true,
    parent: true,
    mesh: true,
    translation: true,
    rotation: true,
    scale: true,
    bounds: true,
    copyOf: true,
  })
  .extend({
    primitives: z.array(primitiveFactsSchema.pick({ triangles: true, vertices: true, slot: true })),
  })

/** A scene in a list. */
export const sceneSummarySchema = z.strictObject({
  id: z.uuid(),
  name: z.string(),
  path: z.string().nullable(),
  plan: scenePlanSchema,
  revision: z.int(),
  delivery: z.uuid().nullable().describe('that brought the file'),
  parts: z.array(keptPartSchema).describe('of the file as it was taken apart last; empty: it is kept whole'),
  changes: sceneChangesSchema.nullable().describe('against the export before; null: there was none'),
  fault: faultSchema.nullable().describe('why it could not be taken apart'),
})
export type SceneSummary = z.infer<typeof sceneSummarySchema>

/** Scenes of a project, and assets that look like several things and were not taken apart. */
export const sceneListSchema = z.strictObject({
  scenes: z.array(sceneSummarySchema),
  several: z.array(
    z.strictObject({ asset: z.uuid(), name: z.string(), things: z.int(), delivery: z.uuid() }),
  ),
})
export type SceneList = z.infer<typeof sceneListSchema>

/** A scene with the nodes of its file. */
export const sceneDetailSchema = sceneSummarySchema.extend({
  nodes: z.array(sceneNodeSchema),
  figures: z.array(z.string()).describe('words of the rulebook by which a node is a reference figure'),
  assets: z.record(z.string(), z.uuid()).describe('assets that were taken out of it, by name'),
  whole: z.uuid().nullable().describe('the asset that it is as a whole'),
})
export type SceneDetail = z.infer<typeof sceneDetailSchema>

export const takeApartSchema = z.strictObject({
  plan: scenePlanSchema,
  revision: z.int().min(1),
  meets: z
    .boolean()
    .default(false)
    .describe('parts whose name another asset has become its next version; else that is refused'),
})
export type TakeApart = z.infer<typeof takeApartSchema>
