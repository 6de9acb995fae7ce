import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { defaultRulebook } from '../rulebook/defaultRulebook'
import { nameWords } from '../rulebook/nameWords'
import { fitsPattern, matchName } from '../rulebook/pattern'
import { patternOf } from '../rulebook/patternCache'
import { formatCount } from '../numbers/formatNumber'
import { fillMessage } from './fillMessage'

describe('messages', () => {
  it('are filled in each form, several times each', () => {
    expect(
      fillMessage('{a|n} of {b} lie {c|m} off: {d|%}, {a|n} again.', {
        a: 1234567,
        b: 'x',
        c: 0.0042,
        d: 0.9999,
      }),
    ).toBe('1\u202f234\u202f567 of x lie 4.2 mm off: 99.9 %, 1\u202f234\u202f567 again.')
    expect([1, 2].map((n) => fillMessage('Drop {n|triangles}', { n }))).toEqual([
      'Drop 1 triangle',
      'Drop 2 triangles',
    ])
    expect(fillMessage('nothing to fill', {})).toBe('nothing to fill')
    expect(() => fillMessage('{missing}', {})).toThrow('missing')
  })
  it('set thousands apart', () => {
    expect([0, 999, 999.6, 1000, -1234, 12345678].map(formatCount)).toEqual([
      '0',
      '999',
      '1\u202f000',
      '1\u202f000',
      '-1\u202f234',
      '12\u202f345\u202f678',
    ])
    fc.assert(
      fc.property(
        fc.integer(),
        (n) => Number(formatCount(n).replaceAll('\u202f', '')) === n && !/\d{4}/.test(formatCount(n)),
      ),
    )
  })
})

describe('short ways for usual names', () => {
  const name = fc.oneof(
    fc.string(),
    fc.stringMatching(/^[a-z0-9_\-. ]{0,30}$/),
    fc.stringMatching(/^[A-Za-zäß0-9_]{0,30}$/),
  )
  it('a name fits just where taking it apart says so', () => {
    for (const source of Object.values(defaultRulebook.patterns)) {
      const compiled = patternOf(source)
      if (!compiled.ok) throw new Error(compiled.fault.why)
      fc.assert(
        fc.property(name, (n) => fitsPattern(compiled.value, n) === matchName(compiled.value, n).fits),
      )
    }
    const mesh = patternOf(defaultRulebook.patterns.mesh)
    expect(mesh.ok && [fitsPattern(mesh.value, 'harbour_crate_a'), fitsPattern(mesh.value, 'Crate')]).toEqual(
      [true, false],
    )
  })
  it('words are the same in small letters as in capitals with marks', () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[a-z0-9_\-. ]{0,30}$/), (n) => {
        const words = nameWords(n)
        // What is not ASCII goes the long way; a word of its own at the end changes nothing before it
        expect(nameWords(`${n} é`)).toEqual([...words, 'e'])
        expect(words.join('')).toBe(n.replace(/[^a-z0-9]/g, ''))
      }),
    )
  })
})
