import type { Rulebook } from '@stern-gate/contract'
import {
  assembleAssets,
  hasLossesMeasured,
  holderOf,
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
  // Assets may share a texture: it is encoded once
  const wanted = new Map(
    missing.map((w) => {
      const holder = holderOf(w, files)
      return [`${holder} ${w.key}`, { ...w, holder }]
    }),
  )
  let done = 0
  await Promise.all(
    [...wanted.values()].map(async ({ path, sha256, format, role, cells, key, holder }) => {
      const file = holder === undefined ? undefined : fileOf(holder)
      if (holder === undefined || file === undefined) return
      const texture = { file, path: holder, cells, ...(path === null ? { picture: sha256 } : {}) }
      const error = await engine.storedError(texture, { format, role })
      if (error.ok) found.set(holder, { ...found.get(holder), [key]: error.value })
      show?.(++done, wanted.size, holder)
    }),
  )
  const all = withLater(files, 'stored', found)
  if (keep) await Promise.all(all.filter((f) => found.has(f.path)).map(keep))
  return all
}
