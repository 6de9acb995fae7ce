import { fullValue, type Pixels } from './pixels'

/**
 * Returns the map with every vector unit long, at the same depth; a vector without length becomes straight
 * up. Needs three channels or more; others stay as they are.
 */
export function renormalisePixels(pixels: Pixels): Pixels {
  const { channels } = pixels
  const full = fullValue(pixels),
    half = full / 2
  const data = pixels.data.slice()
  for (let k = 0; k + 2 < data.length; k += channels) {
    const x = data[k]! / half - 1,
      y = data[k + 1]! / half - 1,
      z = data[k + 2]! / half - 1
    const length = Math.sqrt(x * x + y * y + z * z)
    const [nx, ny, nz] = length > 1e-6 ? [x / length, y / length, z / length] : [0, 0, 1]
    data[k] = Math.round((nx + 1) * half)
    data[k + 1] = Math.round((ny + 1) * half)
    data[k + 2] = Math.round((nz + 1) * half)
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
