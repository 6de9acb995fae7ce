import type { Tint } from '@stern-gate/contract'
import { describe, expect, it } from 'vitest'
import { tintsAfter } from './tintsAfter'

const own: Tint[] = [
  { channel: 'R', colour: [1, 0, 0], strength: 1 },
  { channel: 'G', colour: [0, 1, 0], strength: 0.5 },
]

describe('the tints of a slot', () => {
  it('are as the file says where nothing is tried', () => expect(tintsAfter(own, {})).toEqual(own))
  it('follow what is tried: another colour, another strength, one more, one less', () => {
    expect(tintsAfter(own, { red: '#0000ff', redStrength: 0.2, green: 'none', alpha: '#ffffff' })).toEqual([
      { channel: 'R', colour: [0, 0, 1], strength: 0.2 },
      { channel: 'A', colour: [1, 1, 1], strength: 1 },
    ])
  })
  it('are none by a strength alone', () => expect(tintsAfter([], { redStrength: 0.5 })).toEqual([]))
})
