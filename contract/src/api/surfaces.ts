import * as z from 'zod'
import { sharedSurfaceSchema } from '../rulebook/rulebook'

/** A surface of the project with what it comes to and who follows it. */
export const projectSurfaceSchema = z.strictObject({
  name: z.string(),
  surface: sharedSurfaceSchema,
  preset: z.string().nullable().describe('the preset at the end of its chain'),
  values: sharedSurfaceSchema.shape.values.describe(
    'what it comes to, with those of the surfaces it follows',
  ),
  users: z.array(z.strictObject({ asset: z.string(), name: z.string(), slot: z.string() })),
  followers: z.array(z.string()).describe('surfaces that follow it directly'),
})
export type ProjectSurface = z.infer<typeof projectSurfaceSchema>

export const saveSurfaceSchema = z.strictObject({
  surface: sharedSurfaceSchema.nullable().describe('null: taken out, where nothing follows it'),
})
