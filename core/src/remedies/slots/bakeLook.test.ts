import { decode } from 'fast-png'
import { describe, expect, it } from 'vitest'
import type { SecondLayer } from '@stern-gate/contract'
import type { CrateOptions } from '../../fixtures/crateFixture'
import { measureFixture, subjectsOf } from '../../fixtures/measureFixture'
import { mend } from '../../fixtures/mendFixture'
import { openedCrate } from '../../fixtures/workFixture'
import { writeWork } from '../../recipe/writeWork'
import { noteOfSlot, slotNotes } from '../../scene/slotNotes'

const BAKE = 'slots/bake-look',
  SLOT = 'crate-wood'
const byVertex: SecondLayer = {
  by: { kind: 'vertex', set: 0, channel: 'R' },
  inverted: false,
  strength: 1,
  mode: 'mix',
  colour: [0, 0, 0],
  roughness: 0.1,
  roughnessMost: null,
  roughnessChannel: 'G',
  normal: 1,
  metallic: null,
  uv: 0,
  tiling: 1,
}
const crate: CrateOptions = { uvs: 'atlas', colours: 'varied', layer: byVertex, textureSize: [64, 64] }

async function baked(options: CrateOptions, more: Record<string, unknown> = {}) {
  const work = await openedCrate(options)
  const done = await mend(work, BAKE, { slot: SLOT, ...more })
  const files = Object.fromEntries((await writeWork(work)).map((f) => [f.path, f.bytes]))
  return { done, files, work }
}

describe('baking the look of a slot', () => {
  it('gives it maps of their own and takes the layer off', async () => {
    const { files, done } = await baked(crate)
    expect(done).toMatchObject({ changed: true })
    expect(done.said).toMatch(/texels of 64 × 64 show its look$/)
    const [subject] = await subjectsOf(files)
    const slot = subject!.mesh!.slots![0]!
    expect(slot.layer).toBeNull()
    expect([slot.roughness, slot.baseColour]).toEqual([1, [1, 1, 1, 1]])
    const used = subject!.textures.filter((t) => t.uses.length > 0).map((t) => t.name)
    expect(used).toContain('crate-wood_look_basecolor.png')
    expect(used).toContain('crate-wood_look_orm.png')
    // The maps that it was made of go, the normal map stays
    expect(subject!.textures.map((t) => t.name)).not.toContain('harbour_crate_a_basecolor.png')
    expect(used).toContain('harbour_crate_a_normal.png')
  })
  it('joins the normals of a detail map with those of the slot, and takes it off', async () => {
    const work = await openedCrate({ uvs: 'atlas', textureSize: [64, 64] })
    const normalTexture = 'harbour_crate_a_normal.png'
    await mend(work, 'slots/detail', { slot: SLOT, normalTexture, tiling: 2 })
    await mend(work, BAKE, { slot: SLOT })
    const files = Object.fromEntries((await writeWork(work)).map((f) => [f.path, f.bytes]))
    const [subject] = await subjectsOf(files)
    const slot = subject!.mesh!.slots![0]!
    expect([slot.detail, slot.values!.normalStrength]).toEqual([null, 1])
    expect(slot.textures.map((t) => t.field)).not.toContain('detailNormal')
    const normal = subject!.textures.find((t) => t.uses.some((u) => u.field === 'normalTexture'))!
    expect(normal.name).toBe('crate-wood_look_normal.png')
    // Unit vectors that lean where both lean
    expect(normal.facts!.normal!.meanLength).toBeCloseTo(1, 2)
    expect(subject!.textures.map((t) => t.name)).not.toContain(normalTexture)
  })
  it('refuses to join normals of different UV channels', async () => {
    const work = await openedCrate({ uvs: 'atlas', lightmap: 'atlas', textureSize: [64, 64] })
    await mend(work, 'slots/detail', { slot: SLOT, normalTexture: 'harbour_crate_a_normal.png', uv: 1 })
    await expect(mend(work, BAKE, { slot: SLOT })).rejects.toThrow(
      'The maps are baked on UV0, and the normal map of its detail is laid on UV1.',
    )
  })
  it('refuses what overlaps, and bakes it on another channel', async () => {
    const tiled: CrateOptions = { ...crate, uvs: 'good', lightmap: 'atlas', folder: 'structures' }
    await expect(baked(tiled)).rejects.toThrow(
      /% of the texels on UV0 are shared by places that look different/,
    )
    const { files } = await baked(tiled, { uv: 1, side: 128 })
    const [subject] = await subjectsOf(files)
    const base = subject!.mesh!.slots![0]!.textures.find((t) => t.input === 'basecolor')!
    expect(base.channel).toBe(1)
    const texture = subject!.textures.find((t) => t.name === 'crate-wood_look_basecolor.png')!
    expect([texture.facts!.header.width, texture.facts!.header.height]).toEqual([128, 128])
    await expect(baked(tiled, { uv: 4 })).rejects.toThrow('A part of the slot has no UV4.')
  })
  it('bakes tints alone into the base colour, and leaves the packed map', async () => {
    const tinted: CrateOptions = {
      uvs: 'atlas',
      tints: 'R',
      textureSize: [64, 64],
      loose: { 'harbour_crate_a_tint.png': 'mask-red' },
    }
    const { files } = await baked(tinted, { mask: 'harbour_crate_a_tint.png' })
    const [subject] = await subjectsOf(files)
    expect(subject!.mesh!.slots![0]!.tints).toEqual([])
    const names = subject!.textures.filter((t) => t.uses.length > 0).map((t) => t.name)
    expect(names).toContain('harbour_crate_a_orm.png')
    expect(names).not.toContain('crate-wood_look_orm.png')
    const meanOf = async (of: Record<string, Uint8Array>, part: string) => {
      const facts = (await measureFixture(of)).find((f) => f.path.includes(part))!.facts
      return facts?.kind === 'texture' ? facts.channels!.map((c) => c.mean) : []
    }
    const before = (await openedCrate(tinted)).textures.find((t) => t.name.includes('basecolor'))!
    const was = await meanOf({ 'x/a_basecolor.png': before.bytes }, 'basecolor'),
      is = await meanOf(files, 'look_basecolor')
    // Red of the mask is full over half of the sheet: what is tinted there got darker
    expect(is.some((mean, c) => mean < was[c]! - 0.01)).toBe(true)
  })
  it('has nothing to do without tints and layer, and says what is missing of a mask', async () => {
    expect((await baked({ uvs: 'atlas' })).done).toMatchObject({ changed: false })
    const masked = { ...crate, layer: { ...byVertex, by: { kind: 'mask' as const, channel: 'G' as const } } }
    await expect(baked(masked)).rejects.toThrow('The layer lies by a mask')
    await expect(baked({ uvs: 'atlas', tints: 'R' })).rejects.toThrow('Tints lie by a mask')
  })
  it('goes on with the occlusion of a packed map, and keeps alpha and what others need', async () => {
    const work = await openedCrate({
      ...crate,
      baseColour: [0.5, 0.5, 0.5, 0.4],
      layer: { ...byVertex, by: { kind: 'mask', channel: 'R' } },
      loose: { 'harbour_crate_a_tint.png': 'mask-red' },
      faceSlots: [SLOT, 'crate-iron'],
    })
    const [slot, other] = work.document!.getRoot().listMaterials()
    const mask = 'harbour_crate_a_tint.png'
    // Both wear one packed map for occlusion, too, and one mask
    for (const one of [slot!, other!]) {
      noteOfSlot(one, { inputs: { tint: mask } })
      one.setOcclusionTexture(one.getMetallicRoughnessTexture())
    }
    await mend(work, BAKE, { slot: SLOT })
    expect(slot!.getBaseColorFactor()).toEqual([1, 1, 1, 0.4])
    expect(slot!.getOcclusionTexture()).toBe(slot!.getMetallicRoughnessTexture())
    expect(slot!.getOcclusionTexture()!.getName()).toBe('crate-wood_look_orm')
    expect(slotNotes(slot!)).toEqual({})
    expect(other!.getOcclusionTexture()!.getName()).not.toBe('crate-wood_look_orm')
    expect(slotNotes(other!).inputs).toEqual({ tint: mask })
    // The other slot still needs the mask and the maps that both wore
    expect(work.textures.filter((t) => t.spent).map((t) => t.name)).toEqual([])
    const packed = work.textures.find((t) => t.name === 'crate-wood_look_orm.png')!
    const pixels = decode(packed.bytes),
      before = decode(work.textures.find((t) => t.name === 'harbour_crate_a_orm.png')!.bytes)
    // Red is occlusion: the same as before in the middle of a face
    const at = 10 * 64 + 10
    expect(pixels.data[at * 3]).toBeGreaterThan(0)
    expect(pixels.data[at * 3]).toBe(before.data[at * 3])
  })
})
