import type { Router } from 'express'
import * as z from 'zod'
import type { LiveEvent } from '@stern-gate/contract'
import { routes } from '@stern-gate/contract'
import type { Services } from '../services/services'
import { lastEventId, listEventsAfter } from '../store/eventLog'
import { answering } from './answer'
import { parse } from './faults'
import { projectOf } from './projectRoutes'

const KEEP_ALIVE_MS = 15_000

/** Id of the last event that a page saw. */
const placeSchema = z.coerce.number().int().min(0).max(Number.MAX_SAFE_INTEGER).optional()

/**
 * Server-sent events of a project: what was missed since Last-Event-ID (or `?after=`) first, then as it
 * comes. A page that saw none yet is told its `place`. Progress passes by without an id.
 */
export function liveRoutes({ connection: { db }, hub }: Services): Router {
  const { router, on } = answering()
  on(routes.followEvents, async ({ parts, request, response }) => {
    const { id: projectId } = await projectOf(db, parts.project)
    const given = parse(placeSchema, request.get('Last-Event-ID') ?? request.query['after'])
    response.set({
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-cache, no-transform',
      Connection: 'keep-alive',
      'X-Accel-Buffering': 'no',
    })
    response.flushHeaders()
    response.write('retry: 800\n\n')
    const alive = setInterval(() => response.write(': still here\n\n'), KEEP_ALIVE_MS)
    const leaving: (() => void)[] = [() => clearInterval(alive)]
    // Registered before anything is waited for: a page may be gone by then
    response.on('close', () => leaving.forEach((leave) => leave()))
    let seen = given ?? (await lastEventId(db, projectId))
    if (given === undefined) response.write(`event: place\nid: ${seen}\ndata: \n\n`)
    let caughtUp = false
    const send = (id: number | null, event: LiveEvent) => {
      if (id !== null && id <= seen) return
      if (id !== null) seen = id
      response.write(`${id === null ? '' : `id: ${id}\n`}data: ${JSON.stringify(event)}\n\n`)
    }
    // Where the database is away the hub notices, and calls again when it is back
    const again = () => void catchUp().catch(() => undefined)
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
    if (response.closed) return
    leaving.push(
      hub.subscribe((message) => {
        if (message.projectId !== projectId) return
        if (message.id === null || caughtUp) send(message.id, message.event)
        else again()
      }),
      hub.onGap(again),
    )
    await catchUp()
  })
  return router
}
