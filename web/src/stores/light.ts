import { defineStore } from 'pinia'
import { ref, shallowRef, watch } from 'vue'
import { firstLight, rememberedLight, rememberLight, type LightSettings } from '../stages/lightSettings'
import { troubleWords } from '../words/troubleWords'
import { useProject } from './project'

/** A picture that models are held against. */
export interface Reference {
  name: string
  address: string
  mode: 'beside' | 'behind'
}

/**
 * How stages are lit in the open project; remembered on this machine. Pictures that were brought are there for as long
 * as the page is open.
 */
export const useLight = defineStore('light', () => {
  const project = useProject()
  const settings = ref<LightSettings>(firstLight)
  const reference = shallowRef<Reference | null>(null)
  function setReference(file: File | null): void {
    if (reference.value) URL.revokeObjectURL(reference.value.address)
    reference.value = file && {
      name: file.name,
      address: URL.createObjectURL(file),
      mode: reference.value?.mode ?? 'beside',
    }
  }
  watch(
    () => project.openId,
    (id) => {
      setReference(null)
      settings.value = id === null ? firstLight : rememberedLight(id)
    },
    { immediate: true },
  )
  function set(now: LightSettings): void {
    settings.value = now
    if (project.openId !== null) rememberLight(project.openId, now)
  }
  /** Name of the picture of one's own that is taken as light. */
  const ownName = ref<string | null>(null)
  /** Why the last picture could not be read. */
  const trouble = ref('')
  async function bringSurrounding(file: File): Promise<void> {
    trouble.value = ''
    try {
      const { bringSurrounding: bring } = await import('../stages/ownSurrounding')
      ownName.value = (await bring(file)).name
      set({ ...settings.value, environment: 'own' })
    } catch (error) {
      trouble.value = troubleWords(error)
    }
  }
  function setReferenceMode(mode: Reference['mode']): void {
    if (reference.value) reference.value = { ...reference.value, mode }
  }
  return { settings, set, ownName, trouble, bringSurrounding, reference, setReference, setReferenceMode }
})
