import type { Intake, Recipe, RecipeStep } from '@stern-gate/contract'

const INTAKE = 'files/intake'

/**
 * The recipe with this intake as its first step, in place of the one that was there; null: without any. The
 * very same recipe where it is so already.
 */
export function withIntake(recipe: Recipe, intake: Pick<Intake, 'name' | 'options'> | null): Recipe {
  const [first, ...rest] = recipe.steps,
    others = recipe.steps.filter((s) => s.remedy !== INTAKE)
  if (intake === null) return others.length === recipe.steps.length ? recipe : { steps: others }
  const step: RecipeStep = {
    id: 'intake',
    remedy: INTAKE,
    options: intake.options,
    on: true,
    why: `preset ${intake.name}`,
  }
  return first && rest.length === others.length && isSame(first, step) ? recipe : { steps: [step, ...others] }
}

/** A database gives options in an order of its own. */
const isSame = (a: RecipeStep, b: RecipeStep): boolean =>
  a.remedy === b.remedy &&
  a.on === b.on &&
  a.why === b.why &&
  JSON.stringify(Object.entries(a.options).sort()) === JSON.stringify(Object.entries(b.options).sort())
