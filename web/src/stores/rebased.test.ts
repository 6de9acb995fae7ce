import { describe, expect, it } from 'vitest'
import { rebased } from './rebased'

describe('a change of mine over one of somebody else', () => {
  const base = {
    green: 'up',
    rules: { a: { level: 'stop' } },
    classes: { prop: { slots: 2, folders: ['props'] } },
  }
  it('keeps what only one of us changed', () => {
    const mine = { ...base, green: 'down' },
      theirs = { ...base, classes: { prop: { slots: 3, folders: ['props'] } } }
    expect(rebased(base, mine, theirs)).toEqual({ ...theirs, green: 'down' })
  })
  it('keeps mine where both of us did', () => {
    const mine = { ...base, rules: { a: { level: 'note' } } },
      theirs = { ...base, rules: { a: { level: 'caution' }, b: { level: 'note' } } }
    expect(rebased(base, mine, theirs)).toEqual({
      ...base,
      rules: { a: { level: 'note' }, b: { level: 'note' } },
    })
  })
  it('keeps what was taken out taken out', () => {
    const mine = { ...base, rules: {} },
      theirs = { ...base, green: 'down' }
    expect(rebased(base, mine, theirs)).toEqual({ ...base, green: 'down', rules: {} })
    expect(rebased(base, { ...base, green: 'down' }, { ...base, rules: {} })).toEqual({
      ...base,
      green: 'down',
      rules: {},
    })
  })
  it('is theirs where I changed nothing', () => {
    expect(rebased(base, base, { other: 1 })).toEqual({ other: 1 })
  })
})
