import pg from 'pg'
import * as z from 'zod'
import { eventSchema, type LiveEvent } from '@stern-gate/contract'
import { EVENT_CHANNEL, PROGRESS_CHANNEL } from '../store/eventLog'

const messageSchema = z.object({ id: z.number().optional(), projectId: z.string(), event: eventSchema })

export interface HubMessage {
  id: number | null
  projectId: string
  event: LiveEvent
}
export interface EventHub {
  subscribe: (listener: (message: HubMessage) => void) => () => void
  /** Called when the listening connection was lost and is back: listeners must look up what they missed. */
  onGap: (listener: () => void) => () => void
  close: () => Promise<void>
}

const RETRY_MS = 500

/** One connection that listens for all pages; it comes back by itself. */
export async function createEventHub(url: string): Promise<EventHub> {
  const listeners = new Set<(message: HubMessage) => void>(),
    gapListeners = new Set<() => void>()
  let client: pg.Client | null = null,
    closed = false
  const open = async (): Promise<void> => {
    const next = new pg.Client({ connectionString: url, connectionTimeoutMillis: 5000, keepAlive: true })
    next.on('error', () => undefined)
    next.on('end', () => {
      if (!closed && client === next) setTimeout(() => void reopen(), RETRY_MS)
    })
    next.on('notification', ({ payload }) => {
      const parsed = messageSchema.safeParse(parseJson(payload))
      if (parsed.success)
        for (const listener of listeners)
          listener({ id: parsed.data.id ?? null, projectId: parsed.data.projectId, event: parsed.data.event })
    })
    try {
      await next.connect()
      await next.query(`listen ${EVENT_CHANNEL}`)
      await next.query(`listen ${PROGRESS_CHANNEL}`)
      client = next
    } catch (error) {
      await next.end().catch(() => undefined)
      throw error
    }
  }
  const reopen = async (): Promise<void> => {
    if (closed) return
    try {
      await open()
      for (const listener of gapListeners) listener()
    } catch {
      setTimeout(() => void reopen(), RETRY_MS)
    }
  }
  await open()
  return {
    subscribe: (listener) => {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    onGap: (listener) => {
      gapListeners.add(listener)
      return () => gapListeners.delete(listener)
    },
    async close() {
      closed = true
      await client?.end()
    },
  }
}

function parseJson(text: string | undefined): unknown {
  try {
    return JSON.parse(text ?? 'null')
  } catch {
    return null
  }
}
