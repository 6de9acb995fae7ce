import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import type { Delivery, LiveEvent } from '@stern-gate/contract'
import { cancelDelivery, listDeliveries } from '../api/client'
import { useFaults } from './faults'
import { inTurn } from './inTurn'
import { useLibrary } from './library'
import { useProject } from './project'

/** Deliveries are read again at most this often, however fast the events come. */
const REFRESH_MS = 600

/** Deliveries, and what is under way in them. */
export const useArrivals = defineStore('arrivals', () => {
  const project = useProject()
  const library = useLibrary()
  const faults = useFaults()
  const deliveries = shallowRef<Delivery[]>([])
  const doing = ref<Record<string, string>>({})

  const readDeliveries = async (): Promise<void> => {
    const id = project.openId
    if (id === null) return
    try {
      const rows = await listDeliveries(id)
      if (project.openId === id) deliveries.value = rows
    } catch (error) {
      faults.put(error)
    }
  }
  const deliveriesSoon = inTurn(REFRESH_MS, readDeliveries)
  const refresh = async (): Promise<void> => {
    await Promise.all([library.refresh(), readDeliveries()])
  }
  const refreshSoon = (): void => {
    library.refreshSoon()
    deliveriesSoon()
  }
  const hear = (event: LiveEvent): void => {
    if (event.kind === 'progress')
      doing.value = { ...doing.value, [event.delivery]: `measuring ${event.file} — ${event.doing}` }
    else if (event.kind === 'asset') library.hear(event)
    else if (event.kind !== 'dispatch') deliveriesSoon()
  }
  const cancel = async (id: string): Promise<void> => {
    await cancelDelivery(id).catch(faults.put)
    await refresh()
  }
  return { deliveries, doing, refresh, refreshSoon, hear, cancel }
})
