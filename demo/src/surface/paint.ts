import { encode } from 'fast-png'
import { withPngColourSpace } from '@stern-gate/core'

export type Rgb = [number, number, number]

/** What a surface is at one point: height in sheet widths, colour as sRGB bytes, the rest 0 to 1. */
export interface SurfacePoint {
  height: number
  colour: Rgb
  roughness: number
  metallic: number
  occlusion: number
  alpha?: number
  tint?: number
}

export type Surface = (u: number, v: number) => SurfacePoint

export interface PaintedSet {
  basecolor: Uint8Array
  normal: Uint8Array
  orm: Uint8Array
  tint: Uint8Array | null
}
export interface PaintOptions {
  green?: 'up' | 'down'
  ormFlag?: 'srgb'
  alpha?: boolean
}

/**
 * Paints the texture set of a surface; the normal map comes from the heights by central differences that wrap
 * around.
 */
export function paint(surface: Surface, size: number, options: PaintOptions = {}): PaintedSet {
  const points = Array.from({ length: size * size }, (_, i) =>
    surface(((i % size) + 0.5) / size, (Math.floor(i / size) + 0.5) / size),
  )
  const at = (x: number, y: number): SurfacePoint => points[((y + size) % size) * size + ((x + size) % size)]!
  const orm = pngOf(size, 3, (_, p) => [p.occlusion * 255, p.roughness * 255, p.metallic * 255], points)
  return {
    basecolor: tagged(
      pngOf(
        size,
        options.alpha ? 4 : 3,
        (_, p) => (options.alpha ? [...p.colour, (p.alpha ?? 1) * 255] : p.colour),
        points,
      ),
      'srgb',
    ),
    normal: pngOf(
      size,
      3,
      (i) => normalAt(at, i % size, Math.floor(i / size), size, options.green ?? 'up'),
      points,
    ),
    orm: options.ormFlag ? tagged(orm, options.ormFlag) : orm,
    tint: points.some((p) => p.tint !== undefined)
      ? pngOf(size, 3, (_, p) => [(p.tint ?? 0) * 255, 0, 0], points)
      : null,
  }
}

function normalAt(
  at: (x: number, y: number) => SurfacePoint,
  x: number,
  y: number,
  size: number,
  green: 'up' | 'down',
): number[] {
  const across = ((at(x + 1, y).height - at(x - 1, y).height) * size) / 2
  const down = ((at(x, y + 1).height - at(x, y - 1).height) * size) / 2
  const length = Math.hypot(across, down, 1)
  const g = green === 'up' ? down : -down
  return [127.5 * (1 - across / length), 127.5 * (1 + g / length), 127.5 * (1 + 1 / length)]
}

function pngOf(
  size: number,
  channels: 3 | 4,
  texel: (index: number, point: SurfacePoint) => readonly number[],
  points: SurfacePoint[],
): Uint8Array {
  const data = new Uint8Array(size * size * channels)
  for (const [i, point] of points.entries()) {
    const values = texel(i, point)
    for (let c = 0; c < channels; c++)
      data[i * channels + c] = Math.max(0, Math.min(255, Math.round(values[c]!)))
  }
  return encode({ width: size, height: size, data, channels, depth: 8 })
}

function tagged(png: Uint8Array, space: 'srgb' | 'linear'): Uint8Array {
  const result = withPngColourSpace(png, space)
  if (!result.ok) throw new Error(result.fault.why)
  return result.value
}

/** Mixes two colours. */
export const mix = (a: Rgb, b: Rgb, t: number): Rgb => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
  a[2] + (b[2] - a[2]) * t,
]
