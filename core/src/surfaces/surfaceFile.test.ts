import { describe, expect, it } from 'vitest'
import { SURFACE_ENDING, surfaceFileSchema, type MeshFacts, type RemedyOptions } from '@stern-gate/contract'
import { measureFixture } from '../fixtures/measureFixture'
import { mend } from '../fixtures/mendFixture'
import { openedCrate } from '../fixtures/workFixture'
import type { OutputFile } from '../recipe/outputFile'
import { writeWork } from '../recipe/writeWork'
import type { Work } from '../remedies/work'
import { readSurfaceFile, stepsOfSurfaceFile } from './surfaceFile'

const slot = 'crate-wood'
const WORN: readonly [string, RemedyOptions][] = [
  ['slots/surface', { slot, preset: 'glass', roughness: 0.25, thickness: 0.01, twoSided: true }],
  ['slots/place-texture', { slot, input: 'basecolor', tilingU: 2, tilingV: 3, turn: 90 }],
  ['slots/tint', { slot, red: '#ff0000', redStrength: 0.5, alphaMeans: 'gloss' }],
  ['slots/second-layer', { slot, by: 'ramp', from: 0.2, to: 0.4, mode: 'add', colour: '#00ff00' }],
]
const written = async (work: Work): Promise<OutputFile[]> => {
  await mend(work, 'slots/write-surfaces')
  return writeWork(work)
}
const textOf = (files: readonly OutputFile[]): string =>
  new TextDecoder().decode(files.find((f) => f.part === 'surface')!.bytes)
async function slotOf(work: Work) {
  const files = Object.fromEntries((await writeWork(work)).map((f) => [f.path, f.bytes]))
  const mesh = (await measureFixture(files)).find((f) => f.facts?.kind === 'mesh')!.facts as MeshFacts
  return mesh.slots![0]!
}
async function wornCrate(): Promise<Work> {
  const work = await openedCrate({ hull: false, embed: false })
  for (const [remedy, options] of WORN) await mend(work, remedy, options)
  return work
}

describe('a surface file', () => {
  it('stands beside the mesh under the name of its pattern, and is what its schema says', async () => {
    const work = await openedCrate({ hull: false, embed: false })
    await mend(work, 'slots/write-surfaces', { name: 'surfaces_{asset}-{slot}' })
    const files = await writeWork(work),
      mesh = files.find((f) => f.part === 'mesh')!
    const file = files.find((f) => f.part === 'surface')!
    expect(file.path).toBe(mesh.path.replace(/[^/]*$/, `surfaces_harbour_crate_a-${slot}${SURFACE_ENDING}`))
    const body = surfaceFileSchema.parse(JSON.parse(new TextDecoder().decode(file.bytes)))
    expect(body).toMatchObject({ slot, surface: null, tints: [], layer: null })
    // As the mesh refers to them, so that either finds them
    const base = body.textures.find((t) => t.field === 'baseColorTexture')!
    expect(base.file).toMatch(/harbour_crate_a_basecolor\.png$/)
    expect(base).toMatchObject({ input: 'basecolor', uv: 0, tiling: [1, 1], offset: [0, 0], turn: 0 })
  })
  it('gives another slot the same surface when it is read', async () => {
    const wanted = await slotOf(await wornCrate())
    const read = readSurfaceFile(textOf(await written(await wornCrate())))
    if (!read.ok) throw new Error(read.fault.why)
    const bare = await openedCrate({ hull: false, embed: false })
    for (const { remedy, options } of stepsOfSurfaceFile(
      read.value,
      await slotOf(await openedCrate({ hull: false, embed: false })),
    ))
      await mend(bare, remedy, options)
    const { values, textures, ...rest } = await slotOf(bare)
    expect(rest.layer).toEqual(wanted.layer)
    expect(rest.tints).toEqual(wanted.tints)
    expect(textures.map((t) => t.placement)).toEqual(wanted.textures.map((t) => t.placement))
    for (const key of [
      'metallic',
      'roughness',
      'alphaMode',
      'doubleSided',
      'surface',
      'alphaMeaning',
    ] as const)
      expect([key, rest[key]]).toEqual([key, wanted[key]])
    expect(values!.thickness).toBeCloseTo(wanted.values!.thickness, 6)
    expect(values!.transmission).toBeCloseTo(wanted.values!.transmission, 6)
    rest.baseColour.forEach((v, i) => expect(v).toBeCloseTo(wanted.baseColour[i]!, 2))
  })
  it('carries detail map and layer with their textures, by the names that the asset has for them', async () => {
    const work = await openedCrate({ hull: false, embed: false })
    const texture = 'harbour_crate_a_basecolor.png',
      normalTexture = 'harbour_crate_a_normal.png'
    await mend(work, 'slots/detail', { slot, texture, tiling: 5 })
    await mend(work, 'slots/second-layer', { slot, normalTexture, roughnessMost: 0.75 })
    const read = readSurfaceFile(textOf(await written(work)))
    if (!read.ok) throw new Error(read.fault.why)
    const has = await slotOf(await openedCrate({ hull: false, embed: false }))
    const nameOf = (file: string): string => file.slice(file.lastIndexOf('/') + 1)
    const options = (remedy: string) =>
      stepsOfSurfaceFile(read.value, has, nameOf).find((s) => s.remedy === remedy)!.options
    expect(options('slots/detail')).toMatchObject({ slot, texture, tiling: 5 })
    expect(options('slots/second-layer')).toMatchObject({ slot, normalTexture, roughnessMost: 0.75 })
    expect(options('slots/feed')).toMatchObject({ basecolor: texture, normal: normalTexture })
    expect(stepsOfSurfaceFile(read.value, has).map((s) => s.remedy)).not.toContain('slots/feed')
  })
  it('is refused with what is wrong where it is none', () => {
    for (const [text, why] of [
      ['{', 'It is no JSON.'],
      ['{}', 'It is no surface file'],
      ['{"form":"stern-gate/surface-9"}', 'form'],
    ] as const) {
      const read = readSurfaceFile(text)
      expect(read.ok === false && read.fault).toMatchObject({
        code: 'file/unsupported',
        why: expect.stringContaining(why),
      })
    }
  })
  it('keeps names apart that become one on a disk', async () => {
    const work = await openedCrate({ hull: false })
    const [first] = work.document!.getRoot().listMaterials()
    work.document!.createMaterial('crate/wood')
    work.document!.createMaterial('Crate:wood')
    first!.setName('crate-wood')
    const names = (await written(work))
      .filter((f) => f.part === 'surface')
      .map((f) => f.path.split('/').at(-1))
    expect(names).toEqual([
      `harbour_crate_a_crate-wood${SURFACE_ENDING}`,
      `harbour_crate_a_crate-wood_2${SURFACE_ENDING}`,
      `harbour_crate_a_Crate-wood_3${SURFACE_ENDING}`,
    ])
  })
})
