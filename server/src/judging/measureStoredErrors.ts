import { hasLossesMeasured, holderOf, missingErrors, withLater, type MeasuredFile } from '@stern-gate/core'
import type { JobServices } from '../services/services'
import type { AssetRecord } from '../store/assets'
import { saveStoredError } from '../store/factsStore'
import { subjectOf, type AssetContext } from './assetContext'
import type { LoadedState } from './loadState'
import type { StoredFile } from './measureUsed'

/**
 * Measures what textures of a state lose in the formats of the asset's target, where that has losses measured and it was
 * not done yet, and keeps it. One that cannot be encoded stays unmeasured.
 */
export async function measureStoredErrors(
  services: Pick<JobServices, 'connection' | 'store' | 'engine'>,
  context: AssetContext,
  asset: AssetRecord,
  { draft, files }: LoadedState,
  rows: readonly StoredFile[],
  signal?: AbortSignal,
): Promise<LoadedState> {
  if (!hasLossesMeasured(context.rulebook)) return { draft, files }
  const missing = missingErrors(subjectOf(context, asset, draft, files))
  if (missing.length === 0) return { draft, files }
  const found = new Map<string, NonNullable<MeasuredFile['stored']>>()
  await Promise.all(
    missing.map(async (wanted) => {
      const { path, sha256, format, role, cells, key } = wanted
      const row = rows.find((r) => r.path === holderOf(wanted, files))
      if (!row || row.factsKey === null) return
      // Pictures inside a mesh are kept by themselves
      const texture = { file: services.store.localFile(sha256), path: path ?? '', cells }
      const done = await services.engine.storedError(texture, { format, role }, signal ? { signal } : {})
      if (!done.ok) return
      await saveStoredError(services.connection.db, row.factsKey, key, done.value)
      found.set(row.path, { ...found.get(row.path), [key]: done.value })
    }),
  )
  return { draft, files: withLater(files, 'stored', found) }
}
