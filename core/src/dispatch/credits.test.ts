import { describe, expect, it } from 'vitest'
import { defaultTerms, type Origin } from '@stern-gate/contract'
import { originOf } from '../rulebook/originOf'
import { creditsCsv, creditsMarkdown, type Credited } from './credits'

const asset = (name: string, terms: string | null, more: Partial<Origin> = {}): Credited => ({
  name,
  origin: terms === null ? null : { source: '', author: '', terms, link: '', ...more },
  terms: terms === null ? null : (defaultTerms[terms] ?? null),
})

describe('credits', () => {
  const assets = [
    asset('crate_b', 'credit', { author: 'M. Quay', source: 'an archive', link: 'https://example.org/a b' }),
    asset('crate_a', 'credit', { author: 'A. *Wright*' }),
    asset('buoy', 'own'),
    asset('mast', null),
  ]
  it('name first who must be named, then what has an origin, then what has none', () => {
    expect(creditsMarkdown('Gullwick 3', assets)).toBe(
      [
        '# Credits: Gullwick 3',
        '',
        '## To be named',
        '',
        '- **crate\\_a**: by A. \\*Wright\\*, free with a credit',
        '- **crate\\_b**: by M. Quay, an archive, free with a credit, <https://example.org/a%20b>',
        '',
        '## Further origins',
        '',
        '- **buoy**: our own work',
        '',
        '## Origin not known',
        '',
        '- mast',
        '',
      ].join('\n'),
    )
  })
  it('as a table quote what needs it, and hold nothing that a table takes for a formula', () => {
    const csv = creditsCsv([asset('a,"b"', 'own', { author: '=1+1', source: 'x\ny' }), asset('c', null)])
    expect(csv).toBe(
      'asset,author,source,terms,hand-over,link\r\n"a,""b""",\'=1+1,"x\ny",our own work,allowed,\r\nc,,,,,\r\n',
    )
  })
  it('a link that is no web address is not made one', () => {
    expect(creditsMarkdown('x', [asset('a', 'own', { link: 'javascript:alert(1)' })])).not.toContain(
      'javascript',
    )
  })
})

describe('origin', () => {
  const own: Origin = { source: '', author: 'A', terms: 'own', link: '' },
    bought: Origin = { ...own, terms: 'bought' },
    odd: Origin = { ...own, terms: 'constructor' }
  const rulebook = { terms: { ...defaultTerms }, origins: [{ files: 'bought/**', origin: bought }] }
  it('is what was said of the asset, else what the rulebook says of its folder', () => {
    expect(originOf(rulebook, 'bought/a.glb', own)).toMatchObject({
      by: 'asset',
      terms: { title: 'our own work' },
    })
    expect(originOf(rulebook, 'bought/x/a.glb', null)).toMatchObject({
      by: 'rulebook',
      given: { terms: 'bought' },
    })
    expect(originOf(rulebook, 'other/a.glb', null)).toEqual({ given: null, by: null, terms: null })
    expect(originOf(rulebook, 'other/a.glb', odd).terms).toBeNull()
  })
})
