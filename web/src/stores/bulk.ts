import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { BulkChange, RemedyOptions, SharedRemedy } from '@stern-gate/contract'
import { applyToMany, listChanges, listSharedRemedies, undoMany } from '../api/client'
import { useFaults } from './faults'
import { useProject } from './project'

/** One remedy that the chosen assets could take. */
export interface BulkOffer {
  rule: string
  remedy: string
  title: string
  assets: string[]
  findings: number
}

/** Renaming is looked over name by name before it is done. */
export const RENAME = 'names/rename'

const FOLLOW_MS = 700

/** Which assets are chosen, what could be done to all of them, and the last such act. */
export const useBulk = defineStore('bulk', () => {
  const project = useProject()
  const faults = useFaults()
  const chosen = ref<Set<string>>(new Set())
  const shared = shallowRef<SharedRemedy[]>([])
  const last = shallowRef<BulkChange | null>(null)
  const busy = ref(false)

  const offers = computed<BulkOffer[]>(() =>
    shared.value
      .filter((s) => s.remedy !== RENAME)
      .flatMap((s) => {
        const own = s.assets.filter((a) => chosen.value.has(a.asset))
        return own.length === 0
          ? []
          : [
              {
                rule: s.rule,
                remedy: s.remedy,
                title: s.remedyTitle,
                assets: own.map((a) => a.asset),
                findings: own.reduce((sum, a) => sum + a.findings, 0),
              },
            ]
      })
      .sort((a, b) => b.assets.length - a.assets.length || b.findings - a.findings),
  )

  /** Chosen assets with names that could be others, whichever rule says so. */
  const renamed = computed<string[]>(() =>
    [
      ...new Set(
        shared.value.filter((s) => s.remedy === RENAME).flatMap((s) => s.assets.map((a) => a.asset)),
      ),
    ].filter((id) => chosen.value.has(id)),
  )

  const toggle = (id: string): void => {
    const next = new Set(chosen.value)
    if (!next.delete(id)) next.add(id)
    chosen.value = next
  }
  const choose = (ids: readonly string[]): void => {
    chosen.value = new Set(ids)
  }
  const clear = (): void => {
    chosen.value = new Set()
  }
  const refresh = async (): Promise<void> => {
    if (project.openId === null) return
    shared.value = await listSharedRemedies(project.openId).catch((error: unknown) => {
      faults.put(error)
      return []
    })
  }
  /** The newest act of today, so that its undo is still there after a reload. */
  const recall = async (): Promise<void> => {
    if (project.openId === null) return
    const [newest] = await listChanges(project.openId).catch(() => [])
    last.value =
      newest && !newest.undone && Date.now() - Date.parse(newest.created) < 3_600_000 ? newest : null
    void follow()
  }
  const act = async (work: () => Promise<void>): Promise<void> => {
    if (busy.value) return
    busy.value = true
    try {
      await work()
      await refresh()
    } catch (error) {
      faults.put(error)
    } finally {
      busy.value = false
    }
  }
  /** Asks how far the last act is, until all outputs are made. */
  const follow = async (): Promise<void> => {
    while (last.value && last.value.open > 0 && project.openId !== null) {
      const { id } = last.value
      await new Promise((resolve) => setTimeout(resolve, FOLLOW_MS))
      const now = (await listChanges(project.openId).catch(() => [])).find((c) => c.id === id)
      if (last.value?.id !== id) return
      last.value = now ?? { ...last.value, open: 0 }
    }
  }
  /** Steps that a person looked over, as one act. */
  const applySteps = (
    remedy: string,
    steps: { asset: string; rule: string; options: RemedyOptions }[],
  ): Promise<void> =>
    act(async () => {
      last.value = await applyToMany(project.openId!, { remedy, steps })
      void follow()
    })
  const apply = (offer: BulkOffer): Promise<void> =>
    act(async () => {
      last.value = await applyToMany(project.openId!, {
        rule: offer.rule,
        remedy: offer.remedy,
        assets: offer.assets,
      })
      void follow()
    })
  const undo = (): Promise<void> =>
    act(async () => {
      if (!last.value) return
      await undoMany(last.value.id)
      last.value = null
    })
  const putAway = (): void => {
    last.value = null
  }
  return {
    chosen,
    offers,
    renamed,
    last,
    busy,
    toggle,
    choose,
    clear,
    refresh,
    recall,
    apply,
    applySteps,
    undo,
    putAway,
  }
})
