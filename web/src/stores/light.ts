import { defineStore } from 'pinia'
import { ref, watch } from 'vue'
import { firstLight, rememberedLight, rememberLight, type LightSettings } from '../stages/lightSettings'
import { useProject } from './project'

/** How stages are lit in the open project; remembered on this machine. */
export const useLight = defineStore('light', () => {
  const project = useProject()
  const settings = ref<LightSettings>(firstLight)
  watch(
    () => project.openId,
    (id) => {
      settings.value = id === null ? firstLight : rememberedLight(id)
    },
    { immediate: true },
  )
  function set(now: LightSettings): void {
    settings.value = now
    if (project.openId !== null) rememberLight(project.openId, now)
  }
  return { settings, set }
})
