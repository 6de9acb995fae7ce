import type { MeshFacts } from '@stern-gate/contract'
import { describe, expect, it } from 'vitest'
import { measureFixture, subjectsOf } from '../../fixtures/measureFixture'
import { mend } from '../../fixtures/mendFixture'
import { openedCrate } from '../../fixtures/workFixture'
import { judge } from '../../judge/judge'
import { writeWork } from '../../recipe/writeWork'
import type { Work } from '../work'

const slotOf = (work: Work) => work.document!.getRoot().listMaterials()[0]!
async function written(work: Work): Promise<Record<string, Uint8Array>> {
  return Object.fromEntries((await writeWork(work)).map((f) => [f.path, f.bytes]))
}
async function slotFacts(work: Work) {
  const [mesh] = (await measureFixture(await written(work))).filter((f) => f.facts?.kind === 'mesh')
  return (mesh!.facts as MeshFacts).slots![0]!
}

describe('textures placed on a slot', () => {
  it('are tiled, moved and turned as the file then says', async () => {
    const work = await openedCrate()
    const slot = slotOf(work).getName()
    await mend(work, 'slots/place-texture', { slot, input: 'basecolor', tilingU: 2, offsetV: 0.25, turn: 90 })
    const facts = await slotFacts(work)
    const base = facts.textures.find((t) => t.input === 'basecolor')!
    expect(base.placement!.tiling).toEqual([2, 1])
    expect(base.placement!.offset).toEqual([0, 0.25])
    expect(base.placement!.turn).toBeCloseTo(Math.PI / 2, 6)
    expect(facts.textures.filter((t) => t.input !== 'basecolor').map((t) => t.placement)).toSatisfy(
      (all: unknown[]) => all.length > 0 && all.every((p) => p === null),
    )
    expect(facts.extensions).not.toContain('KHR_texture_transform')
  })
  it('keeps what is not said, and a placement that does nothing is taken away', async () => {
    const work = await openedCrate()
    const slot = slotOf(work).getName()
    await mend(work, 'slots/place-texture', { slot, tilingU: 3, tilingV: 4 })
    await mend(work, 'slots/place-texture', { slot, offsetU: 0.5 })
    const placed = (await slotFacts(work)).textures[0]!.placement!
    expect(placed).toEqual({ tiling: [3, 4], offset: [0.5, 0], turn: 0 })
    expect(
      (await mend(work, 'slots/place-texture', { slot, tilingU: 3, tilingV: 4, offsetU: 0.5 })).changed,
    ).toBe(false)
    await mend(work, 'slots/place-texture', { slot, tilingU: 1, tilingV: 1, offsetU: 0 })
    expect((await slotFacts(work)).textures.every((t) => t.placement === null)).toBe(true)
    expect(
      Object.values(await written(work)).some((b) => Buffer.from(b).includes('KHR_texture_transform')),
    ).toBe(false)
  })
  it('refuses a UV channel that the mesh has not, and says where nothing is fed', async () => {
    const work = await openedCrate({ inputs: ['basecolor'] })
    const slot = slotOf(work).getName()
    await expect(mend(work, 'slots/place-texture', { slot, channel: 5 })).rejects.toThrow('no UV channel 5')
    expect((await mend(work, 'slots/place-texture', { slot, input: 'emissive', turn: 5 })).changed).toBe(
      false,
    )
  })
  it('makes texels as dense as they repeat: 64 texels a metre, four times, are 256', async () => {
    const densities = async (work: Work): Promise<unknown[]> => {
      const [subject] = await subjectsOf(await written(work))
      return judge(subject!).findings.flatMap((f) => (f.rule === 'uvs/density' ? [f.data['middle']] : []))
    }
    const work = await openedCrate({ hull: false })
    const before = (await densities(work))[0] as number
    await mend(work, 'slots/place-texture', { slot: slotOf(work).getName(), tilingU: 4, tilingV: 4 })
    expect(before).toBeLessThan(150)
    // A class asks for 512, so that a quarter off is still told: 2.5 times is tolerated
    expect(await densities(work)).toEqual(before * 4 < 512 / 2.5 ? [expect.closeTo(before * 4, 3)] : [])
  })
})

describe('values of a surface that extensions carry', () => {
  it('are written and read back as they were said', async () => {
    const work = await openedCrate()
    await mend(work, 'slots/surface', {
      slot: slotOf(work).getName(),
      normal: 0.5,
      occlusion: 0.25,
      transmission: 0.75,
      ior: 1.25,
      thickness: 0.5,
      through: '#ffffff',
      depth: 2,
      specular: 0.5,
      specularColour: '#ff0000',
      coat: 1,
      coatRoughness: 0.125,
      alpha: 'cutout',
      cutoff: 0.25,
      emissive: '#ffffff',
      strength: 8,
    })
    const facts = await slotFacts(work)
    expect(facts.values).toEqual({
      scatter: 0,
      scatterColour: [1, 1, 1],
      normalStrength: 0.5,
      occlusionStrength: 0.25,
      emissiveStrength: 8,
      transmission: 0.75,
      ior: 1.25,
      thickness: 0.5,
      attenuationColour: [1, 1, 1],
      attenuationDistance: 2,
      specular: 0.5,
      specularColour: [1, 0, 0],
      coat: 1,
      coatRoughness: 0.125,
    })
    expect([facts.alphaMode, facts.alphaCutoff]).toEqual(['cutout', 0.25])
  })
  it('are those of glTF where a slot says nothing', async () => {
    expect((await slotFacts(await openedCrate())).values).toMatchObject({
      transmission: 0,
      ior: 1.5,
      attenuationDistance: null,
      specular: 1,
      coat: 0,
    })
  })
})
