import { unmeasuredTextures, withLater, type MeasuredFile } from '@stern-gate/core'
import type { JobServices } from '../services/services'
import { saveUsed } from '../store/factsStore'
import type { LoadedState } from './loadState'

/** A stored file whose facts are kept. */
export interface StoredFile {
  path: string
  sha256: string
  factsKey: string | null
}

/**
 * Measures textures of a state over the part that its islands use, where that was not done yet, and keeps it. One that
 * cannot be measured so goes on with the figures of the whole picture.
 */
export async function measureUsed(
  services: Pick<JobServices, 'connection' | 'store' | 'engine'>,
  { draft, files }: LoadedState,
  rows: readonly StoredFile[],
  signal?: AbortSignal,
): Promise<LoadedState> {
  const missing = unmeasuredTextures(draft, files)
  if (missing.length === 0) return { draft, files }
  const found = new Map<string, NonNullable<MeasuredFile['used']>>()
  await Promise.all(
    missing.map(async ({ path, mask }) => {
      const row = rows.find((r) => r.path === path)
      if (!row || row.factsKey === null) return
      const done = await services.engine.measureUsed(
        services.store.localFile(row.sha256),
        path,
        mask.cells,
        signal ? { signal } : {},
      )
      if (!done.ok) return
      await saveUsed(services.connection.db, row.factsKey, mask.key, done.value)
      found.set(path, { ...found.get(path), [mask.key]: done.value })
    }),
  )
  return { draft, files: withLater(files, 'used', found) }
}
