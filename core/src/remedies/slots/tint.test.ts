import type { MeshFacts } from '@stern-gate/contract'
import { describe, expect, it } from 'vitest'
import { measureFixture } from '../../fixtures/measureFixture'
import { mend } from '../../fixtures/mendFixture'
import { openedCrate } from '../../fixtures/workFixture'
import { writeWork } from '../../recipe/writeWork'
import { maskOfSlot, type MaskCandidate } from '../../surfaces/maskOfSlot'

const slot = 'crate-wood'

async function factsAfter(...steps: Record<string, unknown>[]) {
  const work = await openedCrate({ hull: false })
  for (const options of steps) await mend(work, 'slots/tint', { slot, ...options })
  const files = Object.fromEntries((await writeWork(work)).map((f) => [f.path, f.bytes]))
  const mesh = (await measureFixture(files)).find((f) => f.facts?.kind === 'mesh')!.facts as MeshFacts
  return mesh.slots![0]!
}

describe('the tint of a slot', () => {
  it('is declared by channel, and stands in the written file', async () => {
    const { tints, alphaMeaning } = await factsAfter({
      red: '#ff8000',
      blue: '#ffffff',
      blueStrength: 0.25,
      alphaMeans: 'gloss',
    })
    expect(tints.map((t) => [t.channel, t.strength])).toEqual([
      ['R', 1],
      ['B', 0.25],
    ])
    // sRGB 128 is 0.2159 in linear light
    expect(tints[0]!.colour.map((v) => Number(v.toFixed(4)))).toEqual([1, 0.2159, 0])
    expect(alphaMeaning).toBe('gloss')
  })
  it('keeps what a later step does not speak of, and ends where that says none', async () => {
    const { tints } = await factsAfter(
      { red: '#ff0000', redStrength: 0.5, green: '#00ff00' },
      { red: '#0000ff', green: 'none' },
    )
    expect(tints).toEqual([{ channel: 'R', colour: [0, 0, 1], strength: 0.5 }])
  })
  it('declares nothing by a strength alone, and says so', async () => {
    const work = await openedCrate({ hull: false })
    expect((await mend(work, 'slots/tint', { slot, redStrength: 0.5 })).changed).toBe(false)
    await expect(mend(work, 'slots/tint', { slot, red: 'red' })).rejects.toThrow('#rrggbb')
  })
})

describe('the mask of a slot', () => {
  const texture = (name: string, role: MaskCandidate['role'], uses: MaskCandidate['uses'] = []) => ({
    name,
    role,
    uses,
  })
  const base = texture('boat_hull_bc.png', 'basecolor', [
    { slot: 'hull', input: 'basecolor', field: 'baseColorTexture' },
  ])
  const sail = texture('boat_sail_mask.png', 'tint'),
    hull = texture('boat_hull_mask.png', 'tint')
  it('is the one it is fed with, else that of its set, else the only one', () => {
    const fed = texture('other.png', null, [{ slot: 'hull', input: 'other', field: 'tint' }])
    expect(maskOfSlot([base, sail, hull, fed], 'hull')).toBe(fed)
    expect(maskOfSlot([base, sail, hull], 'hull')).toBe(hull)
    expect(maskOfSlot([base, sail], 'hull')).toBe(sail)
    expect(maskOfSlot([sail, hull], 'deck')).toBeUndefined()
  })
})
