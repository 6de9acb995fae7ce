import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { expect, it } from 'vitest'
import { countTopology } from '@stern-gate/core'
import { crateFiles } from '@stern-gate/core/fixtures'
import { measureFile } from './measureFile'
import { topologyThread } from './topologyThread'

const built = (name: string) => pathToFileURL(join(import.meta.dirname, '../../dist', name))

/** A grid of side × side squares with its corners numbered row by row. */
function sheet(side: number) {
  const places = new Float32Array((side + 1) ** 2 * 3).map((_, k) =>
    k % 3 === 0 ? Math.floor(k / 3) % (side + 1) : k % 3 === 1 ? Math.floor(k / 3 / (side + 1)) : 0,
  )
  const corners = new Uint32Array(side * side * 6)
  for (let y = 0, at = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      const v = y * (side + 1) + x
      for (const c of [v, v + 1, v + side + 2, v, v + side + 2, v + side + 1]) corners[at++] = c
    }
  return { corners, places, winding: 'plain' as const, nearDistance: 1e-3 }
}

it('counts the same as here, several in turn, and leaves the places alone', async () => {
  const thread = topologyThread(built('topology-worker.js'))
  const [a, b, small] = [sheet(250), sheet(230), sheet(3)]
  const [first, second, third] = await Promise.all(
    [a, b, small].map((input) => thread.count({ ...input, corners: input.corners.slice() })),
  )
  for (const [count, input] of [
    [first!, a],
    [second!, b],
    [third!, small],
  ] as const) {
    const {
      topology: { flags, shell, ...counts },
      near,
    } = countTopology(input)
    expect(count).toMatchObject({ topology: counts, near })
    expect([
      Buffer.compare(count.topology.flags, flags),
      Buffer.compare(Buffer.from(count.topology.shell.buffer), Buffer.from(shell.buffer)),
    ]).toEqual([0, 0])
  }
  expect(first!.topology).toMatchObject({ openEdges: 1000, shells: 1, nonManifoldEdges: 0 })
  expect(a.places).toHaveLength(251 * 251 * 3)
})

it('a thread that breaks fails what was asked of it, and nothing hangs', async () => {
  const thread = topologyThread(built('no-such-worker.js'))
  await expect(thread.count(sheet(250))).rejects.toThrow(/no-such-worker/)
  await expect(thread.count(sheet(250))).rejects.toThrow(/no-such-worker/)
})

it('gives a large mesh the same facts as measuring it in one thread', async () => {
  const bytes = (await crateFiles({ grid: 110, hull: false }))['props/harbour_crate_a.glb']!
  const around = { find: () => null, progress: () => undefined, thumbnail: false }
  const apart = await measureFile('a.glb', bytes, {
    ...around,
    topology: topologyThread(built('topology-worker.js')).count,
  })
  const alone = await measureFile('a.glb', bytes, around)
  expect(alone.measured.facts).toMatchObject({
    kind: 'mesh',
    nodes: [{ primitives: [{ triangles: 145_200 }] }],
  })
  expect(apart.measured).toEqual(alone.measured)
  expect(Buffer.compare(apart.evidence!, alone.evidence!)).toBe(0)
})
