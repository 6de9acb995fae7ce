import { good, type Outcome } from '@stern-gate/contract'
import {
  faultOfPass,
  resolveSurfaces,
  targetPass,
  withPass,
  type PassStep,
  type Subject,
} from '@stern-gate/core'
import { subjectOf, type AssetContext } from '../judging/assetContext'
import { loadState } from '../judging/loadState'
import { makeOutput } from '../judging/makeOutput'
import type { JobServices } from '../services/services'
import type { Judgeable } from '../store/judgements'
import type { OutputRecord } from '../store/outputs'

/** What goes out to a target. */
export interface SentOut {
  /** Steps behind the recipe; none where the target takes what there is. */
  steps: PassStep[]
  /** What they made; null without steps. */
  output: OutputRecord | null
}

/**
 * Does the target pass of an asset behind its recipe; `subject` is its output at the target. What was made before of
 * the same files by the same steps is found and not made again. Faults: of reading, and of a step that does not fit.
 */
export async function makeForTarget(
  services: JobServices,
  { rulebook }: AssetContext,
  { asset, version, files, recipe }: Judgeable,
  subject: Subject,
  signal: AbortSignal,
): Promise<Outcome<SentOut>> {
  const steps = targetPass(subject)
  if (steps.length === 0) return good({ steps, output: null })
  const whole = withPass(resolveSurfaces(recipe, rulebook.surfaces), steps, subject.targetName)
  const made = await makeOutput(services, asset, version, files, whole, { signal })
  if (!made.ok) return made
  return faultOfPass(made.value.results) ?? good({ steps, output: made.value })
}

/** An output as rules and encoders see it at a target. */
export async function subjectOfOutput(
  { connection: { db } }: JobServices,
  context: AssetContext,
  judgeable: Judgeable,
  target: string,
  output: OutputRecord,
): Promise<Subject> {
  const state = await loadState(db, judgeable, output)
  return subjectOf(context, { ...judgeable.asset, targetChoice: target }, state.draft, state.files)
}
