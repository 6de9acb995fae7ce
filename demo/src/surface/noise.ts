import { seededNumbers } from '@stern-gate/core'

export type Field = (u: number, v: number) => number

/** Smooth noise in −1 … 1 that tiles over 0 … 1, `cells` to a side. */
export function tileNoise(seed: number, cells: number): Field {
  const random = seededNumbers(seed)
  const values = Float32Array.from({ length: cells * cells }, () => random() * 2 - 1)
  const wrap = (i: number): number => ((i % cells) + cells) % cells
  const ease = (t: number): number => t * t * t * (t * (t * 6 - 15) + 10)
  return (u, v) => {
    const x = u * cells,
      y = v * cells,
      left = Math.floor(x),
      up = Math.floor(y)
    const fx = ease(x - left),
      fy = ease(y - up)
    const x0 = wrap(left),
      x1 = x0 + 1 === cells ? 0 : x0 + 1,
      row0 = wrap(up) * cells,
      row1 = row0 + cells === values.length ? 0 : row0 + cells
    const top = values[row0 + x0]! * (1 - fx) + values[row0 + x1]! * fx,
      bottom = values[row1 + x0]! * (1 - fx) + values[row1 + x1]! * fx
    return top * (1 - fy) + bottom * fy
  }
}

/** Octaves of tileNoise, each of half the strength; about −1 … 1. */
export function cloudNoise(seed: number, cells: number, octaves: number): Field {
  const fields = Array.from({ length: octaves }, (_, i) => tileNoise(seed + i * 101, cells * 2 ** i))
  const strengths = fields.map((_, i) => 1 / 2 ** i / 1.6)
  return (u, v) => {
    let sum = 0
    for (let i = 0; i < fields.length; i++) sum += fields[i]!(u, v) * strengths[i]!
    return sum
  }
}

/** 0 below `from`, 1 above `to`, smooth between. */
export function step(from: number, to: number, x: number): number {
  const t = Math.min(1, Math.max(0, (x - from) / (to - from)))
  return t * t * (3 - 2 * t)
}
