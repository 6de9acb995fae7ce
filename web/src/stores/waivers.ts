import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import type { GiveWaivers, LiveEvent, ProjectWaiver } from '@stern-gate/contract'
import { giveWaivers, listWaivers, takeWaiverBack } from '../api/client'
import { useFaults } from './faults'
import { inTurn } from './inTurn'
import { useProject } from './project'

const REFRESH_MS = 600

/** Accepted findings of the project, and the last that were given, for their undo. */
export const useWaivers = defineStore('waivers', () => {
  const project = useProject()
  const faults = useFaults()
  const all = shallowRef<ProjectWaiver[]>([])
  const loaded = ref(false)
  const last = shallowRef<ProjectWaiver[]>([])
  const busy = ref(false)

  const read = async (): Promise<void> => {
    const id = project.openId
    if (id === null) return
    try {
      const answer = await listWaivers(id)
      if (project.openId !== id) return
      all.value = answer
      loaded.value = true
    } catch (error) {
      faults.put(error)
    }
  }
  const readSoon = inTurn(REFRESH_MS, read)
  const hear = (event: LiveEvent): void => {
    if (event.kind === 'asset' || event.kind === 'rulebook') readSoon()
  }
  const act = async (work: () => Promise<void>): Promise<boolean> => {
    if (busy.value || project.openId === null) return false
    busy.value = true
    try {
      await work()
      return true
    } catch (error) {
      faults.put(error)
      return false
    } finally {
      busy.value = false
    }
  }
  const give = (body: GiveWaivers): Promise<boolean> =>
    act(async () => {
      last.value = await giveWaivers(project.openId!, body)
    })
  /** Takes one back, or all that were given together with it. */
  const takeBack = (waiver: ProjectWaiver, act_: boolean): Promise<boolean> =>
    act(async () => {
      await takeWaiverBack(waiver.id, act_)
      last.value = []
      await read()
    })
  const putAway = (): void => {
    last.value = []
  }
  return { all, loaded, last, busy, read, hear, give, takeBack, putAway }
})
