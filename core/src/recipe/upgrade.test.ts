import { describe, expect, it } from 'vitest'
import { renamedRemedies, renamedRules, type Recipe } from '@stern-gate/contract'
import { checkRulebook } from '../judge/checkRulebook'
import { findRemedy } from '../remedies/index'
import { defaultRulebook } from '../rulebook/defaultRulebook'
import { upgradeRulebook } from '../rulebook/upgradeRulebook'
import { rules } from '../rules/index'
import { upgradeRecipe } from './upgradeRecipe'

describe('what older applications wrote', () => {
  it('a rulebook keeps what it said of a rule under its new id', () => {
    const old = { ...defaultRulebook, rules: { 'scale/unapplied-transform': { level: 'note' } } }
    const checked = checkRulebook(old)
    expect(checked.ok && checked.value.rules).toEqual({ 'scale/unbaked-transform': { level: 'note' } })
  })
  it('a recipe keeps its steps, with options, under the new ids', () => {
    const step = { id: '1', options: { texture: 'a.png' }, on: true }
    const old: Recipe = {
      steps: [
        { ...step, remedy: 'colour/mark-normal', why: 'colour/normal-flag' },
        { ...step, id: '2', remedy: 'uvs/swap', options: { a: 0, b: 1 }, why: 'uvs/purpose' },
        { ...step, id: '3', remedy: 'scale/bake-transform', options: {}, why: 'scale/unapplied-transform' },
        { ...step, id: '4', remedy: 'no/such', options: {}, why: 'own' },
      ],
    }
    const now = upgradeRecipe(old)
    expect(now.steps.map((s) => [s.remedy, s.why])).toEqual([
      ['colour/set-role', 'colour/normal-flag'],
      ['uvs/exchange', 'uvs/purpose'],
      ['scale/bake-transform', 'scale/unbaked-transform'],
      ['no/such', 'own'],
    ])
    expect(now.steps.map((s) => s.options)).toEqual(old.steps.map((s) => s.options))
    // Marking had no role to say: it was always a normal map
    expect(findRemedy('colour/set-role')!.options.parse({ texture: 'a.png' })).toMatchObject({
      role: 'normal',
    })
  })
  it('numbers that were a text become a list', () => {
    const step = { id: '1', on: true, why: 'own' }
    const { steps } = upgradeRecipe({
      steps: [
        { ...step, remedy: 'lods/make', options: { metres: ' 0.002 1e-1', levels: 3 } },
        { ...step, id: '2', remedy: 'lods/set-switches', options: { coverages: '' } },
        { ...step, id: '3', remedy: 'lods/set-switches', options: { coverages: [0.5] } },
      ],
    })
    expect(steps.map((s) => s.options)).toEqual([
      { metres: [0.002, 0.1], levels: 3 },
      { coverages: [] },
      { coverages: [0.5] },
    ])
  })
  it('what is new already is not copied', () => {
    const recipe: Recipe = { steps: [] }
    expect(upgradeRecipe(recipe)).toBe(recipe)
    expect(upgradeRulebook(defaultRulebook)).toBe(defaultRulebook)
    expect(upgradeRulebook(null)).toBe(null)
  })
  it('every new id is there, and no old one', () => {
    const ids = new Set(rules.map((r) => r.id))
    for (const [old, now] of Object.entries(renamedRules))
      expect([ids.has(old), ids.has(now)]).toEqual([false, true])
    for (const [old, now] of Object.entries(renamedRemedies))
      expect([findRemedy(old), findRemedy(now)?.id]).toEqual([undefined, now])
  })
})
