import { invariant, type Recipe } from '@stern-gate/contract'
import { resolveSurfaces, sharedOf, type ResolvedRecipe } from '@stern-gate/core'
import type { Queryable } from '../store/database'
import { currentRulebook, findProject } from '../store/projects'

/** A recipe with the values of the project's surfaces in it. The rulebook is read only where a step names one. */
export async function resolvedRecipe(
  db: Queryable,
  projectId: string,
  recipe: Recipe,
): Promise<ResolvedRecipe> {
  if (!recipe.steps.some((step) => sharedOf(step) !== null)) return resolveSurfaces(recipe, {})
  const project = await findProject(db, projectId)
  invariant(project, 'an asset has a project')
  return resolveSurfaces(recipe, (await currentRulebook(db, project)).surfaces)
}
