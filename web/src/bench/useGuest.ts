import { computed, shallowRef, watch, type ComputedRef, type ShallowRef } from 'vue'
import type { AssetState } from '@stern-gate/contract'
import { getAsset } from '../api/client'
import { useArrivals } from '../stores/arrivals'
import { useFaults } from '../stores/faults'

export interface Guest {
  others: ComputedRef<{ id: string; name: string }[]>
  guest: ShallowRef<AssetState | null>
  ask: () => void
}

/**
 * Another asset of the project that stands on the stage for comparison, and the names to choose from; `own`
 * is not among them.
 */
export function useGuest(wanted: () => string | null, own: () => string): Guest {
  const arrivals = useArrivals(),
    faults = useFaults()
  const guest = shallowRef<AssetState | null>(null)
  const others = computed(() =>
    arrivals.assets
      .filter((a) => a.kind === 'mesh' && a.id !== own())
      .map(({ id, name }) => ({ id, name }))
      .sort((a, b) => (a.name < b.name ? -1 : 1)),
  )
  const ask = (): void => {
    if (!arrivals.loaded) void arrivals.refresh()
  }
  watch(
    wanted,
    async (id) => {
      guest.value = null
      if (id === null) return
      ask()
      try {
        const { output } = await getAsset(id, null)
        if (wanted() === id) guest.value = output
      } catch (error) {
        faults.put(error)
      }
    },
    { immediate: true },
  )
  return { others, guest, ask }
}
