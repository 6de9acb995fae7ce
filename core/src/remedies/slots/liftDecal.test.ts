import type { MeshFacts } from '@stern-gate/contract'
import { describe, expect, it } from 'vitest'
import { measureFixture } from '../../fixtures/measureFixture'
import { mend } from '../../fixtures/mendFixture'
import { openedCrate } from '../../fixtures/workFixture'
import { writeWork } from '../../recipe/writeWork'
import type { Work } from '../work'

async function gapsOf(work: Work) {
  const files = Object.fromEntries((await writeWork(work)).map((f) => [f.path, f.bytes]))
  const [mesh] = (await measureFixture(files)).filter((f) => f.facts?.kind === 'mesh')
  return (mesh!.facts as MeshFacts).decals.find((d) => d.slot === 'crate-number')!
}

describe('a decal put off its surface', () => {
  it('lies so far off all over, under a turned and stretched node, too', async () => {
    const work = await openedCrate({ decal: 0, nodeScale: [2, 1, 0.5], nodeTurn: 30 })
    expect((await gapsOf(work)).middle).toBeCloseTo(0, 6)
    const done = await mend(work, 'slots/lift-decal', { slot: 'crate-number', gap: 0.004 })
    expect(done).toMatchObject({ changed: true, said: 'crate-number lies 4 mm off, moved by up to 4 mm' })
    const { least, most, over } = await gapsOf(work)
    expect([least, most]).toEqual([expect.closeTo(0.004, 5), expect.closeTo(0.004, 5)])
    expect(over).toBe(1)
    expect((await mend(work, 'slots/lift-decal', { slot: 'crate-number', gap: 0.004 })).changed).toBe(false)
  })
  it('is moved back where it stood too far off, and refused where nothing lies under it', async () => {
    const work = await openedCrate({ decal: 0.015 })
    await mend(work, 'slots/lift-decal', { slot: 'crate-number', gap: 0.002 })
    expect((await gapsOf(work)).most).toBeCloseTo(0.002, 5)
    await expect(mend(await openedCrate(), 'slots/lift-decal', { slot: 'crate-wood' })).rejects.toThrow(
      'Nothing lies under crate-wood',
    )
  })
})
