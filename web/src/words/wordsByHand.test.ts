import { expect, it } from 'vitest'
import { rules } from '@stern-gate/core'
import { wordsByHand } from './wordsByHand'

/** Findings of these stand on a name, which a person can always give by hand. */
const named = ['names/case-collision', 'names/role-known', 'mesh/vertex-ratio']

it('every rule that never brings a remedy says what to do instead', () => {
  const bare = rules.filter((r) => Object.keys(r.labels).length === 0 && !named.includes(r.id))
  expect(bare.length).toBeGreaterThan(20)
  expect(bare.filter((r) => wordsByHand(r.id).startsWith('No remedy'))).toEqual([])
})
