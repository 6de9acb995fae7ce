import { defineStore } from 'pinia'
import { ref } from 'vue'
import type { Fault } from '@stern-gate/contract'
import { CallFailed } from '../api/client'

/** What went wrong last, shown until it is put away. */
export const useFaults = defineStore('faults', () => {
  const shown = ref<Fault | null>(null)
  const put = (error: unknown): void => {
    if ((error as Error).name === 'AbortError') return
    if (error instanceof CallFailed) shown.value = error.fault
    else {
      reportError(error)
      shown.value = {
        code: 'server/failed',
        why: 'The page met a fault of its own.',
        hint: 'Load it again; the console of the browser has the details.',
        where: {},
      }
    }
  }
  const clear = (): void => {
    shown.value = null
  }
  return { shown, put, clear }
})
