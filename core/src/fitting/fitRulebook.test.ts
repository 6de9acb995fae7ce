import { describe, expect, it } from 'vitest'
import type { Proposal } from '@stern-gate/contract'
import { defaultRulebook } from '../rulebook/defaultRulebook'
import { checkRulebook } from '../judge/checkRulebook'
import { intakePresets, suggestedPreset } from '../rulebook/intakePresets'
import { layoutOfWords, roleOfWords } from '../rulebook/textureRole'
import { applyProposals, fitRulebook } from './fitRulebook'
import type { FitSample, FitTexture } from './fitSample'
import { figureAbove, figureBelow, quantile } from './roundFigures'

const texture = (stem: string, more: Partial<FitTexture> = {}): FitTexture => ({
  stem,
  words: stem.toLowerCase().split('_'),
  named: null,
  measured: null,
  green: null,
  order: null,
  tagRight: null,
  ...more,
})
/** Asset n of a made-up library in one folder: 100 to 1,050 triangles, half a metre to two. */
const sample = (
  n: number,
  more: Partial<FitSample> = {},
  mesh: Partial<NonNullable<FitSample['mesh']>> = {},
): FitSample => ({
  name: `barn_thing_${n}`,
  folder: 'farm',
  className: 'prop',
  classFrom: 'default',
  names: [],
  textures: [],
  mesh: {
    generator: 'Rock Writer 2.4',
    expected: null,
    up: null,
    longestSide: 0.5 + (n % 16) / 10,
    triangles: 100 + n * 50,
    slots: 1 + (n % 2),
    texelsPerMetre: 240 + n,
    levels: 1,
    collision: true,
    lightmap: false,
    repeats: false,
    mirrored: false,
    pivots: ['base-centre'],
    inputs: ['basecolor'],
    ...mesh,
  },
  ...more,
})
const library = Array.from({ length: 20 }, (_, n) => sample(n))
const byId = (samples: readonly FitSample[], id: string): Proposal | undefined =>
  fitRulebook(samples, defaultRulebook).proposals.find((p) => p.id === id)

describe('figures that a person would write', () => {
  it('are the nearest steps above and below', () => {
    expect([1, 1.01, 1234, 0.0123, 2000, 99].map(figureAbove)).toEqual([1, 1.2, 1500, 0.015, 2000, 100])
    expect([1, 1.19, 1234, 0.0123, 2000, 99].map(figureBelow)).toEqual([1, 1, 1200, 0.012, 2000, 80])
    expect(quantile([5, 1, 4, 2, 3], 0.5)).toBe(3)
    expect(quantile([5, 1, 4, 2, 3], 0.95)).toBe(5)
  })
})

describe('a fitted class', () => {
  it('has limits from the distribution: the caution admits 95 %, the stop all', () => {
    const found = byId(library, 'classes.farm')!
    expect(found.change).toEqual([
      {
        path: ['classes', 'farm'],
        value: {
          ...defaultRulebook.classes['prop'],
          title: 'Farm',
          folders: ['farm'],
          words: [],
          longestSide: { min: 0.5, max: 2 },
          triangles: { caution: 1000, stop: 1200 },
          slots: 2,
          texelsPerMetre: 256,
          pivots: ['base-centre'],
          inputs: ['basecolor'],
          lodsAbove: null,
          collision: true,
          lightmap: false,
        },
      },
    ])
    // The one with 1,050 triangles gets a caution
    expect([found.fits, found.of, found.misfits]).toEqual([19, 20, ['barn_thing_19']])
  })
  it('asks for levels above what has them, and for no collision where hardly any has it', () => {
    const samples = library.map((s, n) => ({
      ...s,
      mesh: { ...s.mesh!, levels: n >= 10 ? 3 : 1, collision: n < 3 },
    }))
    const value = byId(samples, 'classes.farm')!.change[0]!.value as { lodsAbove: number; collision: boolean }
    expect([value.lodsAbove, value.collision]).toEqual([500, false])
  })
  it('takes as many kinds of pivot as it needs', () => {
    const samples = library.map((s, n) => ({
      ...s,
      mesh: { ...s.mesh!, pivots: n % 2 ? (['centre'] as const) : (['base-centre'] as const) },
    }))
    expect(byId(samples, 'classes.farm')!.change[0]!.value).toMatchObject({
      pivots: ['base-centre', 'centre'],
    })
    const none = library.map((s) => ({ ...s, mesh: { ...s.mesh!, pivots: [] } }))
    expect(byId(none, 'classes.farm')!.change[0]!.value).toMatchObject({ pivots: ['any'] })
  })
  it('is not made of three assets, and is that of the folder where there are several', () => {
    expect(byId(library.slice(0, 3), 'classes.farm')).toBeUndefined()
    const two = library.map((s, n) => ({ ...s, folder: n % 2 ? 'props' : 'yard' }))
    expect(fitRulebook(two, defaultRulebook).proposals.map((p) => p.id)).toEqual([
      'classes.prop',
      'classes.yard',
    ])
  })
})

describe('words for roles', () => {
  const named = (word: string, role: FitTexture['measured'], count: number): FitTexture[] =>
    Array.from({ length: count }, (_, n) => texture(`barn_thing${n}_${word}`, { measured: role }))
  it('are learnt where their pictures measure alike', () => {
    const textures = [...named('diffiuse', 'basecolor', 5), ...named('shadow', 'occlusion', 3)]
    const found = fitRulebook([sample(0, { textures })], defaultRulebook)
    expect(found.proposals.filter((p) => p.topic === 'roles')).toMatchObject([
      { id: 'roles.diffiuse', then: 'basecolor', fits: 5, of: 5 },
      { id: 'roles.shadow', then: 'occlusion', fits: 3, of: 3 },
    ])
    const fitted = applyProposals(defaultRulebook, found.proposals)
    expect(fitted.roles.basecolor.synonyms).toContain('diffiuse')
    expect(defaultRulebook.roles.basecolor.synonyms).not.toContain('diffiuse')
    // Taken twice it stands there once
    expect(applyProposals(fitted, found.proposals)).toEqual(fitted)
  })
  it('are left alone where they do not, are too few, or are known', () => {
    const textures = [
      ...named('mixed', 'basecolor', 2),
      ...named('mixed', 'normal', 2),
      ...named('rare', 'normal', 2),
      ...named('normal', 'normal', 5),
      ...named('odd', null, 5),
    ]
    expect(
      fitRulebook([sample(0, { textures })], defaultRulebook).proposals.filter((p) => p.topic === 'roles'),
    ).toEqual([])
  })
})

describe('words that are held for empty', () => {
  it('are meant where many names hold them', () => {
    const called = (word: string, count: number): FitSample[] => [
      sample(0, {
        names: Array.from({ length: 10 }, (_, n) => ({
          kind: 'mesh' as const,
          name: n < count ? `barn_${word}_${n}` : `barn_thing_${n}`,
        })),
      }),
    ]
    const found = byId(called('old', 4), 'words')!
    expect(found).toMatchObject({ fits: 4, of: 4, note: expect.stringContaining('4 of 10') })
    expect(found.change[0]!.path).toEqual(['rules', 'names/meaningless', 'options', 'words'])
    expect(found.change[0]!.value).not.toContain('old')
    expect(found.change[0]!.value).toContain('copy')
    expect(byId(called('old', 1), 'words')).toBeUndefined()
    expect(byId(called('grey', 9), 'words')).toBeUndefined()
  })
})

describe('conventions', () => {
  const greens = (down: number, up: number): FitSample[] => [
    sample(0, {
      textures: [...Array<'down'>(down).fill('down'), ...Array<'up'>(up).fill('up')].map((green, n) =>
        texture(`a_b${n}_normal`, { green }),
      ),
    }),
  ]
  it('say which way green points where four in five agree', () => {
    expect(byId(greens(9, 1), 'green')).toMatchObject({
      then: 'down',
      fits: 9,
      of: 10,
      misfits: ['a_b9_normal'],
    })
    expect(byId(greens(7, 3), 'green')).toBeUndefined()
    expect(byId(greens(0, 9), 'green')).toBeUndefined()
    expect(byId(greens(2, 0), 'green')).toBeUndefined()
  })
  it('say that colour tags mean nothing where half of them are wrong', () => {
    const tags = (wrong: number, right: number): FitSample[] => [
      sample(0, {
        textures: [...Array<boolean>(wrong).fill(false), ...Array<boolean>(right).fill(true)].map(
          (tagRight, n) => texture(`a_b${n}_x`, { tagRight }),
        ),
      }),
    ]
    expect(byId(tags(5, 5), 'colourTags')?.change).toEqual([{ path: ['colourTags'], value: 'ignored' }])
    expect(byId(tags(1, 9), 'colourTags')).toBeUndefined()
  })
})

describe('packed channels', () => {
  const packed = (word: string, ...orders: (string | null)[]): FitSample[] => [
    sample(0, {
      textures: orders.map((order, n) => texture(`barn_${n}_${word}`, { order, measured: 'orm' })),
    }),
  ]
  it('of one word and one order make the word mean that order, in the rulebook and in names', () => {
    const found = byId(packed('set', 'mro', 'mro', 'mro', 'mro', 'orm', null), 'layouts.set')!
    expect(found).toMatchObject({ then: 'mro', fits: 4, of: 5, misfits: ['barn_4_set'] })
    expect(found.title).toContain('metallic, roughness, occlusion')
    const fitted = checkRulebook(applyProposals(defaultRulebook, [found]))
    if (!fitted.ok) throw new Error(fitted.fault.why)
    expect(layoutOfWords(fitted.value, ['wall', 'set', '2k'])).toBe('mro')
    expect(roleOfWords(fitted.value, ['wall', 'set'])).toBe('orm')
    expect(fitRulebook(packed('set', 'mro', 'mro', 'mro'), fitted.value).proposals).not.toContainEqual(
      expect.objectContaining({ id: 'layouts.set' }),
    )
  })
  it('of a word that means another order are moved to theirs', () => {
    const before = applyProposals(defaultRulebook, [
      { change: [{ path: ['layouts', 'rom', 'words', '+'], value: 'set' }] },
    ])
    const [found] = fitRulebook(packed('set', 'mro', 'mro', 'mro'), before).proposals.filter((p) =>
      p.id.startsWith('layouts'),
    )
    const after = applyProposals(before, [found!])
    expect([after.layouts['rom']!.words, after.layouts['mro']!.words]).toEqual([[], ['set']])
  })
  it('are left where the name says so already, where they disagree, and where they are few', () => {
    const none = (...of: [string, ...(string | null)[]]): void =>
      expect(byId(packed(...of), `layouts.${of[0]}`)).toBeUndefined()
    none('mro', 'mro', 'mro', 'mro')
    none('orm', 'orm', 'orm', 'orm')
    none('set', 'mro', 'mro', 'rom', 'rom')
    none('set', 'mro', 'mro')
  })
})

describe('units', () => {
  const expected = { min: 0.5, max: 3 }
  const written = (sizes: number[], more: object = {}): FitSample[] =>
    sizes.map((longestSide, n) => sample(n, {}, { longestSide, expected, ...more }))
  const preset = (samples: FitSample[]) => byId(samples, 'intake.Rock Writer')
  it('of what one generator writes become an intake preset, whatever its version', () => {
    const found = preset([
      ...written([110, 120, 180, 2]),
      ...written([90], { generator: 'Rock Writer (v3)' }),
    ])!
    expect(found).toMatchObject({ fits: 4, of: 5, misfits: ['barn_thing_3'] })
    const fitted = checkRulebook(applyProposals(defaultRulebook, [found]))
    if (!fitted.ok) throw new Error(fitted.fault.why)
    expect(suggestedPreset(intakePresets(fitted.value), [], ['Rock Writer 2.4'])).toMatchObject({
      options: { unit: 'centimetre' },
    })
    expect(fitRulebook(written([110, 120, 180]), fitted.value).proposals.map((p) => p.id)).not.toContain(
      'intake.Rock Writer',
    )
  })
  it('are not concluded from right sizes, from classes that are guessed, or from a few', () => {
    expect(preset(written([1, 1.2, 1.8, 2]))).toBeUndefined()
    expect(preset(written([110, 120, 180], { expected: null }))).toBeUndefined()
    expect(preset(written([110, 120]))).toBeUndefined()
    // Nearly in its range: the class is as likely wrong
    expect(preset(written([4, 5, 5.5]))).toBeUndefined()
  })
  it('and the axis that is up stand in one preset, where most of a generator lies one way', () => {
    const found = preset([...written([110, 120, 180, 150], { up: '+Z' }), ...written([160])])!
    expect(found).toMatchObject({ fits: 4, of: 5, misfits: ['barn_thing_0'] })
    expect(found.change[0]!.value).toMatchObject({ options: { unit: 'centimetre', up: '+Z' } })
    expect(preset(written([1, 1.2, 1.8], { up: '-Z' }))!.change[0]!.value).toMatchObject({
      options: { up: '-Z' },
    })
    expect(preset([...written([1, 1], { up: '+Z' }), ...written([1, 1])])).toBeUndefined()
  })
  it('are the one that brings most of them into their range', () => {
    expect(preset(written([1100, 1200, 1800]))!.change[0]!.value).toMatchObject({
      options: { unit: 'millimetre' },
    })
  })
})

describe('a fitted rulebook', () => {
  const names = library.map((s, n) => ({
    ...s,
    names: [
      { kind: 'mesh' as const, name: `KIT-Thing${n}` },
      { kind: 'texture' as const, name: `KIT-Thing${n}-Normal` },
    ],
  }))
  it('is a rulebook, and needs no fitting', () => {
    const found = fitRulebook(names, defaultRulebook)
    const fitted = checkRulebook(applyProposals(defaultRulebook, found.proposals))
    expect(fitted.ok).toBe(true)
    if (fitted.ok)
      expect(fitRulebook(names, fitted.value).proposals.filter((p) => p.topic === 'names')).toEqual([])
  })
  it('is the same for any order', () => {
    expect(fitRulebook([...names].reverse(), defaultRulebook)).toEqual(fitRulebook(names, defaultRulebook))
  })
})
