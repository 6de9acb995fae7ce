import { describe, expect, it } from 'vitest'
import { SOUNDED_CLASS } from '@stern-gate/contract'
import { defaultRulebook } from '@stern-gate/core'
import { limitsIn, roundedLimit, soundingBars, soundingScale } from './soundingScale'

describe('the scale of a sounding', () => {
  it.each(['linear', 'log'] as const)('holds all values and limits, and leads back: %s', (kind) => {
    const scale = soundingScale([3, 40, 500], [20, 1000], kind)
    for (const value of [3, 40, 500, 20, 1000]) {
      const at = scale.at(value)
      expect(at).toBeGreaterThanOrEqual(0)
      expect(at).toBeLessThanOrEqual(1)
      expect(scale.value(at)).toBeCloseTo(value, 6)
    }
    expect(scale.ticks.every((t) => scale.at(t) >= 0 && scale.at(t) <= 1)).toBe(true)
    expect(scale.ticks.length).toBeGreaterThan(2)
    expect(scale.ticks.length).toBeLessThan(14)
  })
  it('stands without values, and with nothing but zeros', () => {
    expect(soundingScale([], [], 'linear').at(1)).toBe(1)
    expect(Number.isFinite(soundingScale([0, 0], [0], 'linear').at(0))).toBe(true)
    expect(soundingScale([0, 5], [2], 'log').at(0)).toBe(0)
  })
  it('counts what is within, newly outside, and was outside before', () => {
    const scale = soundingScale([1, 2, 3, 4], [4], 'linear')
    const bars = soundingBars(
      [1, 2, 3, 4],
      scale,
      4,
      (v) => v <= 2,
      (v) => v <= 3,
    )
    const sum = (key: 'within' | 'newly' | 'beyond'): number => bars.reduce((s, b) => s + b[key], 0)
    expect([sum('within'), sum('newly'), sum('beyond')]).toEqual([2, 1, 1])
  })
  it('rounds to what a person would write', () => {
    expect([1005, 0.01234, 99.4, 123456].map((v) => roundedLimit(v, false))).toEqual([
      1000, 0.012, 99, 120000,
    ])
    expect([1.4, 99.6, 1468].map((v) => roundedLimit(v, true))).toEqual([1, 100, 1500])
  })
})

describe('limits of a rulebook', () => {
  it('stand at their path, in that of the class, or at what holds without one', () => {
    const byClass = {
      words: 'at most',
      side: 'most' as const,
      path: ['classes', SOUNDED_CLASS, 'slots'],
      initial: null,
    }
    const option = {
      words: 'at most',
      side: 'most' as const,
      path: ['rules', 'x', 'options', 'y'],
      initial: 0.5,
    }
    expect(
      limitsIn(defaultRulebook, [byClass, option], 'prop').map((l) => [l.path.join('.'), l.value]),
    ).toEqual([
      ['classes.prop.slots', 2],
      ['rules.x.options.y', 0.5],
    ])
    expect(limitsIn(defaultRulebook, [byClass], 'no such')).toEqual([])
  })
})
