import { decode, encode } from 'fast-png'
import { describe, expect, it } from 'vitest'
import { crateFiles } from '../fixtures/crateFixture'
import { measureFixture, subjectsFrom, subjectsOf } from '../fixtures/measureFixture'
import { judge } from '../judge/judge'
import { packCells, CELLS } from '../geometry/cellMask'
import { cellsOfMask, factsOverUsed, masksOfPicture, usedMask } from './usedMask'

/** A crate whose normal map has noise wherever no island lies. */
async function noisyCrate() {
  const files = await crateFiles({ hull: false, uvScale: 0.5 })
  const [subject] = await subjectsOf(files)
  const mask = usedMask(subject!.mesh, subject!.textures.find((t) => t.role === 'normal')!.uses, 'x')!
  const bits = cellsOfMask(mask)
  const path = Object.keys(files).find((p) => p.endsWith('_normal.png'))!
  const png = decode(files[path]!)
  const isOn = (cell: number): boolean => ((bits[cell >>> 5]! >>> (cell & 31)) & 1) === 1
  // A texel lies on four times four cells
  const { width, height, channels } = png,
    step = CELLS / width
  let seed = 1
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (isOn(y * step * CELLS + x * step)) continue
      for (let c = 0; c < 3; c++) {
        seed = (Math.imul(seed, 1664525) + 1013904223) | 0
        png.data[(y * width + x) * channels + c] = seed >>> 24
      }
    }
  return { files: { ...files, [path]: encode(png) }, path }
}

describe('the part of a texture that islands use', () => {
  it('is what rules see the figures of: noise beside islands makes no normal map suspicious', async () => {
    const { files, path } = await noisyCrate()
    const measured = await measureFixture(files)
    const of = (files: typeof measured) => {
      const [subject] = subjectsFrom(files)
      return { subject: subject!, texture: subject!.textures.find((t) => t.path === path)! }
    }
    const { subject, texture } = of(measured)
    expect(texture.facts!.used).toBeGreaterThan(0.1)
    expect(texture.facts!.used).toBeLessThan(0.9)
    expect(texture.facts!.normal!.isNormalMap).toBeGreaterThan(0.9)
    expect(texture.unmeasured).toBeNull()
    const speaksOfNormals = ({ findings }: ReturnType<typeof judge>): string[] =>
      findings.map((f) => f.rule).filter((rule) => rule.startsWith('colour/no'))
    expect(speaksOfNormals(judge(subject))).toEqual([])
    // Over the whole picture it would be one
    const whole = of(measured.map(({ used: _, ...m }) => m))
    expect(whole.texture.facts!.used).toBeNull()
    expect(whole.texture.unmeasured!.key).toMatch(new RegExp(`^${texture.sha256}:`))
    expect(speaksOfNormals(judge(whole.subject))).not.toEqual([])
  })
  it('is known by texture and islands, and none where nearly all or nothing is used', () => {
    const cells = (share: number): string =>
      packCells(Uint8Array.from({ length: CELLS * CELLS }, (_, k) => (k < share * CELLS * CELLS ? 1 : 0)))
    const mesh = (share: number) => ({
      slots: [{ name: 'a', textures: [{ field: 'f', placement: null, image: 0, channel: 0 }] }] as never,
      islands: [{ slot: 'a', channel: 0, cells: cells(share) }],
      file: { images: [{ index: 0, sha256: 'h' }] } as never,
    })
    const uses = [{ slot: 'a', field: 'f', channel: 0 }]
    const half = usedMask(mesh(0.5), uses, 'h')!
    expect(half).toEqual({ key: usedMask(mesh(0.5), uses, 'h')!.key, cells: [cells(0.5)] })
    expect(usedMask(mesh(0.25), uses, 'h')!.key).not.toBe(half.key)
    expect(usedMask(mesh(0.5), uses, 'other')!.key).not.toBe(half.key)
    for (const share of [0, 0.95, 1]) expect(usedMask(mesh(share), uses, 'h')).toBeNull()
    expect(usedMask(mesh(0.5), [], 'h')).toBeNull()
    expect(usedMask(null, uses, 'h')).toBeNull()
    expect(masksOfPicture(mesh(0.5), 'h')).toEqual([half])
    expect(masksOfPicture(mesh(0.5), 'another')).toEqual([])
  })
  it('leaves the facts as they are where it was not measured, or hardly anything is used', async () => {
    const [subject] = await subjectsOf(await crateFiles({ hull: false }))
    const { facts } = subject!.textures[0]!
    expect(factsOverUsed(facts!, undefined)).toBe(facts)
    expect(factsOverUsed(facts!, null)).toBe(facts)
  })
})
