import { describe, expect, it } from 'vitest'
import type { OptionValue, RemedyField } from '@stern-gate/contract'
import { remedies } from './index'
import { remedyInfo } from './remedyFields'

const sample: Record<RemedyField['kind'], OptionValue> = {
  text: 'x',
  number: 2,
  numbers: [1, 2],
  whole: 2,
  switch: true,
  choice: '',
  node: 'hull',
  slot: 'wood',
  texture: 'wood.png',
  clip: 'open',
  missing: 'old.png',
  colour: '#a0b0c0',
}

/** A sample that is neither less nor more than the field takes. */
const within = ({ kind, min, max }: RemedyField): OptionValue => {
  const value = sample[kind]
  return typeof value === 'number' ? Math.max(min ?? -Infinity, Math.min(value, max ?? Infinity)) : value
}

describe.each(remedies.map((r) => [r.id, r] as const))('the fields of %s', (_, remedy) => {
  const { fields } = remedyInfo(remedy)
  it('are all explained, and filled in they are what the remedy takes', () => {
    for (const field of fields) expect(field.about.length, field.name).toBeGreaterThan(3)
    const filled = Object.fromEntries(fields.map((f) => [f.name, f.default ?? f.choices?.[0] ?? within(f)]))
    expect(remedy.options.safeParse(filled).error).toBeUndefined()
    const needed = Object.fromEntries(
      fields.filter((f) => f.default === undefined).map((f) => [f.name, filled[f.name]]),
    )
    expect(remedy.options.safeParse(needed).error).toBeUndefined()
  })
})

describe('fields', () => {
  it('of a list say what a number of it may be, and how many there are at the most', () => {
    const fields = remedyInfo(remedies.find((r) => r.id === 'lods/make')!).fields
    expect(fields.find((f) => f.name === 'metres')).toMatchObject({
      kind: 'numbers',
      default: [],
      min: 0,
      items: 6,
    })
  })
  it('carry choices, limits and whether they may be left out', () => {
    const of = (id: string) => remedyInfo(remedies.find((r) => r.id === id)!).fields
    expect(of('mesh/weld')).toEqual([
      {
        name: 'node',
        about: 'path of one node; null: everywhere',
        kind: 'node',
        default: null,
        optional: true,
      },
      {
        name: 'distance',
        about: 'metres in the world',
        kind: 'number',
        default: 0.0001,
        optional: false,
        min: 0,
        max: 1000,
      },
      {
        name: 'share',
        about:
          'in place of the distance: of the diagonal of the part, so that it holds whatever was scaled before',
        kind: 'number',
        default: null,
        optional: true,
        min: 0,
        max: 0.1,
      },
    ])
    expect(of('colour/set-space')[1]).toEqual({
      name: 'space',
      about: 'space to state in the file',
      kind: 'choice',
      choices: ['srgb', 'linear'],
      optional: false,
    })
  })
})
