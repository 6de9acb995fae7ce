import { computed, shallowRef, watch, type ComputedRef, type ShallowRef } from 'vue'
import type { AssetRow, AssetState } from '@stern-gate/contract'
import { getAsset, getLibrary } from '../api/client'
import { useFaults } from '../stores/faults'
import { useProject } from '../stores/project'

export interface Guest {
  others: ComputedRef<{ id: string; name: string }[]>
  guest: ShallowRef<AssetState | null>
  /** Asks for names that hold a text; empty: the first ones. */
  ask: (find: string) => void
}

/** So many names are there to choose from at a time; what is typed asks for others. */
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
  const others = computed(() => {
    const found = rows.value
      .filter((a) => a.kind === 'mesh' && a.id !== own())
      .map(({ id, name }) => ({ id, name }))
    const chosen = wanted()
    // The one that stands there has its name, whatever is typed
    return chosen !== null && guest.value && !found.some((a) => a.id === chosen)
      ? [{ id: chosen, name: guest.value.name }, ...found]
      : found
  })
  let asked = 0
  const ask = async (find: string): Promise<void> => {
    const turn = ++asked
    if (project.openId === null) return
    try {
      const text = find.trim()
      const page = await getLibrary(
        project.openId,
        { sort: 'name', ...(text ? { find: text } : {}) },
        0,
        LISTED,
      )
      if (turn === asked) rows.value = page.rows
    } catch (error) {
      if (turn === asked) faults.put(error)
    }
  }
  watch(
    wanted,
    async (id) => {
      guest.value = null
      if (id === null) return
      try {
        const { output } = await getAsset(id, null)
        if (wanted() === id) guest.value = output
      } catch (error) {
        faults.put(error)
      }
    },
    { immediate: true },
  )
  return { others, guest, ask: (find) => void ask(find) }
}
