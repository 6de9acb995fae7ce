import type { Rulebook } from '@stern-gate/contract'
import {
  assembleAssets,
  hasLossesMeasured,
  missingErrors,
  withLater,
  type MeasuredFile,
} from '@stern-gate/core'
import type { Engine } from './createEngine'
import { subjectsOf } from './deliveryReport'
import type { MeasuringAround } from './measuringAround'

/**
 * Measured files with what textures lose in the formats of their target, where that has losses measured and they were
 * missing. `fileOf` says where a file lies; one that it does not know, or that cannot be encoded, stays unmeasured.
 * `keep` is told of each that got some, `show` of how many are done.
 */
export async function measureStoredErrors(
  engine: Engine,
  files: readonly MeasuredFile[],
  settings: { rulebook: Rulebook; target: string; classChoice: string | null },
  { fileOf, keep, show }: MeasuringAround,
): Promise<MeasuredFile[]> {
  if (!hasLossesMeasured(settings.rulebook)) return [...files]
  const drafts = assembleAssets(files, settings.rulebook)
  const missing = [...subjectsOf(files, drafts, settings, new Set())].flatMap(({ subject }) =>
    missingErrors(subject),
  )
  if (missing.length === 0) return [...files]
  const found = new Map<string, NonNullable<MeasuredFile['stored']>>()
  let done = 0
  await Promise.all(
    missing.map(async ({ path, format, role, cells, key }) => {
      const file = fileOf(path)
      const error =
        file === undefined ? null : await engine.storedError({ file, path, cells }, { format, role })
      if (error?.ok) found.set(path, { ...found.get(path), [key]: error.value })
      show?.(++done, missing.length, path)
    }),
  )
  const all = withLater(files, 'stored', found)
  if (keep) await Promise.all(all.filter((f) => found.has(f.path)).map(keep))
  return all
}
