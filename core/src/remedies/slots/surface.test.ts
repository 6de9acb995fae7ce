import type { MeshFacts } from '@stern-gate/contract'
import { describe, expect, it } from 'vitest'
import { measureFixture, subjectsOf } from '../../fixtures/measureFixture'
import { mend } from '../../fixtures/mendFixture'
import { openedCrate } from '../../fixtures/workFixture'
import { writeWork } from '../../recipe/writeWork'
import { judge } from '../../judge/judge'
import { presetOf, surfacePresetNames } from '../../surfaces/presets'
import { slotValuesAsOptions } from '../../surfaces/slotValuesAsOptions'
import type { Work } from '../work'

const slotOf = (work: Work) => work.document!.getRoot().listMaterials()[0]!
async function written(work: Work): Promise<Record<string, Uint8Array>> {
  return Object.fromEntries((await writeWork(work)).map((f) => [f.path, f.bytes]))
}

describe('the surface of a slot', () => {
  it('is that of a preset, written with the extensions that carry it', async () => {
    const work = await openedCrate({ inputs: [], hull: false })
    await mend(work, 'slots/surface', { slot: slotOf(work).getName(), preset: 'glass' })
    const [mesh] = (await measureFixture(await written(work))).filter((f) => f.facts?.kind === 'mesh')
    const [slot] = (mesh!.facts as MeshFacts).slots!
    expect(slot!.surface).toBe('glass')
    expect(slot!.roughness).toBeCloseTo(0.05)
    expect([...slot!.extensions].sort()).toEqual(['KHR_materials_ior', 'KHR_materials_transmission'])
  })
  it('takes what is said by itself before what the preset says', async () => {
    const work = await openedCrate({ inputs: [], hull: false })
    await mend(work, 'slots/surface', {
      slot: slotOf(work).getName(),
      preset: 'paint',
      colour: '#ff8000',
      roughness: 0.2,
      opacity: 0.5,
      emissive: '#ffffff',
      strength: 3,
      twoSided: true,
    })
    const slot = slotOf(work),
      [r, g, b, a] = slot.getBaseColorFactor()
    // sRGB 128 is 0.2159 in linear light
    expect([r, Number(g.toFixed(4)), b, a]).toEqual([1, 0.2159, 0, 0.5])
    expect([slot.getRoughnessFactor(), slot.getAlphaMode(), slot.getDoubleSided()]).toEqual([
      0.2,
      'BLEND',
      true,
    ])
    expect(slot.getEmissiveFactor()).toEqual([1, 1, 1])
  })
  it('notes what glTF has no place for, and scatters by its extension', async () => {
    const slot = 'crate-wood'
    const factsOf = async (work: Work) => {
      const [mesh] = (await measureFixture(await written(work))).filter((f) => f.facts?.kind === 'mesh')
      return (mesh!.facts as MeshFacts).slots!.find((s) => s.name === slot)!
    }
    const work = await openedCrate({ hull: false })
    await mend(work, 'slots/surface', {
      slot,
      alpha: 'add',
      heightDepth: 0.012,
      scatter: 0.3,
      scatterColour: '#00ff00',
    })
    const facts = await factsOf(work)
    expect([facts.adds, facts.alphaMode, facts.heightDepth]).toEqual([true, 'blend', 0.012])
    expect(facts.values).toMatchObject({ scatter: 0.3, scatterColour: [0, 1, 0] })
    expect(facts.extensions).toContain('KHR_materials_diffuse_transmission')
    expect(slotValuesAsOptions(facts)).toMatchObject({ alpha: 'add', heightDepth: 0.012, scatter: 0.3 })
    // What is said later goes before it, and takes the note off
    await mend(work, 'slots/surface', { slot, alpha: 'blend' })
    expect(await factsOf(work)).toMatchObject({ adds: false, alphaMode: 'blend', heightDepth: 0.012 })
  })
  it('leaves alone what nothing is said of, and says when nothing is', async () => {
    const work = await openedCrate({ inputs: [], hull: false })
    const before = slotOf(work).getBaseColorFactor()
    expect((await mend(work, 'slots/surface', { slot: slotOf(work).getName() })).changed).toBe(false)
    await mend(work, 'slots/surface', { slot: slotOf(work).getName(), metallic: 1 })
    expect(slotOf(work).getBaseColorFactor()).toEqual(before)
    await expect(mend(work, 'slots/surface', { slot: 'nobody', metallic: 1 })).rejects.toThrow('nobody')
    await expect(mend(work, 'slots/surface', { slot: 'x', colour: 'red' })).rejects.toThrow('#rrggbb')
  })
  it('is complete without textures, unless the rulebook asks for them all the same', async () => {
    const work = await openedCrate({ inputs: [], hull: false })
    const missing = async (): Promise<boolean> => {
      const [subject] = await subjectsOf(await written(work))
      return judge(subject!).findings.some((f) => f.rule === 'slots/missing-input')
    }
    expect(await missing()).toBe(true)
    await mend(work, 'slots/surface', { slot: slotOf(work).getName(), preset: 'copper' })
    expect(await missing()).toBe(false)
  })
})

describe('what other programs write into extras', () => {
  it('is no surface and no input of ours: the slot stays incomplete', async () => {
    const work = await openedCrate({ inputs: [], hull: false })
    slotOf(work).setExtras({ surface: 'concrete', inputs: { height: 'crate.png' }, 'stern-gate': 'x' })
    const [subject] = await subjectsOf(await written(work))
    expect(subject!.mesh!.slots![0]!.surface).toBe(null)
    expect(judge(subject!).findings.map((f) => f.rule)).toContain('slots/missing-input')
    // … and it is still there afterwards
    expect(slotOf(work).getExtras()).toMatchObject({ surface: 'concrete', inputs: { height: 'crate.png' } })
  })
})

describe('the presets', () => {
  it('are at least twelve, each of values that a surface can have', () => {
    expect(surfacePresetNames.length).toBeGreaterThanOrEqual(12)
    for (const name of surfacePresetNames) {
      const { baseColour, metallic, roughness, ior = 1.5 } = presetOf(name)!
      for (const value of [...baseColour, metallic, roughness]) {
        expect(value).toBeGreaterThanOrEqual(0)
        expect(value).toBeLessThanOrEqual(1)
      }
      expect(ior).toBeGreaterThanOrEqual(1)
      // A metal reflects at least half of the light in red
      if (metallic === 1) expect(baseColour[0]).toBeGreaterThanOrEqual(0.5)
    }
  })
  it('give copper the reflectance of its n and k', () => {
    // Johnson and Christy 1972 at 650, 550 and 450 nm
    const table = [
      [0.214, 3.67],
      [1.02, 2.577],
      [1.25, 2.397],
    ] as const
    const reflectance = table.map(([n, k]) => ((n - 1) ** 2 + k * k) / ((n + 1) ** 2 + k * k))
    presetOf('copper')!.baseColour.forEach((value, i) =>
      expect(Math.abs(value - reflectance[i]!)).toBeLessThan(0.03),
    )
  })
})
