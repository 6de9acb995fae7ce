import { Router } from 'express'
import type { LiveEvent } from '@stern-gate/contract'
import type { Services } from '../services'
import { lastEventId, listEventsAfter } from '../store/eventLog'
import { route } from './faults'
import { uuid } from './projectRoutes'

const KEEP_ALIVE_MS = 15_000

/**
 * Server-sent events of a project: what was missed since Last-Event-ID (or `?after=`) first, then as it
 * comes. A page that saw none yet is told its `place`. Progress passes by without an id.
 */
export function liveRoutes({ connection: { db }, hub }: Services): Router {
  return Router().get(
    '/projects/:project/events',
    route(async (request, response) => {
      const projectId = uuid(request.params['project'])
      response.set({
        'Content-Type': 'text/event-stream',
        'Cache-Control': 'no-cache, no-transform',
        Connection: 'keep-alive',
        'X-Accel-Buffering': 'no',
      })
      response.flushHeaders()
      response.write('retry: 800\n\n')
      const given = Number(request.get('Last-Event-ID') ?? request.query['after'] ?? NaN)
      let seen = Number.isFinite(given) ? given : await lastEventId(db, projectId)
      if (!Number.isFinite(given)) response.write(`event: place\nid: ${seen}\ndata: \n\n`)
      let caughtUp = false
      const send = (id: number | null, event: LiveEvent) => {
        if (id !== null && id <= seen) return
        if (id !== null) seen = id
        response.write(`${id === null ? '' : `id: ${id}\n`}data: ${JSON.stringify(event)}\n\n`)
      }
      const catchUp = async () => {
        caughtUp = false
        for (
          let more = await listEventsAfter(db, projectId, seen);
          more.length > 0;
          more = await listEventsAfter(db, projectId, seen)
        )
          for (const { id, event } of more) send(id, event)
        caughtUp = true
      }
      // What comes while the missed ones are read is read with them or right after
      const leave = hub.subscribe((message) => {
        if (message.projectId !== projectId) return
        if (message.id === null || caughtUp) send(message.id, message.event)
        else void catchUp()
      })
      const leaveGap = hub.onGap(() => void catchUp())
      const alive = setInterval(() => response.write(': still here\n\n'), KEEP_ALIVE_MS)
      response.on('close', () => {
        leave()
        leaveGap()
        clearInterval(alive)
      })
      await catchUp()
    }),
  )
}
