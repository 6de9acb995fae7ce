import type { MeshFacts, SecondLayer } from '@stern-gate/contract'
import { describe, expect, it } from 'vitest'
import { measureFixture } from '../../fixtures/measureFixture'
import { mend } from '../../fixtures/mendFixture'
import { openedCrate } from '../../fixtures/workFixture'
import { writeWork } from '../../recipe/writeWork'
import { firstLayer, layerAfter, layerOf, optionsOfLayer } from '../../surfaces/secondLayer'

const slot = 'crate-wood'

async function slotAfter(...steps: Record<string, string | number | boolean | null>[]) {
  const work = await openedCrate({ hull: false })
  for (const options of steps) await mend(work, 'slots/second-layer', { slot, ...options })
  const files = Object.fromEntries((await writeWork(work)).map((f) => [f.path, f.bytes]))
  const mesh = (await measureFixture(files)).find((f) => f.facts?.kind === 'mesh')!.facts as MeshFacts
  return mesh.slots![0]!
}

describe('a second layer', () => {
  it('stands in the written file with all that was said of it', async () => {
    const { layer } = await slotAfter({
      by: 'ramp',
      axis: 'u',
      from: 0.25,
      to: 0.75,
      colour: '#ffffff',
      roughness: 0.9,
      mode: 'multiply',
      strength: 0.5,
      uv: 0,
    })
    expect(layer).toEqual({
      by: { kind: 'ramp', axis: 'u', from: 0.25, to: 0.75 },
      inverted: false,
      strength: 0.5,
      mode: 'multiply',
      colour: [1, 1, 1],
      roughness: 0.9,
      roughnessMost: null,
      roughnessChannel: 'G',
      metallic: null,
      normal: 1,
      uv: 0,
      tiling: 1,
    })
  })
  it('is what its last step says, and its texture is one of the slot', async () => {
    const texture = 'harbour_crate_a_basecolor.png'
    const first = await slotAfter({ texture, tiling: 4 })
    expect(first.textures.find((t) => t.field === 'layer')).toMatchObject({ input: 'other' })
    const next = await slotAfter({ texture, tiling: 4 }, { by: 'mask', channel: 'B' })
    expect(next.layer).toMatchObject({ by: { kind: 'mask', channel: 'B' }, tiling: 1 })
    expect(next.textures.some((t) => t.field === 'layer')).toBe(false)
  })
  it('has normals and a range of roughness of its own', async () => {
    const normalTexture = 'harbour_crate_a_normal.png',
      roughnessTexture = 'harbour_crate_a_orm.png'
    const { layer, textures } = await slotAfter({
      normalTexture,
      roughnessTexture,
      roughnessChannel: 'B',
      roughness: 0.2,
      roughnessMost: 0.7,
      normal: 1.5,
      tiling: 3,
      uv: 1,
    })
    expect(layer).toMatchObject({ roughness: 0.2, roughnessMost: 0.7, roughnessChannel: 'B', normal: 1.5 })
    const lie = { input: 'other', channel: 1, placement: { tiling: [3, 3], offset: [0, 0], turn: 0 } }
    expect(textures.find((t) => t.field === 'layerNormal')).toMatchObject(lie)
    expect(textures.find((t) => t.field === 'layerRoughness')).toMatchObject(lie)
  })
  it('is taken off by name', async () => {
    const { layer, textures } = await slotAfter({ texture: 'harbour_crate_a_basecolor.png' }, { by: 'none' })
    expect([layer, textures.some((t) => t.field === 'layer')]).toEqual([null, false])
  })
  it('says so where the slot has it already', async () => {
    const work = await openedCrate({ hull: false })
    expect((await mend(work, 'slots/second-layer', { slot })).changed).toBe(true)
    expect((await mend(work, 'slots/second-layer', { slot })).changed).toBe(false)
    await expect(mend(work, 'slots/second-layer', { slot, texture: 'none.png' })).rejects.toThrow()
  })
  it('goes into options and back', () => {
    const layers: SecondLayer['by'][] = [
      { kind: 'vertex', set: 2, channel: 'A' },
      { kind: 'mask', channel: 'G' },
      { kind: 'ramp', axis: 'u', from: 1, to: 0 },
    ]
    for (const by of layers) {
      const layer = { ...layerOf(firstLayer)!, by, inverted: true }
      expect(layerOf(optionsOfLayer(layer))).toEqual(layer)
    }
    expect(layerOf({ ...firstLayer, by: 'none' })).toBeNull()
    expect(layerAfter(null, {})).toBeNull()
    expect(layerAfter(null, { strength: 0.5 })).toMatchObject({ strength: 0.5 })
  })
})
