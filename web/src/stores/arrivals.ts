import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import type { AssetRow, Delivery, LiveEvent } from '@stern-gate/contract'
import { cancelDelivery, listAssets, listDeliveries } from '../api/client'
import { useFaults } from './faults'
import { useProject } from './project'

/** Lists are read again at most this often, however fast the events come. */
const REFRESH_MS = 600

/** What arrived and what is under way. */
export const useArrivals = defineStore('arrivals', () => {
  const project = useProject()
  const faults = useFaults()
  const assets = shallowRef<AssetRow[]>([])
  const deliveries = shallowRef<Delivery[]>([])
  const doing = ref<Record<string, string>>({})
  const loaded = ref(false)
  let waiting: ReturnType<typeof setTimeout> | null = null, last = 0

  const refresh = async (): Promise<void> => {
    const id = project.openId
    if (id === null) return
    last = Date.now()
    try {
      const [rows, under] = await Promise.all([allAssets(id), listDeliveries(id)])
      if (project.openId !== id) return
      assets.value = rows
      deliveries.value = under
      loaded.value = true
    } catch (error) {
      faults.put(error)
    }
  }
  const refreshSoon = (): void => {
    waiting ??= setTimeout(() => {
      waiting = null
      void refresh()
    }, Math.max(0, REFRESH_MS - (Date.now() - last)))
  }
  const hear = (event: LiveEvent): void => {
    if (event.kind === 'progress') doing.value = { ...doing.value, [event.delivery]: `measuring ${event.file} — ${event.doing}` }
    else refreshSoon()
  }
  const cancel = async (id: string): Promise<void> => {
    await cancelDelivery(id).catch(faults.put)
    await refresh()
  }
  return { assets, deliveries, doing, loaded, refresh, refreshSoon, hear, cancel }
})

const PAGE = 500

async function allAssets(project: string): Promise<AssetRow[]> {
  const rows: AssetRow[] = []
  for (let before: string | null = null; ; ) {
    const page = await listAssets(project, before)
    rows.push(...page)
    const end = page.at(-1)
    if (page.length < PAGE || !end) return rows
    before = `${end.updated}|${end.id}`
  }
}
