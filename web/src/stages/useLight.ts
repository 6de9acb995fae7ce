import { ref, watch, type Ref } from 'vue'
import { useProject } from '../stores/project'
import { firstLight, rememberedLight, rememberLight, type LightSettings } from './lightSettings'

/** How stages are lit in the open project; remembered on this machine. */
const settings = ref<LightSettings>(firstLight)
let of: string | null = null

export function useLight(): Ref<LightSettings> {
  const project = useProject()
  watch(
    () => project.openId,
    (id) => {
      if (id === of) return
      of = id
      settings.value = id === null ? firstLight : rememberedLight(id)
    },
    { immediate: true },
  )
  watch(settings, (now) => {
    if (of !== null) rememberLight(of, now)
  })
  return settings
}
