import type { ContentFacts } from '@stern-gate/contract'
import { describe, expect, it } from 'vitest'
import { packedOrder } from './packedOrder'

/** Mean, deviation and share of values near an end of a channel. */
type Stats = readonly [mean: number, deviation: number, extreme: number]
const occlusion: Stats = [0.94, 0.07, 0.6],
  rough: Stats = [0.5, 0.11, 0],
  patches: Stats = [0.3, 0.45, 0.97],
  none: Stats = [0, 0, 1],
  full: Stats = [1, 0, 1],
  worn: Stats = [0.6, 0.2, 0.4]
const content = (...channels: Stats[]) =>
  ({
    mean: channels.map((c) => c[0]),
    deviation: channels.map((c) => c[1]),
    extreme: channels.map((c) => c[2]),
  }) as ContentFacts

describe('the order of packed channels by what they look like', () => {
  it.each([
    ['orm', [occlusion, rough, patches]],
    ['orm', [occlusion, rough, none]],
    ['mro', [patches, rough, occlusion]],
    ['mro', [none, rough, occlusion]],
    ['rom', [rough, occlusion, patches]],
    ['rmo', [rough, patches, occlusion]],
    ['omr', [occlusion, patches, rough]],
  ] as const)('is %s', (order, channels) => {
    const found = packedOrder(content(...channels), true)!
    expect(found.order).toBe(order)
    expect(found.probability).toBeGreaterThan(0.95)
    if (order === 'orm') expect(found.fitsAsRead).toBeGreaterThan(0.5)
    else expect(found.fitsAsRead).toBeLessThan(0.05)
  })
  it('is not claimed to be another where a channel of one value leaves it open', () => {
    // No occlusion was baked, and metal all over with some dirt: it may be that
    expect(packedOrder(content(full, rough, [0.97, 0.05, 0.75]), true)).toSatisfy(
      (p: { order: string; probability: number }) => p.order === 'orm' || p.probability < 0.95,
    )
    // One roughness all over, and metal with shade painted in
    const { order, probability } = packedOrder(content(full, full, worn), false)!
    expect(order === 'xrm' || probability < 0.95).toBe(true)
  })
  it('leaves red free where only roughness and metallic are read', () => {
    expect(packedOrder(content(patches, patches, rough), false)!.order).toBe('xmr')
    expect(packedOrder(content(none, rough, patches), false)!.order).toBe('xrm')
  })
  it('is written as a layout of the rulebook writes it, with roughness where gloss is listed, too', () => {
    const of = (...layouts: string[]) =>
      packedOrder(content(none, rough, occlusion), true, Object.fromEntries(layouts.map((l) => [l, {}])))
    expect(of('orm', 'mgo')).toMatchObject({ order: 'mgo', listed: true })
    expect(of('orm', 'mgo', 'mro')).toMatchObject({ order: 'mro', listed: true })
    const unknown = of('orm')!
    expect([unknown.order, unknown.listed]).toEqual(['mro', false])
    expect(unknown.probability).toBeLessThan(of('orm', 'mro')!.probability)
  })
  it('is nothing of a map of one channel', () => {
    expect(packedOrder(content(rough), true)).toBeNull()
  })
})
