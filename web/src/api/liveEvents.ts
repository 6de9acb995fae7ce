import { eventSchema, type LiveEvent } from '@stern-gate/contract'

/** Follows a project's events; the browser resumes by Last-Event-ID after a lost connection. `onState` says whether it is connected. */
export function followEvents(project: string, onEvent: (event: LiveEvent) => void, onState: (connected: boolean) => void): { close: () => void } {
  const source = new EventSource(`/api/projects/${project}/events`)
  source.onopen = () => onState(true)
  source.onerror = () => onState(false)
  source.onmessage = ({ data }: MessageEvent<string>) => {
    const event = eventSchema.safeParse(JSON.parse(data))
    if (event.success) onEvent(event.data)
  }
  return { close: () => source.close() }
}
