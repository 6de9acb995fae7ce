import { bad, faultAt, good, type Outcome, type Recipe, type StepResult } from '@stern-gate/contract'
import type { RemedyPorts } from '../remedies/defineRemedy'
import { findRemedy } from '../remedies/index'
import type { Work } from '../remedies/work'

/**
 * Applies the steps that are on, in order, to the work in place. Stops at the first that fails. Faults:
 * remedy/… with the step's position.
 */
export async function applyRecipe(
  work: Work,
  recipe: Recipe,
  ports: RemedyPorts,
): Promise<Outcome<StepResult[]>> {
  const results: StepResult[] = []
  for (const [position, step] of recipe.steps.entries()) {
    if (!step.on) continue
    const remedy = findRemedy(step.remedy)
    if (!remedy)
      return bad('remedy/unknown', `There is no remedy called ${step.remedy}.`, 'See the list of remedies.', {
        step: position,
      })
    const options = remedy.options.safeParse(step.options)
    if (!options.success) {
      const issue = options.error.issues[0]!
      return bad(
        'remedy/bad-options',
        `${remedy.id}: ${issue.path.join('.')} ${issue.message}.`,
        'See the options of the remedy.',
        { step: position, part: issue.path.join('.') },
      )
    }
    const done = await remedy.apply(work, options.data, ports)
    if (!done.ok) return { ok: false, fault: faultAt(done.fault, { step: position }) }
    results.push({ id: step.id, remedy: step.remedy, ...done.value })
  }
  return good(results)
}
