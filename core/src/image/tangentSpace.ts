import { growRings } from './growRings'
import { putUnit, vectorAt, type Vector } from './normalPixels'
import { fullValue, type Pixels } from './pixels'

/** The surface under a texel, in object space; the same object at every call. */
export interface SurfaceFrame {
  normal: Vector
  tangent: Vector
  /** Sign of the bitangent: normal × tangent times this. */
  sign: number
}

/** Visits the texels that have a surface, each time in the same order; some may come more than once. */
export type VisitFrames = (visit: (texel: number, frame: SurfaceFrame) => void) => void

export interface InTangentSpace {
  pixels: Pixels
  /** Mean of the cosine between the map's vectors and the normals of the surface, the axes laid as they fit best. */
  agreement: number
  /** Mean of blue: how far the vectors point out of the sheet, as all of a map in tangent space do. */
  outward: number
  /** What red, green and blue stand for, such as “X −Z Y”. */
  axes: string
}

/** So far the islands go on beyond their border, in texels. */
const RINGS = 16

const STRAIGHT: Vector = [0, 0, 1]

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
  visitFrames: VisitFrames,
  green: 'up' | 'down',
): InTangentSpace | null {
  const half = fullValue(pixels) / 2
  const axes = bestAxes(pixels, visitFrames, half)
  if (!axes) return null
  const { order, signs, agreement, outward } = axes
  const data = pixels.data.slice(),
    used = new Uint8Array(pixels.width * pixels.height),
    v: Vector = [0, 0, 1],
    out: Vector = [0, 0, 1],
    turn = green === 'up' ? 1 : -1
  for (let k = 0; k + 2 < data.length; k += pixels.channels) putUnit(data, k, half, STRAIGHT)
  visitFrames((texel, { normal: n, tangent: t, sign }) => {
    used[texel] = 1
    vectorAt(pixels, texel * pixels.channels, half, v)
    const x = signs[0]! * v[order[0]]!,
      y = signs[1]! * v[order[1]]!,
      z = signs[2]! * v[order[2]]!
    out[0] = x * t[0] + y * t[1] + z * t[2]
    out[1] =
      turn *
      sign *
      (x * (n[1] * t[2] - n[2] * t[1]) + y * (n[2] * t[0] - n[0] * t[2]) + z * (n[0] * t[1] - n[1] * t[0]))
    out[2] = x * n[0] + y * n[1] + z * n[2]
    putUnit(data, texel * pixels.channels, half, out)
  })
  const made = { ...pixels, data }
  goOn(made, used, half)
  return { pixels: made, agreement, outward, axes: axesWords(order, signs) }
}

/** Continues the islands over what has no surface, ring by ring, for the mip levels. Edits in place. */
function goOn({ data, channels, width, height }: Pixels, used: Uint8Array, half: number): void {
  const v: Vector = [0, 0, 1]
  growRings(used, [width, height], RINGS, (texel, known) => {
    const sum: Vector = [0, 0, 0]
    for (const other of known) for (let c = 0; c < 3; c++) sum[c]! += data[other * channels + c]! / half - 1
    for (let c = 0; c < 3; c++) v[c] = sum[c]! / known.length
    putUnit(data, texel * channels, half, v)
  })
}

interface Axes {
  /** For each axis of the mesh the channel that carries it. */
  order: readonly [number, number, number]
  signs: number[]
  agreement: number
  outward: number
}

/** How the channels have to be laid so that the map's vectors agree best with the normals; null without a surface. */
function bestAxes(pixels: Pixels, visitFrames: VisitFrames, half: number): Axes | null {
  // Products of each channel with each axis of the normals
  const products = new Array<number>(9).fill(0),
    v: Vector = [0, 0, 1]
  let texels = 0,
    outward = 0
  visitFrames((texel, { normal }) => {
    texels++
    vectorAt(pixels, texel * pixels.channels, half, v)
    const length = Math.sqrt(v[0] * v[0] + v[1] * v[1] + v[2] * v[2]) || 1
    outward += v[2] / length
    for (let i = 0; i < 3; i++)
      for (let j = 0; j < 3; j++) products[i * 3 + j]! += (v[i]! / length) * normal[j]!
  })
  if (texels === 0) return null
  return ORDERS.map((order): Axes => {
    const signs = order.map((channel, axis) => (products[channel * 3 + axis]! < 0 ? -1 : 1))
    const sum = order.reduce<number>(
      (all, channel, axis) => all + signs[axis]! * products[channel * 3 + axis]!,
      0,
    )
    return { order, signs, agreement: sum / texels, outward: outward / texels }
  }).reduce((best, next) => (next.agreement > best.agreement ? next : best))
}

const axesWords = (order: readonly number[], signs: readonly number[]): string =>
  [0, 1, 2]
    .map((channel) => {
      const axis = order.indexOf(channel)
      return `${signs[axis]! < 0 ? '−' : ''}${'XYZ'[axis]}`
    })
    .join(' ')
