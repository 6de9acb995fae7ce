import { growRings } from './growRings'
import { putUnit, vectorAt, type Vector } from './normalPixels'
import { fullValue, type Pixels } from './pixels'

/** What the surface is at a texel: its normal, and its tangent with the sign of the bitangent, in object space. */
export interface SurfaceFrames {
  /** 1 where a triangle lies. */
  used: Uint8Array
  /** Three numbers a texel. */
  normals: Float32Array
  /** Four numbers a texel. */
  tangents: Float32Array
}

export interface InTangentSpace {
  pixels: Pixels
  /** Mean of the cosine between the map's vectors and the normals of the surface, the axes laid as they fit best. */
  agreement: number
  /** What red, green and blue stand for, such as “X −Z Y”. */
  axes: string
}

/** So far the islands go on beyond their border, in texels. */
const RINGS = 16

const ORDERS = [
  [0, 1, 2],
  [0, 2, 1],
  [1, 0, 2],
  [1, 2, 0],
  [2, 0, 1],
  [2, 1, 0],
] as const

/**
 * Brings a normal map from object space to tangent space: each vector as seen from the tangent, bitangent and normal of
 * the surface that lies there (Mikkelsen, “Simulation of Wrinkled Surfaces Revisited”, 2008). Which channel is which
 * axis of the mesh is told by the order and signs that agree best with its normals. Texels without a surface become
 * straight up. Null where no texel has one.
 */
export function toTangentSpace(
  pixels: Pixels,
  frames: SurfaceFrames,
  green: 'up' | 'down',
): InTangentSpace | null {
  const half = fullValue(pixels) / 2
  const sums = sumsOf(pixels, frames, half)
  if (!sums) return null
  const { order, signs, agreement } = bestAxes(sums.products, sums.texels)
  const data = pixels.data.slice(),
    v: Vector = [0, 0, 1],
    out: Vector = [0, 0, 1],
    turn = green === 'up' ? 1 : -1
  const { used, normals, tangents } = frames
  for (let texel = 0, k = 0; k + 2 < data.length; texel++, k += pixels.channels) {
    if (used[texel] !== 1) {
      putUnit(data, k, half, [0, 0, 1])
      continue
    }
    vectorAt(pixels, k, half, v)
    const n = normals.subarray(texel * 3, texel * 3 + 3),
      t = tangents.subarray(texel * 4, texel * 4 + 4)
    const x = signs[0]! * v[order[0]]!,
      y = signs[1]! * v[order[1]]!,
      z = signs[2]! * v[order[2]]!
    const bx = t[3]! * (n[1]! * t[2]! - n[2]! * t[1]!),
      by = t[3]! * (n[2]! * t[0]! - n[0]! * t[2]!),
      bz = t[3]! * (n[0]! * t[1]! - n[1]! * t[0]!)
    out[0] = x * t[0]! + y * t[1]! + z * t[2]!
    out[1] = turn * (x * bx + y * by + z * bz)
    out[2] = x * n[0]! + y * n[1]! + z * n[2]!
    putUnit(data, k, half, out)
  }
  const made = { ...pixels, data }
  goOn(made, used, half)
  return { pixels: made, agreement, axes: axesWords(order, signs) }
}

/** Continues the islands over what has no surface, ring by ring, for the mip levels. Edits in place. */
function goOn({ data, channels, width, height }: Pixels, used: Uint8Array, half: number): void {
  const v: Vector = [0, 0, 1]
  growRings(used.slice(), [width, height], RINGS, (texel, known) => {
    const sum: Vector = [0, 0, 0]
    for (const other of known) for (let c = 0; c < 3; c++) sum[c]! += data[other * channels + c]! / half - 1
    for (let c = 0; c < 3; c++) v[c] = sum[c]! / known.length
    putUnit(data, texel * channels, half, v)
  })
}

/** Products of each channel with each axis of the normals, summed over the texels that have a surface. */
function sumsOf(
  pixels: Pixels,
  { used, normals }: SurfaceFrames,
  half: number,
): { products: number[]; texels: number } | null {
  const products = new Array<number>(9).fill(0),
    v: Vector = [0, 0, 1]
  let texels = 0
  for (let texel = 0, k = 0; k + 2 < pixels.data.length; texel++, k += pixels.channels) {
    if (used[texel] !== 1) continue
    texels++
    vectorAt(pixels, k, half, v)
    const length = Math.hypot(v[0], v[1], v[2]) || 1
    for (let i = 0; i < 3; i++)
      for (let j = 0; j < 3; j++) products[i * 3 + j]! += (v[i]! / length) * normals[texel * 3 + j]!
  }
  return texels === 0 ? null : { products, texels }
}

/** For each axis of the mesh the channel that carries it, and its sign, so that they agree best. */
function bestAxes(
  products: readonly number[],
  texels: number,
): { order: readonly [number, number, number]; signs: number[]; agreement: number } {
  let best = { order: ORDERS[0] as readonly [number, number, number], signs: [1, 1, 1], agreement: -Infinity }
  for (const order of ORDERS) {
    const signs = order.map((channel, axis) => (products[channel * 3 + axis]! < 0 ? -1 : 1))
    const sum = order.reduce<number>(
      (all, channel, axis) => all + signs[axis]! * products[channel * 3 + axis]!,
      0,
    )
    if (sum / texels > best.agreement) best = { order, signs, agreement: sum / texels }
  }
  return best
}

const axesWords = (order: readonly number[], signs: readonly number[]): string =>
  [0, 1, 2]
    .map((channel) => {
      const axis = order.indexOf(channel)
      return `${signs[axis]! < 0 ? '−' : ''}${'XYZ'[axis]}`
    })
    .join(' ')
