import { setTimeout as sleep } from 'node:timers/promises'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { lateProgress } from '../src/jobs/lateProgress'
import { createEventHub, type EventHub } from '../src/live/eventHub'
import { connect, migrateDatabase, type Connection } from '../src/store/database'
import { addEvent, listEventsAfter } from '../src/store/eventLog'
import { projects } from '../src/store/schema'
import { createDatabase, serverFiles } from './testServer'

let connection: Connection, hub: EventHub
beforeAll(async () => {
  connection = connect(await createDatabase())
  await migrateDatabase(connection, serverFiles.migrations)
  hub = await createEventHub(connection.url)
})
afterAll(async () => {
  await hub.close()
  await connection.pool.end()
})

const newProject = async () =>
  (
    await connection.db
      .insert(projects)
      .values({ name: 'Gullwick Harbour', target: 'desktop' })
      .returning({ id: projects.id })
  )[0]!.id

it('ids of events follow the order of the commits, however long a transaction takes after its event', async () => {
  const projectId = await newProject(),
    heard: number[] = []
  const leave = hub.subscribe((m) => {
    if (m.projectId === projectId) heard.push(m.id!)
  })
  await Promise.all(
    Array.from({ length: 12 }, (_, i) =>
      connection.db.transaction(async (tx) => {
        await sleep(i % 3)
        await addEvent(tx, projectId, { kind: 'asset', asset: projectId })
        // The first of them are the slowest to commit
        await sleep(i < 4 ? 40 : 0)
      }),
    ),
  )
  while (heard.length < 12) await sleep(10)
  leave()
  expect(heard).toEqual([...heard].sort((a, b) => a - b))
  expect((await listEventsAfter(connection.db, projectId, 0)).map((e) => e.id)).toEqual(heard)
})

it('events of another project wait for nobody', async () => {
  const [slow, quick] = [await newProject(), await newProject()]
  let open = true
  const first = connection.db.transaction(async (tx) => {
    await addEvent(tx, slow, { kind: 'asset', asset: slow })
    while (open) await sleep(5)
  })
  await connection.db.transaction((tx) => addEvent(tx, quick, { kind: 'asset', asset: quick }))
  expect(await listEventsAfter(connection.db, quick, 0)).toHaveLength(1)
  expect(await listEventsAfter(connection.db, slow, 0)).toHaveLength(0)
  open = false
  await first
})

it('progress is told once the work has taken a while, the newest word first, and not at all for quick work', async () => {
  const told: string[] = [],
    quick = lateProgress((w) => told.push(w), 30)
  quick.tell('reading')
  quick.end()
  const slow = lateProgress((w) => told.push(w), 30)
  slow.tell('reading slowly')
  slow.tell('measuring')
  await sleep(80)
  slow.tell('judging')
  slow.end()
  expect(told).toEqual(['measuring', 'judging'])
})
