import type { Detail, SecondLayer, Tint } from '@stern-gate/contract'
import { tintChannels } from '@stern-gate/contract'
import { visitInside } from '../geometry/sheetTexels'
import { growRings } from '../image/growRings'
import { reorient, type Vector } from '../image/normalPixels'
import type { Pixels } from '../image/pixels'
import { linearToSrgb } from '../image/transferCurves'
import { mixed, type Corners } from './rasterTriangle'
import { DETAIL_GREY } from './detailGrey'
import { texelReader, type TexelReader } from './texelReader'

/** A piece of surface that wears a slot, with what is read at its vertices. */
export interface LookPiece {
  indices: ArrayLike<number>
  /** u v of the sheet that is baked on: each texel is one place of the surface. */
  sheet: Float32Array
  /** u v at which the base colour and the mask are read, and the packed map. */
  base: Float32Array
  packed: Float32Array
  /** u v at which the normal map is read. */
  normal: Float32Array
  /** u v of the detail map; null: the piece has none. */
  detail: Float32Array | null
  /** u v of the layer's textures and ramp; null: the piece has none. */
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
  layerRoughness: Pixels | null
  layerNormal: Pixels | null
  detail: Detail | null
  detailTexture: Pixels | null
  detailNormal: Pixels | null
  normal: Pixels | null
  normalStrength: number
}

export interface BakedLook {
  /** sRGB with the alpha of the base colour's own map. */
  colour: Pixels
  /** Occlusion, roughness and metallic; occlusion as the packed map has it, else full. */
  packed: Pixels
  /** Relief of the surface with that of the detail map and the layer; all normals lie on one sheet. */
  normal: Pixels
  /** Texels that a place of the surface lies on, and those that places which look different share. */
  covered: number
  shared: number
}

/** So many rings of texels around islands continue them; what lies further off is their mean. */
const RINGS = 16
/** Bytes that differ by more than this look different. */
const LOOKS_DIFFERENT = 4
/** Values of a texel: red, green, blue, alpha, occlusion, roughness, metallic, and the normal. */
const VALUES = 10

/**
 * Bakes tints, a detail map and a second layer into maps of width × height, as the stage shows them: tints first, the
 * detail on them, the layer over both.
 */
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

type Shade = (piece: LookPiece, corners: Corners, weights: Corners, out: Uint8Array) => void

function shader(look: Look): Shade {
  const read = readers(look)
  const texel = [0, 0, 0, 0],
    colour = [0, 0, 0],
    normal: Vector = [0, 0, 1]
  return (piece, corners, weights, out) => {
    const at = (uvs: Float32Array, axis: 0 | 1): number => mixed(uvs, 2, axis, corners, weights)
    const [u, v] = [at(piece.base, 0), at(piece.base, 1)]
    texel.fill(1)
    read.base?.(u, v, texel)
    for (let c = 0; c < 3; c++) colour[c] = look.factor[c]! * texel[c]!
    out[3] = byteOf(texel[3]!)
    let amount = 0
    if (read.mask) {
      read.mask(u, v, texel)
      tint(colour, look.tints, texel)
      if (look.layer?.by.kind === 'mask') amount = texel[tintChannels.indexOf(look.layer.by.channel)]!
    }
    let [roughness, metallic, occlusion] = [look.roughness, look.metallic, 1]
    if (read.packed) {
      read.packed(at(piece.packed, 0), at(piece.packed, 1), texel)
      occlusion = texel[0]!
      roughness *= texel[1]!
      metallic *= texel[2]!
    }
    readVector(read.normal, [at(piece.normal, 0), at(piece.normal, 1)], look.normalStrength, texel, normal)
    const { layer, detail } = look
    if (detail && piece.detail) {
      const place = [at(piece.detail, 0) * detail.tiling, at(piece.detail, 1) * detail.tiling] as const
      layDetail(colour, normal, detail, read, place, texel)
    }
    if (layer) {
      const along = piece.layer ? [at(piece.layer, 0), at(piece.layer, 1)] : [0, 0]
      if (layer.by.kind === 'vertex')
        amount = piece.amounts ? mixed(piece.amounts, 1, 0, corners, weights) : 0
      else if (layer.by.kind === 'ramp') amount = ramp(layer.by, along)
      amount = layer.strength * (layer.inverted ? 1 - amount : amount)
      const place = [along[0]! * layer.tiling, along[1]! * layer.tiling] as const
      texel.fill(1)
      read.layerTexture?.(place[0], place[1], texel)
      layOver(colour, layer, texel, amount)
      const own = layerRoughness(layer, read.layerRoughness, place, texel)
      if (own !== null) roughness += (own - roughness) * amount
      if (layer.metallic !== null) metallic += (layer.metallic - metallic) * amount
      if (read.layerNormal) {
        const over: Vector = [0, 0, 1]
        readVector(read.layerNormal, place, layer.normal, texel, over)
        for (let c = 0; c < 3; c++) normal[c]! += (over[c]! - normal[c]!) * amount
      }
    }
    for (let c = 0; c < 3; c++) out[c] = byteOf(linearToSrgb(Math.min(1, colour[c]!)))
    out[4] = byteOf(occlusion)
    out[5] = byteOf(roughness)
    out[6] = byteOf(metallic)
    const length = Math.hypot(...normal) || 1
    for (let c = 0; c < 3; c++) out[7 + c] = byteOf((normal[c]! / length + 1) / 2)
  }
}

type Readers = ReturnType<typeof readers>

/** What reads each map that the look has. */
function readers(look: Look) {
  const reader = (picture: Pixels | null, isColour = false): TexelReader | null =>
    picture && texelReader(picture, isColour)
  return {
    base: reader(look.base, true),
    packed: reader(look.packed),
    mask: reader(look.mask),
    normal: reader(look.normal),
    layerTexture: reader(look.layerTexture, true),
    layerRoughness: reader(look.layerRoughness),
    layerNormal: reader(look.layerNormal),
    detailTexture: reader(look.detailTexture, true),
    detailNormal: reader(look.detailNormal),
  }
}

/** The vector of a normal map at a place, its slopes scaled; straight up without a map. */
function readVector(
  read: TexelReader | null,
  [u, v]: readonly number[],
  strength: number,
  texel: number[],
  into: Vector,
): void {
  into[0] = into[1] = 0
  into[2] = 1
  if (!read) return
  read(u!, v!, texel)
  into[0] = (texel[0]! * 2 - 1) * strength
  into[1] = (texel[1]! * 2 - 1) * strength
  into[2] = texel[2]! * 2 - 1
  const length = Math.hypot(...into)
  for (let c = 0; c < 3; c++) into[c] = length < 1e-6 ? (c === 2 ? 1 : 0) : into[c]! / length
}

/** Lays the fine structure on colour and normal. Edits in place. */
function layDetail(
  colour: number[],
  normal: Vector,
  detail: Detail,
  read: Readers,
  place: readonly [number, number],
  texel: number[],
): void {
  if (read.detailTexture) {
    read.detailTexture(place[0], place[1], texel)
    for (let c = 0; c < 3; c++) colour[c]! *= 1 + (texel[c]! / DETAIL_GREY - 1) * detail.colour
  }
  if (read.detailNormal) {
    const fine: Vector = [0, 0, 1]
    readVector(read.detailNormal, place, 1, texel, fine)
    reorient(normal, fine, detail.normal, normal)
  }
}

/** Roughness of the layer at a place; null: that of the surface below. */
function layerRoughness(
  layer: SecondLayer,
  read: TexelReader | null,
  [u, v]: readonly [number, number],
  texel: number[],
): number | null {
  if (!read) return layer.roughness
  read(u, v, texel)
  const least = layer.roughness ?? 0,
    most = layer.roughnessMost ?? 1
  return least + (most - least) * texel[tintChannels.indexOf(layer.roughnessChannel)]!
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

function asMaps(
  baked: Uint8Array,
  width: number,
  height: number,
): Pick<BakedLook, 'colour' | 'packed' | 'normal'> {
  const count = width * height
  let isClear = false
  for (let t = 0; t < count; t++) if (baked[t * VALUES + 3]! < 255) isClear = true
  const channels = isClear ? 4 : 3
  const colour = new Uint8Array(count * channels),
    packed = new Uint8Array(count * 3),
    normal = new Uint8Array(count * 3)
  for (let t = 0; t < count; t++) {
    for (let c = 0; c < channels; c++) colour[t * channels + c] = baked[t * VALUES + c]!
    for (let c = 0; c < 3; c++) packed[t * 3 + c] = baked[t * VALUES + 4 + c]!
    for (let c = 0; c < 3; c++) normal[t * 3 + c] = baked[t * VALUES + 7 + c]!
  }
  return {
    colour: { width, height, channels, depth: 8, data: colour },
    packed: { width, height, channels: 3, depth: 8, data: packed },
    normal: { width, height, channels: 3, depth: 8, data: normal },
  }
}
