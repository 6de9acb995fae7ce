import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import type { Health } from '@stern-gate/contract'
import { askHealth } from '../api/client'

const ASK_EVERY_MS = 6000

const words = {
  'store/full': 'The disk of the store is full. Files wait, and go on by themselves when there is room.',
  'store/read-only': 'The folder of the store cannot be written. Files wait, and go on when it can.',
  'database/away': 'The database does not answer. What is under way waits, and goes on when it is back.',
} as const

/** What the server waits for; asked for as long as the page is looked at. */
export const useServerState = defineStore('server-state', () => {
  const health = ref<Health | null | 'unknown'>('unknown')
  const said = computed<string | null>(() => {
    const now = health.value
    if (now === 'unknown') return null
    if (now === null) return 'The server does not answer. This page goes on by itself when it is back.'
    const cause = [now.database, now.store, now.waitsFor].find((c) => c !== null && c !== 'ok')
    if (cause === undefined) return null
    return cause === 'failed' || cause === null
      ? 'The server cannot store anything; its log says why.'
      : words[cause]
  })
  let timer: ReturnType<typeof setTimeout> | undefined
  const ask = async (): Promise<void> => {
    clearTimeout(timer)
    if (document.visibilityState === 'visible') health.value = await askHealth()
    timer = setTimeout(() => void ask(), ASK_EVERY_MS)
  }
  const follow = (): (() => void) => {
    void ask()
    return () => clearTimeout(timer)
  }
  return { said, follow }
})
