import { describe, expect, it } from 'vitest'
import { checkRulebook } from '../judge/checkRulebook'
import { rulebookDifferences } from '../soundings/rulebookDifferences'
import { composeRulebook } from './composeRulebook'
import { defaultRulebook } from './defaultRulebook'
import { fitsGlob } from './glob'
import { alternativesOf, compilePattern, fitsPattern, matchName, partSpans, writeName } from './pattern'
import { rulebookFor } from './rulebookFor'
import { startingRulebooks } from './startingRulebooks'

describe('a rulebook over another', () => {
  it('changes what it says, key by key, and takes lists whole', () => {
    const composed = composeRulebook(defaultRulebook, {
      $schema: 'x',
      extends: 'default',
      green: 'down',
      classes: { prop: { slots: 3, folders: ['things'] } },
    })
    expect(composed['green']).toBe('down')
    expect(composed).not.toHaveProperty('extends')
    expect((composed['classes'] as Record<string, unknown>)['prop']).toEqual({
      ...defaultRulebook.classes['prop'],
      slots: 3,
      folders: ['things'],
    })
    expect(checkRulebook(composed).ok).toBe(true)
  })
  it('may begin from each of the starting ones', () => {
    for (const [name, rulebook] of Object.entries(startingRulebooks)) {
      expect(checkRulebook(rulebook).ok).toBe(true)
      expect(rulebook.name).toBe(name)
    }
  })
  it('is refused by name where a newer application wrote a key', () => {
    const refused = checkRulebook({ ...defaultRulebook, tides: 3 })
    expect(refused.ok ? '' : refused.fault.why).toContain('tides')
    const deep = checkRulebook({
      ...defaultRulebook,
      classes: { prop: { ...defaultRulebook.classes['prop'], mass: 1 } },
    })
    expect(deep.ok ? {} : deep.fault).toMatchObject({ where: { part: 'classes.prop' } })
    const wrong = checkRulebook({
      ...defaultRulebook,
      rules: { 'uvs/overlap': { options: { share: 'much' } } },
    })
    expect(wrong.ok ? {} : wrong.fault).toMatchObject({ where: { part: 'rules.uvs/overlap' } })
  })
})

describe('settings by path', () => {
  const rulebook = {
    ...defaultRulebook,
    rules: { 'uvs/overlap': { level: 'caution' as const, options: { share: 0.1 } } },
    overrides: [
      { files: 'props/old/**', rules: { 'uvs/overlap': { level: 'note' as const } } },
      { files: '*_hero.*', rules: { 'uvs/overlap': { options: { share: 0 } } } },
    ],
  }
  it('lie over those for all, the later ones over the earlier', () => {
    expect(rulebookFor(rulebook, 'props/crate.glb')).toBe(rulebook)
    expect(rulebookFor(rulebook, 'props/old/crate.glb').rules['uvs/overlap']).toEqual({
      level: 'note',
      options: { share: 0.1 },
    })
    expect(rulebookFor(rulebook, 'props/old/crate_hero.glb').rules['uvs/overlap']).toEqual({
      level: 'note',
      options: { share: 0 },
    })
    expect(rulebookFor(rulebook, 'props/old/a.glb')).toBe(rulebookFor(rulebook, 'props/old/b.glb'))
  })
  it.each([
    ['props/**', 'props/a/b.glb', true],
    ['props/*', 'props/a/b.glb', false],
    ['*.png', 'textures/a.png', true],
    ['Props/**', 'props/a.glb', true],
    ['{a,b}/**', 'b/c.glb', true],
    ['!props/**', 'props/a.glb', false],
  ])('%s fits %s: %s', (glob, path, fits) => expect(fitsGlob(glob, path)).toBe(fits))
})

describe('patterns of which one will do', () => {
  const compiled = compilePattern('{subject}-{n:##} | {subject:[A-Z]+}_{variant:[a-z]}')
  const pattern = compiled.ok ? compiled.value : null
  it('are taken apart at bars outside of brackets', () => {
    expect(alternativesOf('{a:x | y} | [b | ]c')).toEqual(['{a:x | y}', '[b | ]c'])
    expect(alternativesOf('plain')).toEqual(['plain'])
  })
  it('fit, give parts and spans, and write by the first that can', () => {
    expect(['crate-07', 'CRATE_a', 'crate_a', 'CRATE-07'].map((n) => fitsPattern(pattern!, n))).toEqual([
      true,
      true,
      false,
      false,
    ])
    expect(matchName(pattern!, 'CRATE_a')).toEqual({ fits: true, parts: { subject: 'CRATE', variant: 'a' } })
    expect(partSpans(pattern!, 'CRATE_a')).toEqual({ subject: [0, 5], variant: [6, 7] })
    expect(writeName(pattern!, { subject: 'CRATE', variant: 'b' })).toBe('CRATE_b')
  })
  it('say of a misfit where the best of them ends', () => {
    expect(matchName(pattern!, 'CRATE_7')).toEqual({ fits: false, from: 6, expected: 'the variant' })
    expect(compilePattern('a | {').ok).toBe(false)
  })
})

describe('differences of two rulebooks', () => {
  it('are said with the title of the rule, from what to what', () => {
    const after = {
      ...defaultRulebook,
      green: 'down' as const,
      rules: { 'uvs/overlap': { level: 'note' as const, options: { share: 0.1 } } },
      classes: { ...defaultRulebook.classes, barn: defaultRulebook.classes['prop']! },
    }
    const said = rulebookDifferences(defaultRulebook, after)
    expect(said).toContain('green: up → down')
    expect(said).toContain('classes · barn: new')
    expect(said.filter((line) => line.endsWith('level: default → note'))).toHaveLength(1)
    expect(said.filter((line) => line.endsWith('share: default → 0.1'))).toHaveLength(1)
    expect(rulebookDifferences(after, after)).toEqual([])
  })
})
