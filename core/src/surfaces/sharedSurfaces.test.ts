import type { Rulebook } from '@stern-gate/contract'
import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { mend } from '../fixtures/mendFixture'
import { openedCrate } from '../fixtures/workFixture'
import { checkRulebook } from '../judge/checkRulebook'
import { defaultRulebook } from '../rulebook/defaultRulebook'
import { resolveSurface, resolveSurfaces, surfacesBehind } from './sharedSurfaces'

type Surfaces = Rulebook['surfaces']
const surface = (more: Partial<Surfaces[string]> = {}): Surfaces[string] => ({
  follows: null,
  preset: null,
  values: {},
  ...more,
})
const fleet: Surfaces = {
  'harbour paint': surface({ preset: 'paint', values: { colour: '#204060', roughness: 0.4 } }),
  'worn paint': surface({ follows: 'harbour paint', values: { roughness: 0.8 } }),
  'worn red': surface({ follows: 'worn paint', values: { colour: '#802020' } }),
}
const step = (options: Record<string, string | number | null>) => ({
  id: '1',
  remedy: 'slots/surface',
  options: { slot: 'crate-wood', ...options },
  on: true,
  why: 'own',
})
const book = (surfaces: unknown): unknown => ({ ...defaultRulebook, surfaces })

describe('surfaces of a project', () => {
  it('override some values of the one they follow, along a chain of any length', () => {
    expect(resolveSurface(fleet, 'worn red')).toEqual({
      preset: 'paint',
      values: { colour: '#802020', roughness: 0.8 },
    })
    expect(surfacesBehind(fleet, 'worn red')).toEqual(['worn paint', 'harbour paint'])
  })
  it('come to nothing where one is missing or they go round in a circle', () => {
    const round: Surfaces = { a: surface({ follows: 'b' }), b: surface({ follows: 'a' }) }
    expect(resolveSurface(round, 'a')).toBeNull()
    expect(resolveSurface(fleet, 'toString')).toBeNull()
    expect(surfacesBehind(round, 'a')).toEqual(['b', 'a'])
  })
  it('stand by their values in a recipe, and what a step says itself goes first', () => {
    const { steps } = resolveSurfaces(
      { steps: [step({ shared: 'worn paint', colour: '#ffffff', ior: null })] },
      fleet,
    )
    expect(steps[0]!.options).toEqual({
      slot: 'crate-wood',
      preset: 'paint',
      colour: '#ffffff',
      roughness: 0.8,
      called: 'worn paint',
    })
  })
  it('are put on a slot with their name, and one that is gone is said', async () => {
    const work = await openedCrate({ hull: false })
    const { steps } = resolveSurfaces({ steps: [step({ shared: 'worn red' })] }, fleet)
    expect((await mend(work, 'slots/surface', steps[0]!.options)).said).toBe('crate-wood is worn red')
    const slot = work.document!.getRoot().listMaterials()[0]!
    expect(slot.getRoughnessFactor()).toBe(0.8)
    await expect(mend(work, 'slots/surface', step({ shared: 'gone' }).options)).rejects.toThrow('gone')
  })
  it('come to the values of the last that says each, whatever the chain', () =>
    fc.assert(
      fc.property(
        fc.array(fc.record({ roughness: fc.option(fc.nat(10)), metallic: fc.option(fc.nat(10)) }), {
          minLength: 1,
          maxLength: 8,
        }),
        (layers) => {
          const all: Surfaces = {}
          layers.forEach((layer, i) => {
            const values = Object.fromEntries(
              Object.entries(layer).filter(([, v]) => v !== null),
            ) as Surfaces[string]['values']
            all[`s${i}`] = surface({ follows: i === 0 ? null : `s${i - 1}`, values })
          })
          const last = (key: 'roughness' | 'metallic') =>
            layers.findLast((l) => l[key] !== null)?.[key] ?? undefined
          const got = resolveSurface(all, `s${layers.length - 1}`)!.values
          expect([got['roughness'], got['metallic']]).toEqual([last('roughness'), last('metallic')])
        },
      ),
    ))
})

describe('a rulebook with surfaces', () => {
  it('is taken where they are right, and refused with the place where not', () => {
    expect(checkRulebook(book(fleet)).ok).toBe(true)
    const partOf = (surfaces: unknown): unknown => {
      const read = checkRulebook(book(surfaces))
      return read.ok ? 'taken' : read.fault.where.part
    }
    expect(partOf({ a: { follows: 'b' } })).toBe('surfaces.a.follows')
    expect(partOf({ a: { follows: 'b' }, b: { follows: 'a' } })).toBe('surfaces.a.follows')
    expect(partOf({ a: { values: { roughness: 7 } } })).toBe('surfaces.a.values')
    expect(partOf({ a: { values: { shine: 1 } } })).toBe('surfaces.a.values')
    expect(partOf({ ...fleet, a: { follows: 'worn red', preset: 'paint' } })).toBe('surfaces.a.preset')
  })
})
