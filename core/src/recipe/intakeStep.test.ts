import { describe, expect, it } from 'vitest'
import type { Recipe, RecipeStep } from '@stern-gate/contract'
import { withIntake } from './intakeStep'

const step = (remedy: string, options: RecipeStep['options'] = {}): RecipeStep => ({
  id: remedy,
  remedy,
  options,
  on: true,
  why: 'test',
})
const yard = { name: 'yard', options: { unit: 'centimetre', up: '+Z' } }

describe('the intake of a recipe', () => {
  const plain: Recipe = { steps: [step('mesh/weld'), step('names/rename')] }
  it('stands first, takes the place of another one, and goes again', () => {
    const taken = withIntake(plain, yard)
    expect(taken.steps.map((s) => s.remedy)).toEqual(['files/intake', 'mesh/weld', 'names/rename'])
    const other = withIntake(taken, { name: 'dock', options: { unit: 'inch' } })
    expect([other.steps.length, other.steps[0]!.options, other.steps[0]!.why]).toEqual([
      3,
      { unit: 'inch' },
      'preset dock',
    ])
    expect(withIntake(other, null)).toEqual(plain)
  })
  it('that is there already changes nothing, in whatever order its options stand', () => {
    const taken = withIntake(plain, yard)
    expect(withIntake(taken, { name: 'yard', options: { up: '+Z', unit: 'centimetre' } })).toBe(taken)
    expect(withIntake(plain, null)).toBe(plain)
  })
  it('that stands elsewhere, or is switched off, is put first and on', () => {
    const last = { steps: [...plain.steps, withIntake(plain, yard).steps[0]!] },
      off = { steps: [{ ...withIntake(plain, yard).steps[0]!, on: false }] }
    expect(withIntake(last, yard).steps.map((s) => s.remedy)).toEqual([
      'files/intake',
      'mesh/weld',
      'names/rename',
    ])
    expect(withIntake(off, yard).steps[0]!.on).toBe(true)
  })
})
