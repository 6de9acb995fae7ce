import { describe, expect, it } from 'vitest'
import type { MeshFacts } from '@stern-gate/contract'
import { judge } from '../../judge/judge'
import { wordsOfInput } from '../../rulebook/inputWords'
import { measureFixture, subjectsOf } from '../../fixtures/measureFixture'
import { mend } from '../../fixtures/mendFixture'
import { openedCrate } from '../../fixtures/workFixture'
import { writeWork } from '../../recipe/writeWork'
import { detailAfter, firstDetail } from '../../surfaces/detailMap'

const slot = 'crate-wood',
  texture = 'harbour_crate_a_basecolor.png',
  normalTexture = 'harbour_crate_a_normal.png'

async function slotAfter(...steps: Record<string, string | number | null>[]) {
  const work = await openedCrate({ hull: false })
  for (const options of steps) await mend(work, 'slots/detail', { slot, ...options })
  const files = Object.fromEntries((await writeWork(work)).map((f) => [f.path, f.bytes]))
  const mesh = (await measureFixture(files)).find((f) => f.facts?.kind === 'mesh')!.facts as MeshFacts
  return mesh.slots![0]!
}

describe('a detail map', () => {
  it('stands in the written file with its textures, on the channel and as often as it was said', async () => {
    const { detail, textures } = await slotAfter({
      texture,
      normalTexture,
      tiling: 12,
      colour: 0.4,
      normal: 2,
    })
    expect(detail).toEqual({ uv: 0, tiling: 12, colour: 0.4, normal: 2 })
    for (const field of ['detail', 'detailNormal'])
      expect(textures.find((t) => t.field === field)).toMatchObject({
        input: 'other',
        channel: 0,
        placement: { tiling: [12, 12], offset: [0, 0], turn: 0 },
      })
  })
  it('may have one of its textures alone, and is off without both', async () => {
    const one = await slotAfter({ texture, normalTexture }, { normalTexture })
    expect(one.detail).toEqual(firstDetail)
    expect(one.textures.map((t) => t.field).filter((f) => f.startsWith('detail'))).toEqual(['detailNormal'])
    const none = await slotAfter({ texture, normalTexture }, {})
    expect(none.detail).toBeNull()
    expect(none.textures.some((t) => t.field.startsWith('detail'))).toBe(false)
  })
  it('says so where nothing changes, and refuses a texture that is not there', async () => {
    const work = await openedCrate({ hull: false })
    expect(await mend(work, 'slots/detail', { slot })).toMatchObject({ changed: false })
    expect(await mend(work, 'slots/detail', { slot, texture })).toMatchObject({ changed: true })
    expect(await mend(work, 'slots/detail', { slot, texture })).toMatchObject({ changed: false })
    await expect(mend(work, 'slots/detail', { slot, texture: 'none.png' })).rejects.toThrow()
  })
  it('tells rules what its textures carry: colours, and normals that no name needs to say', async () => {
    const work = await openedCrate({ hull: false, inputs: ['basecolor'] })
    await mend(work, 'slots/detail', { slot, texture, normalTexture: texture })
    const files = Object.fromEntries((await writeWork(work)).map((f) => [f.path, f.bytes]))
    const [both] = await subjectsOf(files)
    // One picture is colours and normals: that cannot be
    const found = judge(both!).findings.filter((f) => f.rule === 'colour/space')
    expect(found.map((f) => f.message)).toEqual(['both'])
    const alone = await openedCrate({ hull: false })
    await mend(alone, 'slots/detail', { slot, texture, normalTexture })
    const [fine] = await subjectsOf(
      Object.fromEntries((await writeWork(alone)).map((f) => [f.path, f.bytes])),
    )
    expect(judge(fine!).findings.filter((f) => f.rule === 'colour/space')).toEqual([])
    expect(wordsOfInput('other', 'detailNormal')).toBe('detail normal')
  })
  it('is tried over what the slot has', () => {
    const has = { uv: 1, tiling: 4, colour: 0.5, normal: 1 }
    expect(detailAfter(has, {})).toEqual(has)
    expect(detailAfter(has, { tiling: 9 })).toEqual({ ...has, tiling: 9 })
    expect(detailAfter(null, { texture: 'a' })).toEqual(firstDetail)
    expect(detailAfter(has, { texture: null, normalTexture: null })).toBeNull()
    expect(detailAfter(null, {})).toBeNull()
  })
})
