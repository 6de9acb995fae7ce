import { describe, expect, it } from 'vitest'
import { mend } from '../../fixtures/mendFixture'
import { fixturePorts } from '../../fixtures/pngFixture'
import { openedCrate } from '../../fixtures/workFixture'
import { readTextureHeader } from '../../read/readTextureHeader'
import type { Work } from '../work'

const NAME = 'harbour_crate_a_orm.png'
async function texel(work: Work, at: number): Promise<number[]> {
  const bytes = work.textures.find((t) => t.name === NAME)!.bytes
  const header = readTextureHeader(bytes, NAME)
  if (!header.ok) throw new Error(header.fault.why)
  const pixels = await fixturePorts.decode(bytes, header.value)
  if (!pixels.ok) throw new Error(pixels.fault.why)
  const { channels, data } = pixels.value
  return [...data.subarray(at * channels, (at + 1) * channels)]
}
const repacked = async (from: string, to: string): Promise<[before: number[], after: number[]]> => {
  const work = await openedCrate()
  const before = await texel(work, 70)
  await mend(work, 'colour/repack', { texture: NAME, from, to })
  return [before, await texel(work, 70)]
}

describe('channels repacked', () => {
  it('stand in the order that is wanted, and come back', async () => {
    const [[r, g, b], after] = await repacked('mro', 'orm')
    expect(after).toEqual([b, g, r])
    const work = await openedCrate()
    const before = await texel(work, 70)
    await mend(work, 'colour/repack', { texture: NAME, from: 'mro', to: 'rom' })
    await mend(work, 'colour/repack', { texture: NAME, from: 'rom', to: 'mro' })
    expect(await texel(work, 70)).toEqual(before)
  })
  it('turn gloss to roughness, and fill what the map has not', async () => {
    const [[r, g], after] = await repacked('ogx', 'orm')
    expect(after).toEqual([r, 255 - g!, 0])
    const [[, , b], two] = await repacked('xxm', 'orm')
    expect(two).toEqual([255, 255, b])
  })
  it('leave a channel alone for which nothing is wanted', async () => {
    const [[r, g, b], after] = await repacked('xmr', 'xrm')
    expect(after).toEqual([r, b, g])
  })
  it('say when nothing changes, and refuse an order that the map cannot have', async () => {
    const work = await openedCrate()
    expect((await mend(work, 'colour/repack', { texture: NAME, from: 'orm', to: 'orm' })).changed).toBe(false)
    await expect(mend(work, 'colour/repack', { texture: NAME, from: 'bad', to: 'orm' })).rejects.toThrow()
  })
})
