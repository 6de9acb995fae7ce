import { eventSchema, type LiveEvent } from '@stern-gate/contract'

/**
 * A browser keeps six connections to one address at most: a tab that nobody looks at gives its own back after
 * so long.
 */
const HIDDEN_MS = 10_000
const RETRY_MS = 2000

/**
 * Follows a project's events while the page is looked at, and goes on after the last one seen. A lost
 * connection is resumed by the browser; one that was given back (hidden tab, page left for another) is
 * resumed here. `onState` says whether it is connected.
 */
export function followEvents(
  project: string,
  onEvent: (event: LiveEvent) => void,
  onState: (connected: boolean) => void,
): { close: () => void } {
  let source: EventSource | null = null,
    seen: string | null = null,
    hiding: ReturnType<typeof setTimeout> | undefined
  const open = (): void => {
    clearTimeout(hiding)
    if (source) return
    source = new EventSource(`/api/projects/${project}/events${seen === null ? '' : `?after=${seen}`}`)
    source.onopen = () => onState(true)
    source.onerror = () => {
      onState(false)
      // A browser tries again by itself, but for an answer that says no: as while the database is away
      if (source?.readyState !== EventSource.CLOSED) return
      giveBack()
      hiding = setTimeout(open, RETRY_MS)
    }
    source.addEventListener('place', (message) => {
      seen = message.lastEventId
    })
    source.onmessage = ({ data, lastEventId }: MessageEvent<string>) => {
      if (lastEventId !== '') seen = lastEventId
      const event = eventSchema.safeParse(JSON.parse(data))
      if (event.success) onEvent(event.data)
    }
  }
  const giveBack = (): void => {
    clearTimeout(hiding)
    source?.close()
    source = null
  }
  const onVisibility = (): void => {
    clearTimeout(hiding)
    if (document.visibilityState === 'visible') open()
    else hiding = setTimeout(giveBack, HIDDEN_MS)
  }
  open()
  document.addEventListener('visibilitychange', onVisibility)
  addEventListener('pagehide', giveBack)
  addEventListener('pageshow', open)
  return {
    close: () => {
      giveBack()
      document.removeEventListener('visibilitychange', onVisibility)
      removeEventListener('pagehide', giveBack)
      removeEventListener('pageshow', open)
    },
  }
}
