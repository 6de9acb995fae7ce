import type { Rulebook } from '@stern-gate/contract'
import { assembleAssets, unmeasuredTextures, type MeasuredFile } from '@stern-gate/core'
import type { Engine } from './createEngine'

/**
 * Measured files with the figures of textures over the part that islands use, where those were missing. `fileOf` says
 * where a file lies; one that it does not know, or that cannot be measured so, goes on with the figures of the whole
 * picture. `keep` is told of each that got some.
 */
export async function measureUsedParts(
  engine: Engine,
  files: readonly MeasuredFile[],
  rulebook: Rulebook,
  {
    fileOf,
    keep,
  }: { fileOf: (path: string) => string | undefined; keep?: (file: MeasuredFile) => Promise<void> },
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
  const all = files.map((f) => (found.has(f.path) ? { ...f, used: { ...f.used, ...found.get(f.path) } } : f))
  if (keep) await Promise.all(all.filter((f) => found.has(f.path)).map(keep))
  return all
}
