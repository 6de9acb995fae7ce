import { activeSteps } from '@stern-gate/contract'
import type { ResolvedRecipe } from '../surfaces/sharedSurfaces'
import { findRemedy } from '../remedies/index'
import { WORK_VERSION } from './workVersion'

/** A file of the source, by what is in it and where it stands. */
export interface OutputSource {
  path: string
  part: string
  sha256: string
}

/**
 * What makes an output another one, as a text to be hashed: the files of the source, the steps that are on with
 * their options, and the version of each remedy that they use. Neither the name of the asset, nor a target, nor
 * a remedy that is not used.
 */
export function outputIdentity(files: readonly OutputSource[], recipe: ResolvedRecipe): string {
  const steps = activeSteps(recipe).map(({ remedy, options }) => ({
    remedy,
    version: findRemedy(remedy)?.version ?? 0,
    options: Object.fromEntries(Object.entries(options).sort(([a], [b]) => (a < b ? -1 : 1))),
  }))
  return JSON.stringify({
    work: WORK_VERSION,
    files: files.map((f) => [f.path, f.part, f.sha256]),
    steps,
  })
}
