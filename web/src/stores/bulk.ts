import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import type { BulkChange, MendRequest, Offers, RemedyOptions } from '@stern-gate/contract'
import { applyToMany, getOffers, listChanges, mendSafely, undoMany } from '../api/client'
import { useFaults } from './faults'
import { inTurn } from './inTurn'
import { useProject } from './project'

/** One remedy that the chosen assets could take. */
export type BulkOffer = Offers['remedies'][number]

/** Renaming is looked over name by name before it is done. */
export const RENAME = 'names/rename'

const FOLLOW_MS = 700
/** What the chosen ones could take is asked for at most this often. */
const OFFERS_MS = 120
const nothing: Offers = { remedies: [], renamed: 0 }

/** Which assets are chosen, what could be done to all of them, and the last such act. */
export const useBulk = defineStore('bulk', () => {
  const project = useProject()
  const faults = useFaults()
  const chosen = ref<Set<string>>(new Set())
  const known = shallowRef<Offers>(nothing)
  const last = shallowRef<BulkChange | null>(null)
  const busy = ref(false)

  const offers = computed<readonly BulkOffer[]>(() => known.value.remedies)
  /** How many chosen assets have names that could be others, whichever rule says so. */
  const renamed = computed(() => known.value.renamed)

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
  let asked = 0
  const refresh = async (): Promise<void> => {
    const turn = ++asked
    if (project.openId === null || chosen.value.size === 0) {
      known.value = nothing
      return
    }
    const answer = await getOffers(project.openId, [...chosen.value]).catch((error: unknown) => {
      faults.put(error)
      return nothing
    })
    if (turn === asked) known.value = answer
  }
  const refreshSoon = inTurn(OFFERS_MS, refresh)
  watch(chosen, refreshSoon)
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
    while (last.value && (last.value.open > 0 || last.value.state !== 'done') && project.openId !== null) {
      const { id } = last.value
      await new Promise((resolve) => setTimeout(resolve, FOLLOW_MS))
      const now = (await listChanges(project.openId).catch(() => [])).find((c) => c.id === id)
      if (last.value?.id !== id) return
      last.value = now?.undone ? null : (now ?? { ...last.value, open: 0, state: 'done' })
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
  /** One remedy for all findings of a rule on some assets. */
  const applyRule = (rule: string, remedy: string, assets: readonly string[]): Promise<void> =>
    act(async () => {
      last.value = await applyToMany(project.openId!, { rule, remedy, assets: [...assets] })
      void follow()
    })
  const apply = (offer: BulkOffer): Promise<void> => applyRule(offer.rule, offer.remedy, [...chosen.value])
  /** Every safe remedy that findings offer, as one act. */
  const mend = async (request: MendRequest): Promise<boolean> => {
    const before = last.value
    await act(async () => {
      last.value = await mendSafely(project.openId!, request)
      void follow()
    })
    return last.value !== before
  }
  const undo = (): Promise<void> =>
    act(async () => {
      if (!last.value) return
      const undone = await undoMany(last.value.id)
      last.value = undone.state === 'done' ? null : undone
      void follow()
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
    applyRule,
    applySteps,
    mend,
    undo,
    putAway,
  }
})
