import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import type { Dispatch, DispatchDetail, DispatchPlan, LiveEvent } from '@stern-gate/contract'
import { createDispatch, getDispatch, listDispatches, planDispatch } from '../api/client'
import { useFaults } from './faults'
import { inTurn } from './inTurn'
import { useProject } from './project'

/** Lists are read again at most this often, however fast the events come. */
const REFRESH_MS = 500

/** Packages: which assets the next one is of, what would go, and those that left. */
export const useDispatch = defineStore('dispatch', () => {
  const project = useProject()
  const faults = useFaults()
  /** Ids of the assets that were chosen elsewhere; null: all of the project. */
  const chosen = shallowRef<readonly string[] | null>(null)
  const target = ref<string | null>(null)
  const plan = shallowRef<DispatchPlan | null>(null)
  const past = shallowRef<Dispatch[]>([])
  const open = shallowRef<DispatchDetail | null>(null)
  const loaded = ref(false)
  const busy = ref(false)
  let asked = 0

  const choice = () => ({ target: target.value ?? project.open?.target ?? '', assets: chosen.value })
  const readPlan = async (): Promise<void> => {
    const id = project.openId,
      turn = ++asked
    if (id === null || choice().target === '') return
    try {
      const answer = await planDispatch(id, choice())
      // The slower of two answers never wins
      if (turn === asked) plan.value = answer
    } catch (error) {
      if (turn === asked) faults.put(error)
    }
  }
  const readPast = async (): Promise<void> => {
    const id = project.openId
    if (id === null) return
    try {
      const rows = await listDispatches(id)
      if (project.openId !== id) return
      past.value = rows
      loaded.value = true
      const own = open.value
      if (own && rows.some((d) => d.id === own.id && d.state !== own.state)) await look(own.id)
    } catch (error) {
      faults.put(error)
    }
  }
  const planSoon = inTurn(REFRESH_MS, readPlan)
  const pastSoon = inTurn(REFRESH_MS, readPast)
  const refresh = async (): Promise<void> => {
    await Promise.all([readPlan(), readPast()])
  }
  const hear = (event: LiveEvent): void => {
    if (event.kind === 'dispatch') pastSoon()
    else if (event.kind === 'asset') planSoon()
  }
  const choose = (ids: readonly string[] | null): void => {
    chosen.value = ids
    plan.value = null
    void readPlan()
  }
  const aim = (id: string): void => {
    target.value = id
    plan.value = null
    void readPlan()
  }
  const look = async (id: string): Promise<void> => {
    try {
      open.value = await getDispatch(id)
    } catch (error) {
      faults.put(error)
    }
  }
  const putAway = (): void => {
    open.value = null
  }
  const pack = async (note: string, encode: boolean): Promise<void> => {
    if (busy.value || project.openId === null) return
    busy.value = true
    try {
      open.value = await createDispatch(project.openId, {
        ...choice(),
        assets: chosen.value ? [...chosen.value] : null,
        note,
        encode,
      })
      await readPast()
    } catch (error) {
      faults.put(error)
    } finally {
      busy.value = false
    }
  }
  return { chosen, target, plan, past, open, loaded, busy, refresh, hear, choose, aim, look, putAway, pack }
})
