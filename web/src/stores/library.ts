import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import type { AssetRow, Facets, LiveEvent } from '@stern-gate/contract'
import { getFacets, getLibrary, listLibraryIds, type LibraryQuery } from '../api/client'
import { useFaults } from './faults'
import { inTurn } from './inTurn'
import { useProject } from './project'

/** A line of the list: its place, and the asset once it was read. */
export interface LibraryLine {
  place: number
  row: AssetRow | null
}

/** Lines are read so many at a time. */
export const WINDOW = 60
/** Lists are read again at most this often, however fast the events come. */
const REFRESH_MS = 600

/**
 * A project's assets as a list that the server filters and sorts: of thousands only the windows that were looked
 * at are here.
 */
export const useLibrary = defineStore('library', () => {
  const project = useProject()
  const faults = useFaults()
  const lines = shallowRef<LibraryLine[]>([])
  const total = ref(0)
  const facets = shallowRef<Facets | null>(null)
  const loaded = ref(false)
  let query: LibraryQuery = { sort: 'newest' },
    shownKey = '',
    shownFor: string | null = null,
    /** Answers to an older question are dropped. */
    turn = 0,
    seen: [from: number, to: number] = [0, WINDOW - 1]
  const read = new Set<number>()

  /** Shows what fits a filter, from its top. */
  const show = (next: LibraryQuery): void => {
    const key = JSON.stringify([project.openId, next])
    if (key === shownKey) return
    // Another screen or project: lines of the last one would be taken for its own
    if (shownFor !== project.openId || query.sort !== next.sort) {
      lines.value = []
      total.value = 0
      loaded.value = false
    }
    if (shownFor !== project.openId) facets.value = null
    shownFor = project.openId
    shownKey = key
    query = next
    turn++
    read.clear()
    seen = [0, WINDOW - 1]
    void refresh()
  }

  /** The lines that stand in the window just now; what was not read yet is read. */
  const see = (from: number, to: number): void => {
    seen = [Math.max(0, from), to]
    for (let w = Math.floor(seen[0] / WINDOW); w <= Math.floor(to / WINDOW); w++)
      if (!read.has(w) && w * WINDOW < total.value) void readWindow(w)
  }

  const readWindow = async (window: number): Promise<void> => {
    const id = project.openId,
      own = turn
    if (id === null) return
    read.add(window)
    try {
      const page = await getLibrary(id, query, window * WINDOW, WINDOW)
      if (own !== turn) return
      put(page.total, page.offset, page.rows)
      loaded.value = true
    } catch (error) {
      read.delete(window)
      if (own === turn) faults.put(error)
    }
  }

  function put(count: number, offset: number, rows: readonly AssetRow[]): void {
    const next: LibraryLine[] = lines.value.slice(0, count)
    for (let place = next.length; place < count; place++) next.push({ place, row: null })
    rows.forEach((row, i) => {
      next[offset + i] = { place: offset + i, row }
    })
    total.value = count
    lines.value = next
  }

  const readFacets = async (): Promise<void> => {
    const id = project.openId,
      own = turn
    if (id === null) return
    try {
      const answer = await getFacets(id, query)
      if (own === turn) facets.value = answer
    } catch (error) {
      if (own === turn) faults.put(error)
    }
  }

  /** Reads anew what is seen; what stands elsewhere is read when it is scrolled to. */
  const refresh = async (): Promise<void> => {
    read.clear()
    const windows: Promise<void>[] = []
    for (let w = Math.floor(seen[0] / WINDOW); w <= Math.floor(seen[1] / WINDOW); w++)
      if (w === 0 || w * WINDOW < total.value) windows.push(readWindow(w))
    await Promise.all([...windows, readFacets()])
  }
  const refreshSoon = inTurn(REFRESH_MS, refresh)
  const hear = (event: LiveEvent): void => {
    if (event.kind === 'asset') refreshSoon()
  }
  /** Ids of everything that fits the filter. */
  const allIds = async (): Promise<string[]> => {
    if (project.openId === null) return []
    return listLibraryIds(project.openId, query).catch((error: unknown) => {
      faults.put(error)
      return []
    })
  }
  return { lines, total, facets, loaded, show, see, refresh, refreshSoon, hear, allIds }
})
