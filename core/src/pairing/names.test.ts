import { describe, expect, it } from 'vitest'
import { looksLike } from '../fixtures/pairing/problemOf'
import { defaultRulebook } from '../rulebook/defaultRulebook'
import { packedLayout } from '../rulebook/layoutLetters'
import { likenessAmong, nearWords, withinOneEdit } from './nearWords'
import { rarityAmong } from './rarity'
import { roleOfTexture } from './roleOfTexture'
import { splitGlued, splitName, splitSubject } from './splitName'

describe('splitting a name', () => {
  it.each([
    ['LadderRust02_albedo', ['ladder', 'rust', '2', 'albedo']],
    ['crate_b_01-nrm', ['crate', 'b', '1', 'nrm']],
    ['CrateA01Diffuse', ['crate', 'a', '1', 'diffuse']],
    ['hemp 02 basecol 2k v03', ['hemp', '2', 'basecol']],
    ['Boje_größe_texture_16bit', ['boje', 'grosse']],
  ])('%s', (name, words) => expect(splitName(name)).toEqual(words))

  it('leaves out of slots and folders what each of them is called', () => {
    expect(splitSubject('Material.003')).toEqual(['3'])
    expect(splitSubject('mat_capstan_iron')).toEqual(['capstan', 'iron'])
  })

  it('takes what is written in one apart by words that are known', () => {
    const known = new Set(['crate', 'pine', 'normal', 'harbour'])
    expect(splitGlued('crateapinenormal', known)).toEqual(['crate', 'a', 'pine', 'normal'])
    expect(splitGlued('harbourcratepine', known)).toEqual(['harbour', 'crate', 'pine'])
    // Too little of it is known, or it is a word itself
    expect(splitGlued('crateunknowable', known)).toEqual(['crateunknowable'])
    expect(splitGlued('harbour', known)).toEqual(['harbour'])
    expect(splitGlued('harbours', known)).toEqual(['harbours'])
  })
})

describe('near words', () => {
  it.each([
    ['crate', 'crate', 1],
    ['crate', 'crates', 0.97],
    ['capstan', 'capstn', 0.92],
    ['ladder', 'laddre', 0.92],
    ['ladderrust', 'ladder', 0.8],
    ['capst', 'capstan', 0.8],
    ['cap', 'capst', 0.75],
    ['brd', 'board', 0.6],
    ['oak', 'wood', 0.35],
    ['oak', 'steel', 0],
    ['a', 'b', 0],
    ['buoy', 'quay', 0],
  ])('%s and %s', (a, b, near) => {
    expect(nearWords(a, b)).toBeCloseTo(near, 6)
    expect(nearWords(b, a)).toBeCloseTo(near, 6)
    expect(likenessAmong([a, b])(a, b)).toBeCloseTo(near, 6)
  })

  it('are within one edit where a letter is more, less, other, or two are exchanged', () => {
    expect(withinOneEdit('diffiuse', 'diffuse')).toBe(true)
    expect(withinOneEdit('nromal', 'normal')).toBe(true)
    expect(withinOneEdit('nomral', 'normals')).toBe(false)
    expect(withinOneEdit('rough', 'bough')).toBe(true)
  })
})

describe('a word tells', () => {
  it('all where one name of many has it, nothing where all have it, less where it counts', () => {
    const rarity = rarityAmong([
      [
        ['harbour', 'crate', '1'],
        ['harbour', 'winch', '1'],
        ['harbour', 'buoy', '2'],
      ],
    ])
    expect(rarity('crate')).toBeCloseTo(1)
    expect(rarity('harbour')).toBe(0)
    // Of three names two have it: 0.6 · ln(4 / 2) / ln 4
    expect(rarity('1')).toBeCloseTo(0.3, 6)
    expect(rarity('2')).toBeCloseTo(0.6)
    expect(rarity('never seen')).toBe(1)
  })
})

describe('the role in a name', () => {
  const roleOf = (name: string, content: Parameters<typeof roleOfTexture>[3] = [], learnt = {}) => {
    const { named, subject } = roleOfTexture(
      defaultRulebook,
      splitName(name),
      new Map(Object.entries(learnt)) as never,
      content,
    )
    return [named?.role ?? null, subject.join(' ')]
  }

  it.each([
    ['capstan_iron_bc', 'basecolor', 'capstan iron'],
    ['normal_capstan_oak', 'normal', 'capstan oak'],
    ['crate_normal_a', 'normal', 'crate a'],
    ['crate_ao_02', 'occlusion', 'crate 2'],
    ['crate_base_color', 'basecolor', 'crate'],
    ['crate_ambientOcclusion', 'occlusion', 'crate'],
    ['crate_diffiuse', 'basecolor', 'crate'],
    ['cratenormal', 'normal', 'crate'],
    ['rough_wall_n', 'normal', 'rough wall'],
    ['capstan_a_n', 'normal', 'capstan a'],
    ['winch_rma', 'orm', 'winch'],
    ['ref_photo', null, 'ref photo'],
  ])('of %s is %s', (name, role, subject) => expect(roleOf(name)).toEqual([role, subject]))

  it('is told by the pixels where two words could be one', () => {
    expect(roleOf('rough_wall_col', looksLike('basecolor'))[0]).toBe('basecolor')
    expect(roleOf('normal_grate_metal', looksLike('normal'))[0]).toBe('normal')
    expect(roleOf('normal_grate_metal', looksLike('metallic'))[0]).toBe('metallic')
  })

  it('is what a delivery uses a word for', () => {
    expect(roleOf('crate_grain')[0]).toBe(null)
    expect(roleOf('crate_grain', [], { grain: 'roughness' })).toEqual(['roughness', 'crate'])
  })

  it('of gloss is roughness the other way round, and a packed one tells its order', () => {
    const of = (name: string) => roleOfTexture(defaultRulebook, splitName(name), new Map()).named
    expect(of('crate_gloss')).toMatchObject({ role: 'roughness', inverted: true })
    expect(of('crate_rough')).toMatchObject({ role: 'roughness', inverted: false })
    expect(of('crate_rma')?.layout).toBe('rma')
    expect(of('crate_orm')?.layout).toBe(null)
    expect(of('crate_packed')?.layout).toBe(null)
  })

  it('is packed only where each channel is named once', () => {
    expect(['mra', 'mrao', 'orm', 'arm', 'room', 'ram', 'rmoh', 'oar'].map(packedLayout)).toEqual([
      'mra',
      null,
      null,
      null,
      null,
      'ram',
      'rmoh',
      null,
    ])
  })
})
