import { describe, expect, it } from 'vitest'
import { problemOf } from '../fixtures/pairing/problemOf'
import { defaultRulebook } from '../rulebook/defaultRulebook'
import { readSlots } from './nameScore'
import { pairDelivery } from './pairDelivery'
import { suggestSurface } from './suggestSurface'

const of = (slot: string, more: { asset?: string; nodes?: string[] } = {}) =>
  suggestSurface(readSlots(problemOf([{ asset: 'harbour_bell_a', slot, ...more }], []).slots)[0]!)

describe('a surface by the names of a slot', () => {
  it.each([
    ['bell-copper', 'copper', 0.95],
    ['bell-glass', 'glass', 0.95],
    ['hose_rubbers', 'rubber', 0.95],
    ['deck-oak', 'wood', 0.95],
    ['hull-paint', 'paint', 0.665],
    ['wet stone', 'wet-stone', 0.95],
    ['cover canvs', 'canvas', 0.817],
  ])('%s is %s', (slot, preset, confidence) => {
    const found = of(slot)!
    expect(found.preset).toBe(preset)
    expect(found.confidence).toBeCloseTo(confidence, 2)
    expect(found.reason).toContain(found.title)
  })
  it('is less sure by the node and by the mesh, and none where no word says it', () => {
    expect(of('Material.001', { nodes: ['bell_rope'] })).toMatchObject({ preset: 'rope', confidence: 0.7 })
    expect(of('Material.001', { asset: 'harbour_lamp_a' })).toMatchObject({
      preset: 'lamp',
      confidence: 0.45,
    })
    expect(of('Material.001')).toBe(null)
    expect(of('bell-crate')).toBe(null)
  })
})

describe('slots that nothing feeds', () => {
  const problem = problemOf(
    [
      { asset: 'bell', slot: 'bell-copper' },
      { asset: 'bell', slot: 'bell-skirt' },
      { asset: 'crate', slot: 'crate-oak' },
    ],
    ['crate_oak_bc.png', 'crate_oak_n.png'],
  )
  it('are surfaces of values where their names say so; textures go before', () => {
    const cells = pairDelivery(problem, defaultRulebook).cells.map((c) => [
      c.slot,
      c.input,
      c.state,
      c.preset,
    ])
    expect(cells).toEqual([
      ['bell › bell-copper', 'basecolor', 'found', 'copper'],
      ['bell › bell-skirt', 'basecolor', 'open', null],
      ['bell › bell-skirt', 'normal', 'open', null],
      ['crate › crate-oak', 'basecolor', 'found', null],
      ['crate › crate-oak', 'normal', 'found', null],
    ])
  })
  it('stay what was decided: another surface, or open', () => {
    const { cells } = pairDelivery(problem, defaultRulebook, [
      { slot: 'bell › bell-skirt', input: 'basecolor', texture: null, preset: 'canvas' },
      { slot: 'bell › bell-copper', input: 'basecolor', texture: null },
    ])
    const base = cells.filter((c) => c.slot.startsWith('bell') && c.input === 'basecolor')
    expect(base.map((c) => [c.state, c.name])).toEqual([
      ['open', ''],
      ['wired', 'canvas'],
    ])
    expect(cells.some((c) => c.slot === 'bell › bell-skirt' && c.input === 'normal')).toBe(false)
  })
})
