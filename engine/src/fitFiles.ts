import type { Fit, Rulebook } from '@stern-gate/contract'
import { assembleAssets, buildSubject, fitRulebook, sampleOf, type MeasuredFile } from '@stern-gate/core'

/** What a rulebook would have to say to fit these files, as they are. */
export function fitFiles(measured: readonly MeasuredFile[], rulebook: Rulebook, target: string): Fit {
  const byPath = new Map(measured.map((m) => [m.path, m]))
  const samples = assembleAssets(measured, rulebook).map((draft) =>
    sampleOf(
      buildSubject(
        draft,
        draft.files.map((f) => byPath.get(f.path)!),
        { rulebook, targetName: target, classChoice: null, taken: new Set(), family: null },
      ),
    ),
  )
  return fitRulebook(samples, rulebook)
}
