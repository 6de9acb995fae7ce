import { describe, expect, it } from 'vitest'
import { conventionsSchema, type Conventions } from '@stern-gate/contract'
import { crateFiles } from '../fixtures/crateFixture'
import type { CrateOptions } from '../fixtures/crateOptions'
import { measureFixture, subjectsOf } from '../fixtures/measureFixture'
import { mend } from '../fixtures/mendFixture'
import { fixturePorts } from '../fixtures/pngFixture'
import { openedCrate } from '../fixtures/workFixture'
import { readTextureHeader } from '../read/readTextureHeader'
import { writeWork } from '../recipe/writeWork'
import { packagedLevels, packagedLightmap } from './packagedAsset'
import { faultOfPass, targetPass, withPass } from './targetPass'

const as = (conventions: Partial<Conventions>) => ({
  conventions: {
    ...conventionsSchema.parse({}),
    ...conventions,
  },
})
async function passOf(crate: CrateOptions, limits: object) {
  const [subject] = await subjectsOf(await crateFiles(crate), { limits })
  return targetPass(subject!)
}
const name = (role: string): string => `harbour_crate_a_${role}.png`

/** The crate as it goes out. */
async function sentOut(crate: CrateOptions, limits: object) {
  const work = await openedCrate(crate)
  for (const { remedy, options } of await passOf(crate, limits)) await mend(work, remedy, options)
  const files = await writeWork(work)
  return Object.fromEntries(files.map((f) => [f.path, f.bytes]))
}
async function texel(files: Record<string, Uint8Array>, role: string, at: number): Promise<number[]> {
  const bytes = Object.entries(files).find(([path]) => path.endsWith(name(role)))![1]
  const header = readTextureHeader(bytes, name(role))
  if (!header.ok) throw new Error(header.fault.why)
  const read = await fixturePorts.decode(bytes, header.value)
  if (!read.ok) throw new Error(read.fault.why)
  const { data, channels } = read.value
  return [...data.subarray(at * channels, at * channels + 3)]
}

describe('what is made of an asset as it goes out to a target', () => {
  const crate: CrateOptions = { hull: false, textureSize: [64, 64] }
  it('is nothing where the target takes what there is', async () => {
    expect(await passOf(crate, {})).toEqual([])
    expect(await passOf(crate, as({ green: 'up', packed: 'orm', up: '+Y', unitMetres: 1 }))).toEqual([])
    expect(await passOf(crate, { largestSide: 32 })).toEqual([])
  })
  it('brings textures to its sizes where it has them made', async () => {
    const limits = { largestSide: 48, size: 'power-of-two', makesSizes: true }
    expect(await passOf(crate, limits)).toEqual(
      ['basecolor', 'normal', 'orm'].map((role) => ({
        remedy: 'compression/resize',
        options: { texture: name(role), width: 32, height: 32 },
      })),
    )
    const measured = await measureFixture(await sentOut(crate, limits))
    const widths = measured.flatMap((f) => (f.facts?.kind === 'texture' ? [f.facts.header.width] : []))
    expect(widths).toEqual([32, 32, 32])
  })
  it('turns green and the order of channels for two receivers, each in its own way', async () => {
    const came = await crateFiles(crate),
      down = await sentOut(crate, as({ green: 'down' })),
      mro = await sentOut(crate, as({ packed: 'mro' }))
    for (const at of [5, 700, 3000]) {
      const [x, y, z] = await texel(came, 'normal', at)
      expect(await texel(down, 'normal', at)).toEqual([x, 255 - y!, z])
      expect(await texel(mro, 'normal', at)).toEqual([x, y, z])
      const [o, r, m] = await texel(came, 'orm', at)
      expect(await texel(mro, 'orm', at)).toEqual([m, r, o])
      expect(await texel(down, 'orm', at)).toEqual([o, r, m])
    }
  })
  it('gives levels and hulls files of their own, unless they have them', async () => {
    const limits = as({ levelFiles: true, hullFiles: true }),
      levels = { levels: 3, grid: 4 }
    const step = (levels: boolean, hulls: boolean) => ({
      remedy: 'files/own-files',
      options: { levels, hulls },
    })
    expect(await passOf(levels, limits)).toEqual([step(true, true)])
    expect(await passOf(levels, as({ hullFiles: true }))).toEqual([step(false, true)])
    expect(await passOf({}, limits)).toEqual([step(false, true)])
    expect(await passOf({ hull: false }, limits)).toEqual([])
    const came = { ...levels, separate: true }
    expect(await passOf(came, limits)).toEqual([])
    const [subject] = await subjectsOf(await crateFiles({ ...levels, coverages: [0.4, 0.1, 0] }), {})
    expect(packagedLevels(subject!)).toEqual([
      { level: 0, triangles: 192, coverage: 0.4 },
      { level: 1, triangles: 48, coverage: 0.1 },
      { level: 2, triangles: 12, coverage: 0 },
    ])
    expect(packagedLevels((await subjectsOf(await crateFiles({})))[0]!)).toEqual([])
    // Another step writes them as one file, so they are taken apart again
    expect(await passOf(came, as({ levelFiles: true, hullFiles: true, unitMetres: 0.01 }))).toEqual([
      { remedy: 'scale/rescale', options: { factor: 100 } },
      step(true, true),
    ])
  })
  it('gives gloss where that is read, in packed maps and in maps of their own', async () => {
    expect(await passOf(crate, as({ gloss: true }))).toEqual([
      { remedy: 'colour/repack', options: { texture: name('orm'), from: 'orm', to: 'ogm' } },
    ])
    // An order that is said wins
    expect(await passOf(crate, as({ gloss: true, packed: 'mro' }))).toEqual([
      { remedy: 'colour/repack', options: { texture: name('orm'), from: 'orm', to: 'mro' } },
    ])
    const came = await crateFiles(crate),
      sent = await sentOut(crate, as({ gloss: true }))
    const [o, r, m] = await texel(came, 'orm', 700)
    expect(await texel(sent, 'orm', 700)).toEqual([o, 255 - r!, m])
    const [subject] = await subjectsOf(came, { limits: as({ gloss: true }) })
    const single = { ...subject!.textures[0]!, role: 'roughness' as const, uses: [] }
    expect(targetPass({ ...subject!, textures: [single] })).toEqual([
      { remedy: 'colour/invert', options: { texture: single.name, channel: 'all', becomes: null } },
    ])
    // What feeds an input is what that input reads: glTF knows no gloss there
    const fed = {
      ...single,
      uses: [{ slot: 'a', input: 'other' as const, field: 'x', channel: 0, repeats: 1 }],
    }
    expect(targetPass({ ...subject!, textures: [fed] })).toEqual([])
  })
  it('brings baked light to the channel where the receiver looks, and textures along', async () => {
    const limits = as({ lightmapChannel: 0 }),
      lit: CrateOptions = { ...crate, lightmap: 'atlas', folder: 'architecture' }
    const [subject] = await subjectsOf(await crateFiles(lit), { limits })
    const pass = targetPass({ ...subject!, class: { ...subject!.class, lightmap: true } })
    expect(pass).toEqual([{ remedy: 'uvs/exchange', options: { a: 1, b: 0, follow: true } }])
    expect(targetPass({ ...subject!, class: { ...subject!.class, lightmap: false } })).toEqual([])
    // It lies there already
    expect(
      targetPass({ ...subject!, class: { ...subject!.class, lightmap: true, lightmapChannel: 0 } }),
    ).toEqual([])
    const work = await openedCrate(lit)
    const uvs = (channel: number) =>
      work
        .document!.getRoot()
        .listMeshes()[0]!
        .listPrimitives()[0]!
        .getAttribute(`TEXCOORD_${channel}`)!
        .getArray()
    const before = [uvs(0), uvs(1)]
    await mend(work, pass[0]!.remedy, pass[0]!.options)
    expect([uvs(1), uvs(0)]).toEqual(before)
    const slot = work.document!.getRoot().listMaterials()[0]!
    expect(slot.getBaseColorTextureInfo()!.getTexCoord()).toBe(1)
    expect(packagedLightmap({ ...subject!.class, lightmap: true }, subject!.target)?.channel).toBe(0)
  })
  it('takes red of a pair of roughness and metallic for nothing', async () => {
    const [subject] = await subjectsOf(await crateFiles(crate), { limits: as({ packed: 'mro' }) })
    const textures = subject!.textures.map((t) => ({
      ...t,
      uses: t.uses.map((u) => (u.input === 'orm' ? { ...u, input: 'metallic-roughness' as const } : u)),
    }))
    expect(targetPass({ ...subject!, textures })).toEqual([
      { remedy: 'colour/repack', options: { texture: name('orm'), from: 'xrm', to: 'mro' } },
    ])
  })
  it('stands behind the recipe, and is no pass where one of its steps does nothing', () => {
    const own = { id: 'a', remedy: 'mesh/weld', options: {}, on: true, why: 'x' }
    const pass = [{ remedy: 'colour/flip-green', options: { texture: 'n.png' } }]
    const { steps } = withPass({ steps: [own] }, pass, 'handheld')
    expect(steps[0]).toBe(own)
    expect(steps[1]).toMatchObject({ ...pass[0], on: true, why: 'handheld' })
    const did = (id: string, changed: boolean) => ({ id, remedy: '', changed, said: 'n.png is grey' })
    // A step of the recipe may have nothing to do
    expect(faultOfPass([did('a', false), did(steps[1]!.id, true)])).toBeNull()
    expect(faultOfPass([did('a', true), did(steps[1]!.id, false)])?.fault.why).toBe(
      'It could not be made for the target: n.png is grey.',
    )
  })
  it('gives units and the axis that is up there, about the origin', async () => {
    const measured = await measureFixture(await sentOut(crate, as({ unitMetres: 0.01, up: '+Z' }))),
      before = await measureFixture(await crateFiles(crate))
    const boxOf = (files: typeof measured) => {
      const facts = files.find((f) => f.facts?.kind === 'mesh')!.facts
      if (facts?.kind !== 'mesh') throw new Error('no mesh')
      const boxes = facts.nodes!.flatMap((n) => (n.bounds ? [n.bounds] : []))
      return [0, 1, 2].map((axis) => [
        Math.min(...boxes.map((b) => b.min[axis]!)),
        Math.max(...boxes.map((b) => b.max[axis]!)),
      ])
    }
    const [x, y, z] = boxOf(before)
    const [toX, toY, toZ] = boxOf(measured)
    // Up, Y, becomes Z; what looked along Z looks along −Y
    ;[
      [toX, [x![0]!, x![1]!]],
      [toZ, [y![0]!, y![1]!]],
      [toY, [-z![1]!, -z![0]!]],
    ].forEach(([is, was]) => was!.forEach((v, k) => expect(is![k]).toBeCloseTo(v * 100, 2)))
  })
})
