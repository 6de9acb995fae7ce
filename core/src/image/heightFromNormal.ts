import { transformField } from './fourier'
import { vectorAt, type Vector } from './normalPixels'
import { fullValue, type Pixels } from './pixels'

export interface FoundHeight {
  /** Grey of 16 bits: 0 the lowest, full the highest. */
  pixels: Pixels
  /** From the lowest to the highest, in texels. */
  relief: number
}

/** Slopes steeper than this are seams or noise, not relief. */
const STEEPEST = 8

/**
 * The height whose slopes come nearest to those of a normal map, by least squares over all frequencies (Frankot and
 * Chellappa 1988). `wrap`: it goes on at its other side; `mirror`: it ends where the map does, and the field that is
 * worked on has four times as many texels. What has no mean slope stays: a map that leans as a whole comes out level.
 */
export function heightFromNormal(
  pixels: Pixels,
  { edge, green }: { edge: 'wrap' | 'mirror'; green: 'up' | 'down' },
): FoundHeight {
  const times = edge === 'mirror' ? 2 : 1
  const width = pixels.width * times,
    height = pixels.height * times
  // Slopes across and down are real: one transform takes both, as real and imaginary part
  const { across, down } = slopesOf(pixels, [width, height], green)
  transformField(across, down, [width, height], 'forward')
  const re = new Float64Array(width * height),
    im = new Float64Array(width * height)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const k = y * width + x,
        o = ((height - y) % height) * width + ((width - x) % width)
      const u = frequency(x, width),
        v = frequency(y, height),
        power = u * u + v * v
      if (power === 0) continue
      // The transform of the real parts is the even half of both, that of the imaginary parts the odd one
      const pRe = (across[k]! + across[o]!) / 2,
        pIm = (down[k]! - down[o]!) / 2,
        qRe = (down[k]! + down[o]!) / 2,
        qIm = (across[o]! - across[k]!) / 2
      // Divided by i u and i v, weighed by how much each frequency says of the slopes
      re[k] = (u * pIm + v * qIm) / power
      im[k] = -(u * pRe + v * qRe) / power
    }
  transformField(re, im, [width, height], 'back')
  return stored(re, width, pixels)
}

/** Angle a texel, −π to π; the highest one, which has no sign, says nothing of a slope. */
function frequency(at: number, length: number): number {
  if (at * 2 === length) return 0
  return (2 * Math.PI * (at * 2 < length ? at : at - length)) / length
}

function slopesOf(
  pixels: Pixels,
  [width, height]: readonly [number, number],
  green: 'up' | 'down',
): { across: Float64Array; down: Float64Array } {
  const half = fullValue(pixels) / 2,
    v: Vector = [0, 0, 1]
  const across = new Float64Array(width * height),
    down = new Float64Array(width * height)
  const steep = (slope: number): number => Math.max(-STEEPEST, Math.min(STEEPEST, slope))
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      // Beyond the map it is seen in a mirror, in which slopes turn round
      const isRight = x >= pixels.width,
        isBelow = y >= pixels.height
      const from = (isBelow ? height - 1 - y : y) * pixels.width + (isRight ? width - 1 - x : x)
      vectorAt(pixels, from * pixels.channels, half, v)
      const z = Math.max(1e-3, v[2])
      across[y * width + x] = steep(-v[0] / z) * (isRight ? -1 : 1)
      down[y * width + x] = steep((green === 'up' ? v[1] : -v[1]) / z) * (isBelow ? -1 : 1)
    }
  return { across, down }
}

function stored(field: Float64Array, stride: number, { width, height }: Pixels): FoundHeight {
  let least = Infinity,
    most = -Infinity
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const value = field[y * stride + x]!
      if (value < least) least = value
      if (value > most) most = value
    }
  const relief = most - least
  const data = new Uint16Array(width * height)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      data[y * width + x] =
        relief > 1e-9 ? Math.round(((field[y * stride + x]! - least) / relief) * 65_535) : 32_768
  return { pixels: { width, height, channels: 1, depth: 16, data }, relief: relief > 1e-9 ? relief : 0 }
}
