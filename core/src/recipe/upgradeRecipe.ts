import { renamedRemedies, renamedRules, type Recipe, type RemedyOptions } from '@stern-gate/contract'

/** Options that were a text with a space between numbers, and are a list. */
const LISTS: Readonly<Record<string, string>> = { 'lods/make': 'metres', 'lods/set-switches': 'coverages' }

/**
 * Brings the steps of a recipe as an older application wrote it to the ids and options of this one. A step that
 * no remedy of this version knows stays where it is; applying says so. Gives back the same object where there is
 * nothing to do.
 */
export function upgradeRecipe(recipe: Recipe): Recipe {
  const isOld = ({ remedy, why, options }: Recipe['steps'][number]): boolean =>
    remedy in renamedRemedies || why in renamedRules || withLists(remedy, options) !== options
  if (!recipe.steps.some(isOld)) return recipe
  return {
    ...recipe,
    steps: recipe.steps.map((step) => ({
      ...step,
      remedy: renamedRemedies[step.remedy] ?? step.remedy,
      options: withLists(step.remedy, step.options),
      why: renamedRules[step.why] ?? step.why,
    })),
  }
}

/** The same object where nothing of it was such a text. */
function withLists(remedy: string, options: RemedyOptions): RemedyOptions {
  const name = LISTS[remedy]
  if (name === undefined) return options
  const text = options[name]
  if (typeof text !== 'string') return options
  const words = text.trim() === '' ? [] : text.trim().split(/\s+/)
  return { ...options, [name]: words.map(Number) }
}
