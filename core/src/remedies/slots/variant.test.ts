import type { MeshFacts } from '@stern-gate/contract'
import { describe, expect, it } from 'vitest'
import { crateFiles } from '../../fixtures/crateFixture'
import { measureFixture } from '../../fixtures/measureFixture'
import { mend } from '../../fixtures/mendFixture'
import { openedCrate } from '../../fixtures/workFixture'
import { writeWork } from '../../recipe/writeWork'
import type { Work } from '../work'

const slot = 'crate-wood'
async function factsOf(work: Work): Promise<MeshFacts> {
  const files = Object.fromEntries((await writeWork(work)).map((f) => [f.path, f.bytes]))
  return (await measureFixture(files)).find((f) => f.facts?.kind === 'mesh')!.facts as MeshFacts
}

describe('a variant of a slot', () => {
  it('exchanges what is given on every part and shares the rest, and the file shows what it did', async () => {
    const work = await openedCrate({
      levels: 2,
      loose: { 'harbour_crate_a_wet_basecolor.png': 'copy-of-orm' },
    })
    await mend(work, 'slots/variant', {
      slot,
      variant: 'wet',
      basecolor: 'harbour_crate_a_wet_basecolor.png',
    })
    const { variants, slots, nodes, file } = await factsOf(work)
    expect(variants).toEqual([{ name: 'wet', choices: [{ slot, wears: 'crate-wood_wet', parts: 2, of: 2 }] }])
    const [own, wet] = slots!.map((s) => s.textures.map((t) => file.images[t.image!]!.name))
    expect(wet![0]).toBe('harbour_crate_a_wet_basecolor.png')
    expect(wet!.slice(1)).toEqual(own!.slice(1))
    expect(
      nodes!.flatMap((n) => n.primitives.map((p) => p.slot)).filter((s) => s === 'crate-wood_wet'),
    ).toEqual([])
  })
  it('of the same name is set anew, and two of them stand beside each other', async () => {
    const work = await openedCrate({ hull: false })
    await mend(work, 'slots/variant', { slot, variant: 'red', colour: '#ff0000' })
    await mend(work, 'slots/variant', { slot, variant: 'red', colour: '#800000' })
    await mend(work, 'slots/variant', { slot, variant: 'blue', colour: '#0000ff' })
    const { variants, slots } = await factsOf(work)
    expect(variants.map((v) => [v.name, v.choices.map((c) => c.wears)])).toEqual([
      ['red', ['crate-wood_red']],
      ['blue', ['crate-wood_blue']],
    ])
    // sRGB 128 is 0.2159 in linear light
    expect(slots!.map((s) => s.baseColour.map((v) => Number(v.toFixed(4))))).toEqual([
      [1, 1, 1, 1],
      [0.2159, 0, 0, 1],
      [0, 0, 1, 1],
    ])
  })
  it('outlives the dropping of unused slots and the merging of the one it wears', async () => {
    const work = await openedCrate({ variant: 'whole', unusedSlot: 'crate-old' })
    await mend(work, 'slots/drop-unused', {})
    expect((await factsOf(work)).slots!.map((s) => s.name)).toEqual([slot, 'crate-wet'])
    await mend(work, 'slots/merge', { slot: 'crate-wet', keep: slot })
    expect((await factsOf(work)).variants).toEqual([
      { name: 'wet', choices: [{ slot, wears: slot, parts: 1, of: 1 }] },
    ])
  })
  it('is given to every slot of the same base colour, where that is said', async () => {
    const work = await openedCrate({ faceSlots: ['crate-wood', 'crate-lid'], hull: false })
    await mend(work, 'slots/variant', { slot, variant: 'red', colour: '#ff0000', alike: true })
    const { variants } = await factsOf(work)
    expect(variants[0]!.choices.map((c) => [c.slot, c.wears])).toEqual([
      ['crate-wood', 'crate-wood_red'],
      ['crate-lid', 'crate-lid_red'],
    ])
  })
  it('is refused for a slot that no triangle uses by itself', async () => {
    const work = await openedCrate({ unusedSlot: 'crate-old' })
    await expect(mend(work, 'slots/variant', { slot: 'crate-old', variant: 'wet' })).rejects.toThrow(
      'crate-old',
    )
  })
})

it('variants of a level in a file of its own are counted with those of the first', async () => {
  const measured = await measureFixture(await crateFiles({ variant: 'whole' }))
  const facts = measured.find((f) => f.facts?.kind === 'mesh')!.facts as MeshFacts
  const { mergeMeshFacts } = await import('../../subject/mergeMeshFacts')
  expect(mergeMeshFacts(facts, [{ path: 'a/crate_lod1.glb', facts }]).variants).toEqual([
    { name: 'wet', choices: [{ slot, wears: 'crate-wet', parts: 2, of: 2 }] },
  ])
})
