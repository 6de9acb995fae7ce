import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import type { AssetRow, Delivery, LiveEvent } from '@stern-gate/contract'
import { ASSETS_A_PAGE, cancelDelivery, listAssets, listDeliveries } from '../api/client'
import { useFaults } from './faults'
import { inTurn } from './inTurn'
import { useProject } from './project'

/** Lists are read again at most this often, however fast the events come. */
const REFRESH_MS = 600
/**
 * So long after the last event the whole list is read once more: a change that was committed late stands
 * further down than the newest.
 */
const SETTLE_MS = 3000

/** What arrived and what is under way. */
export const useArrivals = defineStore('arrivals', () => {
  const project = useProject()
  const faults = useFaults()
  const assets = shallowRef<AssetRow[]>([])
  const deliveries = shallowRef<Delivery[]>([])
  const doing = ref<Record<string, string>>({})
  const loaded = ref(false)
  let shown: string | null = null,
    settling: ReturnType<typeof setTimeout> | undefined

  /** Calls for the open project; what comes when another one was opened meanwhile is dropped. */
  const read = async <T>(
    ask: (project: string) => Promise<T>,
    take: (answer: T, project: string) => void,
  ): Promise<void> => {
    const id = project.openId
    if (id === null) return
    try {
      const answer = await ask(id)
      // Checking and showing are two tasks, so that neither holds the page up
      await new Promise((resolve) => setTimeout(resolve))
      if (project.openId === id) take(answer, id)
    } catch (error) {
      faults.put(error)
    }
  }
  const readRows = (from: 'all' | 'newest'): Promise<void> =>
    read(
      (id) => readAssets(id, from === 'all' || shown !== id ? [] : assets.value),
      (rows, id) => {
        assets.value = rows
        shown = id
        loaded.value = true
      },
    )
  const readDeliveries = (): Promise<void> =>
    read(listDeliveries, (rows) => {
      deliveries.value = rows
    })
  const newestSoon = inTurn(REFRESH_MS, () => readRows('newest'))
  const deliveriesSoon = inTurn(REFRESH_MS, readDeliveries)
  const settle = (): void => {
    clearTimeout(settling)
    settling = setTimeout(() => void readRows('all'), SETTLE_MS)
  }
  const refresh = async (): Promise<void> => {
    await Promise.all([readRows('all'), readDeliveries()])
  }
  const refreshSoon = (): void => {
    newestSoon()
    deliveriesSoon()
    settle()
  }
  const hear = (event: LiveEvent): void => {
    if (event.kind === 'progress')
      doing.value = { ...doing.value, [event.delivery]: `measuring ${event.file} — ${event.doing}` }
    else if (event.kind === 'asset') {
      newestSoon()
      settle()
    } else if (event.kind !== 'dispatch') deliveriesSoon()
  }
  const cancel = async (id: string): Promise<void> => {
    await cancelDelivery(id).catch(faults.put)
    await refresh()
  }
  return { assets, deliveries, doing, loaded, refresh, refreshSoon, hear, cancel }
})

/**
 * Newest first, page by page, down to the first page that ends with a row that is known as it stands; pages
 * are small so that none takes long to check.
 */
async function readAssets(project: string, known: readonly AssetRow[]): Promise<AssetRow[]> {
  const before = new Map(known.map((row) => [row.id, row])),
    fresh = new Map<string, AssetRow>()
  for (let cursor: string | null = null; ;) {
    const page = await listAssets(project, cursor)
    for (const row of page) fresh.set(row.id, row)
    const end = page.at(-1)
    if (page.length < ASSETS_A_PAGE || !end) return [...fresh.values()]
    if (before.get(end.id)?.updated === end.updated)
      return [...fresh.values(), ...known.filter((row) => !fresh.has(row.id))]
    cursor = `${end.updated}|${end.id}`
  }
}
