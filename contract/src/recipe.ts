import * as z from 'zod'
import { remedyOptionsSchema } from './finding'
import { intakeWaySchema } from './intakeWay'

export const recipeStepSchema = z.strictObject({
  id: z.string().min(1).max(64),
  remedy: z.string(),
  options: remedyOptionsSchema,
  on: z.boolean().describe('false: kept in the list, not applied'),
  why: z.string().describe('the rule that asked for it, or what a person wrote'),
})
export type RecipeStep = z.infer<typeof recipeStepSchema>

/** A recipe of more steps is refused. */
export const MOST_STEPS = 10_000

/** The ordered list of remedies of an asset; applied again to every new version. */
export const recipeSchema = z.strictObject({ steps: z.array(recipeStepSchema).max(MOST_STEPS) })
export type Recipe = z.infer<typeof recipeSchema>

/** Steps that are switched on: only they make a difference. */
export const activeSteps = (recipe: Recipe): Recipe['steps'] => recipe.steps.filter((s) => s.on)

/**
 * How the assets of a delivery are taken in: the options of the first step, under the name of their preset.
 */
export const intakeSchema = intakeWaySchema
  .pick({ options: true, mend: true, apart: true, absent: true })
  .extend({ name: z.string() })
export type Intake = z.infer<typeof intakeSchema>

/** What one step did; a step that finds nothing to do says so. */
export const stepResultSchema = z.strictObject({
  id: z.string(),
  remedy: z.string(),
  changed: z.boolean(),
  said: z.string(),
})
export type StepResult = z.infer<typeof stepResultSchema>
