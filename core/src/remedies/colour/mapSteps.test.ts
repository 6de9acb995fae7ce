import { describe, expect, it } from 'vitest'
import { mend } from '../../fixtures/mendFixture'
import { fixturePorts, pixelsOf, pngOf } from '../../fixtures/pngFixture'
import { openedCrate } from '../../fixtures/workFixture'
import { normalFromHeight } from '../../image/normalPixels'
import type { Pixels } from '../../image/pixels'
import { slotNotes } from '../../scene/slotNotes'
import { readTextureHeader } from '../../read/readTextureHeader'
import type { Work } from '../work'

const file = (role: string): string => `harbour_crate_a_${role}.png`
async function pixelsIn(work: Work, role: string): Promise<Pixels> {
  const { bytes, name } = work.textures.find((t) => t.name === file(role))!
  const header = readTextureHeader(bytes, name)
  if (!header.ok) throw new Error(header.fault.why)
  const pixels = await fixturePorts.decode(bytes, header.value)
  if (!pixels.ok) throw new Error(pixels.fault.why)
  return pixels.value
}
const channelOf = ({ data, channels }: Pixels, c: number): number[] =>
  [...data].filter((_, k) => k % channels === c)

describe('steps that change what a map holds', () => {
  it('bring roughness into a range, and leave the other channels alone', async () => {
    const work = await openedCrate()
    const before = await pixelsIn(work, 'orm')
    await mend(work, 'colour/set-range', { texture: file('orm'), channel: 'G', least: 0.5, most: 0.6 })
    const after = await pixelsIn(work, 'orm')
    expect(Math.min(...channelOf(after, 1))).toBeGreaterThanOrEqual(127)
    expect(Math.max(...channelOf(after, 1))).toBeLessThanOrEqual(153)
    expect(channelOf(after, 2)).toEqual(channelOf(before, 2))
    expect((await mend(work, 'colour/set-range', { texture: file('orm'), channel: 'A' })).said).toContain(
      'no channel A',
    )
    expect((await mend(work, 'colour/set-range', { texture: file('orm') })).changed).toBe(false)
  })
  it('flatten a normal map, and lay it over itself', async () => {
    const work = await openedCrate()
    const before = await pixelsIn(work, 'normal')
    await mend(work, 'colour/add-detail', { texture: file('normal'), detail: file('normal'), repeats: 2 })
    expect((await pixelsIn(work, 'normal')).data).not.toEqual(before.data)
    await mend(work, 'colour/normal-strength', { texture: file('normal'), strength: 0 })
    const flat = await pixelsIn(work, 'normal')
    expect([...new Set(channelOf(flat, 0)), ...new Set(channelOf(flat, 2))]).toEqual([128, 255])
    await mend(work, 'colour/rebuild-blue', { texture: file('normal') })
    expect((await pixelsIn(work, 'normal')).channels).toBe(3)
    await expect(
      mend(work, 'colour/add-detail', { texture: file('normal'), detail: 'nobody.png' }),
    ).rejects.toThrow('no texture called nobody.png')
  })
  it('find the height of a normal map, beside it, as the height of its slot', async () => {
    const work = await openedCrate({ hull: false })
    const done = await mend(work, 'colour/height-from-normal', { texture: file('normal') })
    expect(done.said).toMatch(/^harbour_crate_a_height\.png: \d+\.\d texels from its lowest to its highest$/)
    const found = await pixelsIn(work, 'height')
    expect([found.channels, found.depth]).toEqual([1, 16])
    expect([Math.min(...found.data), Math.max(...found.data)]).toEqual([0, 65_535])
    expect(slotNotes(work.document!.getRoot().listMaterials()[0]!).inputs).toEqual({
      height: 'harbour_crate_a_height.png',
    })
    // Its own normals are near to those that it was found from
    const [before, again] = [
      await pixelsIn(work, 'normal'),
      normalFromHeight(found, { strength: 1, edge: 'wrap', green: 'up' }),
    ]
    const lean = (p: Pixels): number[] =>
      channelOf(p, 0).map((v) => v / (p.depth === 16 ? 65_535 : 255) - 0.5)
    const [a, b] = [lean(before), lean(again)]
    const dot = (x: number[], y: number[]): number => x.reduce((sum, v, k) => sum + v * y[k]!, 0)
    expect(dot(a, b) / Math.sqrt(dot(a, a) * dot(b, b))).toBeGreaterThan(0.8)
    await expect(
      mend(work, 'colour/height-from-normal', { texture: 'harbour_crate_a_height.png' }),
    ).rejects.toThrow('has no red, green and blue')
  })
  it('turn metallic and roughness into specular and gloss, and back', async () => {
    const work = await openedCrate({ hull: false })
    const before = await pixelsIn(work, 'basecolor')
    await mend(work, 'colour/metal-to-specular')
    expect(work.textures.map((t) => t.name)).toEqual(
      expect.arrayContaining(['harbour_crate_a_diffuse.png', 'harbour_crate_a_specular.png']),
    )
    const [slot] = work.document!.getRoot().listMaterials()
    expect(slot!.listExtensions().map((e) => e.extensionName)).toContain(
      'KHR_materials_pbrSpecularGlossiness',
    )
    expect(slot!.getBaseColorTexture()).toBeNull()
    expect((await mend(work, 'colour/metal-to-specular')).changed).toBe(false)
    await mend(work, 'colour/specular-to-metal')
    const after = await pixelsIn(work, 'basecolor')
    const mean = (p: Pixels): number => [...p.data].reduce((sum, v) => sum + v, 0) / p.data.length
    expect(Math.abs(mean(after) - mean(before))).toBeLessThan(3)
  })
  it('make an alpha of the picture, and keep its colours', async () => {
    const work = await openedCrate()
    const before = await pixelsIn(work, 'basecolor')
    await mend(work, 'colour/alpha-from', { texture: file('basecolor'), from: 'R', inverted: true })
    const after = await pixelsIn(work, 'basecolor')
    expect(after.channels).toBe(4)
    expect(channelOf(after, 1)).toEqual(channelOf(before, 1))
    expect(channelOf(after, 3)).toEqual(channelOf(before, 0).map((v) => 255 - v))
  })
  it('bring 16 bit to 8, and say where it is so already', async () => {
    const work = await openedCrate()
    expect((await mend(work, 'colour/eight-bits', { texture: file('orm') })).changed).toBe(false)
    work.textures.find((t) => t.name === file('orm'))!.bytes = pngOf(
      pixelsOf(8, 8, 3, (x, y) => [x * 8000, y * 8000, 65535], 16),
    )
    await mend(work, 'colour/eight-bits', { texture: file('orm') })
    expect((await pixelsIn(work, 'orm')).depth).toBe(8)
  })
})
