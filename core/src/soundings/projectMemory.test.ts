import { describe, expect, it } from 'vitest'
import { crateFiles } from '../fixtures/crateFixture'
import { subjectsOf } from '../fixtures/measureFixture'
import { textureMemory } from '../image/textureMemory'
import { defaultRulebook } from '../rulebook/defaultRulebook'
import { judge } from '../judge/judge'
import { memoryAt, savingRules } from './projectMemory'

const desk = defaultRulebook.targets['desk']!,
  handheld = defaultRulebook.targets['handheld']!
const square = (side: number) => ({ width: side, height: side })

async function memoryOf(files: Record<string, Uint8Array>[], target = desk, name = 'desk') {
  const memory = memoryAt(name, target)
  for (const [i, own] of files.entries())
    for (const subject of await subjectsOf(own)) {
      const here = { ...subject, target, targetName: name }
      memory.add(`a${i}`, here, judge(here, savingRules).findings)
    }
  return memory.sum()
}

describe('the texture memory of a project', () => {
  it('is what the target stores each texture as, with mips, by asset and role', async () => {
    const found = await memoryOf([await crateFiles({ textureSize: [64, 64] })])
    // BC7 for base colour and packed map, BC5 for the normal map: 16 bytes a block each
    const one = textureMemory(square(64), 'BC7')
    expect(one).toBe(16 * (256 + 64 + 16 + 4 + 1 + 1 + 1))
    expect(found).toMatchObject({
      bytes: 3 * one,
      textures: 3,
      shared: 0,
      limit: 2048 * 1024 * 1024,
      assets: [{ asset: 'a0', name: 'harbour_crate_a', class: 'prop', bytes: 3 * one }],
    })
    expect(found.roles.map((r) => r.role).sort()).toEqual(['basecolor', 'normal', 'orm'])
    expect(found.roles.reduce((sum, r) => sum + r.bytes, 0)).toBe(found.bytes)
  })
  it('counts a texture that several assets share once, and says what that saves', async () => {
    const crate = await crateFiles({ textureSize: [64, 64] })
    const found = await memoryOf([crate, crate])
    expect([found.textures, found.assets.length]).toEqual([3, 1])
    expect(found.shared).toBe(found.bytes)
  })
  it('offers what saves most, each by the step that does it', async () => {
    const found = await memoryOf([
      await crateFiles({ textureSize: [512, 512], basecolorAs: 'soft' }),
      await crateFiles({
        name: 'harbour_box_a',
        textureName: 'harbour_box_a',
        textureSize: [128, 128],
        basecolorAs: 'flat',
      }),
    ])
    expect(found.savings.map((s) => [s.texture, s.why, s.remedy, s.width])).toEqual([
      ['harbour_crate_a_basecolor.png', 'empty', 'compression/resize', 128],
      ['harbour_box_a_basecolor.png', 'flat', 'colour/shrink', 4],
    ])
    const [soft, flat] = found.savings
    expect(soft!.saves).toBe(textureMemory(square(512), 'BC7') - textureMemory(square(soft!.width), 'BC7'))
    expect(flat!.saves).toBe(textureMemory(square(128), 'BC7') - textureMemory(square(4), 'BC7'))
  })
  it('offers what is over the largest side of the target, and nothing where nothing is to be had', async () => {
    const files = await crateFiles({ textureSize: [64, 64] })
    const small = { ...handheld, largestSide: 32 }
    const asDelivered = await memoryOf([files], { ...small, makesSizes: false }, 'handheld')
    expect(asDelivered.savings[0]).toMatchObject({
      why: 'side',
      rule: 'compression/largest-side',
      width: 32,
      options: { width: 32, height: 32 },
    })
    expect((await memoryOf([files])).savings).toEqual([])
    // Sizes that are made as the asset goes out are counted as made, and there is nothing left to save
    const made = await memoryOf([files], small, 'handheld')
    expect(made.savings).toEqual([])
    expect(asDelivered.bytes - asDelivered.savings.reduce((sum, s) => sum + s.saves, 0)).toBe(made.bytes)
  })
})
