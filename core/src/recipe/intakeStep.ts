import type { Intake, Recipe } from '@stern-gate/contract'

const INTAKE = 'files/intake'

/** The recipe with this intake as its first step, in place of the one that was there; null: without any. */
export function withIntake(recipe: Recipe, intake: Intake | null): Recipe {
  const others = recipe.steps.filter((s) => s.remedy !== INTAKE)
  return { steps: intake ? [{ id: 'intake', remedy: INTAKE, options: intake.options, on: true, why: `preset ${intake.name}` }, ...others] : others }
}
