import { seededNumbers } from '@stern-gate/core'

export type Field = (u: number, v: number) => number

/** Smooth noise in −1 … 1 that tiles over 0 … 1, `cells` to a side. */
export function tileNoise(seed: number, cells: number): Field {
  const random = seededNumbers(seed)
  const values = Float32Array.from({ length: cells * cells }, () => random() * 2 - 1)
  const at = (x: number, y: number): number => values[(((y % cells) + cells) % cells) * cells + (((x % cells) + cells) % cells)]!
  const ease = (t: number): number => t * t * t * (t * (t * 6 - 15) + 10)
  return (u, v) => {
    const x = u * cells, y = v * cells, x0 = Math.floor(x), y0 = Math.floor(y)
    const fx = ease(x - x0), fy = ease(y - y0)
    const top = at(x0, y0) * (1 - fx) + at(x0 + 1, y0) * fx, bottom = at(x0, y0 + 1) * (1 - fx) + at(x0 + 1, y0 + 1) * fx
    return top * (1 - fy) + bottom * fy
  }
}

/** Octaves of tileNoise, each of half the strength; about −1 … 1. */
export function cloudNoise(seed: number, cells: number, octaves: number): Field {
  const fields = Array.from({ length: octaves }, (_, i) => tileNoise(seed + i * 101, cells * 2 ** i))
  return (u, v) => fields.reduce((sum, field, i) => sum + field(u, v) / 2 ** i, 0) / 1.6
}

/** 0 below `from`, 1 above `to`, smooth between. */
export function step(from: number, to: number, x: number): number {
  const t = Math.min(1, Math.max(0, (x - from) / (to - from)))
  return t * t * (3 - 2 * t)
}
