import { describe, expect, it } from 'vitest'
import { createBrush, falloff, type Dab, type SightLine } from './brush'

/** Two sheets of 1 × 1 m, 10 × 10 squares each: one at height 0 that looks up, one 1 cm below that looks down. */
function twoSheets(): { positions: Float32Array; indices: Uint32Array } {
  const positions: number[] = [],
    indices: number[] = []
  for (const [sheet, y] of [0, -0.01].entries()) {
    const first = sheet * 121,
      at = (x: number, z: number): number => first + z * 11 + x
    for (let z = 0; z <= 10; z++) for (let x = 0; x <= 10; x++) positions.push(x / 10, y, z / 10)
    for (let z = 0; z < 10; z++)
      for (let x = 0; x < 10; x++) {
        const [a, b, c, d] = [at(x, z), at(x, z + 1), at(x + 1, z), at(x + 1, z + 1)] as const
        indices.push(...(sheet === 0 ? [a, b, c, c, b, d] : [a, c, b, c, d, b]))
      }
  }
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) }
}
const down = (x: number, z: number): SightLine => ({ origin: [x, 1, z], direction: [0, -1, 0] })
const dab = (line: SightLine, more: Partial<Dab> = {}): Dab => ({
  line,
  stroke: 1,
  radius: 0.25,
  hardness: 1,
  strength: 1,
  erases: false,
  ...more,
})
const brushOf = () => {
  const { positions, indices } = twoSheets()
  return createBrush(positions, indices, new Float32Array(242))!
}
/** Vertices with a value above nothing. */
const painted = (values: Float32Array): number[] => [...values.keys()].filter((v) => values[v]! > 0)

describe('the fading of a brush', () => {
  it('is whole up to its hardness, half in the middle of what is left, and nothing at the rim', () => {
    expect(falloff(0.5, 1, 0.5)).toBe(1)
    expect(falloff(0.75, 1, 0.5)).toBeCloseTo(0.5, 9)
    expect(falloff(1, 1, 0.5)).toBe(0)
    expect(falloff(0.99, 1, 1)).toBe(1)
  })
})

describe('a brush', () => {
  it('paints what lies within its radius and looks to the eye', () => {
    const brush = brushOf(),
      done = brush.dab(dab(down(0.5, 0.5)))!
    // Places of a grid of 10 cm within 25 cm: 21, and none of the sheet below that looks away
    expect(painted(brush.values())).toHaveLength(21)
    expect(Math.max(...done.vertices)).toBeLessThan(121)
    expect(new Set(done.values)).toEqual(new Set([1]))
  })
  it('paints the other sheet from below, and nothing beside it', () => {
    const brush = brushOf()
    brush.dab(dab({ origin: [0.5, -1, 0.5], direction: [0, 1, 0] }))
    expect(painted(brush.values()).every((v) => v >= 121)).toBe(true)
    expect(brush.dab(dab(down(3, 3)))).toBeNull()
  })
  it('does not add up within a stroke, and does from stroke to stroke', () => {
    const brush = brushOf(),
      half = dab(down(0.5, 0.5), { strength: 0.5 })
    brush.dab(half)
    brush.dab(half)
    expect(brush.values()[60]).toBe(0.5)
    brush.dab({ ...half, stroke: 2 })
    expect(brush.values()[60]).toBe(0.75)
    brush.dab({ ...half, stroke: 3, erases: true })
    expect(brush.values()[60]).toBe(0.375)
  })
  it('lays within a stroke the strongest that reached a vertex, not one over the other', () => {
    const brush = brushOf()
    // Vertex 60 at 0.5, 0.5: the first dab is half way to its rim there, the second whole
    brush.dab(dab(down(0.625, 0.5), { hardness: 0, strength: 0.8 }))
    expect(brush.values()[60]).toBeCloseTo(0.4, 5)
    brush.dab(dab(down(0.5, 0.5), { hardness: 0, strength: 0.8 }))
    expect(brush.values()[60]).toBeCloseTo(0.8, 5)
    brush.dab(dab(down(0.625, 0.5), { hardness: 0, strength: 0.8 }))
    expect(brush.values()[60]).toBeCloseTo(0.8, 5)
  })
  it('takes back stroke by stroke', () => {
    const brush = brushOf()
    brush.dab(dab(down(0.2, 0.2)))
    brush.dab(dab(down(0.3, 0.2)))
    const one = brush.values()
    brush.dab(dab(down(0.8, 0.8), { stroke: 2 }))
    brush.fill(0.5)
    brush.undo()
    brush.undo()
    expect(brush.values()).toEqual(one)
    brush.undo()
    expect(painted(brush.values())).toEqual([])
    expect(brush.undo()).toBeNull()
  })
  it('fills all, or what hangs together', () => {
    const brush = brushOf()
    expect(brush.fillShell(down(0.5, 0.5), 1)!.vertices).toHaveLength(121)
    expect(painted(brush.values()).every((v) => v < 121)).toBe(true)
    brush.fill(0.25)
    expect(new Set(brush.values())).toEqual(new Set([0.25]))
    expect(brush.fillShell(down(5, 5), 1)).toBeNull()
    brush.undo()
    expect(painted(brush.values())).toHaveLength(121)
  })
  it('has nothing to paint on without triangles', () => {
    expect(createBrush(new Float32Array(9), new Uint32Array(0), new Float32Array(3))).toBeNull()
  })
})
