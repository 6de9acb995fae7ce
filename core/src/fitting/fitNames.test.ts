import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { PatternKind } from '@stern-gate/contract'
import { defaultRulebook } from '../rulebook/defaultRulebook'
import { compilePattern, fitsPattern } from '../rulebook/pattern'
import { roleOfName } from '../rulebook/textureRole'
import { seededNumbers } from '../geometry/surfaceSamples'
import { fitNames } from './fitNames'

const isRole = (word: string): boolean => roleOfName(defaultRulebook, word) !== null
const nouns = [
  'crate',
  'barrel',
  'rope',
  'lamp',
  'anchor',
  'net',
  'oar',
  'buoy',
  'crane',
  'hut',
  'pier',
  'mast',
]
const kinds = ['old', 'big', 'wet', 'rusty', 'round', 'broken', 'tall', 'red']
const capital = (w: string): string => w[0]!.toUpperCase() + w.slice(1)

/** Noun and kind that four maps in a row share. */
const stem = (n: number): [string, string] => [nouns[(n >> 2) % 12]!, kinds[((n >> 2) * 5) % 8]!]

/** How a made-up project writes its names: from words to a name. */
interface Custom {
  kind: PatternKind
  write: (noun: string, kind: string, n: number) => string
  /** What the found pattern refuses. */
  refuses: string[]
}

const customs: Record<string, Custom> = {
  'small words, underscores, two figures': {
    kind: 'mesh',
    write: (a, b, n) => `${b}_${a}_${String((n % 40) + 1).padStart(2, '0')}`,
    refuses: ['BigCrate_01', 'big-crate-01', 'big_crate_1', 'big_crate'],
  },
  'a code in front, capital words': {
    kind: 'mesh',
    write: (a, b) => `MSH_${capital(b)}${capital(a)}`,
    refuses: ['BigCrate', 'msh_big_crate', 'MSH-BigCrate'],
  },
  'words joined by hyphens': {
    kind: 'mesh',
    write: (a, b) => `${a}-${b}`,
    refuses: ['crate_big', 'CrateBig'],
  },
  'one capital word and a variant letter': {
    kind: 'mesh',
    write: (a, b, n) => `${capital(b)}${capital(a)}_${'ABCDE'[n % 5]!}`,
    refuses: ['BigCrate', 'big_crate_A', 'BigCrate_a'],
  },
  'three codes in front': {
    kind: 'mesh',
    write: (a, b, n) => `${['env', 'prp', 'chr'][n % 3]!}_${b}_${a}`,
    refuses: ['veh_big_crate', 'env-big-crate'],
  },
  'capitals only': {
    kind: 'mesh',
    write: (a, b) => `${b.toUpperCase()}_${a.toUpperCase()}`,
    refuses: ['big_crate', 'Big_Crate'],
  },
  'texture roles as single letters': {
    kind: 'texture',
    write: (_, __, n) => `${capital(stem(n)[1])}${capital(stem(n)[0])}_${'DNMR'[n % 4]!}`,
    refuses: ['BigCrate_Normal', 'big_crate_D', 'BigCrate'],
  },
  'texture roles as words, in one word': {
    kind: 'texture',
    write: (a, b, n) => `${b}${capital(a)}${['Diffuse', 'Normal', 'Rough'][n % 3]!}`,
    refuses: ['bigCrate', 'big_crate_diffuse'],
  },
  'a number behind the role': {
    kind: 'texture',
    write: (a, b, n) =>
      `t_${b}_${a}_${['albedo', 'normal', 'orm'][n % 3]!}_${String(1 + (n % 7)).padStart(2, '0')}`,
    refuses: ['t_big_crate_albedo', 'big_crate_albedo_01'],
  },
  'levels with a mark': {
    kind: 'lod',
    write: (a, b, n) => `${capital(b)}${capital(a)}_LOD${n % 4}`,
    refuses: ['BigCrate_lod1', 'BigCrate', 'BigCrate_L1'],
  },
  'slots of two halves': {
    kind: 'slot',
    write: (a, b) => `${a}-${b}`,
    refuses: ['crate', 'crate_big', 'Crate-Big'],
  },
  'clips of two halves': {
    kind: 'clip',
    write: (a, b) => `${a}@${b}`,
    refuses: ['crate_big', 'crate'],
  },
}

const fitted = (source: string) => {
  const compiled = compilePattern(source)
  if (!compiled.ok) throw new Error(compiled.fault.why)
  return (name: string): boolean => fitsPattern(compiled.value, name)
}
const libraryOf = (custom: Custom, size = 96): string[] =>
  Array.from({ length: size }, (_, n) => custom.write(nouns[n % 12]!, kinds[Math.floor(n / 12) % 8]!, n))

describe('fitting names', () => {
  it.each(Object.entries(customs))('%s', (_, custom) => {
    const names = libraryOf(custom),
      found = fitNames(names, custom.kind, isRole)
    expect(found.pattern).not.toBeNull()
    expect(found.misfits).toEqual([])
    expect([...names].reverse().every(fitted(found.pattern!))).toBe(true)
    for (const name of custom.refuses) expect([name, fitted(found.pattern!)(name)]).toEqual([name, false])
  })
  it.each(Object.entries(customs))('%s, with typos and one stray in ten', (_, custom) => {
    const names = libraryOf(custom),
      random = seededNumbers(7)
    const noisy = names.map((name, n) => {
      if (n % 10 === 3) return `Untitled ${n} (copy)`
      if (n % 17 !== 5) return name
      // A letter doubled
      const at = 1 + Math.floor(random() * 2)
      return name.slice(0, at) + name[at]! + name.slice(at)
    })
    const found = fitNames(noisy, custom.kind, isRole)
    expect(found.pattern).not.toBeNull()
    const fits = fitted(found.pattern!)
    expect(names.filter((name) => !fits(name))).toEqual([])
    expect(found.misfits.filter((name) => name.startsWith('Untitled')).length).toBeGreaterThanOrEqual(
      new Set(noisy.filter((name) => name.startsWith('Untitled'))).size,
    )
    for (const name of custom.refuses) expect([name, fits(name)]).toEqual([name, false])
  })
  it('names two patterns and what tells them apart where one does not do', () => {
    const names = [
      ...libraryOf(customs['words joined by hyphens']!, 50),
      ...libraryOf(customs['capitals only']!, 50),
    ]
    const found = fitNames(names, 'mesh')
    expect(found).toMatchObject({ misfits: [], apart: expect.stringMatching(/joined by “.”, and by “.”/) })
    expect(found.pattern).toContain(' | ')
  })
  it('proposes nothing for names without a custom, and shows what there is', () => {
    const names = [
      'Crate',
      'old barrel',
      'rope-3',
      'LAMP 02',
      'an_anchor',
      'netBig',
      '7oar',
      'Buoy_x',
      'crane!',
      'hüt',
    ]
    expect(fitNames(names, 'mesh')).toMatchObject({ pattern: null, fits: 0, of: 10 })
    expect(fitNames(names, 'mesh').groups.reduce((sum, g) => sum + g.count, 0)).toBe(10)
    expect(fitNames(['a_b', 'c_d'], 'mesh').pattern).toBeNull()
  })
  it('does not depend on the order, and counts doubled names once', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...Object.values(customs)),
        fc.array(fc.nat(), { minLength: 116, maxLength: 116 }),
        (custom, order) => {
          const names = libraryOf(custom)
          const shuffled = [...names, ...names.slice(0, 20)]
            .map((name, i) => ({ name, at: order[i]! }))
            .sort((a, b) => a.at - b.at)
            .map(({ name }) => name)
          expect(fitNames(shuffled, custom.kind, isRole)).toEqual(fitNames(names, custom.kind, isRole))
        },
      ),
      { numRuns: 40 },
    )
  })
  it('gives back a pattern that accepts all that a custom makes', () => {
    const word = fc.stringMatching(/^[a-z]{3,8}$/)
    fc.assert(
      fc.property(
        fc.array(fc.tuple(word, word), { minLength: 30, maxLength: 60 }),
        fc.constantFrom('_', '-', '.'),
        fc.constantFrom('', 'msh', 'KIT'),
        fc.boolean(),
        (pairs, sign, front, capitals) => {
          const write = (w: string): string => (capitals ? capital(w) : w)
          const names = pairs.map(([a, b]) => [front, write(a), write(b)].filter((w) => w !== '').join(sign))
          const { pattern } = fitNames(names, 'mesh')
          expect(pattern).not.toBeNull()
          expect(names.filter((n) => !fitted(pattern!)(n))).toEqual([])
          // Names of another custom
          const other = sign === '_' ? '-' : '_'
          for (const [a, b] of pairs.slice(0, 5))
            expect(fitted(pattern!)(`${write(a)}${other}${write(b)}`)).toBe(false)
        },
      ),
      { numRuns: 60 },
    )
  })
})
