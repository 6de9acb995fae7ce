import { computed, shallowRef, watch, type ComputedRef, type ShallowRef } from 'vue'
import type { AssetRow, AssetState } from '@stern-gate/contract'
import { getAsset, getLibrary } from '../api/client'
import { useFaults } from '../stores/faults'
import { useProject } from '../stores/project'

export interface Guest {
  others: ComputedRef<{ id: string; name: string }[]>
  guest: ShallowRef<AssetState | null>
  ask: () => void
}

/** So many names are there to choose from, by name. */
const LISTED = 200

/**
 * Another asset of the project that stands on the stage for comparison, and the names to choose from; `own`
 * is not among them.
 */
export function useGuest(wanted: () => string | null, own: () => string): Guest {
  const project = useProject(),
    faults = useFaults()
  const guest = shallowRef<AssetState | null>(null),
    rows = shallowRef<readonly AssetRow[]>([])
  const others = computed(() =>
    rows.value.filter((a) => a.kind === 'mesh' && a.id !== own()).map(({ id, name }) => ({ id, name })),
  )
  const ask = async (): Promise<void> => {
    if (rows.value.length > 0 || project.openId === null) return
    try {
      rows.value = (await getLibrary(project.openId, { sort: 'name' }, 0, LISTED)).rows
    } catch (error) {
      faults.put(error)
    }
  }
  watch(
    wanted,
    async (id) => {
      guest.value = null
      if (id === null) return
      void ask()
      try {
        const { output } = await getAsset(id, null)
        if (wanted() === id) guest.value = output
      } catch (error) {
        faults.put(error)
      }
    },
    { immediate: true },
  )
  return { others, guest, ask: () => void ask() }
}
