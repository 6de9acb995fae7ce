import { describe, expect, it } from 'vitest'
import { mend } from '../../fixtures/mendFixture'
import { fixturePorts, pixelsOf } from '../../fixtures/pngFixture'
import { openedCrate } from '../../fixtures/workFixture'
import { growIslands } from '../../image/growIslands'
import { readTextureHeader } from '../../read/readTextureHeader'

const SIDE = 64
/** Noise on the left half, black on the right. */
const half = (channels: 3 | 4) =>
  pixelsOf(SIDE, SIDE, channels, (x, y) =>
    (x < SIDE / 2 ? [100 + ((x * 7 + y * 13) % 50), 60 + ((x + y * 3) % 30), 40] : [0, 0, 0])
      .concat(x + 1)
      .slice(0, channels),
  )
const leftHalf = Uint8Array.from({ length: SIDE * SIDE }, (_, t) => (t % SIDE < SIDE / 2 ? 1 : 0))

describe('growing islands', () => {
  it('goes on for as many texels as are asked for, with the mean of what is done already', () => {
    const before = half(3),
      { pixels, texels } = growIslands(before, leftHalf, 3)!
    expect(texels).toBe(3 * SIDE)
    const at = (x: number, y: number, c = 0): number => pixels.data[(y * SIDE + x) * 3 + c]!
    const y = 20
    const three = [19, 20, 21].map((row) => before.data[(row * SIDE + 31) * 3]!)
    expect(at(32, y)).toBe(Math.round(three.reduce((a, b) => a + b) / 3))
    expect(at(34, y)).toBeGreaterThan(99)
    expect([at(35, y), at(35, y, 1), at(35, y, 2)]).toEqual([0, 0, 0])
    // What is used stays as it is
    for (let t = 0; t < SIDE * SIDE; t++) if (leftHalf[t]) expect(pixels.data[t * 3]).toBe(before.data[t * 3])
  })
  it('leaves alpha, and what is no ground', () => {
    const before = half(4)
    for (let y = 0; y < SIDE; y++) before.data[(y * SIDE + 33) * 4] = 200
    const { pixels } = growIslands(before, leftHalf, 4)!
    for (let t = 0; t < SIDE * SIDE; t++) expect(pixels.data[t * 4 + 3]).toBe(before.data[t * 4 + 3])
    expect(pixels.data[(5 * SIDE + 33) * 4]).toBe(200)
  })
  it('does nothing without a ground', () => {
    const full = pixelsOf(SIDE, SIDE, 3, (x, y) => [(x * 31 + y * 17) % 256, (x * 7) % 256, (y * 11) % 256])
    expect(growIslands(full, leftHalf, 3)).toBeNull()
  })
})

describe('the step that grows islands', () => {
  const name = 'harbour_crate_a_basecolor.png'
  it('grows what the mesh uses over the ground of the sheet', async () => {
    const work = await openedCrate({
      hull: false,
      uvScale: 0.5,
      basecolorAs: 'island',
      textureSize: [512, 512],
    })
    const done = await mend(work, 'colour/grow-islands', { texture: name, texels: 4 })
    expect(done.changed).toBe(true)
    const texture = work.textures.find((t) => t.name === name)!
    const header = readTextureHeader(texture.bytes, name)
    if (!header.ok) throw new Error(header.fault.why)
    const decoded = await fixturePorts.decode(texture.bytes, header.value)
    if (!decoded.ok) throw new Error(decoded.fault.why)
    const { data, channels } = decoded.value
    const red = (x: number, y: number): number => data[(y * 512 + x) * channels]!
    expect(red(100, 255)).toBeGreaterThan(99)
    expect(red(100, 259)).toBeGreaterThan(99)
    expect(red(259, 100)).toBeGreaterThan(99)
    expect(red(100, 262)).toBe(0)
    expect((await mend(work, 'colour/grow-islands', { texture: name, texels: 1 })).changed).toBe(false)
  })
  it('says so where nothing lies beside islands, or no slot uses the texture', async () => {
    const work = await openedCrate({ hull: false, loose: { 'harbour_crate_a_height.png': 'height' } })
    expect((await mend(work, 'colour/grow-islands', { texture: name })).changed).toBe(false)
    await expect(
      mend(work, 'colour/grow-islands', { texture: 'harbour_crate_a_height.png' }),
    ).rejects.toThrow()
  })
  it('refuses a texture that is tiled or moved: its islands lie elsewhere than their UVs', async () => {
    const work = await openedCrate({ hull: false, basecolorAs: 'island', textureSize: [512, 512] })
    const slot = 'crate-wood'
    await mend(work, 'slots/place-texture', { slot, input: 'all', tilingU: 2 })
    await expect(mend(work, 'colour/grow-islands', { texture: name })).rejects.toThrow()
  })
})
