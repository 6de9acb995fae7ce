import { decode } from 'fast-png'
import { describe, expect, it } from 'vitest'
import type { MeshFacts } from '@stern-gate/contract'
import { measureFixture } from '../../fixtures/measureFixture'
import { mend } from '../../fixtures/mendFixture'
import { pixelsOf, pngOf } from '../../fixtures/pngFixture'
import { openedCrate } from '../../fixtures/workFixture'
import { writeWork } from '../../recipe/writeWork'
import { alphaModeOf, packChannels } from '../../image/packChannels'
import type { Work } from '../work'

/** A crate whose one slot has no textures, with loose ones beside it. */
async function bareCrate(loose: Record<string, Uint8Array>): Promise<Work> {
  const work = await openedCrate({ inputs: [], hull: false })
  for (const [name, bytes] of Object.entries(loose))
    work.textures.push({ name, aliases: [], path: `props/${name}`, bytes, pictures: [] })
  return work
}

const flat = (width: number, height: number, value: readonly number[], depth: 8 | 16 = 8) =>
  pngOf(pixelsOf(width, height, value.length as 1 | 3 | 4, () => [...value], depth))
const slotOf = (work: Work) => work.document!.getRoot().listMaterials()[0]!
const nameOfSlot = (work: Work): string => slotOf(work).getName()
const textureOf = (work: Work, picture: unknown) =>
  work.textures.find((t) => t.pictures.includes(picture as never))!

describe('giving textures to a slot', () => {
  it('wires plain maps byte for byte, and takes back the factors that would darken them', async () => {
    const loose = {
      'crate_bc.png': flat(2, 2, [200, 100, 50]),
      'crate_n.png': flat(2, 2, [128, 128, 255]),
      'crate_glow.png': flat(2, 2, [255, 200, 0]),
    }
    const work = await bareCrate(loose)
    slotOf(work).setBaseColorFactor([0.2, 0.2, 0.2, 0.7])
    const done = await mend(work, 'slots/feed', {
      slot: nameOfSlot(work),
      basecolor: 'crate_bc.png',
      normal: 'crate_n.png',
      emissive: 'crate_glow.png',
    })
    expect(done.changed).toBe(true)
    const slot = slotOf(work)
    expect(slot.getBaseColorFactor()).toEqual([1, 1, 1, 0.7])
    expect(slot.getEmissiveFactor()).toEqual([1, 1, 1])
    expect(textureOf(work, slot.getNormalTexture()).name).toBe('crate_n.png')
    const files = await writeWork(work)
    for (const [name, bytes] of Object.entries(loose))
      expect(files.find((f) => f.path === `props/${name}`)!.bytes).toEqual(bytes)
  })

  it('packs single maps into one as glTF reads it, gloss the other way round, sizes brought to one', async () => {
    const work = await bareCrate({
      'crate_ao.png': flat(4, 4, [200]),
      'crate_gloss.png': flat(8, 8, [55]),
      'crate_metal.png': flat(2, 2, [255]),
    })
    await mend(work, 'slots/feed', {
      slot: nameOfSlot(work),
      occlusion: 'crate_ao.png',
      roughness: 'crate_gloss.png',
      gloss: true,
      metallic: 'crate_metal.png',
    })
    const slot = slotOf(work),
      packed = textureOf(work, slot.getMetallicRoughnessTexture())
    expect(packed.name).toBe('crate_orm.png')
    expect(slot.getOcclusionTexture()).toBe(slot.getMetallicRoughnessTexture())
    const { width, height, channels, data } = decode(packed.bytes)
    expect([width, height, channels]).toEqual([8, 8, 3])
    expect([...data.subarray(0, 3)]).toEqual([200, 200, 255])
    // What was packed is not handed on beside it
    expect((await writeWork(work)).map((f) => f.path)).not.toContain('props/crate_ao.png')
  })

  it('repacks a map of another order, and takes one in glTF’s order as it is', async () => {
    const work = await bareCrate({ 'crate_rma.png': flat(2, 2, [10, 20, 30]) })
    const slot = nameOfSlot(work)
    await mend(work, 'slots/feed', { slot, orm: 'crate_rma.png', layout: 'rma' })
    const packed = textureOf(work, slotOf(work).getMetallicRoughnessTexture())
    expect([...decode(packed.bytes).data.subarray(0, 3)]).toEqual([30, 10, 20])

    const plain = await bareCrate({ 'crate_orm.png': flat(2, 2, [10, 20, 30]) })
    await mend(plain, 'slots/feed', { slot: nameOfSlot(plain), orm: 'crate_orm.png' })
    expect(plain.textures.filter((t) => t.pictures.length > 0).map((t) => t.name)).toEqual(['crate_orm.png'])
  })

  it('makes one packed map for two slots that have the same', async () => {
    const work = await openedCrate({ inputs: [], hull: false, faceSlots: ['crate-pine', 'crate-band'] })
    for (const [name, value] of [
      ['wood_rough.png', 90],
      ['wood_metal.png', 0],
    ] as const)
      work.textures.push({
        name,
        aliases: [],
        path: `props/${name}`,
        bytes: flat(2, 2, [value]),
        pictures: [],
      })
    for (const slot of ['crate-pine', 'crate-band'])
      await mend(work, 'slots/feed', { slot, roughness: 'wood_rough.png', metallic: 'wood_metal.png' })
    const written = await writeWork(work)
    expect(written.map((f) => f.path).filter((p) => p.endsWith('.png'))).toEqual(['props/wood_orm.png'])
  })

  it('puts opacity into the alpha of the base colour: cut out where it is two-valued, blended where not', async () => {
    const leaf = pngOf(pixelsOf(4, 4, 1, (x) => [x < 2 ? 0 : 255])),
      mist = pngOf(pixelsOf(4, 4, 1, (x) => [40 * x]))
    for (const [opacity, mode] of [
      [leaf, 'MASK'],
      [mist, 'BLEND'],
    ] as const) {
      const work = await bareCrate({ 'kelp_bc.png': flat(4, 4, [90, 120, 40]), 'kelp_op.png': opacity })
      await mend(work, 'slots/feed', {
        slot: nameOfSlot(work),
        basecolor: 'kelp_bc.png',
        opacity: 'kelp_op.png',
      })
      const base = decode(textureOf(work, slotOf(work).getBaseColorTexture()).bytes)
      expect([...base.data.subarray(8, 12)]).toEqual([90, 120, 40, mode === 'MASK' ? 255 : 80])
      expect(slotOf(work).getAlphaMode()).toBe(mode)
    }
  })

  it('keeps 16 bits, and takes the channel that is asked for', async () => {
    const work = await bareCrate({ 'crate_maps.png': flat(2, 2, [1000, 2000, 3000, 40000], 16) })
    await mend(work, 'slots/feed', {
      slot: nameOfSlot(work),
      roughness: 'crate_maps.png',
      channels: 'roughness:A',
    })
    const { data, depth } = decode(textureOf(work, slotOf(work).getMetallicRoughnessTexture()).bytes)
    expect(depth).toBe(16)
    expect([...data.subarray(0, 3)]).toEqual([65535, 40000, 65535])
  })

  it('notes height and mask where glTF has no input, and the measure finds them again', async () => {
    const work = await bareCrate({
      'crate_height.png': flat(2, 2, [7]),
      'crate_tint.png': flat(2, 2, [255, 0, 0]),
    })
    await mend(work, 'slots/feed', {
      slot: nameOfSlot(work),
      height: 'crate_height.png',
      tint: 'crate_tint.png',
    })
    const files = await writeWork(work)
    const measured = await measureFixture(Object.fromEntries(files.map((f) => [f.path, f.bytes])))
    const facts = measured.find((f) => f.facts?.kind === 'mesh')!.facts as MeshFacts
    const noted = facts.slots![0]!.textures.map((t) => [t.field, facts.file.images[t.image!]!.uri])
    expect(noted).toEqual([
      ['height', 'props/crate_height.png'],
      ['tint', 'props/crate_tint.png'],
    ])
  })

  it('says what is not there', async () => {
    const work = await bareCrate({})
    await expect(mend(work, 'slots/feed', { slot: 'nobody' })).rejects.toThrow('No slot is called nobody')
    await expect(mend(work, 'slots/feed', { slot: nameOfSlot(work), normal: 'x.png' })).rejects.toThrow(
      'x.png',
    )
  })
})

describe('packing channels', () => {
  it('puts each where it was asked to stand, the other way round where that is asked', () => {
    const grey = pixelsOf(1, 1, 1, () => [50]),
      four = pixelsOf(1, 1, 4, () => [1, 2, 3, 4])
    const packed = packChannels([
      { pixels: grey, channel: 'B', inverted: true },
      { pixels: four, channel: 'A', inverted: false },
      0.5,
      { pixels: pixelsOf(1, 1, 3, () => [9, 9, 9]), channel: 'A', inverted: false },
    ])
    // A grey picture has its value in every channel; a missing alpha is full; half of 255 is 128
    expect([...packed.data]).toEqual([205, 4, 128, 255])
  })
  it('tells what an alpha asks for', () => {
    const alpha = (values: number[]) => pixelsOf(values.length, 1, 4, (x) => [0, 0, 0, values[x]!])
    expect(alphaModeOf(alpha([255, 255]))).toBe('opaque')
    expect(alphaModeOf(alpha([0, 255, 3, 250]))).toBe('cutout')
    expect(alphaModeOf(alpha([0, 128, 255, 255]))).toBe('blend')
    expect(alphaModeOf(pixelsOf(1, 1, 3, () => [1, 2, 3]))).toBe('opaque')
  })
})

describe('a first base colour', () => {
  it('takes the place of the slot’s own colour, or is coloured by it', async () => {
    const colourAfter = async (tinted: boolean) => {
      const work = await openedCrate({
        inputs: [],
        baseColour: [0.2, 0.3, 0.1, 0.5],
        loose: { 'a_basecolor.png': 'copy-of-basecolor' },
      })
      await mend(work, 'slots/feed', { slot: 'crate-wood', basecolor: 'a_basecolor.png', tinted })
      const slot = work.document!.getRoot().listMaterials()[0]!
      expect(slot.getBaseColorTexture()).not.toBeNull()
      return slot.getBaseColorFactor()
    }
    expect(await colourAfter(false)).toEqual([1, 1, 1, 0.5])
    expect(await colourAfter(true)).toEqual([0.2, 0.3, 0.1, 0.5])
  })
})
