import type { Rulebook } from '@stern-gate/contract'
import { assembleAssets, unmeasuredTextures, withLater, type MeasuredFile } from '@stern-gate/core'
import type { Engine } from './createEngine'
import type { MeasuringAround } from './measuringAround'

/**
 * Measured files with the figures of textures over the part that islands use, where those were missing. `fileOf` says
 * where a file lies; one that it does not know, or that cannot be measured so, goes on with the figures of the whole
 * picture. `keep` is told of each that got some.
 */
export async function measureUsedParts(
  engine: Engine,
  files: readonly MeasuredFile[],
  rulebook: Rulebook,
  { fileOf, keep }: Omit<MeasuringAround, 'show'>,
): Promise<MeasuredFile[]> {
  const missing = assembleAssets(files, rulebook).flatMap((draft) => unmeasuredTextures(draft, files))
  if (missing.length === 0) return [...files]
  const found = new Map<string, NonNullable<MeasuredFile['used']>>()
  await Promise.all(
    missing.map(async ({ path, mask }) => {
      const file = fileOf(path)
      const done = file === undefined ? null : await engine.measureUsed(file, path, mask.cells)
      if (done?.ok) found.set(path, { ...found.get(path), [mask.key]: done.value })
    }),
  )
  const all = withLater(files, 'used', found)
  if (keep) await Promise.all(all.filter((f) => found.has(f.path)).map(keep))
  return all
}
