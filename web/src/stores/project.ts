import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import type { LiveEvent, Project, SaveSizes } from '@stern-gate/contract'
import { createProject, listProjects, saveSizes } from '../api/client'
import { followEvents } from '../api/liveEvents'

/** The projects, which one is open, and its live events. */
export const useProject = defineStore('project', () => {
  const all = ref<Project[]>([])
  const loaded = ref(false)
  const connected = ref(true)
  const openId = ref<string | null>(null)
  const listeners = new Set<(event: LiveEvent) => void>()
  let following: { close: () => void } | null = null

  const open = computed(() => all.value.find((p) => p.id === openId.value) ?? null)
  const load = async (): Promise<void> => {
    all.value = await listProjects()
    loaded.value = true
  }
  const enter = (id: string): void => {
    if (openId.value === id) return
    openId.value = id
    following?.close()
    following = followEvents(
      id,
      (event) => {
        for (const listener of listeners) listener(event)
      },
      (state) => {
        connected.value = state
      },
    )
  }
  const create = async (name: string): Promise<Project> => {
    const project = await createProject(name)
    all.value = [project, ...all.value]
    return project
  }
  const setSizes = async (sizes: SaveSizes): Promise<void> => {
    if (openId.value === null) return
    const saved = await saveSizes(openId.value, sizes)
    all.value = all.value.map((p) => (p.id === saved.id ? saved : p))
  }
  const onEvent = (listener: (event: LiveEvent) => void): (() => void) => {
    listeners.add(listener)
    return () => listeners.delete(listener)
  }
  return { all, loaded, connected, open, openId, load, enter, create, setSizes, onEvent }
})
