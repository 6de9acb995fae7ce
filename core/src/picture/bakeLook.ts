import type { SecondLayer, Tint } from '@stern-gate/contract'
import { tintChannels } from '@stern-gate/contract'
import { visitInside } from '../geometry/sheetTexels'
import { growRings } from '../image/growRings'
import { alphaPlace, fullValue, type Pixels } from '../image/pixels'
import { linearToSrgb, srgbToLinear } from '../image/transferCurves'
import { mixed, type Corners } from './rasterTriangle'

/** A piece of surface that wears a slot, with what is read at its vertices. */
export interface LookPiece {
  indices: ArrayLike<number>
  /** u v of the sheet that is baked on: each texel is one place of the surface. */
  sheet: Float32Array
  /** u v at which the base colour and the mask are read, and the packed map. */
  base: Float32Array
  packed: Float32Array
  /** u v of the layer's texture and ramp; null: the piece has none. */
  layer: Float32Array | null
  /** How much of the layer each vertex has, 0 to 1; null where vertex colours do not say it. */
  amounts: Float32Array | null
}

/** What a slot looks like: its own values and maps, and what lies over them. */
export interface Look {
  /** Linear RGB. */
  factor: readonly [number, number, number]
  roughness: number
  metallic: number
  base: Pixels | null
  packed: Pixels | null
  mask: Pixels | null
  tints: readonly Tint[]
  layer: SecondLayer | null
  layerTexture: Pixels | null
}

export interface BakedLook {
  /** sRGB with the alpha of the base colour's own map. */
  colour: Pixels
  /** Occlusion, roughness and metallic; occlusion as the packed map has it, else full. */
  packed: Pixels
  /** Texels that a place of the surface lies on, and those that places which look different share. */
  covered: number
  shared: number
}

/** So many rings of texels around islands continue them; what lies further off is their mean. */
const RINGS = 16
/** Bytes that differ by more than this look different. */
const LOOKS_DIFFERENT = 4
/** Values of a texel: red, green, blue, alpha, occlusion, roughness, metallic. */
const VALUES = 7

/** Bakes tints and a second layer into maps of width × height, as the stage shows them: tints first, the layer over them. */
export function bakeLook(pieces: readonly LookPiece[], look: Look, width: number, height: number): BakedLook {
  const baked = new Uint8Array(width * height * VALUES),
    seen = new Uint8Array(width * height)
  const shade = shader(look)
  const bytes = new Uint8Array(VALUES)
  let shared = 0
  for (const piece of pieces)
    visitInside(piece.sheet, piece.indices, [width, height], (texel, k, weights) => {
      const corners = [piece.indices[k]!, piece.indices[k + 1]!, piece.indices[k + 2]!] as const
      shade(piece, corners, weights, bytes)
      const at = texel * VALUES
      if (!seen[texel]) {
        seen[texel] = 1
        baked.set(bytes, at)
      } else if (seen[texel] === 1 && bytes.some((b, i) => Math.abs(b - baked[at + i]!) > LOOKS_DIFFERENT)) {
        seen[texel] = 2
        shared++
      }
    })
  const covered = seen.reduce((sum, s) => sum + (s > 0 ? 1 : 0), 0)
  continueIslands(baked, seen, [width, height])
  return { ...asMaps(baked, width, height), covered, shared }
}

function shader(look: Look): (piece: LookPiece, corners: Corners, weights: Corners, out: Uint8Array) => void {
  const base = look.base && sampler(look.base, true),
    packed = look.packed && sampler(look.packed, false),
    mask = look.mask && sampler(look.mask, false),
    own = look.layerTexture && sampler(look.layerTexture, true)
  const texel = [0, 0, 0, 0],
    colour = [0, 0, 0]
  return (piece, corners, weights, out) => {
    const at = (uvs: Float32Array, axis: 0 | 1): number => mixed(uvs, 2, axis, corners, weights)
    const [u, v] = [at(piece.base, 0), at(piece.base, 1)]
    texel.fill(1)
    if (base) base(u, v, texel)
    for (let c = 0; c < 3; c++) colour[c] = look.factor[c]! * texel[c]!
    out[3] = byteOf(texel[3]!)
    let amount = 0
    if (mask) {
      mask(u, v, texel)
      tint(colour, look.tints, texel)
      if (look.layer?.by.kind === 'mask') amount = texel[tintChannels.indexOf(look.layer.by.channel)]!
    }
    let [roughness, metallic, occlusion] = [look.roughness, look.metallic, 1]
    if (packed) {
      packed(at(piece.packed, 0), at(piece.packed, 1), texel)
      occlusion = texel[0]!
      roughness *= texel[1]!
      metallic *= texel[2]!
    }
    const { layer } = look
    if (layer) {
      const along = piece.layer ? [at(piece.layer, 0), at(piece.layer, 1)] : [0, 0]
      if (layer.by.kind === 'vertex')
        amount = piece.amounts ? mixed(piece.amounts, 1, 0, corners, weights) : 0
      else if (layer.by.kind === 'ramp') amount = ramp(layer.by, along)
      amount = layer.strength * (layer.inverted ? 1 - amount : amount)
      texel.fill(1)
      if (own) own(along[0]! * layer.tiling, along[1]! * layer.tiling, texel)
      layOver(colour, layer, texel, amount)
      if (layer.roughness !== null) roughness += (layer.roughness - roughness) * amount
      if (layer.metallic !== null) metallic += (layer.metallic - metallic) * amount
    }
    for (let c = 0; c < 3; c++) out[c] = byteOf(linearToSrgb(Math.min(1, colour[c]!)))
    out[4] = byteOf(occlusion)
    out[5] = byteOf(roughness)
    out[6] = byteOf(metallic)
  }
}

const byteOf = (value: number): number => Math.round(Math.max(0, Math.min(1, value)) * 255)

function tint(colour: number[], tints: readonly Tint[], mask: readonly number[]): void {
  for (const { channel, colour: own, strength } of tints) {
    const amount = mask[tintChannels.indexOf(channel)]! * strength
    for (let c = 0; c < 3; c++) colour[c]! *= 1 + (own[c]! - 1) * amount
  }
}

function ramp(by: SecondLayer['by'] & { kind: 'ramp' }, along: readonly number[]): number {
  const value = along[by.axis === 'u' ? 0 : 1]!,
    width = by.to - by.from
  if (Math.abs(width) < 1e-6) return value < by.from ? 0 : 1
  return Math.max(0, Math.min(1, (value - by.from) / width))
}

function layOver(colour: number[], layer: SecondLayer, texel: readonly number[], amount: number): void {
  for (let c = 0; c < 3; c++) {
    const own = layer.colour[c]! * texel[c]!
    if (layer.mode === 'mix') colour[c]! += (own - colour[c]!) * amount
    else if (layer.mode === 'multiply') colour[c]! *= 1 + (own - 1) * amount
    else colour[c]! += own * amount
  }
}

/** Reads a picture between its texels, repeated over the sheet, 0 to 1; colours in linear light. Grey counts for all. */
function sampler(picture: Pixels, isColour: boolean): (u: number, v: number, out: number[]) => void {
  const { width, height, channels, data } = picture,
    full = fullValue(picture),
    alpha = alphaPlace(channels)
  const linear = Float32Array.from({ length: full + 1 }, (_, value) =>
    isColour ? srgbToLinear(value / full) : value / full,
  )
  const place = (c: number): number => (c === 3 ? alpha : channels < 3 ? 0 : c)
  const round = (n: number, size: number): number => ((n % size) + size) % size
  return (u, v, out) => {
    const x = u * width - 0.5,
      y = v * height - 0.5
    const x0 = Math.floor(x),
      y0 = Math.floor(y)
    const [fx, fy] = [x - x0, y - y0]
    const columns = [round(x0, width), round(x0 + 1, width)],
      rows = [round(y0, height), round(y0 + 1, height)]
    for (let c = 0; c < 4; c++) {
      const from = place(c)
      if (from < 0) {
        out[c] = 1
        continue
      }
      const at = (column: number, row: number): number => {
        const value = data[(rows[row]! * width + columns[column]!) * channels + from]!
        return c === 3 ? value / full : linear[value]!
      }
      const top = at(0, 0) + (at(1, 0) - at(0, 0)) * fx,
        bottom = at(0, 1) + (at(1, 1) - at(0, 1)) * fx
      out[c] = top + (bottom - top) * fy
    }
  }
}

/** Texels beside islands take the mean of their neighbours, the rest that of all. Edits in place. */
function continueIslands(baked: Uint8Array, seen: Uint8Array, size: readonly [number, number]): void {
  const mean = new Float64Array(VALUES)
  let known = 0
  for (let t = 0; t < seen.length; t++)
    if (seen[t]) {
      known++
      for (let i = 0; i < VALUES; i++) mean[i]! += baked[t * VALUES + i]!
    }
  if (known === 0) return
  const seeds = seen.map((s) => (s > 0 ? 1 : 0))
  const reached = growRings(seeds, size, RINGS, (t, from) => {
    for (let i = 0; i < VALUES; i++)
      baked[t * VALUES + i] = Math.round(
        from.reduce((sum, o) => sum + baked[o * VALUES + i]!, 0) / from.length,
      )
  })
  for (let t = 0; t < reached.length; t++)
    if (!reached[t]) for (let i = 0; i < VALUES; i++) baked[t * VALUES + i] = Math.round(mean[i]! / known)
}

function asMaps(baked: Uint8Array, width: number, height: number): Pick<BakedLook, 'colour' | 'packed'> {
  const count = width * height
  let isClear = false
  for (let t = 0; t < count; t++) if (baked[t * VALUES + 3]! < 255) isClear = true
  const channels = isClear ? 4 : 3
  const colour = new Uint8Array(count * channels),
    packed = new Uint8Array(count * 3)
  for (let t = 0; t < count; t++) {
    for (let c = 0; c < channels; c++) colour[t * channels + c] = baked[t * VALUES + c]!
    for (let c = 0; c < 3; c++) packed[t * 3 + c] = baked[t * VALUES + 4 + c]!
  }
  return {
    colour: { width, height, channels, depth: 8, data: colour },
    packed: { width, height, channels: 3, depth: 8, data: packed },
  }
}
