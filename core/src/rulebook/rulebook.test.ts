import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkRulebook } from '../judge/checkRulebook'
import { classOfAsset } from './classOfAsset'
import { defaultRulebook } from './defaultRulebook'
import { baseName, meshPart } from '../scene/meshParts'
import { nameWords } from './nameWords'
import { compilePattern, matchName, partSpans, writeName, type Pattern } from './pattern'
import { proposeName } from './proposeName'
import { roleOfName } from './textureRole'

function compiled(source: string): Pattern {
  const result = compilePattern(source)
  if (!result.ok) throw new Error(result.fault.why)
  return result.value
}

describe('pattern language', () => {
  const lod = compiled(defaultRulebook.patterns.lod)
  it('gives the parts by name', () => {
    expect(matchName(lod, 'harbour_chart_table_a_lod2')).toMatchObject({
      fits: true,
      parts: { family: 'harbour', subject: 'chart_table', variant: 'a', n: '2' },
    })
    expect(matchName(compiled('{a}[-{n:##}]'), 'box-07')).toMatchObject({
      fits: true,
      parts: { a: 'box', n: '07' },
    })
    expect(partSpans(compiled('{a}[-{n:##}]'), 'box-07')).toMatchObject({ a: [0, 3], n: [4, 6] })
    expect(matchName(compiled('{n:##}'), '7').fits).toBe(false)
    expect(matchName(compiled('x.{role:a|b}'), 'x.b').fits).toBe(true)
    expect(matchName(compiled('x.{role:a|b}'), 'xzb').fits).toBe(false)
  })
  it('says from where on a name does not fit', () => {
    expect(matchName(compiled(defaultRulebook.patterns.slot), 'bollard iron')).toEqual({
      fits: false,
      from: 7,
      expected: '“-”',
    })
    expect(matchName(compiled(defaultRulebook.patterns.slot), 'bollard')).toEqual({
      fits: false,
      from: 7,
      expected: '“-”',
    })
    expect(matchName(lod, 'Harbour_x_lod1')).toMatchObject({ fits: false, from: 0 })
  })
  it.each([
    ['{a', 'never closed'],
    ['a]', 'no ['],
    ['[]', 'nothing between'],
    ['{A}', 'no name for a part'],
    ['{a}{a}', 'stands twice'],
    ['{a:}', 'empty shape'],
    ['{a:(b)}', 'captures'],
    ['{a:[}', 'never closed|no valid'],
    ['[x', 'never closed'],
    ['a}', 'no {'],
  ])('refuses %s', (source, why) => {
    const result = compilePattern(source)
    expect(result.ok).toBe(false)
    if (!result.ok) expect(result.fault.why).toMatch(new RegExp(why.replace(/[[{]/g, '\\$&')))
  })
  it('a written name fits again with the same parts', () => {
    const word = fc.stringMatching(/^[a-z0-9]{1,8}$/)
    fc.assert(
      fc.property(
        word,
        word,
        fc.option(fc.stringMatching(/^[a-z]$/), { nil: undefined }),
        fc.nat(99),
        (family, subject, variant, n) => {
          const parts = { family, subject, n: String(n), ...(variant ? { variant } : {}) }
          const name = writeName(lod, parts)!
          const match = matchName(lod, name)
          expect(match.fits).toBe(true)
          if (match.fits) expect(match.parts).toMatchObject({ family, n: String(n) })
        },
      ),
    )
  })
  it('literal text is only itself', () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[a-z.*+?^$()|/\\-]{1,12}$/), (text) => {
        const pattern = compiled(text)
        expect(matchName(pattern, text).fits).toBe(true)
        expect(matchName(pattern, `${text}x`).fits).toBe(false)
      }),
    )
  })
  it('stays quick on long and nasty names', () => {
    const started = performance.now()
    for (const pattern of Object.values(defaultRulebook.patterns))
      matchName(compiled(pattern), `${'a_'.repeat(5000)}!`)
    expect(performance.now() - started).toBeLessThan(500)
  })
})

describe('proposals', () => {
  const context = {
    rulebook: defaultRulebook,
    family: 'harbour',
    subject: 'skiff',
    role: null,
    taken: new Set(['harbour_skiff']),
  }
  it('keep what can be recognised', () => {
    expect(proposeName('mesh', 'Skiff final 2 (new)', context)).toBe('harbour_skiff_a')
    // A number that tells one thing from another stays; that of a copy, a version or of “final” does not
    const named = (name: string) => proposeName('mesh', name, { ...context, taken: new Set() })
    expect(
      ['Pillar_02', 'pillar 12 (3)', 'pillar.004', 'Pillar v3', 'pillar final 2', '7 seas'].map(named),
    ).toEqual([
      'harbour_pillar_02',
      'harbour_pillar_12',
      'harbour_pillar',
      'harbour_pillar',
      'harbour_pillar',
      'harbour_seas',
    ])
    expect(proposeName('mesh', 'Ölfaß', { ...context, taken: new Set() })).toBe('harbour_olfass')
    expect(proposeName('lod', 'Skiff_LOD1', context)).toBe('harbour_skiff_lod1')
    expect(proposeName('texture', 'SkiffHull_Albedo', { ...context, role: null })).toBe(
      'harbour_skiff_hull_basecolor',
    )
    expect(proposeName('slot', 'Painted Wood', context)).toBe('skiff-painted_wood')
    expect(proposeName('clip', 'rock gently', context)).toBe('skiff@rock_gently')
  })
  it('are not made of nothing, and are never taken names', () => {
    expect(proposeName('slot', 'Material.001', context)).toBeNull()
    expect(proposeName('mesh', '???', { ...context, subject: null })).toBeNull()
    fc.assert(
      fc.property(fc.string({ maxLength: 40 }), (name) => {
        const proposal = proposeName('mesh', name, context)
        if (proposal === null) return
        expect(matchName(compiled(defaultRulebook.patterns.mesh), proposal).fits).toBe(true)
        expect(context.taken.has(proposal)).toBe(false)
      }),
    )
  })
})

describe('reading names', () => {
  it('splits words', () => {
    expect(nameWords('HarbourCrate_BaseColor2K')).toEqual(['harbour', 'crate', 'base', 'color2', 'k'])
    expect(nameWords('Straße-Nord')).toEqual(['strasse', 'nord'])
  })
  it('finds roles by their synonyms as whole parts', () => {
    expect(roleOfName(defaultRulebook, 'rock_nrm.png')).toBe('normal')
    expect(roleOfName(defaultRulebook, 'rock_BaseColor.png')).toBe('basecolor')
    expect(roleOfName(defaultRulebook, 'rock_ao.png')).toBe('occlusion')
    expect(roleOfName(defaultRulebook, 'metalworks.png')).toBeNull()
    expect(roleOfName(defaultRulebook, 'normandy.png')).toBeNull()
  })
  it('tells levels and collision', () => {
    expect(meshPart('x_lod3')).toEqual({ kind: 'level', level: 3 })
    expect(meshPart('x_hull02')).toEqual({ kind: 'collision' })
    expect(meshPart('hullside_a')).toEqual({ kind: 'level', level: 0 })
    expect(baseName('x_a_lod3')).toBe('x_a')
  })
  it('takes the class from choice, folder, name, default', () => {
    const of = (choice: string | null, path: string) =>
      classOfAsset(defaultRulebook, { choice, path, name: 'harbour_x' })
    expect(of('decal', 'vessels/x.glb')).toEqual({ className: 'decal', from: 'choice' })
    expect(of(null, 'props/vessels/x.glb')).toEqual({ className: 'vessel', from: 'folder' })
    expect(of(null, 'x.glb')).toEqual({ className: 'prop', from: 'default' })
  })
})

describe('the door for rulebooks', () => {
  it('lets the default one through', () => expect(checkRulebook(defaultRulebook).ok).toBe(true))
  it.each([
    ['an unknown rule', { ...defaultRulebook, rules: { 'mesh/none': {} } }, 'rulebook/invalid'],
    [
      'an option that does not fit',
      { ...defaultRulebook, rules: { 'scale/pivot': { options: { share: 7 } } } },
      'rulebook/invalid',
    ],
    [
      'a pattern that does not compile',
      { ...defaultRulebook, patterns: { ...defaultRulebook.patterns, slot: '{a' } },
      'pattern/invalid',
    ],
    ['a default class that is not there', { ...defaultRulebook, defaultClass: 'castle' }, 'rulebook/invalid'],
    ['an unknown field', { ...defaultRulebook, extra: 1 }, 'rulebook/invalid'],
    ['no object', 42, 'rulebook/invalid'],
  ])('refuses %s', (_, raw, code) => {
    const result = checkRulebook(raw)
    expect(result.ok).toBe(false)
    if (!result.ok) expect(result.fault.code).toBe(code)
  })
})
