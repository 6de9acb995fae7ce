import { fork, type ChildProcess } from 'node:child_process'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { findFiles } from '@stern-gate/engine'
import { threadsFor } from '@stern-gate/engine/pool'
import { middle, middlePair } from './clock'
import { checkAll, openEngine } from './checkAll'
import type { Figure } from './figure'

/** Rounds that count, after those in which a thread compiles what it needs. */
const ROUNDS = 5,
  WARMING = 2

/** What a round took, and the processor time of all threads in it, in milliseconds. */
interface Round {
  wall: number
  busy: number
}

/**
 * 500 files through threads that are warm, as a running server's are: as many as the server has, on both
 * cores; one on a core to itself; one that may use both.
 */
export async function warmThreadsFigures(folder: string, tell: (line: string) => void): Promise<Figure[]> {
  tell('500 files: warm threads')
  const one = openChild(folder, 1, true),
    loose = openChild(folder, 1, false),
    all = openChild(folder, threadsFor(2), false)
  try {
    const rounds = { one: [] as Round[], loose: [] as Round[], all: [] as Round[] }
    for (let i = 0; i < WARMING + ROUNDS; i++)
      for (const [name, child] of Object.entries({ one, loose, all }))
        rounds[name as 'one'].push(await round(child))
    const pairOf = (of: Round[]): [number, number] =>
      middlePair(of.slice(WARMING).map((r, i) => [r.wall, rounds.all[WARMING + i]!.wall]))
    const busy = middle(rounds.all.slice(WARMING).map((r) => r.busy / r.wall / 2))
    const [pinned, beside] = pairOf(rounds.one),
      [free, also] = pairOf(rounds.loose)
    return [
      {
        what:
          '500 files, threads warm as a server’s are: throughput of three on two cores, as the ' +
          'server has, against one on one core',
        measured: `${pinned.toFixed(0)} ms against ${beside.toFixed(0)} ms`,
        ratio: pinned / beside,
        wanted: { least: 1.7 },
      },
      {
        what: 'The same against one whose decoder and runtime may use the second core for themselves',
        measured: `${free.toFixed(0)} ms against ${also.toFixed(0)} ms`,
        ratio: free / also,
        wanted: null,
      },
      {
        what: 'Share of both cores that is busy meanwhile',
        measured: `${(busy * 100).toFixed(0)} %`,
        ratio: busy,
        wanted: null,
      },
    ]
  } finally {
    for (const child of [one, loose, all]) child.kill()
  }
}

const openChild = (folder: string, threads: number, pinned: boolean): ChildProcess =>
  fork(
    fileURLToPath(import.meta.url),
    ['--check-folder', folder, String(threads)],
    pinned ? { execPath: 'taskset', execArgv: ['-c', '0', process.execPath] } : {},
  )

const round = (child: ChildProcess): Promise<Round> =>
  new Promise((resolve, reject) => {
    child
      .once('message', (m) => resolve(m as Round))
      .once('exit', (code) => reject(new Error(`a child of the benchmark ended with ${code}`)))
    child.send('again')
  })

/** The child: one engine for all rounds, a round for every message. */
export async function checkFolderOnCall(folder: string, threads: number): Promise<void> {
  const { found } = await findFiles([folder], join(folder, '..'))
  const engine = openEngine(threads)
  process.on('message', () => {
    const began = performance.now(),
      before = process.cpuUsage()
    void checkAll(engine, found, null).then(() => {
      const { user, system } = process.cpuUsage(before)
      process.send!({ wall: performance.now() - began, busy: (user + system) / 1000 } satisfies Round)
    })
  })
}
