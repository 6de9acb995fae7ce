import { describe, expect, it } from 'vitest'
import type { SecondLayer } from '@stern-gate/contract'
import { linearToSrgb, srgbToLinear } from '../image/transferCurves'
import type { Pixels } from '../image/pixels'
import { bakeLook, type Look, type LookPiece } from './bakeLook'

/** A square over all of the sheet, in two triangles; amounts run from 0 at its left to 1 at its right. */
const SHEET = new Float32Array([0, 0, 1, 0, 1, 1, 0, 1])
const square = (more: Partial<LookPiece> = {}): LookPiece => ({
  indices: [0, 1, 2, 0, 2, 3],
  sheet: SHEET,
  base: SHEET,
  packed: SHEET,
  normal: SHEET,
  detail: SHEET,
  layer: SHEET,
  amounts: new Float32Array([0, 1, 1, 0]),
  ...more,
})
const painted: SecondLayer = {
  by: { kind: 'vertex', set: 0, channel: 'R' },
  inverted: false,
  strength: 1,
  mode: 'mix',
  colour: [1, 0, 0],
  roughness: 0.2,
  roughnessMost: null,
  roughnessChannel: 'G',
  normal: 1,
  metallic: null,
  uv: 0,
  tiling: 1,
}
const grey: Look = {
  factor: [0.25, 0.25, 0.25],
  roughness: 0.8,
  metallic: 0.5,
  base: null,
  packed: null,
  mask: null,
  tints: [],
  layer: painted,
  layerTexture: null,
  layerRoughness: null,
  layerNormal: null,
  detail: null,
  detailTexture: null,
  detailNormal: null,
  normal: null,
  normalStrength: 1,
}
const map = (width: number, channels: number, data: number[]): Pixels => ({
  width,
  height: data.length / width / channels,
  channels,
  depth: 8,
  data: new Uint8Array(data),
})
const texel = ({ data, channels, width }: Pixels, x: number, y: number): number[] => [
  ...data.slice((y * width + x) * channels, (y * width + x + 1) * channels),
]
const byte = (linear: number): number => Math.round(linearToSrgb(linear) * 255)

describe('a look that is baked', () => {
  it('mixes colour in linear light and roughness as the amount says, texel by texel', () => {
    const { colour, packed, covered, shared } = bakeLook([square()], grey, 4, 2)
    expect([covered, shared]).toEqual([8, 0])
    // The middle of the first of four columns has an eighth of the layer
    const at = (amount: number) => [0.25 + 0.75 * amount, 0.25 * (1 - amount), 0.25 * (1 - amount)].map(byte)
    expect([0, 1, 2, 3].map((x) => texel(colour, x, 0))).toEqual([0.125, 0.375, 0.625, 0.875].map(at))
    expect(texel(packed, 0, 1)).toEqual([255, Math.round((0.8 - 0.6 * 0.125) * 255), 128])
    expect(colour.channels).toBe(3)
  })
  it('multiplies and adds, turned round and weaker', () => {
    const half = (layer: Partial<SecondLayer>) =>
      texel(bakeLook([square()], { ...grey, layer: { ...painted, ...layer } }, 2, 2).colour, 0, 0)
    // A quarter of it in the first of two columns
    expect(half({ mode: 'multiply' })).toEqual([0.25, 0.25 * 0.75, 0.25 * 0.75].map(byte))
    expect(half({ mode: 'add' })).toEqual([0.5, 0.25, 0.25].map(byte))
    expect(half({ inverted: true, strength: 0.5 })).toEqual(
      [0.25 + 0.75 * 0.375, 0.25 * 0.625, 0.25 * 0.625].map(byte),
    )
  })
  it('follows a ramp between its ends, also one without a width', () => {
    const along = (by: SecondLayer['by'], x: number) =>
      texel(bakeLook([square()], { ...grey, layer: { ...painted, by } }, 4, 1).colour, x, 0)[0]
    const ramp = (from: number, to: number) => ({ kind: 'ramp' as const, axis: 'u' as const, from, to })
    expect(along(ramp(0.375, 0.625), 0)).toBe(byte(0.25))
    expect(along(ramp(0.375, 0.625), 3)).toBe(byte(1))
    expect(along(ramp(0, 2), 3)).toBe(byte(0.25 + 0.75 * 0.4375))
    expect([along(ramp(0.5, 0.5), 1), along(ramp(0.5, 0.5), 2)]).toEqual([byte(0.25), byte(1)])
    // Along V the only row lies in the middle
    expect(along({ kind: 'ramp', axis: 'v', from: 0, to: 1 }, 0)).toBe(byte(0.25 + 0.75 * 0.5))
  })
  it('tints by the mask before the layer lies over it, which a channel of the mask may say, too', () => {
    const mask = map(1, 3, [255, 102, 0])
    const tints = [
      { channel: 'R' as const, colour: [0.5, 1, 1] as [number, number, number], strength: 0.5 },
      { channel: 'G' as const, colour: [1, 0, 1] as [number, number, number], strength: 1 },
    ]
    const plain = { ...grey, layer: null, factor: [1, 1, 1] as const, mask, tints }
    expect(texel(bakeLook([square()], plain, 2, 2).colour, 0, 0)).toEqual([0.75, 0.6, 1].map(byte))
    const layered = { ...plain, layer: { ...painted, by: { kind: 'mask' as const, channel: 'G' as const } } }
    expect(texel(bakeLook([square()], layered, 2, 2).colour, 0, 0)).toEqual(
      [0.75 + 0.25 * 0.4, 0.6 * 0.6, 0.6].map(byte),
    )
  })
  it('takes the maps of the slot: colour in linear light, alpha as it is, roughness and metallic by factor', () => {
    const base = map(2, 4, [100, 200, 50, 255, 20, 40, 80, 128])
    const packed = map(1, 3, [90, 128, 255])
    const own = { ...grey, layer: null, factor: [1, 0.5, 1] as const, base, packed }
    const baked = bakeLook([square()], own, 2, 1)
    expect(texel(baked.colour, 0, 0)).toEqual([100, byte(srgbToLinear(200 / 255) / 2), 50, 255])
    expect(texel(baked.colour, 1, 0)).toEqual([20, byte(srgbToLinear(40 / 255) / 2), 80, 128])
    expect(texel(baked.packed, 0, 0)).toEqual([90, Math.round(0.8 * 128), 128])
    // Read twice over at other UVs, so between its texels
    const wide = square({ base: new Float32Array([0.25, 0, 0.75, 0, 0.75, 1, 0.25, 1]) })
    const [red] = texel(bakeLook([wide], { ...own, factor: [1, 1, 1] }, 1, 1).colour, 0, 0)
    expect(red).toBe(byte((srgbToLinear(100 / 255) + srgbToLinear(20 / 255)) / 2))
  })
  it('repeats the texture of the layer, which its colour is multiplied by', () => {
    const layerTexture = map(2, 1, [255, 0])
    const full = square({ amounts: new Float32Array([1, 1, 1, 1]) })
    const look = { ...grey, layer: { ...painted, tiling: 2 }, layerTexture }
    const { colour } = bakeLook([full], look, 4, 1)
    expect([0, 1, 2, 3].map((x) => texel(colour, x, 0)[0])).toEqual([255, 0, 255, 0])
  })
  it('multiplies the detail map’s colour, its grey of 128 changing nothing, before the layer lies over it', () => {
    const detail = { uv: 0, tiling: 2, colour: 0.5, normal: 1 }
    const detailTexture = map(2, 1, [128, 0])
    const bare = { ...grey, layer: null, detail, detailTexture }
    const { colour } = bakeLook([square()], bare, 4, 1)
    expect([0, 1, 2, 3].map((x) => texel(colour, x, 0)[0])).toEqual([0.25, 0.125, 0.25, 0.125].map(byte))
    const covered = { ...bare, layer: painted }
    const all = square({ amounts: new Float32Array([1, 1, 1, 1]) })
    expect(texel(bakeLook([all], covered, 4, 1).colour, 1, 0)).toEqual([255, 0, 0])
    // A piece without that channel has none of it
    expect(texel(bakeLook([square({ detail: null })], bare, 4, 1).colour, 1, 0)[0]).toBe(byte(0.25))
  })
  it('lays the detail’s normals on those of the surface, and those of the layer over both', () => {
    const bent = (x: number, z: number) => [x, 0, z].map((v) => Math.round(((v + 1) / 2) * 255))
    const leaning = map(1, 3, [255, 128, 255])
    const detail = { uv: 0, tiling: 1, colour: 1, normal: 0.5 }
    const flat = { ...grey, layer: null, detail, detailNormal: leaning }
    // (½, 0, 1) made unit: the slopes of the detail count half
    const length = Math.hypot(0.5, 1)
    const got = texel(bakeLook([square()], flat, 1, 1).normal, 0, 0)
    expect(Math.abs(got[0]! - bent(0.5 / length, 1 / length)[0]!)).toBeLessThanOrEqual(1)
    expect(Math.abs(got[2]! - bent(0.5 / length, 1 / length)[2]!)).toBeLessThanOrEqual(1)
    const over = { ...flat, layer: { ...painted, normal: 1 }, layerNormal: map(1, 3, [0, 128, 255]) }
    const all = square({ amounts: new Float32Array([1, 1, 1, 1]) })
    expect(texel(bakeLook([all], over, 1, 1).normal, 0, 0)[0]).toBe(
      Math.round(((1 - Math.SQRT1_2) / 2) * 255),
    )
    // Nothing of the layer leaves the detail
    const none = square({ amounts: new Float32Array(4) })
    expect(texel(bakeLook([none], over, 1, 1).normal, 0, 0)).toEqual(got)
    // The surface's own map, its slopes doubled
    const own = { ...grey, layer: null, normal: map(1, 3, [191, 128, 255]), normalStrength: 2 }
    const slope = ((191 / 255) * 2 - 1) * 2
    const lean = texel(bakeLook([square()], own, 1, 1).normal, 0, 0)[0]!
    expect(Math.abs(lean - bent(slope / Math.hypot(slope, 1), 0)[0]!)).toBeLessThanOrEqual(1)
  })
  it('takes the roughness of the layer from a channel of its map, between least and most', () => {
    const layerRoughness = map(1, 4, [0, 0, 51, 255])
    const all = square({ amounts: new Float32Array([1, 1, 1, 1]) })
    const of = (layer: Partial<SecondLayer>) =>
      texel(
        bakeLook([all], { ...grey, layer: { ...painted, ...layer }, layerRoughness }, 1, 1).packed,
        0,
        0,
      )[1]
    expect(of({ roughnessChannel: 'B', roughness: 0.5, roughnessMost: 1 })).toBe(Math.round(0.6 * 255))
    expect(of({ roughnessChannel: 'B', roughness: null, roughnessMost: null })).toBe(51)
    expect(of({ roughnessChannel: 'A', roughness: 0.1, roughnessMost: 0.4 })).toBe(Math.round(0.4 * 255))
  })
  it('counts texels that places share which look different, and continues islands', () => {
    const left = square({
      sheet: new Float32Array([0, 0, 0.25, 0, 0.25, 1, 0, 1]),
      amounts: new Float32Array(4),
    })
    const again = { ...left, amounts: new Float32Array([1, 1, 1, 1]) }
    const alone = bakeLook([left, left], grey, 32, 4)
    expect([alone.covered, alone.shared]).toEqual([32, 0])
    expect(texel(alone.colour, 12, 2)).toEqual(texel(alone.colour, 0, 0))
    expect(bakeLook([left, again], grey, 32, 4).shared).toBe(32)
    // Where nothing of the layer is said there is none, and what is empty stays so
    expect(texel(bakeLook([square({ amounts: null })], grey, 1, 1).colour, 0, 0)[0]).toBe(byte(0.25))
    expect(bakeLook([], grey, 2, 2).covered).toBe(0)
  })
})
