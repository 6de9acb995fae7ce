import { fullValue, type Pixels } from './pixels'

export type Vector = [number, number, number]

/**
 * The vector whose channels begin at `k`, as it is stored; of two channels the third is found. `half` is half of the
 * greatest value.
 */
export function vectorAt({ channels, data }: Pixels, k: number, half: number, into: Vector): void {
  into[0] = data[k]! / half - 1
  into[1] = data[k + 1]! / half - 1
  into[2] =
    channels < 3 ? Math.sqrt(Math.max(0, 1 - into[0] * into[0] - into[1] * into[1])) : data[k + 2]! / half - 1
}

/** Stores a vector made unit long; one without length becomes straight up. */
export function putUnit(data: Uint8Array | Uint16Array, k: number, half: number, [x, y, z]: Vector): void {
  const length = Math.sqrt(x * x + y * y + z * z)
  const s = length > 1e-6 ? 1 / length : 0
  data[k] = Math.round((x * s + 1) * half)
  data[k + 1] = Math.round((y * s + 1) * half)
  data[k + 2] = Math.round(((s === 0 ? 1 : z * s) + 1) * half)
}

/**
 * A vector of a detail laid over one of a base: turned by what turns straight up into the base's (reoriented normal
 * mapping, Barré-Brisebois and Hill 2012). The strength scales the slopes of the detail first. Of no certain length.
 */
export function reorient(base: Vector, detail: Vector, strength: number, into: Vector): void {
  const z = base[2] + 1
  const [u, v, w] = [-strength * detail[0], -strength * detail[1], detail[2]]
  const dot = (base[0] * u + base[1] * v + z * w) / Math.max(1e-6, z)
  into[0] = base[0] * dot - u
  into[1] = base[1] * dot - v
  into[2] = z * dot - w
}

/**
 * Returns the map with every vector unit long, at the same depth; a vector without length becomes straight
 * up. Needs three channels or more; others stay as they are.
 */
export function renormalisePixels(pixels: Pixels): Pixels {
  const half = fullValue(pixels) / 2,
    v: Vector = [0, 0, 1]
  const data = pixels.data.slice()
  for (let k = 0; k + 2 < data.length; k += pixels.channels) {
    vectorAt(pixels, k, half, v)
    putUnit(data, k, half, v)
  }
  return { ...pixels, data }
}

export interface HeightOptions {
  /** Slope of a step from 0 to full over one texel. */
  strength: number
  /** Where the map ends: go on at the other side, or repeat the last row. */
  edge: 'wrap' | 'clamp'
  green: 'up' | 'down'
}

/**
 * Normal map of a height map: 3 × 3 Sobel slopes of its first channel times the strength; RGB, 8 or 16 bit as
 * the input.
 */
export function normalFromHeight(pixels: Pixels, { strength, edge, green }: HeightOptions): Pixels {
  const { width, height, channels, data: source } = pixels
  const full = fullValue(pixels),
    half = full / 2
  const data = new (pixels.depth === 16 ? Uint16Array : Uint8Array)(width * height * 3)
  const place = (i: number, length: number): number =>
    edge === 'wrap' ? (i + length) % length : Math.min(length - 1, Math.max(0, i))
  const at = (x: number, y: number): number =>
    source[(place(y, height) * width + place(x, width)) * channels]! / full
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const nw = at(x - 1, y - 1),
        n = at(x, y - 1),
        ne = at(x + 1, y - 1),
        w = at(x - 1, y),
        e = at(x + 1, y),
        sw = at(x - 1, y + 1),
        s = at(x, y + 1),
        se = at(x + 1, y + 1)
      const across = ((ne + 2 * e + se - nw - 2 * w - sw) / 8) * strength,
        down = ((sw + 2 * s + se - nw - 2 * n - ne) / 8) * strength
      const length = Math.sqrt(across * across + down * down + 1)
      const k = (y * width + x) * 3
      data[k] = Math.round((1 - across / length) * half)
      data[k + 1] = Math.round((1 + (green === 'up' ? down : -down) / length) * half)
      data[k + 2] = Math.round((1 + 1 / length) * half)
    }
  return { width, height, channels: 3, depth: pixels.depth, data }
}
