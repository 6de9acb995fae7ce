import { renamedRemedies, renamedRules, type Recipe } from '@stern-gate/contract'

/**
 * Brings the steps of a recipe as an older application wrote it to the ids of this one. A step that no remedy
 * of this version knows stays where it is; applying says so. Gives back the same object where there is nothing
 * to do.
 */
export function upgradeRecipe(recipe: Recipe): Recipe {
  const isOld = ({ remedy, why }: Recipe['steps'][number]): boolean =>
    remedy in renamedRemedies || why in renamedRules
  if (!recipe.steps.some(isOld)) return recipe
  return {
    ...recipe,
    steps: recipe.steps.map((step) => ({
      ...step,
      remedy: renamedRemedies[step.remedy] ?? step.remedy,
      why: renamedRules[step.why] ?? step.why,
    })),
  }
}
