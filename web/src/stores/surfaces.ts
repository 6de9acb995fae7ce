import { defineStore } from 'pinia'
import { ref, watch } from 'vue'
import type { ProjectSurface, SharedSurface } from '@stern-gate/contract'
import { listSurfaces, saveSurface } from '../api/client'
import { useFaults } from './faults'
import { useProject } from './project'

/** Surfaces of the open project, which slots of many assets can follow. */
export const useSurfaces = defineStore('surfaces', () => {
  const project = useProject(),
    faults = useFaults()
  const all = ref<readonly ProjectSurface[]>([])
  async function load(): Promise<void> {
    const id = project.openId
    if (id === null) return void (all.value = [])
    try {
      const found = await listSurfaces(id)
      if (project.openId === id) all.value = found
    } catch (error) {
      faults.put(error)
    }
  }
  watch(() => project.openId, load, { immediate: true })
  project.onEvent((event) => {
    if (event.kind === 'rulebook') void load()
  })
  const find = (name: string): ProjectSurface | undefined => all.value.find((s) => s.name === name)
  /** Adds, changes or takes out one; false where that was refused, which is said. */
  async function save(name: string, surface: SharedSurface | null): Promise<boolean> {
    if (project.openId === null) return false
    try {
      await saveSurface(project.openId, name, surface)
      await load()
      return true
    } catch (error) {
      faults.put(error)
      return false
    }
  }
  return { all, find, load, save }
})
