import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import type { IntakePreset, RemedyInfo } from '@stern-gate/contract'
import {
  chooseIntake,
  listIntakePresets,
  listRemedies,
  removeIntakePreset,
  saveIntakePreset,
} from '../api/client'
import { useFaults } from './faults'
import { useProject } from './project'

/** The intake presets of the project, and which one the next delivery is taken in by. */
export const useIntake = defineStore('intake', () => {
  const project = useProject()
  const faults = useFaults()
  const presets = shallowRef<readonly IntakePreset[]>([])
  /** What can be chosen of an intake. */
  const remedy = shallowRef<RemedyInfo | null>(null)
  const wanted = ref<string | null>(null)
  const keyOf = (id: string): string => `stern-gate-intake-${id}`

  const chosen = computed(() => presets.value.find((p) => p.name === wanted.value) ?? null)
  const chosenName = computed(() => chosen.value?.name ?? null)
  const guarded = async (work: () => Promise<unknown>): Promise<boolean> => {
    try {
      await work()
      return true
    } catch (error) {
      faults.put(error)
      return false
    }
  }
  const refresh = (): Promise<boolean> =>
    guarded(async () => {
      const id = project.openId
      presets.value = id === null ? [] : await listIntakePresets(id)
    })
  /** For the next deliveries from this browser, until another one is chosen. */
  const choose = (name: string | null): void => {
    wanted.value = name
    if (project.openId === null) return
    if (name === null) localStorage.removeItem(keyOf(project.openId))
    else localStorage.setItem(keyOf(project.openId), name)
  }
  const fetchFields = (): Promise<boolean> =>
    guarded(async () => {
      remedy.value ??= (await listRemedies()).find((r) => r.id === 'files/intake') ?? null
    })
  const save = (preset: IntakePreset): Promise<boolean> =>
    guarded(async () => {
      const saved = await saveIntakePreset(project.openId!, preset)
      await refresh()
      choose(saved.name)
    })
  const remove = (name: string): Promise<boolean> =>
    guarded(async () => {
      await removeIntakePreset(project.openId!, name)
      if (wanted.value === name) choose(null)
      await refresh()
    })
  /** Takes a delivery in by a preset, or as it came. */
  const takeIn = (delivery: string, preset: string | null): Promise<boolean> =>
    guarded(() => chooseIntake(delivery, preset))
  watch(
    () => project.openId,
    (id) => {
      wanted.value = id === null ? null : localStorage.getItem(keyOf(id))
      void refresh()
    },
    { immediate: true },
  )
  return { presets, remedy, chosen, chosenName, refresh, choose, fetchFields, save, remove, takeIn }
})
