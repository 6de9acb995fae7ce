import { fedTextures, fileName, type AssetDraft } from '@stern-gate/core'
import type { StoredFile } from '../store/bulkChanges'
import type { Queryable } from '../store/database'
import { listMeshesOfNames } from '../store/pairings'

/** Drafts with the textures that recipes give to their slots, and files that come along from the version before. */
export interface KeptPaired {
  drafts: AssetDraft[]
  /** By path. */
  carried: Map<string, StoredFile>
}

/**
 * A mesh that arrives anew keeps the textures that its recipe gives to slots: those of that name in the delivery,
 * else those of the version before. A texture set of which nothing is left is no asset.
 */
export async function keepPaired(
  db: Queryable,
  projectId: string,
  arrived: readonly AssetDraft[],
): Promise<KeptPaired> {
  const names = arrived.filter((d) => d.kind === 'mesh').map((d) => d.name)
  const before = new Map((await listMeshesOfNames(db, projectId, names)).map((m) => [m.name, m]))
  const carried = new Map<string, StoredFile>(),
    taken = new Set<string>()
  const loose = arrived.filter((d) => d.kind === 'texture-set').flatMap((d) => d.files.map((f) => f.path))
  const drafts = arrived.map((draft): AssetDraft => {
    const known = draft.kind === 'mesh' ? before.get(draft.name) : undefined
    const wanted = known ? fedTextures(known.recipe) : []
    if (!known || wanted.length === 0) return draft
    const files = [...draft.files]
    const has = (name: string): boolean => files.some((f) => isCalled(f.path, name))
    for (const name of wanted) {
      if (has(name)) continue
      const found = loose.filter((path) => isCalled(path, name))
      const old = known.files.find((f) => f.part === 'texture' && isCalled(f.path, name))
      if (found.length === 1) taken.add(found[0]!)
      else if (old) carried.set(old.path, old)
      const path = found.length === 1 ? found[0]! : old?.path
      if (path !== undefined) files.push({ path, part: 'texture' })
    }
    return { ...draft, files }
  })
  return {
    drafts: drafts.flatMap((draft) => {
      if (draft.kind === 'mesh') return [draft]
      const files = draft.files.filter((f) => !taken.has(f.path))
      return files.length === 0 ? [] : [{ ...draft, files, main: files[0]!.path }]
    }),
    carried,
  }
}

const isCalled = (path: string, name: string): boolean => path === name || fileName(path) === name
